<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Order\OrderStanding;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;

/**
 * An order as it stood when it last changed. Prices in ticks of its contract, times in ms since 1970 UTC.
 *
 * @property int                        $id
 * @property int                        $account_id
 * @property string                     $contract_code
 * @property string|null                $client_id
 * @property Side                       $side
 * @property OrderKind                  $kind
 * @property int                        $quantity  lots
 * @property int                        $filled    lots
 * @property int                        $cost      Σ lots × price of its fills
 * @property int|null                   $price
 * @property int|null                   $trigger
 * @property TimeInForce                $tif
 * @property OrderState                 $state
 * @property bool                       $working   in no final state
 * @property string|null                $reason
 * @property Role                       $role
 * @property string|null                $plan      name of its exit plan
 * @property int|null                   $portion
 * @property string|null                $steering  of a stop, see OrderStanding
 * @property int|null                   $ahead     lots ahead of it in its queue when it last changed
 * @property int                        $created_at
 * @property int|null                   $ended_at
 * @property string|null                $tag
 * @property string                     $why
 * @property int|null                   $level     the price it stands at on the ladder
 * @property int|null                   $beyond_anchor of a stop, see OrderStanding
 * @property bool                       $triggered
 * @property int|null                   $expires_at
 * @property int|null                   $cancel_at
 * @property bool                       $held      it waits at the desk for what is in the four columns that follow
 * @property int|null                   $release_at
 * @property string|null                $watched_code  the contract whose price it waits for
 * @property int|null                   $watched_level in ticks of that contract
 * @property bool|null                  $watched_rising at or above the level; else at or below
 * @property int|null                   $after_order
 * @property bool                       $cancel_wished
 * @property int|null                   $tied_order
 * @property string|null                $tied_kind oco or ouo
 * @property-read AccountRow|null       $account
 * @property list<array{int, int}>      $path      of a stop: when its trigger came to where, the first and the last moves
 */
final class OrderRow extends JournalModel
{
    /** The columns that may change after it was placed. */
    public const CHANGING = [
        'quantity', 'filled', 'cost', 'price', 'trigger', 'tif', 'state',
        'role', 'working', 'reason', 'plan', 'steering', 'ahead', 'ended_at',
        'level', 'beyond_anchor', 'triggered',
        'expires_at', 'held', 'cancel_wished', 'tied_order', 'tied_kind', 'path',
    ];

    protected $table = 'orders';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = [
        'side' => Side::class, 'kind' => OrderKind::class, 'tif' => TimeInForce::class, 'state' => OrderState::class, 'role' => Role::class,
        'working' => 'boolean', 'triggered' => 'boolean', 'held' => 'boolean', 'watched_rising' => 'boolean', 'cancel_wished' => 'boolean',
        'path' => 'array',
    ];

    /** @throws Refusal */
    public static function named(string $number): self
    {
        return (ctype_digit($number) ? self::query()->find((int) $number) : null) ?? throw Refusal::orderNotFound($number);
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

    /** @return BelongsTo<ContractRow, $this> the contract whose price a held order waits for */
    public function watched(): BelongsTo
    {
        return $this->belongsTo(ContractRow::class, 'watched_code');
    }

    /** @return HasMany<FillRow, $this> */
    public function fills(): HasMany
    {
        return $this->hasMany(FillRow::class, 'order_id');
    }

    /**
     * @param int|null $ahead lots ahead of it in its queue
     *
     * @return array<string, int|string|bool|null> the columns of its row
     */
    public static function columns(DeskOrder $order, DeskState $state, ?int $ahead): array
    {
        $holding = $state->holding($order->account, $order->contract);
        $standing = OrderStanding::of($order, $holding);
        $isWorking = ! $order->state->isFinal();

        return [
            'id' => $order->id, 'account_id' => $order->account, 'contract_code' => $order->contract, 'client_id' => $order->clientId,
            'side' => $order->side->value, 'kind' => $order->kind->value, 'quantity' => $order->quantity, 'filled' => $order->filled,
            'cost' => $order->cost,
            'price' => $order->price, 'trigger' => $order->trigger, 'tif' => $order->tif->value, 'state' => $order->state->value,
            'working' => $isWorking,
            'reason' => $order->reason, 'role' => $order->role->value, 'plan' => $standing->plan, 'portion' => $order->portion,
            'steering' => $standing->steering,
            'ahead' => $isWorking ? $ahead : null, 'created_at' => $order->createdAt, 'ended_at' => $order->endedAt, 'tag' => $order->tag,
            'why' => $order->why,
            'level' => $order->level(), 'beyond_anchor' => $standing->beyondAnchor, 'triggered' => $order->triggered,
            'expires_at' => $order->expiresAt, 'cancel_at' => $order->cancelAt, 'held' => $order->isHeld(),
            'release_at' => $order->releaseWhen?->releaseAt,
            'watched_code' => $order->releaseWhen?->contract, 'watched_level' => $order->releaseWhen?->level,
            'watched_rising' => $order->releaseWhen?->rising,
            'after_order' => $order->releaseWhen?->after, 'cancel_wished' => $holding->isCancelWished($order),
            'tied_order' => $order->tie?->other, 'tied_kind' => $order->tie === null ? null : ($order->tie->oco ? 'oco' : 'ouo'),
            'path' => Json::of($order->role === Role::Stop ? $order->path : []),
        ];
    }
}
