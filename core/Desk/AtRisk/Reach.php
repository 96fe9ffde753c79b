<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * How far a position in one contract may come: on each side as if all of its working entries filled. Of entries that are tied
 * one-cancels-other the larger counts. Against an open position an entry that rests counts in full, since the position may have
 * closed by the time that it fills; a market order counts without the lots that it is sure to find: those that no order closes
 * which was sent before it. What is sent after it arrives after it; only where the book has nothing for a market order may a close that
 * rests be filled before it.
 */
final class Reach
{
    /** in place of the number of an order that is still to be sent */
    public const LAST = PHP_INT_MAX;

    /** @var array<string, int> side → lots of entries that are not tied */
    private array $lots = ['buy' => 0, 'sell' => 0];

    /** @var array<string, list<array{int, int}>> side → those that fill as soon as they arrive: number of the order, lots */
    private array $atOnce = ['buy' => [], 'sell' => []];

    /** @var array<string, array<int, int>> side → group → lots of the larger one */
    private array $tied = ['buy' => [], 'sell' => []];

    /** @var array<int, int> number of an order that closes → lots */
    private array $closing = [];

    /** @param int $position lots, positive for long */
    public function __construct(private readonly int $position) {}

    public static function of(AccountPosition $holding): self
    {
        $reach = new self($holding->position->lots);
        foreach ($holding->working as $order) {
            if ($order->role === Role::Entry) {
                $reach->entersBy($order);
            } else {
                $reach->closes($order->id, $order->leaves());
            }
        }

        return $reach;
    }

    public function entersBy(DeskOrder $order): void
    {
        $this->enters($order->side, $order->mayFill(), $order->ocoGroup(), self::sentAs($order));
    }

    /** The number of an order that fills as soon as it arrives, as {@see enters()} asks for it; one that was held is sent when it is released. */
    public static function sentAs(DeskOrder $order): ?int
    {
        if ($order->kind !== OrderKind::Market || $order->isHeld()) {
            return null;
        }

        return $order->releaseWhen === null ? $order->id : self::LAST;
    }

    /**
     * @param int|null $group of orders of which only one can fill
     * @param int|null $sent  where it fills as soon as it arrives, the number of the order; {@see LAST} where it is still to be sent
     */
    public function enters(Side $side, int $lots, ?int $group, ?int $sent): void
    {
        if ($group !== null) {
            $this->tied[$side->value][$group] = max($lots, $this->tied[$side->value][$group] ?? 0);
        } else {
            $this->lots[$side->value] += $lots;
            if ($sent !== null) {
                $this->atOnce[$side->value][] = [$sent, $lots];
            }
        }
    }

    /** An order that closes, and may do so before a market order arrives that is sent after it. */
    public function closes(int $order, int $lots): void
    {
        $this->closing[$order] = $lots;
    }

    /** The most lots that may come to be open on a side. */
    public function on(Side $side): int
    {
        return max(0, $this->position * $side->sign()) + $this->entering($side) - $this->found($side);
    }

    /** Lots of the other side that market orders are sure to close. */
    private function found(Side $side): int
    {
        $found = 0;
        $open = -$this->position * $side->sign();
        foreach ($open > 0 ? $this->atOnce[$side->value] : [] as [$sent, $lots]) {
            $before = array_sum(array_filter($this->closing, static fn(int $order): bool => $order < $sent, ARRAY_FILTER_USE_KEY));
            $found += min($lots, max(0, $open - $before - $found));
        }

        return $found;
    }

    /** Lots of entries on a side. */
    public function entering(Side $side): int
    {
        return $this->lots[$side->value] + array_sum($this->tied[$side->value]);
    }

    /** The most lots that may come to be open on either side. */
    public function most(): int
    {
        return max($this->on(Side::Buy), $this->on(Side::Sell));
    }
}
