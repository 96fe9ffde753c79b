<?php

declare(strict_types=1);

namespace Lotrik\Contract;

use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;

/** When a contract trades, in the venue's own time zone. Kept with the contract; trading hours are not enforced yet. */
final readonly class Session
{
    /** @param list<int> $days ISO 8601 weekdays, 1 is Monday */
    private function __construct(public string $zone, public array $days, public string $open, public string $close) {}

    public static function allDay(): self
    {
        return new self('UTC', [1, 2, 3, 4, 5, 6, 7], '00:00', '24:00');
    }

    /** @throws DocumentFault */
    public static function fromNode(Node $node): self
    {
        $zone = $node->string('zone');
        if (! in_array($zone, \DateTimeZone::listIdentifiers(\DateTimeZone::ALL_WITH_BC), true)) {
            throw $node->fault('zone', 'an IANA time zone such as "Europe/Lisbon"');
        }
        $days = [];
        foreach ($node->list('days') as $i => $day) {
            if (! is_int($day) || $day < 1 || $day > 7) {
                throw DocumentFault::at($node->at('days').'/'.$i, DocumentFault::show($day), 'a weekday from 1 (Monday) to 7');
            }
            $days[] = $day;
        }
        foreach (['open', 'close'] as $field) {
            if (! preg_match('/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/', $node->string($field))) {
                throw $node->fault($field, 'a time of day such as "08:00"');
            }
        }
        $session = new self($zone, $days, $node->string('open'), $node->string('close'));
        $node->done();

        return $session;
    }

    /** @return array{zone: string, days: list<int>, open: string, close: string} */
    public function toArray(): array
    {
        return ['zone' => $this->zone, 'days' => $this->days, 'open' => $this->open, 'close' => $this->close];
    }
}
