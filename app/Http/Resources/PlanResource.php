<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\PlanRow;
use Illuminate\Http\Request;
use Lotrik\ExitPlan\ExitPlan;

/**
 * An exit plan as it goes out: the document with every field, whatever was left out when it was written.
 *
 * @mixin PlanRow
 */
final class PlanResource extends ApiResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->resource->number(), 'version' => $this->version, 'document' => ExitPlan::fromArray($this->document)->document,
        ];
    }
}
