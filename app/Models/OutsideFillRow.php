<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Lotrik\Logbook\OutsideFill;

/**
 * A fill that was brought in from another program.
 *
 * @property int    $id
 * @property int    $account
 * @property string $contract
 * @property int    $at       ms since 1970 UTC
 * @property string $side
 * @property int    $quantity
 * @property int    $tick
 * @property string $key      the same for the same fill
 */
final class OutsideFillRow extends Model
{
    protected $table = 'outside_fills';

    public $timestamps = false;

    /** @return BelongsTo<ContractRow, $this> */
    public function listed(): BelongsTo
    {
        return $this->belongsTo(ContractRow::class, 'contract');
    }

    /** @return array<string, int|string> the columns of its row */
    public static function columns(int $account, OutsideFill $fill): array
    {
        return [
            'account' => $account, 'contract' => $fill->contract->code, 'at' => $fill->at, 'side' => $fill->side->value,
            'quantity' => $fill->quantity, 'tick' => $fill->tick, 'key' => $fill->key,
        ];
    }
}
