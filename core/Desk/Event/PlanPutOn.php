<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The open position got another exit plan, or none: from now on its lots are one entry whose anchor is the position's average. */
final readonly class PlanPutOn implements Event
{
    public const TYPE = 'plan-put-on';

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        /** @var array<string, mixed>|null */
        public ?array $plan,
        /** @var array<string, int>|null as in OrderPlaced */
        public ?array $ranges = null,
        /** only the lots that nothing protected; the others keep their exits */
        public bool $onlyBare = false,
    ) {}
}
