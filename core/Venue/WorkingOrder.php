<?php

declare(strict_types=1);

namespace Lotrik\Venue;

use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/**
 * A trader's order as the venue holds it: resting in the book, waiting for its trigger, or waiting for liquidity.
 *
 * @phpstan-type PackedOrder array{int, int, string, string, int, int|null, int|null, bool, bool, int|null, int|null, bool,
 *     12?: int|null, 13?: string, 14?: int}
 */
final class WorkingOrder
{
    /** Set once a stop's trigger has printed; from then on it is a market (or limit) order. */
    public bool $triggered = false;

    /** lots that have filled in all */
    public int $filled = 0;

    /**
     * @param int      $lots       what is left to fill
     * @param int|null $price      limit in ticks
     * @param int|null $trigger    in ticks
     * @param bool     $reduceOnly it may only ever bring the position nearer to zero
     * @param bool     $exit       a stop or target of an exit plan: never refused as passed, and not given up for an own entry
     * @param int|null $pair       orders of one pair are OUO (FIX ContingencyType 3): a fill of one lowers the others by the same
     *                             lots; pairs with a lower number give way first when the position shrinks
     * @param int|null $oco        orders of one group are OCO (FIX ContingencyType 1): a fill or trigger of one cancels the others
     * @param int|null $ouo        hand-made closes tied to each other: OUO like a pair, but without its turn in giving way
     */
    public function __construct(
        public readonly int $id,
        public readonly int $account,
        public readonly Side $side,
        public readonly OrderKind $kind,
        public int $lots,
        public ?int $price = null,
        public ?int $trigger = null,
        public readonly bool $reduceOnly = false,
        public readonly bool $exit = false,
        public readonly ?int $pair = null,
        public ?int $oco = null,
        public ?int $ouo = null,
        public readonly TimeInForce $tif = TimeInForce::GoodTillCancelled,
    ) {}

    public function waitsForTrigger(): bool
    {
        return $this->kind->hasTrigger() && ! $this->triggered;
    }

    /** Whether a print at this tick sets it off. */
    public function isTriggeredBy(int $tick): bool
    {
        return $this->waitsForTrigger()
            && ($this->kind->triggerSide($this->side) === Side::Buy ? $tick >= $this->trigger : $tick <= $this->trigger);
    }

    /** The worst price it may fill at once it is live, null for any. */
    public function limit(): ?int
    {
        return $this->kind->hasPrice() ? $this->price : null;
    }

    /** @return list<int|string|bool|null> */
    public function pack(): array
    {
        return [$this->id, $this->account, $this->side->value, $this->kind->value, $this->lots, $this->price, $this->trigger,
            $this->reduceOnly, $this->exit, $this->pair, $this->oco, $this->triggered, $this->ouo, $this->tif->value, $this->filled];
    }

    /**
     * A market's checkpoint outlives the build that wrote it: what an older one did not know is left out there.
     *
     * @param PackedOrder $packed
     */
    public static function unpack(array $packed): self
    {
        $order = new self($packed[0], $packed[1], Side::from($packed[2]), OrderKind::from($packed[3]), $packed[4], $packed[5],
            $packed[6], $packed[7], $packed[8], $packed[9], $packed[10], $packed[12] ?? null, TimeInForce::from($packed[13] ?? 'gtc'));
        $order->triggered = $packed[11];
        $order->filled = $packed[14] ?? 0;

        return $order;
    }
}
