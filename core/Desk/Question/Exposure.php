<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\OpenPortion;
use Lotrik\Desk\Account\Reach;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Quote;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * What an account may come to have open in one contract, and what it may lose there: as it is, or as it would be once something has
 * been done. Nothing in it is a figure yet: each rule works out the one that it asks for.
 */
final readonly class Exposure
{
    /** in place of the number of an entry, for lots that a plan for the whole position holds: side → no order has it */
    private const SETS = ['buy' => PHP_INT_MAX, 'sell' => PHP_INT_MAX - 1];

    /**
     * @param int                           $lots    open, positive for long
     * @param int                           $closing lots of orders that close
     * @param array<int, WorkingEntry>      $entries by the order's number
     * @param list<OpenLots>                $slots   open lots with the stops of their exits
     * @param array<int, array{int, int}>   $byHand  closing stops that were sent by hand: order → lots, trigger in ticks; the nearest first
     */
    private function __construct(
        public int $lots,
        private int $closing,
        public array $entries,
        public array $slots,
        private array $byHand,
    ) {}

    public static function of(AccountPosition $holding, DeskState $state, Quote $quote): self
    {
        $entries = $slots = $byHand = [];
        $closing = 0;
        foreach ($holding->working as $order) {
            if ($order->role === Role::Entry) {
                $entries[$order->id] = WorkingEntry::ofOrder($order, $state, $quote);
            } else {
                $closing += $order->leaves();
            }
        }
        foreach ($holding->coverage()->stopsByHand() as $stop) {
            if (! $stop->isHeld()) {
                $byHand[$stop->id] = [$stop->leaves(), (int) $stop->trigger];
            }
        }
        $set = $holding->coveringEntry();
        foreach ($holding->portions() as $of) {
            if ($of->slot->lots > 0) {
                $slots[] = new OpenLots(
                    $of->entry->order, $of->slot->portion->number, $of->slot->group, $of->entry === $set, $of->slot->lots,
                    $of->entry->exits->anchor($of->slot->group), self::stopOf($of, $holding),
                );
            }
        }

        return new self($holding->position->lots, $closing, $entries, $slots, $byHand);
    }

    private static function stopOf(OpenPortion $of, AccountPosition $holding): ?int
    {
        return $of->slot->wantsStop() && $of->order($holding, Role::Stop)?->isLeftBehind() !== true ? $of->slot->stop : null;
    }

    public function withEntry(WorkingEntry $entry): self
    {
        return new self($this->lots, $this->closing, [$entry->id => $entry] + $this->entries, $this->slots, $this->byHand);
    }

    public function withoutEntry(int $order): self
    {
        return new self($this->lots, $this->closing, array_diff_key($this->entries, [$order => 1]), $this->slots, $this->byHand);
    }

    public function withoutEntries(): self
    {
        return new self($this->lots, $this->closing, [], $this->slots, $this->byHand);
    }

    /** A closing stop that was sent by hand closes so many lots there; none where it is gone, or will be. */
    public function withStopByHand(int $order, int $lots, int $trigger): self
    {
        $byHand = [$order => [$lots, $trigger]] + $this->byHand;
        if ($lots <= 0) {
            unset($byHand[$order]);
        }

        return new self($this->lots, $this->closing, $this->entries, $this->slots, $byHand);
    }

    /**
     * The stops of some portions stand elsewhere, or are gone.
     *
     * @param list<OpenPortion> $moved
     */
    public function withStops(array $moved, ?int $stop): self
    {
        return new self($this->lots, $this->closing, $this->entries, array_map(static function (OpenLots $of) use ($moved, $stop): OpenLots {
            foreach ($moved as $one) {
                if ([$one->entry->order, $one->slot->portion->number, $one->slot->group] === [$of->entry, $of->portion, $of->group]) {
                    return $of->with($stop);
                }
            }

            return $of;
        }, $this->slots), $this->byHand);
    }

    /**
     * A plan takes lots over from the exits that they have.
     *
     * @param int                                   $entry that will hold them
     * @param list<array{int, int, int, int}>       $takes entry, portion, group, lots
     * @param int                                   $from  what its stops are measured from
     * @param array<int, int>                       $keeps portion → tick of a stop that stays
     */
    public function withPlan(int $entry, ?ResolvedPlan $plan, array $takes, int $from, array $keeps, bool $covers): self
    {
        $sign = $this->lots <=> 0;
        $taken = [];
        foreach ($takes as [$of, $portion, $group]) {
            $taken["$of/$portion/$group"] = true;
        }
        $slots = array_values(array_filter(
            $this->slots,
            static fn(OpenLots $of): bool => ! isset($taken["$of->entry/$of->portion/$of->group"]),
        ));
        $lots = array_sum(array_column($takes, 3));
        foreach ($plan === null ? [1 => $lots] : $plan->split($lots) as $number => $n) {
            $distance = $plan?->portion($number)->stop?->distance;
            if ($n > 0) {
                $slots[] = new OpenLots(
                    $entry, $number, 0, $covers, $n, $from, $keeps[$number] ?? ($distance === null ? null : $from - $sign * $distance),
                );
            }
        }

        return new self($this->lots, $this->closing, $this->entries, $slots, $this->byHand);
    }

    public function reach(): Reach
    {
        $reach = new Reach($this->lots);
        foreach ($this->entries as $entry) {
            $reach->enters($entry->side, $entry->lots, $entry->group, $entry->now);
        }
        $reach->closes($this->closing);

        return $reach;
    }

    /** Open lots that no stop closes. */
    public function bare(): int
    {
        return array_sum(array_map(static fn(OpenLots $of): int => $of->stop === null ? $of->lots : 0, $this->open()));
    }

    /** Lots of an entry that would come in without a stop. */
    public function bareOf(WorkingEntry $entry): int
    {
        if ($this->joins($entry)) {
            // Lots that join a set share its stop: where one of its lots has none, neither do they.
            return array_filter($this->open(), static fn(OpenLots $of): bool => $of->covered && $of->stop === null) === [] ? 0 : $entry->lots;
        }

        return array_sum(array_map(static fn(array $of): int => $of[1] === null ? $of[0] : 0, $entry->stops()));
    }

    /**
     * The trades whose loss may differ from another exposure's.
     *
     * @return list<int> numbers of their entries
     */
    public function tradesThatDifferFrom(self $other): array
    {
        $trades = [];
        foreach ($this->entries as $id => $entry) {
            if (($other->entries[$id] ?? null) !== $entry) {
                $trades[] = $this->tradeOf($entry);
            }
        }
        if ($this->slots !== $other->slots || $this->byHand !== $other->byHand) {
            foreach ($this->slots as $of) {
                $trades[] = $this->tradeOfLots($of);
            }
        }

        return array_values(array_unique($trades));
    }

    /** What the lots of a trade lose at their stops: those that are open, and those that may still come in. */
    public function loss(int $trade): TradeLoss
    {
        $loss = new TradeLoss();
        $sign = $this->lots <=> 0;
        foreach ($this->open() as $of) {
            if ($this->tradeOfLots($of) === $trade) {
                $loss = $of->stop === null
                    ? $loss->plus(0, 0, $of->lots)
                    : $loss->plus($of->lots * max(0, $sign * ($of->from - $of->stop)), $of->lots, 0);
            }
        }
        foreach ($this->entries as $entry) {
            if ($this->tradeOf($entry) === $trade) {
                $loss = $this->joins($entry) ? $this->joining($loss, $entry) : self::planned($loss, $entry);
            }
        }

        return $loss;
    }

    /**
     * Which trades of this exposure the lots of a trade of another one were in.
     *
     * @return list<int>
     */
    public function tradesBehind(int $trade, self $after): array
    {
        $behind = isset($this->entries[$trade]) || array_filter($this->slots, fn(OpenLots $of): bool => $this->tradeOfLots($of) === $trade) !== []
            ? [$trade]
            : [];
        $left = [];
        foreach ($after->slots as $of) {
            $left["$of->entry/$of->portion/$of->group"] = true;
        }
        foreach ($this->slots as $of) {
            // Lots that another plan has taken over.
            if (! isset($left["$of->entry/$of->portion/$of->group"])) {
                $behind[] = $this->tradeOfLots($of);
            }
        }

        return array_values(array_unique($behind));
    }

    private static function planned(TradeLoss $loss, WorkingEntry $entry): TradeLoss
    {
        foreach ($entry->stops() as [$lots, $distance]) {
            $loss = $distance === null ? $loss->plus(0, 0, $lots) : $loss->plus($lots * $distance, $lots, 0);
        }

        return $loss;
    }

    /** Lots that join the exits of a position: the farthest of its stops counts for all of them. */
    private function joining(TradeLoss $loss, WorkingEntry $entry): TradeLoss
    {
        $farthest = 0;
        foreach ($this->open() as $of) {
            if ($of->covered) {
                if ($of->stop === null || $entry->at === null) {
                    return $loss->plus(0, 0, $entry->lots);
                }
                $farthest = max($farthest, $entry->side->sign() * ($entry->at - $of->stop));
            }
        }

        return $loss->plus($farthest * $entry->lots, $entry->lots, 0);
    }

    /** Whether an entry's lots would join those that a plan for the position holds. */
    private function joins(WorkingEntry $entry): bool
    {
        return $entry->side->sign() === ($this->lots <=> 0)
            && array_filter($this->slots, static fn(OpenLots $of): bool => $of->covered) !== [];
    }

    private function tradeOf(WorkingEntry $entry): int
    {
        return $entry->covers || $this->joins($entry) ? self::SETS[$entry->side->value] : $entry->id;
    }

    /** A plan that covers the position gathers all that is open on its side. */
    private function tradeOfLots(OpenLots $of): int
    {
        $side = $this->lots > 0 ? Side::Buy : Side::Sell;
        $gathers = $of->covered || array_filter(
            $this->entries,
            static fn(WorkingEntry $entry): bool => $entry->covers && $entry->side === $side,
        ) !== [];

        return $gathers ? self::SETS[$side->value] : $of->entry;
    }

    /** @return list<OpenLots> with what closing stops that were sent by hand do for those that have none, the nearest stop first */
    public function open(): array
    {
        if ($this->byHand === []) {
            return $this->slots;
        }
        $sign = $this->lots <=> 0;
        $stops = array_values($this->byHand);
        usort($stops, static fn(array $a, array $b): int => $sign * ($b[1] <=> $a[1]));
        $open = [];
        foreach ($this->slots as $of) {
            $left = $of->stop === null ? $of->lots : 0;
            while ($left > 0 && $stops !== []) {
                $lots = min($left, $stops[0][0]);
                $open[] = $of->of($lots, $stops[0][1]);
                $left -= $lots;
                $stops[0][0] -= $lots;
                if ($stops[0][0] === 0) {
                    array_shift($stops);
                }
            }
            if ($left > 0 || $of->stop !== null) {
                $open[] = $of->stop === null ? $of->of($left, null) : $of;
            }
        }

        return $open;
    }
}
