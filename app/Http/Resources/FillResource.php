<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Engine\View\FillView;
use App\Models\FillRow;
use Illuminate\Http\Request;

/** @mixin FillRow */
final class FillResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return FillView::of($this->resource->getAttributes(), $this->resource->contract->contract());
    }
}
