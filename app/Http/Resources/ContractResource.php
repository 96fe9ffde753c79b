<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\ContractRow;
use Illuminate\Http\Request;

/**
 * A contract as it goes out: its document, and what a page needs to write its numbers.
 *
 * @mixin ContractRow
 */
final class ContractResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        $contract = $this->resource->contract();

        return $contract->toArray() + [
            'root' => $contract->root(), 'price_scale' => $contract->scale(), 'minor_unit' => $contract->currency->minorUnit,
            'point_value' => $contract->pointValue()->exact(),
        ];
    }
}
