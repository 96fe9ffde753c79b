<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Engine\View\OrderView;
use App\Models\OrderRow;
use Illuminate\Http\Request;

/** @mixin OrderRow */
final class OrderResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return OrderView::of(
            $this->resource->getAttributes(), $this->resource->contract->contract(), $this->resource->watched?->contract(),
        );
    }
}
