<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Open;

use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\StopMove;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * The exits that one entry should have: grows with its fills, follows the market with its ratchets, shrinks as its
 * lots close. It says where stops and targets should stand; the desk (or a rehearsal) makes orders of it.
 */
final class EntryExits
{
    /** @var list<Anchor> */
    private array $anchors = [];

    /** @var array<int, array<int, ExitSlot>> portion number → group → slot */
    private array $slots = [];

    /** @var list<ExitSlot> the same, portion by portion, oldest group first */
    private array $inOrder = [];

    /** Lots that the entry has filled so far, closed ones included: which lot belongs to which portion hangs on it. */
    private int $filled = 0;

    private int $lastFillPrint = 0;

    public function __construct(public readonly Side $side, public readonly ResolvedPlan $plan) {}

    /**
     * More of the entry has filled.
     *
     * @param int $print number of the print that was this fill: it counts neither for the exits nor for the best price
     */
    public function fill(int $lots, int $tick, int $print): void
    {
        $group = count($this->anchors) - 1;
        if ($group < 0 || $this->anchors[$group]->isFixed) {
            $this->anchors[] = new Anchor($this->side);
            $group++;
        }
        $this->anchors[$group]->add($lots, $tick);
        $this->lastFillPrint = $print;
        $start = 0;
        foreach ($this->plan->portions as $portion) {
            $end = $portion->lots === null ? PHP_INT_MAX : $start + $portion->lots;
            $here = min($this->filled + $lots, $end) - max($this->filled, $start);
            if ($here > 0) {
                $this->slots[$portion->number][$group] ??= new ExitSlot($portion, $group);
                $this->slots[$portion->number][$group]->lots += $here;
            }
            $start = $end;
        }
        $this->filled += $lots;
        $this->arrange();
        $this->follow($group);
    }

