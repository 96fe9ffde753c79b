<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;
use Lotrik\Venue\WorkingOrder;

/** Which waiting orders a print sets off. The nearest triggers are kept, since most prints reach none of them. In ticks. */
final class Triggers
{
    private ?int $lowestBuy = null;

    private ?int $highestSell = null;

    /** @param array<WorkingOrder> $working whose triggers have come, moved or gone */
    public function note(array $working): void
    {
        $this->lowestBuy = $this->highestSell = null;
        foreach ($working as $order) {
            if (! $order->waitsForTrigger()) {
                continue;
            }
            if ($order->kind->triggerSide($order->side) === Side::Buy) {
                $this->lowestBuy = min($this->lowestBuy ?? $order->trigger, $order->trigger);
            } else {
                $this->highestSell = max($this->highestSell ?? $order->trigger, $order->trigger);
            }
        }
    }

    public function areReachedBy(int $tick): bool
    {
        return ($this->lowestBuy !== null && $tick >= $this->lowestBuy) || ($this->highestSell !== null && $tick <= $this->highestSell);
    }

    /**
     * @param array<WorkingOrder> $working
     *
     * @return list<WorkingOrder> that a print sets off, the nearest trigger first, and the older order of two
     */
    public static function setOff(array $working, int $tick): array
    {
        $setOff = array_filter($working, static fn(WorkingOrder $order): bool => $order->isTriggeredBy($tick));
        $place = static fn(WorkingOrder $order): array => [$order->side->sign() * (int) $order->trigger, $order->id];
        usort($setOff, static fn(WorkingOrder $a, WorkingOrder $b): int => $place($a) <=> $place($b));

        return $setOff;
    }
}
