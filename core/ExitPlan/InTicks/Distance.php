<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Brick\Math\BigDecimal;
use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Watching\Bars\AverageTrueRange;
use Lotrik\Watching\Bars\BarSize;

/** A distance from the anchor as the trader wrote it: in ticks, points, money, percent or average true ranges. */
final readonly class Distance
{
    public const MAX_TICKS = 100_000;

    private const MAX_BARS = 200;

    /** Of a distance that was turned into another unit: at least, and at most where it can be written out. */
    private const DECIMALS = 2;

    private const EXACT_DECIMALS = 6;

    /** @param BarSize|null $bar of the average true range, null for the other units; `$length` is in bars */
    private function __construct(
        public DistanceUnit $unit,
        public BigDecimal $value,
        public ?BarSize $bar = null,
        public int $length = 0,
    ) {}

    public static function ticks(int $ticks): self
    {
        return new self(DistanceUnit::Ticks, BigDecimal::of($ticks));
    }

    /**
     * Reads the one unit that the node names; the caller reads the node's other fields and closes it.
     *
     * @throws InvalidDocument
     */
    public static function fromNode(Node $node): self
    {
        $units = array_values(array_filter(DistanceUnit::cases(), static fn(DistanceUnit $u): bool => $node->has($u->value)));
        if (count($units) !== 1) {
            throw InvalidDocument::at(
                $node->pointer,
                count($units) === 0 ? 'no distance' : 'more than one distance',
                'exactly one of '.implode(', ', array_map(static fn(DistanceUnit $u): string => $u->value, DistanceUnit::cases())),
            );
        }
        $unit = $units[0];

        return match ($unit) {
            DistanceUnit::Ticks => self::ticks($node->int('ticks', 1, self::MAX_TICKS)),
            DistanceUnit::AverageTrueRange => new self(
                $unit,
                $node->decimal('atr'),
                $node->enum('bar', BarSize::class),
                $node->optionalInt('length', 1, self::MAX_BARS) ?? 14,
            ),
            default => new self($unit, $node->decimal($unit->value)),
        };
    }

    /** @return array<string, int|string> */
    public function toArray(): array
    {
        return [$this->unit->value => $this->unit === DistanceUnit::Ticks ? $this->value->toInt() : (string) $this->value]
            + ($this->bar === null ? [] : ['bar' => $this->bar->value, 'length' => $this->length]);
    }

    /** A stop's distance: rounded down, so that the risk written is a ceiling. */
    public function stopTicks(Basis $basis): int
    {
        $ticks = $this->wholeTicks($basis, RoundingMode::FLOOR);
        if ($ticks < 1) {
            throw InvalidPlan::stopUnderOneTick($this->words());
        }

        return $ticks;
    }

    /** A target's distance: to the nearest tick, halves away from the entry, and never none. */
    public function targetTicks(Basis $basis): int
    {
        $ticks = $this->nearestTicks($basis);

        return $ticks > 0 ? $ticks : throw InvalidPlan::targetUnderOneTick($this->words());
    }

    /** Where a ratchet acts or what it locks: to the nearest tick, halves away from the entry. */
    public function nearestTicks(Basis $basis): int
    {
        return $this->wholeTicks($basis, RoundingMode::HALF_UP);
    }

    /** The distance in ticks before it is rounded, with two decimals; null where it is whole. */
    public function unrounded(Basis $basis): ?string
    {
        $ticks = $this->inTicks($basis);

        return $ticks->isEqualTo($ticks->toScale(0, RoundingMode::FLOOR)) ? null : (string) $ticks->toScale(2, RoundingMode::HALF_UP);
    }

    /**
     * The same distance in the unit of another: written out where six decimals are enough for that, else just above it, with as few
     * decimals as leave it as many whole ticks whichever way they are rounded.
     *
     * @throws InvalidPlan where the basis does not know what the unit needs, or one of the two comes to nothing
     */
    public function in(self $unit, Basis $basis): self
    {
        $ticks = $this->inTicks($basis);
        $one = $unit->inTicks($basis);
        foreach ([[$this, $ticks], [$unit, $one]] as [$distance, $inTicks]) {
            // Of nothing, as of an empty account, there is no share; an amount below zero has no end of decimals that would do.
            if (! $inTicks->isPositive()) {
                throw InvalidPlan::stopUnderOneTick($distance->words());
            }
        }
        if ($unit->unit === DistanceUnit::Ticks) {
            return self::ticks(max(1, $this->nearestTicks($basis)));
        }
        $exact = $ticks->dividedBy($one->dividedBy($unit->value));
        $as = static fn(int $decimals): self
            => new self($unit->unit, $exact->toScale($decimals, RoundingMode::CEILING), $unit->bar, $unit->length);
        for ($decimals = self::DECIMALS; $decimals <= self::EXACT_DECIMALS; $decimals++) {
            if ($as($decimals)->value->isEqualTo($exact)) {
                return $as($decimals);
            }
        }
        for ($decimals = self::DECIMALS; ; $decimals++) {
            $near = $as($decimals)->inTicks($basis);
            if (self::isAlike($near, $ticks, RoundingMode::FLOOR) && self::isAlike($near, $ticks, RoundingMode::HALF_UP)) {
                return $as($decimals);
            }
        }
    }

    private static function isAlike(BigRational $one, BigRational $other, RoundingMode $rounding): bool
    {
        return $one->toScale(0, $rounding)->isEqualTo($other->toScale(0, $rounding));
    }

    public function words(): string
    {
        return match ($this->unit) {
            DistanceUnit::Ticks => "$this->value ".($this->value->isEqualTo(1) ? 'tick' : 'ticks'),
            DistanceUnit::Points => "$this->value points",
            DistanceUnit::Money => "$this->value a lot",
            DistanceUnit::OrderMoney => "$this->value for the order",
            DistanceUnit::Percent => "$this->value % of the price",
            DistanceUnit::AccountPercent => "$this->value % of the account",
            DistanceUnit::AverageTrueRange => "$this->value average true ranges of {$this->bar?->value}",
        };
    }

    /** Never more than {@see MAX_TICKS}: an amount can be large enough, and a rate small enough, for ticks that no machine counts. */
    private function wholeTicks(Basis $basis, RoundingMode $rounding): int
    {
        $ticks = $this->inTicks($basis);

        return $ticks->isGreaterThan(self::MAX_TICKS) ? self::MAX_TICKS : $ticks->toScale(0, $rounding)->toInt();
    }

    private function inTicks(Basis $basis): BigRational
    {
        $value = $this->value->toBigRational();
        $contract = $basis->contract;

        return match ($this->unit) {
            DistanceUnit::Ticks => $value,
            DistanceUnit::Points => $value->dividedBy($contract->tickSize),
            DistanceUnit::Money => $value->dividedBy($contract->tickValue),
            DistanceUnit::OrderMoney => $value->dividedBy($contract->tickValue)->dividedBy($basis->quantity),
            DistanceUnit::Percent => $value->multipliedBy(abs($basis->price))->dividedBy(100),
            DistanceUnit::AccountPercent => ($basis->balance ?? throw InvalidPlan::noBalance())->amount()
                ->multipliedBy($value)->dividedBy(100)->dividedBy($contract->tickValue)->dividedBy($basis->quantity),
            DistanceUnit::AverageTrueRange => $value
                ->multipliedBy(($this->bar === null ? null : $basis->ranges->of($this->bar, $this->length)) ?? throw InvalidPlan::noRange())
                ->dividedBy(AverageTrueRange::SCALE),
        };
    }
}
