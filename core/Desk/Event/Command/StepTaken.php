<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** A step of an action key has been taken: what it does has been asked of the venue. */
final readonly class StepTaken implements Event
{
    public const TYPE = 'step-taken';

    public function __construct(
        public int $account,
        public string $contract,
        /** such as "Tidy up, step 1 of 2: cancel all" */
        public string $words,
        /** lots of the position before it, signed */
        public int $lotsBefore,
        /** the order that it placed */
        public ?int $placed = null,
    ) {}
}
