<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Study;

use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\InTicks\Ratchet;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPortion;
use Lotrik\ExitPlan\InTicks\StopPath;

/** What is legal in a plan but odd, in plain words. */
final readonly class PlanWarnings
{
    /** A stop that this share of minutes, in percent, ranged wider than is inside the usual noise. */
    private const NOISY_PERCENT = 20;

    /** Fewer minutes say nothing about what is usual. */
    private const ENOUGH_MINUTES = 15;

    /** @param list<int> $minutes */
    private function __construct(private Contract $contract, private array $minutes) {}

    /**
     * @param list<int> $minutes how far each closed minute of the last session ranged, in ticks
     *
     * @return list<string>
     */
    public static function of(ResolvedPlan $plan, Contract $contract, array $minutes): array
    {
        $self = new self($contract, $minutes);
        $warnings = [];
        foreach ($plan->portions as $portion) {
            array_push($warnings, ...$self->target($portion), ...($portion->stop === null ? [] : $self->noise($portion->stop)));
            if ($portion->stop !== null) {
                $alike = array_values(array_filter($plan->portions, static fn(ResolvedPortion $p): bool => $p->stop == $portion->stop));
                array_push($warnings, ...$self->ratchets($portion->stop, $alike === [] ? [$portion] : $alike, count($plan->portions)));
            }
            if ($portion->stop?->limitTicks !== null) {
                $warnings[] = 'a stop-limit can be left behind by a fast market: its lots then stand unprotected until you close them';
            }
        }

        return array_values(array_unique($warnings));
    }

    /** @return list<string> */
    private function target(ResolvedPortion $portion): array
    {
        $needed = $this->contract->ticksForFees();

        return $portion->target !== null && $portion->target < $needed
            ? ["the target of portion $portion->number at +$portion->target is nearer than the fees, which take $needed ticks"] : [];
    }

    /** @return list<string> */
    private function noise(StopPath $stop): array
    {
        $count = count($this->minutes);
        $wider = count(array_filter($this->minutes, static fn(int $range): bool => $range > $stop->distance));
        if ($count < self::ENOUGH_MINUTES || 100 * $wider < self::NOISY_PERCENT * $count) {
            return [];
        }

        return ['the stop of '.self::ticks($stop->distance).' is inside the usual noise: '
            .intdiv(100 * $wider, $count)." % of the last $count minutes ranged wider"];
    }

    /**
     * A ratchet is odd where it acts on none of the portions that it is for.
     *
     * @param non-empty-list<ResolvedPortion> $portions with the same stop and ratchets
     * @param int                             $all      portions of the plan
     *
     * @return list<string>
     */
    private function ratchets(StopPath $path, array $portions, int $all): array
    {
        $warnings = [];
        $widest = null;
        $targets = array_map(static fn(ResolvedPortion $p): int => $p->target ?? PHP_INT_MAX, $portions);
        foreach ($path->ratchets as $i => $ratchet) {
            $what = "the {$ratchet->word()} at +$ratchet->at".(count($portions) === $all ? '' : ' of portion '.implode(
                ' and ',
                array_map(static fn(ResolvedPortion $p): int => $p->number, $portions),
            ));
            if ($ratchet->at >= max($targets)) {
                $warnings[] = "$what can never act: ".(count($portions) === 1 ? "portion {$portions[0]->number} is" : 'the last portion is')
                    .' out at +'.max($targets);
            } elseif (! $this->everTightens($path, $ratchet, $i, min($path->ratchets[$i + 1]->at ?? PHP_INT_MAX, max($targets)))) {
                $warnings[] = "$what can never act: the stop stands tighter already";
            }
            if ($ratchet->lock === null) {
                if ($widest !== null && $ratchet->trail > $widest) {
                    $warnings[] = "the trail at +$ratchet->at widens from ".self::ticks($widest)
                        ." to $ratchet->trail: the stop stands still until best profit is +".($ratchet->trail - $widest + $ratchet->at)
                        .' or more';
                }
                $widest = $ratchet->trail;
            }
        }

        return $warnings;
    }

    /** Whether the stop stands tighter with this ratchet than without it at any best profit that it governs. */
    private function everTightens(StopPath $path, Ratchet $ratchet, int $index, int $end): bool
    {
        $before = -$path->distance;
        foreach (array_slice($path->ratchets, 0, $index) as $j => $earlier) {
            $reach = $path->ratchets[$j + 1]->at - 1;
            $before = max($before, $earlier->offset(max($earlier->at, $reach)));
        }
        // A trail only rises with the best profit, so its last tick in charge tells.
        $last = min($end - 1, max($ratchet->at, $ratchet->at + $ratchet->trail + $ratchet->by + max(0, $before) + $path->distance));

        return $ratchet->offset($last) > $before;
    }

    private static function ticks(int $n): string
    {
        return $n.' tick'.($n === 1 ? '' : 's');
    }
}
