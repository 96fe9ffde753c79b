<?php

declare(strict_types=1);

namespace Lotrik\Book;

/** All orders resting at one price, first come first served. */
final class PriceLevel
{
    public int $lots = 0;

    public int $orders = 0;

    public ?RestingOrder $first = null;

    public ?RestingOrder $last = null;

    public function __construct(public readonly int $tick) {}

    public function append(RestingOrder $order): void
    {
        $order->level = $this;
        $order->ahead = $this->last;
        if ($this->last === null) {
            $this->first = $order;
        } else {
            $this->last->behind = $order;
        }
        $this->last = $order;
        $this->lots += $order->lots;
        $this->orders++;
    }

    /** Unlinks fully, so that no cycle is left for the garbage collector. */
    public function remove(RestingOrder $order): void
    {
        if ($order->ahead === null) {
            $this->first = $order->behind;
        } else {
            $order->ahead->behind = $order->behind;
        }
        if ($order->behind === null) {
            $this->last = $order->ahead;
        } else {
            $order->behind->ahead = $order->ahead;
        }
        $this->lots -= $order->lots;
        $this->orders--;
        $order->ahead = $order->behind = $order->level = null;
    }
}
