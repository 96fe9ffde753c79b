<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** All steps of an action key have been taken and answered. */
final readonly class StepsDone implements Event
{
    public const TYPE = 'steps-done';

    public function __construct(
        public int $account,
        public string $contract,
        /** of the action key */
        public string $name,
    ) {}
}
