<?php

declare(strict_types=1);

namespace Lotrik\Desk\Order;

use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;

/** How an order stands in its account: the plan that it is under, who steers it, and how far from its anchor it is. */
final readonly class OrderStanding
{
    public const BY_HAND = 'hand';

    public const BY_PLAN = 'plan';

    /**
     * @param string|null $plan         name of its exit plan
     * @param string|null $steering     of a stop: by hand, or by its plan
     * @param int|null    $beyondAnchor of a stop with an entry: ticks from the anchor to its trigger, towards profit
     */
    private function __construct(public ?string $plan, public ?string $steering, public ?int $beyondAnchor) {}

    public static function of(DeskOrder $order, AccountPosition $holding): self
    {
        $exits = ($holding->entries[(int) $order->entry] ?? null)?->exits;
        $isStop = $order->role === Role::Stop;

        return new self(
            $order->planName ?? $exits?->plan->name,
            ! $isStop ? null : ($holding->slotOf($order)?->stopByHand === true ? self::BY_HAND : self::BY_PLAN),
            ! $isStop || $exits === null || $order->trigger === null
                ? null
                : $exits->side->sign() * ($order->trigger - $exits->anchor((int) $order->group)),
        );
    }

    /** What an order is for, short enough for a chip: `stop +2` (two ticks beyond the anchor), `target`, `limit`, `closes · market`. */
    public static function words(Role $role, OrderKind $kind, ?int $beyondAnchor, bool $isTriggered, bool $isHeld): string
    {
        $held = $isHeld ? ' · held' : '';

        return match ($role) {
            Role::Stop => match (true) {
                $beyondAnchor === null => 'stop',
                $isTriggered => 'stop set off',
                $beyondAnchor > 0 => "stop +$beyondAnchor",
                $beyondAnchor === 0 => 'stop ±0',
                default => 'stop −'.-$beyondAnchor,
            },
            Role::Target => 'target',
            Role::Close => "closes · {$kind->word()}$held",
            Role::Entry => "{$kind->word()}$held",
        };
    }
}
