<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

/** Whether the venue matches: outside the session orders are taken and rest. */
final class VenueSession
{
    /** @param array<int, int> $passedWhileShut exit stops that the market had passed when they came or moved while it was shut */
    public function __construct(private bool $open = true, private array $passedWhileShut = []) {}

    public function isOpen(): bool
    {
        return $this->open;
    }

    public function shut(): void
    {
        $this->open = false;
    }

    /** @return array<int, int> stops that were passed while it was shut, by the numbers of their orders */
    public function open(): array
    {
        $passed = $this->passedWhileShut;
        $this->passedWhileShut = [];
        $this->open = true;

        return $passed;
    }

    public function passed(int $order): void
    {
        $this->passedWhileShut[$order] = $order;
    }

    public function forget(int $order): void
    {
        unset($this->passedWhileShut[$order]);
    }

    /** @return list<int> */
    public function passedWhileShut(): array
    {
        return array_values($this->passedWhileShut);
    }
}
