<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Venue\WorkingOrder;

/** The traders' orders that work at the venue, and the net lots that each account has there. */
final class WorkingOrders
{
    /** @var array<int, WorkingOrder> */
    private array $orders = [];

    /** @var array<int, int> account → working orders */
    private array $counts = [];

    /** @param array<int, int> $positions account → net lots */
    public function __construct(private array $positions = []) {}

    /** @return array<int, WorkingOrder> by number, in order of arrival */
    public function all(): array
    {
        return $this->orders;
    }

    public function get(int $id): ?WorkingOrder
    {
        return $this->orders[$id] ?? null;
    }

    /** One that is known to work. */
    public function working(int $id): WorkingOrder
    {
        return $this->orders[$id];
    }

    public function has(int $id): bool
    {
        return isset($this->orders[$id]);
    }

    public function add(WorkingOrder $order): void
    {
        $this->orders[$order->id] = $order;
        $this->counts[$order->account] = $this->countOf($order->account) + 1;
    }

    public function remove(WorkingOrder $order): void
    {
        unset($this->orders[$order->id]);
        if (--$this->counts[$order->account] <= 0) {
            unset($this->counts[$order->account]);
        }
    }

    public function countOf(int $account): int
    {
        return $this->counts[$account] ?? 0;
    }

    /** @return int net lots */
    public function position(int $account): int
    {
        return $this->positions[$account] ?? 0;
    }

    /** @return array<int, int> account → net lots */
    public function positions(): array
    {
        return $this->positions;
    }

    /** @param int $lots bought, or below zero sold */
    public function traded(int $account, int $lots): void
    {
        $this->positions[$account] = $this->position($account) + $lots;
    }
}
