<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * How far a position in one contract may come: on each side as if all of its working entries filled. Of entries that are tied
 * one-cancels-other the larger counts. Against an open position an entry that rests counts in full, since the position may have
 * closed by the time that it fills; a market order counts without the lots that it is sure to find.
 */
final class Reach
{
    /** @var array<string, int> side → lots of entries that are not tied */
    private array $lots = ['buy' => 0, 'sell' => 0];

    /** @var array<string, int> the same of those that fill as soon as they arrive */
    private array $atOnce = ['buy' => 0, 'sell' => 0];

    /** @var array<string, array<int, int>> side → group → lots of the larger one */
    private array $tied = ['buy' => [], 'sell' => []];

    private int $closing = 0;

    /** @param int $position lots, positive for long */
    public function __construct(private readonly int $position) {}

    public static function of(AccountPosition $holding): self
    {
        $reach = new self($holding->position->lots);
        foreach ($holding->working as $order) {
            if ($order->role === Role::Entry) {
                $reach->entersBy($order);
            } else {
                $reach->closes($order->leaves());
            }
        }

        return $reach;
    }

    public function entersBy(DeskOrder $order): void
    {
        $this->enters($order->side, $order->mayFill(), $order->ocoGroup(), $order->kind === OrderKind::Market && ! $order->isHeld());
    }

    /**
     * @param int|null $group of orders of which only one can fill
     * @param bool     $now   whether it fills as soon as it arrives
     */
    public function enters(Side $side, int $lots, ?int $group, bool $now): void
    {
        if ($group !== null) {
            $this->tied[$side->value][$group] = max($lots, $this->tied[$side->value][$group] ?? 0);
        } elseif ($now) {
            $this->atOnce[$side->value] += $lots;
        } else {
            $this->lots[$side->value] += $lots;
        }
    }

    /** An order that closes, and may do so before a market order arrives. */
    public function closes(int $lots): void
    {
        $this->closing += $lots;
    }

    /** The most lots that may come to be open on a side. */
    public function on(Side $side): int
    {
        $open = $this->position * $side->sign();
        $finds = max(0, -$open - $this->closing);

        return max(0, $open) + $this->entering($side) - min($finds, $this->atOnce[$side->value]);
    }

    /** Lots of entries on a side, those that fill at once among them. */
    public function entering(Side $side): int
    {
        return $this->lots[$side->value] + $this->atOnce[$side->value] + array_sum($this->tied[$side->value]);
    }

    /** The most lots that may come to be open on either side. */
    public function most(): int
    {
        return max($this->on(Side::Buy), $this->on(Side::Sell));
    }
}
