<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

/** A plan in ticks for lots that have filled. */
final readonly class PlanAtFill
{
    /** @param string|null $adjusted what of it did not work at the price of the fill and was adjusted; null where all did */
    public function __construct(public ResolvedPlan $plan, public ?string $adjusted = null) {}
}
