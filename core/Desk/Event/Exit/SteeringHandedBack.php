<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;

/** The trader gave a stop that was steered by hand back to its ratchets. */
final readonly class SteeringHandedBack implements Event
{
    public const TYPE = 'steering-handed-back';

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        public int $portion,
        public int $group,
    ) {}
}
