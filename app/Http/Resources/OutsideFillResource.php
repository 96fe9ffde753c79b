<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Engine\View\Time;
use App\Models\OutsideFillRow;
use Illuminate\Http\Request;

/**
 * A fill from another program as it goes out.
 *
 * @mixin OutsideFillRow
 */
final class OutsideFillResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id, 'account' => $this->account, 'contract' => $this->contract, 'side' => $this->side,
            'quantity' => $this->quantity,
            'price' => $this->resource->listed->contract()->price($this->tick), 'level' => $this->tick, 'time' => Time::iso($this->at),
        ];
    }
}
