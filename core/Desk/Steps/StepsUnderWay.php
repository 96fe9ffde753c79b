<?php

declare(strict_types=1);

namespace Lotrik\Desk\Steps;

/** The steps of an action key that has been pressed, and how far they have come. */
final class StepsUnderWay
{
    /** How long after the press a step may still open something, ms: later it would be another order than the one that was meant. */
    private const MAY_OPEN_FOR = 2_000;

    private int $taken = 0;

    /** lots of the position before the newest step that was taken, signed */
    public int $lotsBefore = 0;

    /** the order that it placed */
    public ?int $order = null;

    /**
     * @param string     $clientId of the command
     * @param list<Step> $steps
     * @param int        $begun    ms since 1970 UTC
     */
    public function __construct(
        public readonly string $name,
        public readonly string $clientId,
        public readonly array $steps,
        private readonly int $begun,
    ) {}

    public function took(int $lotsBefore, ?int $order): void
    {
        $this->taken++;
        $this->lotsBefore = $lotsBefore;
        $this->order = $order;
    }

    /** The newest that was taken; null before the first. */
    public function newest(): ?Step
    {
        return $this->steps[$this->taken - 1] ?? null;
    }

    /** null where all have been taken */
    public function next(): ?Step
    {
        return $this->steps[$this->taken] ?? null;
    }

    /** Of the next one, counted from 1. */
    public function number(): int
    {
        return $this->taken + 1;
    }

    /** @param int $at ms since 1970 UTC */
    public function isTooLate(int $at): bool
    {
        return $at > $this->begun + self::MAY_OPEN_FOR;
    }
}
