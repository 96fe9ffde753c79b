<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskOrder;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\EventText;
use Lotrik\Order\Role;

/** An order as it goes out: to the API, the stream and the table of orders. */
final class OrderView
{
    /** @return array<string, mixed> */
    public static function of(DeskOrder $order, DeskState $state, ?int $ahead): array
    {
        $contract = $state->contracts[$order->contract];
        $price = static fn(?int $ticks): ?string => $ticks === null ? null : $contract->price($ticks);
        $average = $order->average();

        return [
            'id' => $order->id, 'client_id' => $order->clientId, 'account' => $order->account, 'contract' => $order->contract,
            'side' => $order->side->value, 'kind' => $order->kind->value, 'quantity' => $order->quantity, 'filled' => $order->filled,
            'leaves' => $order->leaves(), 'price' => $price($order->price), 'trigger' => $price($order->trigger),
            'average_price' => $average === null ? null : $contract->averagePrice($average), 'tif' => $order->tif->value,
            'state' => $order->state->value, 'reason' => $order->reason, 'role' => $order->role->value,
            'plan' => self::planName($order, $state), 'portion' => $order->portion, 'steering' => self::steering($order, $state),
            'ahead' => $order->state->isFinal() ? null : $ahead, 'created_at' => Time::iso($order->createdAt), 'ended_at' => self::time($order->endedAt),
            'tag' => $order->tag, 'why' => $order->why, 'level' => $order->level(), 'words' => self::words($order, $contract, $state),
            'expires_at' => self::time($order->expiresAt), 'cancel_at' => self::time($order->cancelAt), 'release_at' => self::time($order->hold?->releaseAt),
            'held_until' => $order->isHeld() && $order->hold !== null ? EventText::hold($order->hold, $state->contracts[$order->hold->contract ?? ''] ?? null) : null,
            'wished' => $state->holding($order->account, $order->contract)->isCancelWished($order) ? 'cancel' : null,
            'tied' => $order->tie === null ? null : ['order' => $order->tie->other, 'kind' => $order->tie->oco ? 'oco' : 'ouo'],
            'path' => array_map(static fn(array $stood): array => ['time' => Time::iso($stood[0]), 'level' => $stood[1]], $order->role === Role::Stop ? $order->path : []),
        ];
    }

    private static function time(?int $at): ?string
    {
        return $at === null ? null : Time::iso($at);
    }

    private static function planName(DeskOrder $order, DeskState $state): ?string
    {
        $entry = $state->holding($order->account, $order->contract)->entries[$order->entry ?? 0] ?? null;

        return $order->planName ?? $entry?->exits->plan->name;
    }

    private static function steering(DeskOrder $order, DeskState $state): ?string
    {
        if ($order->role !== Role::Stop) {
            return null;
        }

        return $state->holding($order->account, $order->contract)->slotOf($order)?->stopByHand === true ? 'hand' : 'plan';
    }

    /** What it is for, short enough for a chip: `stop +2` (two ticks beyond the anchor), `target`, `limit`, `closes`. */
    private static function words(DeskOrder $order, Contract $contract, DeskState $state): string
    {
        $entry = $state->holding($order->account, $order->contract)->entries[$order->entry ?? 0] ?? null;
        if ($order->role === Role::Stop && $entry !== null && $order->trigger !== null) {
            $ticks = $entry->exits->side->sign() * ($order->trigger - $entry->exits->anchor((int) $order->group));

            return match (true) {
                $order->triggered => 'stop set off',
                $ticks > 0 => "stop +$ticks",
                $ticks === 0 => 'stop ±0',
                default => 'stop −'.-$ticks,
            };
        }

        return match ($order->role) {
            Role::Stop => 'stop',
            Role::Target => 'target',
            Role::Close => "closes · {$order->kind->word()}".($order->isHeld() ? ' · held' : ''),
            Role::Entry => $order->kind->word().($order->isHeld() ? ' · held' : ''),
        };
    }
}
