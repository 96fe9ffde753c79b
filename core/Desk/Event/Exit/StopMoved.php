<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;

/** A ratchet moved the stop of one portion. Prices and the best profit in ticks. */
final readonly class StopMoved implements Event
{
    public const TYPE = 'stop-moved';

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        public int $portion,
        public int $group,
        public int $from,
        public int $to,
        public string $because,
        public int $best,
    ) {}
}
