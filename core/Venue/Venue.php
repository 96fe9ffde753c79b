<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/**
 * Where the orders of one contract work, as the desk sees it: it is told what to do and reports what came of it. Nothing
 * is answered at once; whatever happens is among the outcomes, in the order in which it happened. Prices in ticks.
 */
interface Venue
{
    /** Takes an order, or reports that it is refused. */
    public function submit(WorkingOrder $order): void;

    /**
     * Changes an order, or reports that it stays as it was. An unknown id is no fault: its last report is on its way.
     *
     * @param int $lotsChange a change, so that a command under way and a fill that crosses it add up
     */
    public function replace(int $id, int $lotsChange, ?int $price, ?int $trigger): void;

    /** @param string $because for the report; an unknown id is no fault */
    public function cancel(int $id, string $because): void;

    /** @param bool $oco a fill or trigger of one cancels the other; else a fill of one lowers the other by the same lots */
    public function tie(int $first, int $second, int $group, bool $oco): void;

    public function untie(int $id): void;

    /** @return list<ExecutionReport|TradePrint> what has happened since the last call */
    public function outcomes(): array;

    /** @return array<int, WorkingOrder> what works there for the traders, by id: for whoever comes back and has to compare */
    public function working(): array;

    /** @return int net lots that an account has there */
    public function position(int $account): int;

    public function bestBid(): ?int;

    public function bestAsk(): ?int;
}
