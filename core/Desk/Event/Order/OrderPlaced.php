<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Desk\Event\Event;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/**
 * An order exists and, unless it is held, is on its way to the venue. Prices in ticks; an exit names the entry, portion and
 * group that it is for.
 *
 * @phpstan-import-type PackedRelease from \Lotrik\Desk\Order\ReleaseCondition
 */
final readonly class OrderPlaced implements Event
{
    public const TYPE = 'order-placed';

    /** Since 2 the purpose stands in it; before, it was read out of the words. */
    public const VERSION = 2;

    public function __construct(
        public int $order,
        public int $account,
        public string $contract,
        public ?string $clientId,
        public Side $side,
        public OrderKind $kind,
        public int $quantity,
        public ?int $price,
        public ?int $trigger,
        public TimeInForce $tif,
        public Role $role,
        public Purpose $purpose,
        public string $why,
        /** @var array<string, mixed>|null */ public ?array $plan = null,
        public ?int $entry = null,
        public ?int $portion = null,
        public ?int $group = null,
        public ?string $tag = null,
        /** @var PackedRelease|null what it waits for before it goes to the venue */
        public ?array $hold = null,
        /** ms since 1970 UTC */ public ?int $cancelAt = null,
        public ?int $expiresAt = null,
        /** @var array<string, int>|null the average true ranges that the plan was sent with, by bar and length, in millionths of a tick */
        public ?array $ranges = null,
        /** ms since 1970 UTC: the session's end, at which a day order expires; null where it has none */ public ?int $dayEnds = null,
        /** of the stored plan, where it was sent with one */ public ?int $planVersion = null,
        /** whether lots beyond flat were asked to open the other side */ public bool $through = false,
    ) {}
}
