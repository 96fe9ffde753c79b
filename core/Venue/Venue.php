<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/**
 * Where the orders of one contract work, as the desk sees it: it is told what to do and reports what came of it. Nothing
 * is answered at once; whatever happens is among the outcomes, in the order in which it happened. A report may come
 * again, with the execution id that it had. Orders go by the desk's ids. Prices in ticks.
 */
interface Venue
{
    /** Takes an order, or refuses it. */
    public function submit(WorkingOrder $order): void;

    /**
     * Changes an order, or refuses that: it stays as it was. An unknown id is no fault: its last report is on its way.
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

    /** After a start, or when a lost line is back: what works there now, for the desk to compare. Later reports go on from it. */
    public function reconnect(): VenueSnapshot;

    public function bestBid(): ?int;

    public function bestAsk(): ?int;
}
