<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Venue\WorkingOrder;

/**
 * What a fill or a trigger of one order does to those that are tied to it.
 *
 * Source: FIX 4.4 ContingencyType (1385 in 5.0): 1, one cancels the other; 3, one updates the other, in absolute lots.
 */
final class OrderGroups
{
    /** How many decided groups are remembered: an order that belongs to one can only be on its way for a moment. */
    private const MAX_DECIDED = 200;

    /** @param array<int, string> $decided OCO groups of which one has filled or triggered, and in words why the other comes too late */
    public function __construct(private array $decided = []) {}

    /** Why an order comes too late for its group; null where it does not. */
    public function refusal(WorkingOrder $order): ?string
    {
        return $order->oco === null ? null : $this->decided[$order->oco] ?? null;
    }

    /**
     * What a fill takes off others: the same lots.
     *
     * @param array<WorkingOrder> $working
     *
     * @return list<Reduction>
     */
    public static function lowered(WorkingOrder $filled, int $lots, array $working): array
    {
        $lowered = [];
        foreach ($filled->pair === null ? [] : self::others(
            $filled,
            $working,
            static fn(WorkingOrder $o): bool => $o->pair === $filled->pair,
        ) as $other) {
            $lowered[] = new Reduction($other, $lots, "order {$filled->id}, its other side, filled");
        }
        foreach ($filled->ouo === null ? [] : self::others(
            $filled,
            $working,
            static fn(WorkingOrder $o): bool => $o->ouo === $filled->ouo,
        ) as $other) {
            $lowered[] = new Reduction($other, $lots, "order {$filled->id}, tied to it, filled");
        }

        return $lowered;
    }

    /**
     * One of a group has filled or triggered: the others go, and whoever comes later is refused.
     *
     * @param array<WorkingOrder> $working
     * @param string              $what    filled, or triggered
     *
     * @return list<Reduction> orders that go
     */
    public function decide(WorkingOrder $order, array $working, string $what): array
    {
        if ($order->oco === null) {
            return [];
        }
        $because = "order {$order->id}, tied to it, $what";
        $this->decided = array_slice([$order->oco => $because] + $this->decided, 0, self::MAX_DECIDED, true);

        return array_map(
            static fn(WorkingOrder $other): Reduction => new Reduction($other, $other->lots, $because),
            self::others($order, $working, static fn(WorkingOrder $o): bool => $o->oco === $order->oco),
        );
    }

    /** @return array<int, string> to be given to a new one */
    public function pack(): array
    {
        return $this->decided;
    }

    /**
     * @param array<WorkingOrder>          $working
     * @param callable(WorkingOrder): bool $belongs
     *
     * @return list<WorkingOrder>
     */
    private static function others(WorkingOrder $order, array $working, callable $belongs): array
    {
        return array_values(array_filter(
            $working,
            static fn(WorkingOrder $o): bool => $o !== $order && $o->account === $order->account && $belongs($o),
        ));
    }
}
