<?php

declare(strict_types=1);

namespace Lotrik\Desk;

/**
 * What is under way between desk and venue, in order, with the venue step at which it arrives. Without a delay
 * everything is due at once.
 */
final class DelayLine
{
    /** @var list<array{int, string, list<mixed>}> step, contract, packed item */
    private array $waiting = [];

    public function __construct(private readonly int $steps) {}

    /** @param list<mixed> $item */
    public function send(int $now, string $contract, array $item): void
    {
        $this->waiting[] = [$now + $this->steps, $contract, $item];
    }

    /** @return array{string, list<mixed>}|null the next one that has arrived: contract, item */
    public function arrived(int $now): ?array
    {
        if ($this->waiting === [] || $this->waiting[0][0] > $now) {
            return null;
        }
        [, $contract, $item] = array_shift($this->waiting);

        return [$contract, $item];
    }

    public function isImmediate(): bool
    {
        return $this->steps === 0;
    }

    /** @return list<array{int, string, list<mixed>}> */
    public function pack(): array
    {
        return $this->waiting;
    }

    /** @param list<array{int, string, list<mixed>}> $packed */
    public function restore(array $packed): void
    {
        $this->waiting = $packed;
    }
}
