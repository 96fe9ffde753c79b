<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\AccountRow;
use Illuminate\Http\Request;

/**
 * One of the user's accounts as it goes out.
 *
 * @mixin AccountRow
 */
final class AccountResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id, 'name' => $this->name, 'currency' => $this->currency, 'balance' => $this->balance,
            'rates' => (object) $this->rates,
            'order_limit' => $this->order_limit, 'position_limit' => $this->position_limit,
            'daily_loss_limit' => $this->daily_loss_limit, 'closed' => $this->closed,
        ];
    }
}
