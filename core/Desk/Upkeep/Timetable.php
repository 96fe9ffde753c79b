<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;

/**
 * When each order wants to be looked at: at a time, in a queue by due time, or at the news of a contract. A print or a
 * step costs no more for a thousand day orders than for one. It holds nothing that does not follow from the orders.
 */
final class Timetable
{
    /** @var \SplMinHeap<array{int, int}> when it is due, ms since 1970 UTC, and the order: equals come out by their number */
    private \SplMinHeap $queue;

    /** @var array<int, int> order → when it is next due; what else the queue says of it is out of date */
    private array $due = [];

    /** @var array<string, array<int, true>> contract → held orders that wait for its prices, or for its open */
    private array $waiting = [];

    /** @var array<int, array<int, true>> order → held orders that wait for its first fill */
    private array $children = [];

    /** @var array<int, true> held orders whose parent has changed */
    private array $stirred = [];

    public function __construct(DeskState $state)
    {
        $this->queue = new \SplMinHeap();
        foreach ($state->holdings as $holdings) {
            foreach ($holdings as $holding) {
                array_map($this->changed(...), $holding->working);
            }
        }
    }

    /** An order is new, or is not what it was. */
    public function changed(DeskOrder $order): void
    {
        $this->schedule($order, PHP_INT_MIN);
        $watched = $order->releaseWhen === null ? [] : [$order->contract, $order->releaseWhen->contract ?? $order->contract];
        foreach (array_unique($watched) as $contract) {
            if ($order->isHeld()) {
                $this->waiting[$contract][$order->id] = true;
            } else {
                unset($this->waiting[$contract][$order->id]);
            }
        }
        if ($order->releaseWhen?->after !== null) {
            if ($order->isHeld()) {
                $this->children[$order->releaseWhen->after][$order->id] = true;
            } else {
                unset($this->children[$order->releaseWhen->after][$order->id]);
            }
        }
        $this->stirred += $this->children[$order->id] ?? [];
        if ($order->state->isFinal()) {
            unset($this->children[$order->id]);
        }
    }

    /**
     * Says when an order is due next, if it is due at all after a moment. While an answer is under way it is not: what
     * comes with the answer is a change.
     */
    public function schedule(DeskOrder $order, int $after): void
    {
        $times = $order->state->isFinal() || $order->state->isPending() ? []
            : array_filter(
                [$order->ends(), $order->cancelAt, $order->isHeld() ? $order->releaseWhen?->releaseAt : null],
                static fn(?int $time): bool => $time !== null && $time > $after,
            );
        if ($times === []) {
            unset($this->due[$order->id]);
        } elseif (($this->due[$order->id] ?? null) !== min($times)) {
            $this->enqueue($order->id, min($times));
        }
    }

    /** @return list<int> orders that are due by then, in the order of their times; each is due no more until it is scheduled again */
    public function due(int $at): array
    {
        $due = [];
        while (! $this->queue->isEmpty() && $this->queue->top()[0] <= $at) {
            [$when, $order] = $this->queue->extract();
            if (($this->due[$order] ?? null) === $when) {
                unset($this->due[$order]);
                $due[] = $order;
            }
        }

        return $due;
    }

    /** @return list<int> held orders that news of a contract may release or end */
    public function waiting(string $contract): array
    {
        return array_keys($this->waiting[$contract] ?? []);
    }

    /** @return list<int> held orders whose parent has changed since the last call */
    public function stirred(): array
    {
        $stirred = array_keys($this->stirred);
        $this->stirred = [];

        return $stirred;
    }

    private function enqueue(int $order, int $at): void
    {
        $this->due[$order] = $at;
        $this->queue->insert([$at, $order]);
        // Entries that are out of date go when they come up; where they pile up, the queue is made anew.
        if ($this->queue->count() > 1000 + 4 * count($this->due)) {
            $this->queue = new \SplMinHeap();
            foreach ($this->due as $id => $when) {
                $this->queue->insert([$when, $id]);
            }
        }
    }
}
