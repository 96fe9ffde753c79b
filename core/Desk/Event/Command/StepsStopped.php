<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** The steps of an action key go no further: what was to come is not done. */
final readonly class StepsStopped implements Event
{
    public const TYPE = 'steps-stopped';

    public function __construct(
        public int $account,
        public string $contract,
        /** of the action key */
        public string $name,
        /** the step that was not taken, counted from 1 */
        public int $number,
        public string $because,
    ) {}
}
