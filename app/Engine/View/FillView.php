<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Desk\Recorded;

/** A fill as it goes out. */
final class FillView
{
    /** @return array<string, mixed> */
    public static function of(Recorded $recorded, OrderFilled $fill, DeskState $state): array
    {
        $order = $recorded->orders[0];
        $contract = $state->contracts[$order->contract];

        return [
            'id' => $fill->fill, 'order' => $fill->order, 'account' => $order->account, 'contract' => $order->contract,
            'side' => $order->side->value, 'quantity' => $fill->quantity, 'price' => $contract->price($fill->price),
            'time' => Time::iso($recorded->at), 'fee' => $contract->fees($fill->quantity)->exact(),
            'slippage_ticks' => $fill->slippageTicks, 'slippage_money' => $contract->money($fill->slippageTicks * $fill->quantity)->exact(),
            'touch' => $fill->touch === null ? null : [
                'bid' => $fill->touch[0] === null ? null : $contract->price($fill->touch[0]), 'bid_size' => $fill->touch[1],
                'ask' => $fill->touch[2] === null ? null : $contract->price($fill->touch[2]), 'ask_size' => $fill->touch[3],
            ],
            'level' => $fill->price, 'print' => $fill->print, 'role' => $order->role->value, 'why' => $order->why, 'sequence' => $recorded->sequence,
        ];
    }
}
