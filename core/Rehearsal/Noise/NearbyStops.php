<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal\Noise;

use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InvalidPlan;

/** The same plan with its stop nearer and farther, all else as it is: would another distance have stood outside the noise? */
final class NearbyStops
{
    /** in quarters of the plan's own distance */
    private const QUARTERS = [2, 3, 4, 5, 6, 8];

    /**
     * @return array<int, ExitPlan> distance of the first stop in ticks → plan, the plan's own among them; none without a stop
     *
     * @throws InvalidPlan where the plan does not fit the sample order
     */
    public static function of(ExitPlan $plan, Basis $basis): array
    {
        $distances = [];
        foreach ($plan->resolve($basis)->portions as $portion) {
            if ($portion->stop !== null) {
                $distances[$portion->number - 1] = $portion->stop->distance;
            }
        }
        if ($distances === []) {
            return [];
        }
        $plans = [];
        foreach (self::QUARTERS as $quarters) {
            $own = array_values($distances)[0];
            $ticks = self::scaled($own, $quarters);
            if ($quarters === 4) {
                $plans[$ticks] = $plan;
            } elseif (! isset($plans[$ticks]) && $ticks !== $own) {
                $plans[$ticks] = self::withStops($plan, $distances, $quarters);
            }
        }
        ksort($plans);

        return array_filter($plans);
    }

    private static function scaled(int $ticks, int $quarters): int
    {
        return max(1, intdiv($ticks * $quarters + 2, 4));
    }

    /** @param non-empty-array<int, int> $own distance of each portion's stop */
    private static function withStops(ExitPlan $plan, array $own, int $quarters): ?ExitPlan
    {
        $distances = array_map(static fn(int $ticks): int => self::scaled($ticks, $quarters), $own);
        $document = $plan->document;
        if ($document['stop'] !== null) {
            // The plan's own stop is that of every portion without one of its own.
            $shared = array_values(array_filter(
                $distances,
                static fn(int $i): bool => ! isset($document['portions'][$i]['stop']),
                ARRAY_FILTER_USE_KEY,
            ));
            $document['stop'] = self::inTicks($document['stop'], $shared[0] ?? max($distances));
        }
        foreach ($document['portions'] as $i => $portion) {
            if (isset($portion['stop'])) {
                $document['portions'][$i]['stop'] = self::inTicks((array) $portion['stop'], $distances[$i]);
            }
        }
        try {
            return ExitPlan::fromArray($document);
        } catch (InvalidDocument) {
            return null;
        }
    }

    /**
     * @param array<array-key, mixed> $stop
     *
     * @return array<array-key, mixed>
     */
    private static function inTicks(array $stop, int $ticks): array
    {
        return ['ticks' => $ticks] + array_intersect_key($stop, ['kind' => 1, 'limit_ticks' => 1]);
    }
}
