<?php

declare(strict_types=1);

namespace Lotrik\Risk;

/**
 * What stops would fill at in the depth that rests now: their lots taken down the book, level by level, from their triggers on.
 * What stands nearer to the market than a trigger has gone by the time that it triggers. What one stop has taken the next
 * does not find. All prices in ticks.
 */
final class DepthWalk
{
    /** the last price that the walk has reached: what finds nothing more is counted there */
    private ?int $reached = null;

    /** @param list<array{int, int}> $levels tick and lots of the side that the stops trade against, best first */
    public function __construct(private array $levels) {}

    /**
     * @param int $side 1 for stops that buy, −1 for stops that sell
     *
     * @return array{int, int} what they fill at, in ticks × lots, and lots for which nothing rests: they are counted at the last
     *                         price of the walk
     */
    public function take(int $lots, int $trigger, int $side): array
    {
        $cost = 0;
        $left = $lots;
        // Where the depth has run out already, a stop farther in is counted no better than where it ran out.
        $last = $this->reached !== null && $side * ($this->reached - $trigger) > 0 ? $this->reached : $trigger;
        foreach ($this->levels as $at => [$tick, $rests]) {
            if ($left === 0) {
                break;
            }
            if ($side * ($tick - $trigger) < 0 || $rests === 0) {
                continue;
            }
            $taken = min($left, $rests);
            $this->levels[$at][1] -= $taken;
            $left -= $taken;
            $last = $tick;
            $cost += $tick * $taken;
        }
        $this->reached = $this->reached === null || $side * ($last - $this->reached) > 0 ? $last : $this->reached;

        return [$cost + $last * $left, $left];
    }
}
