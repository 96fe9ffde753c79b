<?php

declare(strict_types=1);

namespace App\Http\Resources;

use Illuminate\Http\Resources\Json\JsonResource;

/** An answer of the API: the object itself, with nothing around it, and its keys as they are. */
abstract class ApiResource extends JsonResource
{
    public static $wrap = null;

    /** Numbers as keys, such as those of portions, would be counted anew otherwise. */
    public bool $preserveKeys = true;
}
