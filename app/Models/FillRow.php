<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * A fill. Prices in ticks of its contract; fee and slippage are kept in money too, as they were on that day.
 *
 * @property int         $id
 * @property int         $order_id
 * @property int         $account_id
 * @property string      $contract_code
 * @property Side        $side
 * @property int         $quantity       lots
 * @property int         $price
 * @property int         $at             ms since 1970 UTC
 * @property string      $fee            exact decimal in the contract's currency
 * @property int         $slippage_ticks a lot; positive against the trader
 * @property string      $slippage_money exact decimal of all its lots, in the contract's currency
 * @property int|null    $bid            the best prices just before it; null where that side was empty
 * @property int|null    $bid_size       lots there; null where nobody noted the touch, as in fills of older builds
 * @property int|null    $ask
 * @property int|null    $ask_size
 * @property int         $print          number of the print that it was part of
 * @property Role        $role
 * @property string      $why
 * @property int         $sequence       of its event in the journal
 */
final class FillRow extends JournalModel
{
    protected $table = 'fills';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = ['side' => Side::class, 'role' => Role::class];

    /** @return BelongsTo<OrderRow, $this> */
    public function order(): BelongsTo
    {
        return $this->belongsTo(OrderRow::class, 'order_id');
    }

    /** @return BelongsTo<AccountRow, $this> */
    public function account(): BelongsTo
    {
        return $this->belongsTo(AccountRow::class, 'account_id');
    }

    /** @return BelongsTo<ContractRow, $this> */
    public function contract(): BelongsTo
    {
        return $this->belongsTo(ContractRow::class, 'contract_code');
    }

    /** @return array<string, int|string|null> the columns of its row */
    public static function columns(Recorded $recorded, OrderFilled $fill, DeskState $state): array
    {
        $order = $recorded->orders[0];
        $contract = $state->contracts[$order->contract];
        [$bid, $bidSize, $ask, $askSize] = $fill->touch ?? [null, null, null, null];

        return [
            'id' => $fill->fill, 'order_id' => $fill->order, 'account_id' => $order->account, 'contract_code' => $order->contract,
            'side' => $order->side->value, 'quantity' => $fill->quantity, 'price' => $fill->price, 'at' => $recorded->at,
            'fee' => $contract->fees($fill->quantity)->exact(), 'slippage_ticks' => $fill->slippageTicks,
            'slippage_money' => $contract->money($fill->slippageTicks * $fill->quantity)->exact(),
            'bid' => $bid, 'bid_size' => $bidSize, 'ask' => $ask, 'ask_size' => $askSize,
            'print' => $fill->print, 'role' => $order->role->value, 'why' => $order->why, 'sequence' => $recorded->sequence,
        ];
    }
}
