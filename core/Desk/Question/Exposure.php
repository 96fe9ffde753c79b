<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Desk\Quote;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * What an account may come to have open in one contract, and what it may lose there: as it is, or as it would be once something has
 * been done. Nothing in it is a figure yet: each rule works out the one that it asks for.
 */
final class Exposure
{
    /** in place of the number of an entry, for lots that a plan for the whole position holds: side → no order has it */
    private const SETS = ['buy' => PHP_INT_MAX, 'sell' => PHP_INT_MAX - 1];

    /** asked for by several rules, and the same for all of them */
    private ?Reach $reach = null;

    /**
     * @param int                                 $lots    open, positive for long
     * @param array<int, int>                     $closing orders that close: number → lots
     * @param array<int, DeskOrder|WorkingEntry>  $entries by number: as they work, or as they would; there may be hundreds, and few rules look at one
     * @param list<OpenLots>                      $slots   open lots with the stops of their exits
     * @param array<int, array{int, int}>         $byHand  closing stops that were sent by hand: order → lots, trigger in ticks
     */
    private function __construct(
        private readonly DeskState $state,
        private readonly Quote $quote,
        public readonly int $lots,
        private readonly array $closing,
        private readonly array $entries,
        private readonly array $slots,
        private readonly array $byHand,
    ) {}

    public static function of(AccountPosition $holding, DeskState $state, Quote $quote): self
    {
        $entries = $slots = $byHand = $closing = [];
        foreach ($holding->working as $id => $order) {
            if ($order->role === Role::Entry) {
                $entries[$id] = $order;
            } else {
                $closing[$id] = $order->leaves();
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

        return new self($state, $quote, $holding->position->lots, $closing, $entries, $slots, $byHand);
    }

    /**
     * @param array<int, DeskOrder|WorkingEntry>|null $entries
     * @param list<OpenLots>|null                     $slots
     * @param array<int, array{int, int}>|null        $byHand
     */
    private function having(?array $entries = null, ?array $slots = null, ?array $byHand = null): self
    {
        return new self(
            $this->state, $this->quote, $this->lots, $this->closing,
            $entries ?? $this->entries, $slots ?? $this->slots, $byHand ?? $this->byHand,
        );
    }

    /** An entry that works, or would; null where there is none of that number. */
    public function entry(int $order): ?WorkingEntry
    {
        $entry = $this->entries[$order] ?? null;

        return $entry instanceof DeskOrder ? WorkingEntry::ofOrder($entry, $this->state, $this->quote) : $entry;
    }

    public function countEntries(): int
    {
        return count($this->entries);
    }

    /**
     * The entries that another exposure does not have, or has otherwise.
     *
     * @return array<int, WorkingEntry> by number
     */
    public function entriesThatDifferFrom(self $other): array
    {
        $differ = [];
        foreach ($this->entries as $id => $entry) {
            if (($other->entries[$id] ?? null) !== $entry) {
                $differ[$id] = $this->entry($id);
            }
        }

        return array_filter($differ);
    }

    private static function stopOf(OpenPortion $of, AccountPosition $holding): ?int
    {
        return $of->slot->wantsStop() && $of->order($holding, Role::Stop)?->isLeftBehind() !== true ? $of->slot->stop : null;
    }

    public function withEntry(WorkingEntry $entry): self
    {
        return $this->having(entries: [$entry->id => $entry] + $this->entries);
    }

    public function withoutEntry(int $order): self
    {
        return $this->having(entries: array_diff_key($this->entries, [$order => 1]));
    }

    public function withoutEntries(): self
    {
        return $this->having(entries: []);
    }

    /** A closing stop that was sent by hand closes so many lots there; none where it is gone, or will be. */
    public function withStopByHand(int $order, int $lots, int $trigger): self
    {
        $byHand = [$order => [$lots, $trigger]] + $this->byHand;
        if ($lots <= 0) {
            unset($byHand[$order]);
        }

        return $this->having(byHand: $byHand);
    }

    /**
     * The stops of some portions stand elsewhere, or are gone.
     *
     * @param list<OpenPortion> $moved
     */
    public function withStops(array $moved, ?int $stop): self
    {
        return $this->having(slots: array_map(static function (OpenLots $of) use ($moved, $stop): OpenLots {
            foreach ($moved as $one) {
                if ([$one->entry->order, $one->slot->portion->number, $one->slot->group] === [$of->entry, $of->portion, $of->group]) {
                    return $of->with($stop);
                }
            }

            return $of;
        }, $this->slots));
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

        return $this->having(slots: $slots);
    }

    public function reach(): Reach
    {
        if ($this->reach === null) {
            $this->reach = new Reach($this->lots);
            foreach ($this->entries as $entry) {
                $entry instanceof DeskOrder
                    ? $this->reach->entersBy($entry)
                    : $this->reach->enters($entry->side, $entry->lots, $entry->group, $entry->sent);
            }
            foreach ($this->closing as $order => $lots) {
                $this->reach->closes($order, $lots);
            }
        }

        return $this->reach;
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
            return array_filter($this->open(), static fn(OpenLots $of): bool => $of->covered && $of->stop === null) === []
                ? 0
                : $entry->lots;
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
        $trades = array_values(array_map($this->tradeOf(...), $this->entriesThatDifferFrom($other)));
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
        foreach ($this->entriesOf($trade) as $entry) {
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
        $behind = isset($this->entries[$trade])
            || array_filter($this->slots, fn(OpenLots $of): bool => $this->tradeOfLots($of) === $trade) !== []
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

    /**
     * The entries that may be in a trade: the one of its number, or all where it is that of a set.
     *
     * @return list<WorkingEntry>
     */
    private function entriesOf(int $trade): array
    {
        $numbers = in_array($trade, self::SETS, true) ? array_keys($this->entries) : [$trade];

        return array_values(array_filter(array_map($this->entry(...), $numbers)));
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

        return $of->covered || $this->gathers($side) ? self::SETS[$side->value] : $of->entry;
    }

    /** Whether an entry works whose plan will cover the position on a side. */
    private function gathers(Side $side): bool
    {
        foreach ($this->entries as $entry) {
            if (
                $entry->side === $side
                    && ($entry instanceof DeskOrder ? WorkingEntry::coversPosition($entry, $this->state) : $entry->covers)
            ) {
                return true;
            }
        }

        return false;
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
