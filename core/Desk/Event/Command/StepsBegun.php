<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/**
 * An action key of several steps was pressed. They are taken one after the other, each once the venue has answered the one before.
 *
 * @phpstan-import-type PackedStep from \Lotrik\Desk\Steps\Step
 */
final readonly class StepsBegun implements Event
{
    public const TYPE = 'steps-begun';

    /** @param list<PackedStep> $steps */
    public function __construct(
        public int $account,
        public string $contract,
        /** of the action key */
        public string $name,
        public string $clientId,
        public array $steps,
    ) {}
}
