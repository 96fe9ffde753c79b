<?php

declare(strict_types=1);

namespace Lotrik\Contract;

use Brick\Math\BigDecimal;
use Brick\Math\BigInteger;
use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Fraction;
use Lotrik\Money\Money;

/**
 * One listed contract month: its tick grid and what a tick is worth.
 *
 * Prices come in and go out as decimal strings and are whole numbers of ticks everywhere inside.
 */
final readonly class Contract
{
    public const FORMAT = 'lotrik.contract/1';

    /** No price is farther from zero than this many ticks; of a contract with a finely written tick value it is {@see $maxTicks}. */
    public const MAX_TICKS = 1_000_000_000;

    /** The most lots that one order or one position may come to. */
    public const MAX_LOTS = 1_000_000;

    /** A contract whose prices may not go so far cannot be traded. */
    private const LEAST_RANGE = 10_000;

    /** Lots × ticks × tick value, written as a whole number with these decimals more than the value has, stays in an int64. */
    private const SPARE_DECIMALS = 2;

    /** Decimals of a price written as data: those of the tick size as given, or of the display where it has more. */
    private int $scale;

    private int $tickUnits;

    /** Prices go from −this to this, in ticks: the value of {@see MAX_LOTS} lots at any of them is a whole number of the machine. */
    public int $maxTicks;

    private Money $aTick;

    private Money $aFee;

    /** What one lot holds back during the day. */
    public Money $dayPerLot;

    /** What one lot holds back where it may stay overnight: never less, whatever the contract's document says. */
    public Money $overnightPerLot;

    /** @param list<string> $aliases symbols that outside files use for this contract */
    private function __construct(
        public string $code,
        public string $name,
        public BigDecimal $tickSize,
        public BigDecimal $tickValue,
        public Currency $currency,
        public string $unit,
        public PriceDisplay $display,
        public BigDecimal $feePerSide,
        public BigDecimal $initialMargin,
        public BigDecimal $maintenanceMargin,
        public BigDecimal $dayMargin,
        public ?int $priceLimitTicks,
        public ?string $lastDay,
        public Session $session,
        public array $aliases,
    ) {
        $this->scale = max($tickSize->getScale(), $display->decimals);
        $this->tickUnits = $tickSize->toScale($this->scale)->getUnscaledValue()->toInt();
        $this->maxTicks = self::range($tickValue, $currency, $this->tickUnits);
        $this->aTick = Money::of($tickValue, $currency);
        $this->aFee = Money::of($feePerSide, $currency);
        $this->dayPerLot = Money::of($dayMargin, $currency);
        $this->overnightPerLot = Money::of(BigDecimal::max($initialMargin, $dayMargin), $currency);
    }

    /** The same contract on a venue that is shut, or closes early, on some days. */
    public function under(Calendar $calendar): self
    {
        return new self(
            $this->code, $this->name, $this->tickSize, $this->tickValue, $this->currency, $this->unit, $this->display, $this->feePerSide,
            $this->initialMargin, $this->maintenanceMargin, $this->dayMargin, $this->priceLimitTicks, $this->lastDay,
            $this->session->under($calendar->of($this->code, $this->root())), $this->aliases,
        );
    }

    /** @throws InvalidDocument */
    public static function fromJson(string $json): self
    {
        return self::fromNode(Node::parse($json));
    }

    /** @param array<string, mixed> $document as {@see toArray()} wrote it */
    public static function fromArray(array $document): self
    {
        return self::fromNode(Node::of($document));
    }

    /** @throws InvalidDocument */
    public static function fromNode(Node $node): self
    {
        if ($node->has('format') && $node->raw('format') !== self::FORMAT) {
            throw $node->fault('format', '"'.self::FORMAT.'"');
        }
        $code = $node->string('code');
        if (! preg_match('/^[A-Z][A-Z0-9]{0,7}[FGHJKMNQUVXZ]\d{1,2}$/', $code)) {
            throw $node->fault('code', 'a root in capitals, a month code and the last digits of the year, such as "DULZ6"');
        }
        $tickSize = $node->decimal('tick_size');
        try {
            $currency = Currency::of($node->string('currency'));
        } catch (\DomainException) {
            throw $node->fault('currency', 'an ISO 4217 code such as "EUR"');
        }
        $zero = BigDecimal::zero();
        $fee = $node->optionalDecimal('fee_per_side', false) ?? $zero;
        if ($fee->isNegative()) {
            throw $node->fault('fee_per_side', 'zero or more');
        }
        $lastDay = $node->optionalString('last_day');
        $day = $lastDay === null ? null : \DateTimeImmutable::createFromFormat('!Y-m-d', $lastDay);
        if ($day !== null && ($day === false || $day->format('Y-m-d') !== $lastDay)) {
            throw $node->fault('last_day', 'a date such as "2026-12-16"');
        }
        $aliases = [];
        foreach ($node->has('aliases') ? $node->list('aliases') : [] as $i => $alias) {
            if (! is_string($alias) || $alias === '') {
                throw InvalidDocument::at($node->at('aliases').'/'.$i, InvalidDocument::show($alias), 'a symbol');
            }
            $aliases[] = $alias;
        }
        $contract = new self(
            $code,
            $node->string('name', $code),
            $tickSize,
            $node->decimal('tick_value'),
            $currency,
            $node->string('unit', '1'),
            $node->has('display') ? PriceDisplay::fromNode($node->node('display')) : PriceDisplay::decimals($tickSize->getScale()),
            $fee,
            $node->optionalDecimal('initial_margin', false) ?? $zero,
            $node->optionalDecimal('maintenance_margin', false) ?? $zero,
            $node->optionalDecimal('day_margin', false) ?? $zero,
            $node->optionalInt('price_limit_ticks', 1, self::MAX_TICKS),
            $lastDay,
            $node->has('session') ? Session::fromNode($node->node('session')) : Session::allDay(),
            $aliases,
        );
        $node->done();
        if ($contract->maxTicks < self::LEAST_RANGE) {
            throw $node->fault('tick_value', 'fewer digits: the value of a large position could not be counted exactly');
        }

        return $contract;
    }

    private static function range(BigDecimal $tickValue, Currency $currency, int $tickUnits): int
    {
        $scale = max($tickValue->getScale(), $currency->minorUnit) + self::SPARE_DECIMALS;
        // A price is multiplied by 128 where it is written in 32nds.
        $aTick = BigInteger::max(
            $tickValue->toScale($scale)->getUnscaledValue()->multipliedBy(self::MAX_LOTS), BigInteger::of($tickUnits)->multipliedBy(128),
        );

        return BigInteger::min(
            self::MAX_TICKS, BigInteger::of(PHP_INT_MAX)->dividedBy($aTick->multipliedBy(4), RoundingMode::FLOOR),
        )->toInt();
    }

    /** @return array<string, mixed> the contract document */
    public function toArray(): array
    {
        $money = fn(BigDecimal $amount): string => Money::of($amount, $this->currency)->exact();

        return [
            'format' => self::FORMAT, 'code' => $this->code, 'name' => $this->name,
            'tick_size' => (string) $this->tickSize, 'tick_value' => (string) $this->tickValue, 'currency' => $this->currency->code,
            'unit' => $this->unit, 'display' => $this->display->toArray(), 'fee_per_side' => $money($this->feePerSide),
            'initial_margin' => $money($this->initialMargin), 'maintenance_margin' => $money($this->maintenanceMargin),
            'day_margin' => $money($this->dayMargin), 'price_limit_ticks' => $this->priceLimitTicks, 'last_day' => $this->lastDay,
            'session' => $this->session->toArray(), 'aliases' => $this->aliases,
        ];
    }

    /** What the months of one contract have in common. */
    public function root(): string
    {
        return (string) preg_replace('/[A-Z]\d{1,2}$/', '', $this->code);
    }

    /**
     * @param string $price a decimal such as "412.50"
     *
     * @return int the price in ticks
     *
     * @throws PriceOffGrid    naming the nearest valid price on each side
     * @throws PriceUnreadable where it is no decimal, or out of range
     */
    public function ticks(string $price): int
    {
        if (! preg_match('/^-?\d{1,15}(\.\d{1,9})?$/', $price)) {
            throw PriceUnreadable::notADecimal($price, $this->price(825));
        }
        $decimal = BigDecimal::of($price);
        $ticks = $decimal->toBigRational()->dividedBy($this->tickSize);
        $below = $ticks->toScale(0, RoundingMode::FLOOR);
        if ($below->abs()->isGreaterThan($this->maxTicks)) {
            throw PriceUnreadable::outOfRange($price, $this->price(-$this->maxTicks), $this->price($this->maxTicks));
        }
        if (! $ticks->isEqualTo($below)) {
            throw PriceOffGrid::nearest($price, (string) $this->tickSize, $this->price($below->toInt()), $this->price($below->toInt() + 1));
        }

        return $below->toInt();
    }

    /** The price as data: a decimal string with the same number of decimals for every tick. */
    public function price(int $ticks): string
    {
        $units = $ticks * $this->tickUnits;
        if ($this->scale === 0) {
            return (string) $units;
        }
        $digits = str_pad((string) abs($units), $this->scale + 1, '0', STR_PAD_LEFT);

        return ($units < 0 ? '-' : '').substr($digits, 0, -$this->scale).'.'.substr($digits, -$this->scale);
    }

    /** A price that need not be whole ticks (an average), as data. */
    public function averagePrice(BigRational|Fraction $ticks): string
    {
        return Fraction::of($ticks)->times(Fraction::of($this->tickSize))->decimal($this->scale);
    }

    /** The price for the screen. */
    public function write(int $ticks): string
    {
        return $this->display->write(BigDecimal::of($this->price($ticks)));
    }

    /** An average price for the screen: as a rung is written where it lies on one, else with more decimals. */
    public function writeAverage(BigRational|Fraction $ticks): string
    {
        $ticks = Fraction::of($ticks);
        $whole = $ticks->whole();
        if ($whole !== null) {
            return $this->write($whole);
        }

        return $this->display->parts === 0
            ? $this->averagePrice($ticks)
            : PriceDisplay::writeIn32nds($ticks->rational()->multipliedBy($this->tickSize));
    }

    /** What a number of ticks (of one lot, or ticks × lots) is worth. */
    public function money(BigRational|Fraction|int $ticks): Money
    {
        return $this->aTick->times($ticks);
    }

    /** What one point is worth: tick value ÷ tick size. */
    public function pointValue(): Money
    {
        return Money::of($this->tickValue->toBigRational()->dividedBy($this->tickSize), $this->currency);
    }

    /** Fees of a number of lots, one side. */
    public function fees(int $lots): Money
    {
        return $this->aFee->times($lots);
    }

    /** The fewest whole ticks that cover the fees of a round trip. */
    public function ticksForFees(): int
    {
        return $this->feePerSide->multipliedBy(2)->toBigRational()->dividedBy($this->tickValue)->toScale(0, RoundingMode::CEILING)->toInt();
    }

    /** Decimals that every price of this contract has as data. */
    public function scale(): int
    {
        return $this->scale;
    }
}
