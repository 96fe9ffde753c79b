<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;

/** The last lot of an entry has closed: what is known only now, and could not be found out later. Prices in ticks. */
final readonly class EntryClosed implements Event
{
    public const TYPE = 'entry-closed';

    public function __construct(
        public int $account,
        public string $contract,
        /** number of the entry */
        public int $entry,
        /** @var array<string, mixed> see EntryRecord::told() */
        public array $facts,
    ) {}
}
