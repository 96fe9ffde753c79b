<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Flatten\ReversalEntry;

/**
 * The contract is being brought to flat: a state that lasts until nothing is open or working. Where it comes on top of a
 * reversal, what would have come after is gone.
 *
 * @phpstan-import-type PackedReversal from ReversalEntry
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
        /** @var PackedReversal|null what a reversal enters once it is flat */
        public ?array $thenEnter = null,
    ) {}
}
