<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Brick\Math\BigDecimal;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;

/**
 * What a trader allows an account, as a document `lotrik.limits/1`. Tighter limits apply at once, looser ones from the
 * account's next trading day, see {@see and()}. Money is in the account's currency; null limits nothing.
 */
final readonly class Limits
{
    public const FORMAT = 'lotrik.limits/1';

    private const WINDOWS = 50;

    private const CONTRACTS = 200;

    /**
     * @param Money|null      $drawdownOpen   how far the day may fall from its best, both with what is open
     * @param Money|null      $drawdownClosed how far the day, with what is open, may fall from the best of what had closed
     * @param BigDecimal|null $keepPercent    of the day's best: once it has been at `keepFrom`, so much of it is kept
     * @param int|null        $ordersAMinute  entries
     * @param int|null        $lossesInARow   trades, from flat to flat, net of fees
     * @param Money|null      $pauseLoss      of one trade: after it no new entries for `pauseMinutes`
     * @param int|null        $flattenBeforeClose minutes before a session's end: from then on nothing is held there
     * @param list<Window>    $windows        without new entries
     * @param ContractLimits  $each           of every contract
     * @param array<string, ContractLimits> $contracts of one contract, beside those of every one
     */
    private function __construct(
        public AccountDay $day,
        public Money $dailyLoss,
        public ?Money $drawdownOpen,
        public ?Money $drawdownClosed,
        public ?BigDecimal $keepPercent,
        public ?Money $keepFrom,
        public ?int $ordersAMinute,
        public ?int $lossesInARow,
        public ?Money $pauseLoss,
        public ?int $pauseMinutes,
        public ?int $flattenBeforeClose,
        public array $windows,
        public ContractLimits $each,
        private array $contracts,
    ) {}

    public static function plain(int $orderLots, int $positionLots, Money $dailyLoss): self
    {
        return new self(
            AccountDay::utc(), $dailyLoss, null, null, null, null, null, null,
            null, null, null, [], ContractLimits::of($orderLots, $positionLots), [],
        );
    }

    /**
     * What somebody asks for: its parts have to go together, too.
     *
     * @param callable(string): bool $isContract whether there is one of that code
     *
     * @throws InvalidDocument
     */
    public static function asked(Node $node, Currency $base, callable $isContract): self
    {
        $limits = self::read($node, $base, null);
        foreach (array_keys($limits->contracts) as $code) {
            if (! $isContract($code)) {
                throw InvalidDocument::at(
                    $node->at('contracts')."/$code", "a contract $code that is not listed", 'the code of a listed contract',
                );
            }
        }
        $limits->mustNotExcludeEachOther($node);

        return $limits;
    }

    /**
     * What is in force: of limits that were set one after the other the tighter ones, whether they go together or not.
     *
     * @param array<array-key, mixed> $document
     * @param int|null                $since    when its day came into force, see {@see AccountDay}
     */
    public static function fromArray(array $document, Currency $base, ?int $since = null): self
    {
        return self::read(Node::of($document), $base, $since);
    }

    private static function read(Node $node, Currency $base, ?int $since): self
    {
        if ($node->raw('format') !== self::FORMAT) {
            throw $node->fault('format', '"'.self::FORMAT.'"');
        }
        $drawdown = $node->raw('drawdown') === null ? null : $node->node('drawdown');
        $keep = $node->raw('keep_profit') === null ? null : $node->node('keep_profit');
        $pause = $node->raw('pause') === null ? null : $node->node('pause');
        $day = $node->raw('day') === null ? AccountDay::utc() : AccountDay::fromNode($node->node('day'), $since);
        $limits = new self(
            $day,
            Amount::of($node, 'daily_loss', $base),
            $drawdown === null ? null : Amount::optional($drawdown, 'open', $base),
            $drawdown === null ? null : Amount::optional($drawdown, 'closed', $base),
            $keep === null ? null : Amount::percent($keep, 'percent') ?? throw $keep->fault('percent', 'a percentage such as "60"'),
            $keep === null ? null : Amount::of($keep, 'from', $base),
            $node->optionalInt('orders_a_minute', 1, 1_000),
            $node->optionalInt('losses_in_a_row', 1, 100),
            $pause === null ? null : Amount::of($pause, 'loss', $base),
            $pause?->int('minutes', 1, 1_440),
            $node->optionalInt('flatten_before_close', 1, 240),
            self::windows($node, $day->zone),
            $node->raw('each_contract') === null
                ? ContractLimits::of(null, null)
                : ContractLimits::fromNode($node->node('each_contract'), $base),
            self::contracts($node, $base),
        );
        $drawdown?->done();
        $keep?->done();
        $pause?->done();
        $node->done();

        return $limits;
    }

    /** Whichever of the two lets less through, one by one; the day stays this one's, since another begins with a day. */
    public function and(self $other): self
    {
        $contracts = $this->contracts;
        foreach ($other->contracts as $code => $limits) {
            $contracts[$code] = isset($contracts[$code]) ? $contracts[$code]->and($limits) : $limits;
        }
        ksort($contracts);

        return new self(
            $this->day,
            Tighter::leastMoney($this->dailyLoss, $other->dailyLoss) ?? $this->dailyLoss,
            Tighter::leastMoney($this->drawdownOpen, $other->drawdownOpen),
            Tighter::leastMoney($this->drawdownClosed, $other->drawdownClosed),
            Tighter::mostDecimal($this->keepPercent, $other->keepPercent),
            Tighter::leastMoney($this->keepFrom, $other->keepFrom),
            Tighter::least($this->ordersAMinute, $other->ordersAMinute),
            Tighter::least($this->lossesInARow, $other->lossesInARow),
            Tighter::leastMoney($this->pauseLoss, $other->pauseLoss),
            Tighter::most($this->pauseMinutes, $other->pauseMinutes),
            Tighter::most($this->flattenBeforeClose, $other->flattenBeforeClose),
            self::sorted([...$this->windows, ...$other->windows]),
            $this->each->and($other->each),
            $contracts,
        );
    }

    /**
     * What is in force goes on until the next day beside what has been asked for: together they may be more than a document holds.
     *
     * @throws InvalidDocument
     */
    public function mustFit(Node $asked): void
    {
        $lists = ['no_entries' => [count($this->windows), self::WINDOWS], 'contracts' => [count($this->contracts), self::CONTRACTS]];
        foreach ($lists as $field => [$count, $most]) {
            if ($count > $most) {
                throw InvalidDocument::at(
                    $asked->at($field),
                    "$count together with those that stay in force until the next trading day",
                    "at most $most: take some away, or set the rest then",
                );
            }
        }
    }

    /** What holds in a contract: what is set for every one and what is set for it. */
    public function in(string $contract): ContractLimits
    {
        return isset($this->contracts[$contract]) ? $this->each->and($this->contracts[$contract]) : $this->each;
    }

    /** The window without new entries that a moment lies in. @param int $at ms since 1970 UTC */
    public function windowAt(int $at): ?Window
    {
        foreach ($this->windows as $window) {
            if ($window->until($at) !== null) {
                return $window;
            }
        }

        return null;
    }

    /** @return list<Window> of a list that is not too long */
    private static function windows(Node $node, string $zone): array
    {
        $list = $node->raw('no_entries') === null ? [] : $node->list('no_entries');
        if (count($list) > self::WINDOWS) {
            throw InvalidDocument::at($node->at('no_entries'), count($list).' of them', 'at most '.self::WINDOWS);
        }
        $windows = [];
        foreach ($list as $i => $window) {
            $windows[] = Window::fromNode(Node::of($window, $node->at('no_entries')."/$i"), $zone);
        }

        return self::sorted($windows);
    }

    /**
     * @param list<Window> $windows
     *
     * @return list<Window> each once, in an order of their own, so that two lists of the same ones are alike
     */
    private static function sorted(array $windows): array
    {
        $once = [];
        foreach ($windows as $window) {
            $once[json_encode($window->toArray(), JSON_THROW_ON_ERROR)] = $window;
        }
        ksort($once);

        return array_values($once);
    }

    /** @return array<string, ContractLimits> */
    private static function contracts(Node $node, Currency $base): array
    {
        $of = $node->raw('contracts') ?? [];
        if (! is_array($of) || (array_is_list($of) && $of !== []) || count($of) > self::CONTRACTS) {
            throw $node->fault('contracts', 'an object of at most '.self::CONTRACTS.' contracts by code');
        }
        $contracts = [];
        foreach ($of as $code => $limits) {
            $pointer = $node->at('contracts')."/$code";
            $contracts[(string) $code] = ContractLimits::fromNode(Node::of($limits, $pointer), $base);
        }
        ksort($contracts);

        return $contracts;
    }

    private function mustNotExcludeEachOther(Node $node): void
    {
        $over = fn(?Money $one): bool => $one !== null && $one->minus($this->dailyLoss)->isPositive();
        if ($this->keepPercent?->isEqualTo(100) === true) {
            throw InvalidDocument::at(
                $node->at('keep_profit').'/percent', '100', 'less than 100: of all of it nothing could be given back',
            );
        }
        if ($over($this->pauseLoss)) {
            throw $node->fault(
                'pause', "a loss of no more than daily_loss, {$this->dailyLoss->display()}: the day would be over before it",
            );
        }
        foreach ([[$node->at('each_contract'), $this->each], ...array_map(
            fn(string $code, ContractLimits $limits): array => [$node->at('contracts')."/$code", $limits],
            array_keys($this->contracts),
            $this->contracts,
        )] as [$pointer, $limits]) {
            if ($over($limits->tradeRisk)) {
                throw InvalidDocument::at(
                    "$pointer/trade_risk",
                    (string) $limits->tradeRisk?->display(),
                    "no more than daily_loss, {$this->dailyLoss->display()}",
                );
            }
            if ($limits->orderLots !== null && $limits->positionLots !== null && $limits->orderLots > $limits->positionLots) {
                throw InvalidDocument::at(
                    "$pointer/order_lots", (string) $limits->orderLots, "no more than position_lots, {$limits->positionLots}",
                );
            }
        }
    }

    /** @return array<string, mixed> the whole document */
    public function toArray(): array
    {
        return [
            'format' => self::FORMAT, 'day' => $this->day->toArray(), 'daily_loss' => $this->dailyLoss->exact(),
            'drawdown' => $this->drawdownOpen === null && $this->drawdownClosed === null ? null
                : ['open' => $this->drawdownOpen?->exact(), 'closed' => $this->drawdownClosed?->exact()],
            'keep_profit' => $this->keepPercent === null || $this->keepFrom === null ? null
                : ['percent' => (string) $this->keepPercent, 'from' => $this->keepFrom->exact()],
            'orders_a_minute' => $this->ordersAMinute, 'losses_in_a_row' => $this->lossesInARow,
            'pause' => $this->pauseLoss === null || $this->pauseMinutes === null ? null
                : ['loss' => $this->pauseLoss->exact(), 'minutes' => $this->pauseMinutes],
            'flatten_before_close' => $this->flattenBeforeClose,
            'no_entries' => array_map(static fn(Window $window): array => $window->toArray(), $this->windows),
            'each_contract' => $this->each->toArray(),
            'contracts' => array_map(static fn(ContractLimits $limits): array => $limits->toArray(), $this->contracts),
        ];
    }
}
