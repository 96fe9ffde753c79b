<?php

declare(strict_types=1);

namespace App\Models;

use App\Engine\View\Time;
use Illuminate\Database\Eloquent\Model;
use Lotrik\Contract\Contract;

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
final class StoredOutsideFill extends Model
{
    protected $table = 'outside_fills';

    public $timestamps = false;

    /** @return array<string, mixed> */
    public function resource(Contract $contract): array
    {
        return [
            'id' => $this->id, 'account' => $this->account, 'contract' => $this->contract, 'side' => $this->side, 'quantity' => $this->quantity,
            'price' => $contract->price($this->tick), 'level' => $this->tick, 'time' => Time::iso($this->at),
        ];
    }
}
