<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;

/**
 * Real aggressive flow that moves the last price by exactly so many ticks, printing each level on its way.
 *
 * At each level it takes all that rests there, the trader's orders among it, and leaves a few lots behind the price
 * and in front of it, so that the spread stays small. It ends at the day's price limit. It is one venue action a level: the
 * desk can answer in between.
 */
final class Push
{
    /** Actions after which a push gives up: only a trader's own orders on its way could keep it so long. */
    private const MAX = 5_000;

    private int $actions = 0;

    private function __construct(private readonly Flow $flow, private readonly SimulatedVenue $venue, private readonly int $goal) {}

    /** @param int $ticks signed; 0 moves nothing */
    public static function by(int $ticks, Flow $flow, SimulatedVenue $venue): self
    {
        $from = $venue->last()->tick ?? $venue->book->bestBid() ?? $venue->book->bestAsk() ?? 1;

        return new self($flow, $venue, $venue->nearestAllowed(max(1, $from + $ticks)));
    }

    /** One level more. False when the last price is where it was to go. */
    public function advance(): bool
    {
        $last = $this->venue->last()?->tick;
        if ($last === $this->goal || ++$this->actions > self::MAX) {
            return false;
        }
        $side = $last === null || $last < $this->goal ? Side::Buy : Side::Sell;
        $tick = $last === null ? $this->goal : $last + $side->sign();
        $there = $side->opposite();
        $this->clearTheWay($side, $tick);
        if ($this->venue->book->level($there, $tick) === null) {
            $this->flow->aggress($this->venue, $there, $tick, 1);
        }
        $lots = 0;
        foreach ($this->venue->book->levels($there) as $level) {
            $lots += $side->sign() * ($tick - $level->tick) >= 0 ? $level->lots : 0;
        }
        $this->flow->refill($this->venue, $there, $tick);
        $this->flow->aggress($this->venue, $side, $tick, $lots);
        $this->flow->refill($this->venue, $side, $tick - $side->sign());

        return true;
    }

    /** The flow's own orders leave the prices between the last trade and the next level, so that nothing prints there. */
    private function clearTheWay(Side $side, int $tick): void
    {
        foreach ([...$this->venue->book->levels($side), ...$this->venue->book->levels($side->opposite())] as $level) {
            $beyond = $side->sign() * ($level->tick - $tick);
            for ($order = $level->first; $order !== null; $order = $next) {
                $next = $order->behind;
                if ($order->account === 0 && ($order->side === $side ? $beyond >= 0 : $beyond < 0)) {
                    $this->venue->cancelFlow($order->id);
                }
            }
        }
    }
}
