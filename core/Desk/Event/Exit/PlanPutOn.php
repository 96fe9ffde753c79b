<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;

/**
 * The open position, or what of it was unprotected, got another exit plan, or none: from now on those lots are one entry.
 *
 * Since version 2 the plan in ticks, the anchor and the lots that it takes from which exits stand in it; since version 3
 * the stops that stay, since a plan that is put on loosens none.
 */
final readonly class PlanPutOn implements Event
{
    public const TYPE = 'plan-put-on';

    public const VERSION = 3;

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        /** @var array<string, mixed> in ticks, see ResolvedPlan */
        public array $exits,
        /** the position's average in ticks, rounded to the profit side */
        public int $anchor,
        /** @var list<array{int, int, int, int}> entry, portion, group, lots */
        public array $takes,
        /** only the lots that nothing protected; the others keep their exits */
        public bool $onlyBare = false,
        /** of the stored plan, where it was sent with one */
        public ?int $planVersion = null,
        /** @var array<int, int> portion → tick: where lots of it had a tighter stop than the plan gives them */
        public array $keeps = [],
    ) {}
}
