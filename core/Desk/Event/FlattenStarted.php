<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Lotrik\Desk\Account\ClosingTrigger;

/**
 * The contract is being brought to flat: a state that lasts until nothing is open or working. Where it comes on top of a
 * reversal, what would have come after is gone.
 */
final readonly class FlattenStarted implements Event
{
    public const TYPE = 'flatten-started';

    /** Since 2 it says what set it off. */
    public const VERSION = 2;

    public function __construct(
        public int $account,
        public string $contract,
        public ClosingTrigger $trigger,
        /** @var array{side: string, quantity: int, plan: array<string, mixed>|null, ranges?: array<string, int>|null, planVersion?: int|null}|null what a reversal enters once it is flat */
        public ?array $thenEnter = null,
    ) {}
}
