<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;

/** The entry that a rehearsal sends. */
final readonly class EntryOrder
{
    /**
     * @param int|null $price   limit or trigger in ticks; null for a market order
     * @param int|null $at      when it is sent, µs since 1970 UTC; null is before the first print
     * @param bool     $atPrice the whole entry fills at `$price` at `$at`, before that print is looked at
     */
    public function __construct(
        public Side $side,
        public int $quantity,
        public OrderKind $kind,
        public ?int $price,
        public ?int $at,
        public bool $atPrice,
    ) {}

    /**
     * At what price it fills on a print, null where it does not.
     *
     * @param bool $through   a limit must be traded through
     * @param bool $triggered a stop that has been set off before fills at any price
     */
    public function fillAt(int $tick, bool $through, bool $triggered): ?int
    {
        $beyond = $this->side->sign() * ($tick - (int) $this->price);

        return match ($this->kind) {
            OrderKind::Market => $tick,
            OrderKind::Limit => $beyond < 0 || (! $through && $beyond === 0) ? (int) $this->price : null,
            OrderKind::Stop => $triggered || $beyond >= 0 ? $tick : null,
            OrderKind::StopLimit, OrderKind::IfTouched => null,
        };
    }
}
