<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** Where price and exits stood once a print had been dealt with. Prices in ticks. */
final readonly class Step
{
    /**
     * @param int             $at      µs since 1970 UTC
     * @param list<int|null>  $stops   by portion, null where none stands
     * @param list<int|null>  $targets by portion
     * @param int             $open    lots
     * @param int             $events  how many of the rehearsal's events had happened
     */
    public function __construct(
        public int $at,
        public int $tick,
        public array $stops,
        public array $targets,
        public int $open,
        public int $events,
    ) {}

    /** @return array{tick: int, stops: list<int|null>, targets: list<int|null>, open: int, events: int} */
    public function toArray(): array
    {
        return [
            'tick' => $this->tick, 'stops' => $this->stops, 'targets' => $this->targets, 'open' => $this->open, 'events' => $this->events,
        ];
    }
}
