<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Event\Event;

/** An event that has been applied: one row of the journal to be. */
final readonly class Recorded
{
    /** @param int $at ms since 1970 UTC */
    public function __construct(
        public int $sequence,
        public int $at,
        public ?int $account,
        public ?string $contract,
        public ?string $commandId,
        public Event $event,
        public string $words,
    ) {}

    /** @return list<int> ids of the orders that the event changed */
    public function orders(): array
    {
        $fields = get_object_vars($this->event);

        return array_values(array_filter([$fields['order'] ?? null, $fields['other'] ?? null, $fields['first'] ?? null, $fields['second'] ?? null], is_int(...)));
    }
}