    /**
     * The position that the plan covers has been added to: one set of exits for all of it. The portions are filled
     * again in order, the anchor is the position's average, and no lot's stop loosens: lots that change their portion
     * take the tightest stop of the portions that they came from with them.
     *
     * @param int      $lots      open now, the added ones among them
     * @param int      $anchor    the position's average in ticks, rounded to the profit side
     * @param int      $print     number of the print that was the fill
     * @param int|null $notLooser the tightest stop of lots that were under other exits until now
     */
    public function gather(int $lots, int $anchor, int $print, ?int $notLooser = null): void
    {
        if ($this->openLots() === 0) {
            $this->anchors = [new Anchor($this->side)];
            $this->slots = [];
            $this->arrange();
        }
        $this->anchors[0]->place($anchor);
        $this->lastFillPrint = $print;
        $split = $this->plan->splitOfAll($lots);
        $before = array_filter($this->slots(), static fn(ExitSlot $c): bool => $c->wantsStop());
        $given = array_filter($before, static fn(ExitSlot $c): bool => $split[$c->portion->number] < $c->lots);
        foreach ($this->plan->portions as $portion) {
            $slot = $this->slots[$portion->number][0] ?? null;
            if ($slot === null || $slot->lots === 0) {
                $this->slots[$portion->number][0] = $slot = new ExitSlot($portion, 0);
            }
            $grows = $split[$portion->number] > $slot->lots;
            $slot->lots = $split[$portion->number];
            if ($grows) {
                // Lots that come in are protected as their plan says, whatever was taken off before.
                $slot->stopTakenOff = $slot->targetTakenOff = false;
                // Portions whose stop goes the same way have one stop.
                $alike = array_filter($before, static fn(ExitSlot $c): bool => ! $c->stopByHand && $c->portion->stop == $portion->stop);
                $slot->stop = $this->tightest([$slot->stop, $notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)]);
                $slot->stopByHand = $slot->stopByHand || ($portion->stop === null && $slot->stop !== null);
            }
        }
        $this->arrange();
        $this->follow(0);
    }

    /** What {@see gather()} would make of them, on a copy. */
    public function gathered(int $lots, int $anchor): self
    {
        $copy = clone $this;
        $copy->gather($lots, $anchor, PHP_INT_MAX);

        return $copy;
    }

    /** Anchors and slots change in place: a copy has its own. */
    public function __clone()
    {
        $this->anchors = array_map(static fn(Anchor $one): Anchor => clone $one, $this->anchors);
        $this->slots = array_map(
            static fn(array $groups): array => array_map(static fn(ExitSlot $one): ExitSlot => clone $one, $groups),
            $this->slots,
        );
        $this->arrange();
    }

    /**
     * @param array<ExitSlot> $slots
     *
     * @return list<int|null>
     */
    private static function stopsOf(array $slots): array
    {
        return array_values(array_map(static fn(ExitSlot $c): ?int => $c->stop, $slots));
    }

    /** @param list<int|null> $stops in ticks, null where there is none */
    private function tightest(array $stops): ?int
    {
        $stops = array_filter($stops, is_int(...));

        return $stops === [] ? null : ($this->side === Side::Buy ? max($stops) : min($stops));
    }

    /**
     * Takes note of a price that profit is measured on; what it sets off is asked for with {@see dueMoves()}.
     *
     * @return bool whether a best price got better
     */
    public function observe(int $tick, int $print): bool
    {
        $better = false;
        if ($print > $this->lastFillPrint) {
            foreach ($this->anchors as $anchor) {
                $better = $anchor->observe($tick) || $better;
            }
        }

        return $better;
    }

    /** @return list<StopMove> the moves that the ratchets ask for now, portion by portion */
    public function dueMoves(): array
    {
        $moves = [];
        foreach ($this->slots() as $slot) {
            $path = $slot->portion->stop;
            if ($path === null || $slot->stop === null || ! $slot->wantsStop() || $slot->stopByHand) {
                continue;
            }
            $best = $this->bestProfit($slot->group);
            $governing = $path->governing($best);
            if ($governing === null) {
                continue;
            }
            $level = $this->anchor($slot->group) + $this->side->sign() * $governing->offset($best);
            if ($this->tighter($level, $slot->stop)) {
                $moves[] = new StopMove($slot->group, $slot->portion->number, $slot->stop, $level, $governing->word(), $best);
            }
        }

        return $moves;
    }

    /** A ratchet has moved a stop: its group takes no more fills. */
    public function moved(int $portion, int $group, int $to): void
    {
        $slot = $this->find($portion, $group);
        if ($slot !== null) {
            $slot->stop = $to;
            $this->anchors[$group]->isFixed = true;
        }
    }

    /** Where the ratchets alone would have the stop now; what handing it back would give, if that is tighter. */
    public function ratchetLevel(ExitSlot $slot): ?int
    {
        return $slot->portion->stop === null ? null
            : $this->anchors[$slot->group]->tick() + $this->side->sign() * $slot->portion->stop->offset($this->bestProfit($slot->group));
    }

    /** The trader moved a stop or a target. Tightening a stop leaves the ratchets on; loosening takes the portion off them. */
    public function movedByHand(int $portion, int $group, Role $role, int $to): void
    {
        $slot = $this->find($portion, $group);
        if ($slot === null) {
            return;
        }
        if ($role === Role::Target) {
            $slot->target = $to;
            $slot->targetByHand = true;

            return;
        }
        if ($slot->stop !== null && $this->tighter($slot->stop, $to)) {
            $slot->stopByHand = true;
        }
        $slot->stop = $to;
        $this->anchors[$group]->isFixed = true;
    }

    /** A stop that lots had before they came under this plan stays where it is tighter. */
    public function keepStop(int $portion, int $tick): void
    {
        $slot = $this->find($portion, 0);
        if ($slot !== null && ($slot->stop === null || $this->tighter($tick, $slot->stop))) {
            $slot->stop = $tick;
        }
    }

    /** A move by hand that is done as soon as the answer is here. */
    public function wishedByHand(int $portion, int $group, Role $role, int $to): void
    {
        $this->movedByHand($portion, $group, $role, $to);
        $this->wish($portion, $group, $role, true);
    }

    /** Whether a move by hand is still to be sent. */
    public function wish(int $portion, int $group, Role $role, bool $open): void
    {
        $slot = $this->find($portion, $group);
        if ($slot !== null && $role === Role::Stop) {
            $slot->stopWished = $open;
        } elseif ($slot !== null) {
            $slot->targetWished = $open;
        }
    }

    /** The trader took a stop or a target off. */
    public function takeOff(int $portion, int $group, Role $role): void
    {
        $slot = $this->find($portion, $group);
        if ($slot !== null && $role === Role::Stop) {
            $slot->stopTakenOff = true;
        } elseif ($slot !== null) {
            $slot->targetTakenOff = true;
        }
    }

    /** The trader gave a stop back to its ratchets. */
    public function handBack(int $portion, int $group): void
    {
        $slot = $this->find($portion, $group);
        if ($slot !== null) {
            $slot->stopByHand = false;
        }
    }

    /** The trader gave lots that had no stop, or no target, one of their own. */
    public function setLevel(int $portion, int $group, Role $role, int $level): void
    {
        $slot = $this->find($portion, $group);
        if ($slot === null) {
            return;
        }
        if ($role === Role::Stop) {
            $slot->stop = $level;
            $slot->stopTakenOff = false;
            $slot->stopByHand = true;
        } else {
            $slot->target = $level;
            $slot->targetTakenOff = false;
            $slot->targetByHand = true;
        }
        $this->anchors[$group]->isFixed = true;
    }

    /** Some lots of one slot have closed through its own stop or target. */
    public function closed(int $portion, int $group, int $lots): void
    {
        $slot = $this->find($portion, $group);
        if ($slot !== null) {
            $slot->lots -= $lots;
        }
    }

    /**
     * Lots that close come off one portion, where the order that closed them belongs to it, or else portion by portion,
     * within a portion the oldest group first.
     *
     * @return list<array{int, int}> portion, lots taken off it; together they may be fewer than asked for
     */
    public function take(int $lots, ?int $portion, ?int $group): array
    {
        $taken = [];
        foreach ($portion === null || $group === null ? $this->slots() : array_filter([$this->find($portion, $group)]) as $slot) {
            $here = min($lots, $slot->lots);
            if ($here > 0) {
                $slot->lots -= $here;
                $lots -= $here;
                $taken[] = [$slot->portion->number, $here];
            }
        }

        return $taken;
    }

    public function riskAtStops(): StopRisk
    {
        $loss = $unprotected = 0;
        foreach ($this->slots() as $slot) {
            if ($slot->stop === null) {
                $unprotected += $slot->lots;
            } else {
                $loss += $slot->lots * max(0, $this->side->sign() * ($this->anchor($slot->group) - $slot->stop));
            }
        }

        return new StopRisk($loss, $unprotected);
    }

    /** Best profit so far of a group, in ticks. */
    public function bestProfit(int $group): int
    {
        return $this->anchors[$group]->bestProfit();
    }

    public function anchor(int $group): int
    {
        return $this->anchors[$group]->tick();
    }

    /** @return list<ExitSlot> portion by portion, oldest group first */
    public function slots(): array
    {
        return $this->inOrder;
    }

    /** Asked for at every print, so put in order only when a slot comes. */
    private function arrange(): void
    {
        ksort($this->slots);
        $this->inOrder = array_merge(...array_map('array_values', array_values($this->slots)));
    }

    public function find(int $portion, int $group): ?ExitSlot
    {
        return $this->slots[$portion][$group] ?? null;
    }

    public function slot(int $portion, int $group): ExitSlot
    {
        return $this->slots[$portion][$group];
    }

    public function openLots(): int
    {
        return array_sum(array_map(static fn(ExitSlot $c): int => $c->lots, $this->slots()));
    }

    /**
     * Best prices come from prints, which are not journaled; they are kept beside the market's own checkpoint.
     *
     * @return list<int|null> by group, in ticks
     */
    public function bests(): array
    {
        return array_map(static fn(Anchor $a): ?int => $a->best, $this->anchors);
    }

    /** @param list<int|null> $bests */
    public function restoreBests(array $bests): void
    {
        foreach ($bests as $group => $best) {
            if (isset($this->anchors[$group])) {
                $this->anchors[$group]->best = $best;
            }
        }
    }

    /** The anchor has moved with a fill: targets go with it, stops of lots already covered only where that tightens. */
    private function follow(int $group): void
    {
        $anchor = $this->anchors[$group]->tick();
        $sign = $this->side->sign();
        foreach ($this->slots as $groups) {
            $slot = $groups[$group] ?? null;
            if ($slot === null) {
                continue;
            }
            if ($slot->portion->target !== null && ! $slot->targetByHand) {
                $slot->target = $anchor + $sign * $slot->portion->target;
            }
            if ($slot->portion->stop !== null && ! $slot->stopByHand) {
                $level = $anchor - $sign * $slot->portion->stop->distance;
                $slot->stop = $slot->stop === null || $this->tighter($level, $slot->stop) ? $level : $slot->stop;
            }
        }
    }

    private function tighter(int $level, int $than): bool
    {
        return $this->side->sign() * ($level - $than) > 0;
    }
}
