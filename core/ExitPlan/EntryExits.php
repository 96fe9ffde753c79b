<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

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

    /** @var array<int, array<int, Cover>> portion number → group → cover */
    private array $covers = [];

    /** @var list<Cover> the same, portion by portion, oldest group first */
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
        if ($group < 0 || $this->anchors[$group]->settled) {
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
                $this->covers[$portion->number][$group] ??= new Cover($portion, $group);
                $this->covers[$portion->number][$group]->lots += $here;
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
            $this->covers = [];
            $this->arrange();
        }
        $this->anchors[0]->place($anchor);
        $this->lastFillPrint = $print;
        $split = $this->plan->split($lots);
        $before = array_filter($this->covers(), static fn(Cover $c): bool => $c->wantsStop());
        $given = array_filter($before, static fn(Cover $c): bool => $split[$c->portion->number] < $c->lots);
        foreach ($this->plan->portions as $portion) {
            $cover = $this->covers[$portion->number][0] ?? null;
            if ($cover === null || $cover->lots === 0) {
                $this->covers[$portion->number][0] = $cover = new Cover($portion, 0);
            }
            $grows = $split[$portion->number] > $cover->lots;
            $cover->lots = $split[$portion->number];
            if ($grows) {
                // Lots that come in are protected as their plan says, whatever was taken off before.
                $cover->stopTakenOff = $cover->targetTakenOff = false;
                // Portions whose stop goes the same way have one stop.
                $alike = array_filter($before, static fn(Cover $c): bool => ! $c->stopByHand && $c->portion->stop == $portion->stop);
                $cover->stop = $this->tightest([$cover->stop, $notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)]);
                $cover->stopByHand = $cover->stopByHand || ($portion->stop === null && $cover->stop !== null);
            }
        }
        $this->arrange();
        $this->follow(0);
    }

    /**
     * @param array<Cover> $covers
     *
     * @return list<int|null>
     */
    private static function stopsOf(array $covers): array
    {
        return array_values(array_map(static fn(Cover $c): ?int => $c->stop, $covers));
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
        foreach ($this->covers() as $cover) {
            $path = $cover->portion->stop;
            if ($path === null || $cover->stop === null || ! $cover->wantsStop() || $cover->stopByHand) {
                continue;
            }
            $best = $this->bestProfit($cover->group);
            $governing = $path->governing($best);
            if ($governing === null) {
                continue;
            }
            $level = $this->anchor($cover->group) + $this->side->sign() * $governing->offset($best);
            if ($this->tighter($level, $cover->stop)) {
                $moves[] = new StopMove($cover->group, $cover->portion->number, $cover->stop, $level, $governing->word(), $best);
            }
        }

        return $moves;
    }

    /** A ratchet has moved a stop: its group takes no more fills. */
    public function moved(int $portion, int $group, int $to): void
    {
        $cover = $this->find($portion, $group);
        if ($cover !== null) {
            $cover->stop = $to;
            $this->anchors[$group]->settled = true;
        }
    }

    /** Where the ratchets alone would have the stop now; what handing it back would give, if that is tighter. */
    public function ratchetLevel(Cover $cover): ?int
    {
        return $cover->portion->stop === null ? null
            : $this->anchors[$cover->group]->tick() + $this->side->sign() * $cover->portion->stop->offset($this->bestProfit($cover->group));
    }

    /** The trader moved a stop or a target. Tightening a stop leaves the ratchets on; loosening takes the portion off them. */
    public function movedByHand(int $portion, int $group, Role $role, int $to): void
    {
        $cover = $this->find($portion, $group);
        if ($cover === null) {
            return;
        }
        if ($role === Role::Target) {
            $cover->target = $to;
            $cover->targetByHand = true;

            return;
        }
        if ($cover->stop !== null && $this->tighter($cover->stop, $to)) {
            $cover->stopByHand = true;
        }
        $cover->stop = $to;
        $this->anchors[$group]->settled = true;
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
        $cover = $this->find($portion, $group);
        if ($cover !== null && $role === Role::Stop) {
            $cover->stopWished = $open;
        } elseif ($cover !== null) {
            $cover->targetWished = $open;
        }
    }

    /** The trader took a stop or a target off. */
    public function takeOff(int $portion, int $group, Role $role): void
    {
        $cover = $this->find($portion, $group);
        if ($cover !== null && $role === Role::Stop) {
            $cover->stopTakenOff = true;
        } elseif ($cover !== null) {
            $cover->targetTakenOff = true;
        }
    }

    /** The trader gave a stop back to its ratchets. */
    public function handBack(int $portion, int $group): void
    {
        $cover = $this->find($portion, $group);
        if ($cover !== null) {
            $cover->stopByHand = false;
        }
    }

    /** The trader gave lots that had no stop, or no target, one of their own. */
    public function set(int $portion, int $group, Role $role, int $level): void
    {
        $cover = $this->find($portion, $group);
        if ($cover === null) {
            return;
        }
        if ($role === Role::Stop) {
            $cover->stop = $level;
            $cover->stopTakenOff = false;
            $cover->stopByHand = true;
        } else {
            $cover->target = $level;
            $cover->targetTakenOff = false;
            $cover->targetByHand = true;
        }
        $this->anchors[$group]->settled = true;
    }

    /** Some lots of one cover have closed through its own stop or target. */
    public function closed(int $portion, int $group, int $lots): void
    {
        $cover = $this->find($portion, $group);
        if ($cover !== null) {
            $cover->lots -= $lots;
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
        foreach ($portion === null || $group === null ? $this->covers() : array_filter([$this->find($portion, $group)]) as $cover) {
            $here = min($lots, $cover->lots);
            if ($here > 0) {
                $cover->lots -= $here;
                $lots -= $here;
                $taken[] = [$cover->portion->number, $here];
            }
        }

        return $taken;
    }

    /** @return array{int, int} what the open lots would lose at their stops, in ticks × lots, and how many have none */
    public function riskAtStops(): array
    {
        $risk = $unstopped = 0;
        foreach ($this->covers() as $cover) {
            if ($cover->stop === null) {
                $unstopped += $cover->lots;
            } else {
                $risk += $cover->lots * max(0, $this->side->sign() * ($this->anchor($cover->group) - $cover->stop));
            }
        }

        return [$risk, $unstopped];
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

    /** @return list<Cover> portion by portion, oldest group first */
    public function covers(): array
    {
        return $this->inOrder;
    }

    /** Asked for at every print, so put in order only when a cover comes. */
    private function arrange(): void
    {
        ksort($this->covers);
        $this->inOrder = array_merge(...array_map('array_values', array_values($this->covers)));
    }

    public function find(int $portion, int $group): ?Cover
    {
        return $this->covers[$portion][$group] ?? null;
    }

    public function cover(int $portion, int $group): Cover
    {
        return $this->covers[$portion][$group];
    }

    public function openLots(): int
    {
        return array_sum(array_map(static fn(Cover $c): int => $c->lots, $this->covers()));
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
        foreach ($this->covers as $groups) {
            $cover = $groups[$group] ?? null;
            if ($cover === null) {
                continue;
            }
            if ($cover->portion->target !== null && ! $cover->targetByHand) {
                $cover->target = $anchor + $sign * $cover->portion->target;
            }
            if ($cover->portion->stop !== null && ! $cover->stopByHand) {
                $level = $anchor - $sign * $cover->portion->stop->distance;
                $cover->stop = $cover->stop === null || $this->tighter($level, $cover->stop) ? $level : $cover->stop;
            }
        }
    }

    private function tighter(int $level, int $than): bool
    {
        return $this->side->sign() * ($level - $than) > 0;
    }
}
