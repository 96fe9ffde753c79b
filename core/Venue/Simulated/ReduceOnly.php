<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Venue\WorkingOrder;

/**
 * No reduce-only order may ever flip a position: those with nothing to reduce go, the others shrink with it. Of pairs
 * the one with the lower number gives way first.
 */
final class ReduceOnly
{
    public const NOTHING_TO_REDUCE = 'the position that it closes is gone';

    /**
     * @param array<WorkingOrder> $working
     * @param int                 $position net lots of the account
     *
     * @return list<Reduction>
     */
    public static function excess(array $working, int $account, int $position): array
    {
        $excess = $pairs = [];
        foreach ($working as $order) {
            if ($order->account !== $account || ! $order->reduceOnly) {
                continue;
            }
            if ($position * $order->side->sign() >= 0) {
                $excess[] = new Reduction($order, $order->lots, self::NOTHING_TO_REDUCE);
            } elseif ($order->pair !== null) {
                $pairs[$order->pair][] = $order;
            } elseif ($order->lots > abs($position)) {
                $excess[] = new Reduction($order, $order->lots - abs($position), 'the position that it closes became smaller');
            }
        }

        return [...$excess, ...self::ofPairs($pairs, $position)];
    }

    /**
     * @param array<int, non-empty-list<WorkingOrder>> $pairs
     *
     * @return list<Reduction>
     */
    private static function ofPairs(array $pairs, int $position): array
    {
        ksort($pairs);
        $lots = array_map(static fn(array $pair): int => max(array_map(static fn(WorkingOrder $o): int => $o->lots, $pair)), $pairs);
        $over = array_sum($lots) - abs($position);
        $excess = [];
        foreach ($pairs as $key => $pair) {
            if ($over <= 0) {
                break;
            }
            foreach ($pair as $order) {
                $excess[] = new Reduction($order, $over - ($lots[$key] - $order->lots), 'the position that it protects became smaller');
            }
            $over -= $lots[$key];
        }

        return $excess;
    }
}
