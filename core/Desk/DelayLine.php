<?php

declare(strict_types=1);

namespace Lotrik\Desk;

/**
 * What is under way between the desk and one venue, one way, in order, with the step at which it arrives. Without a
 * delay everything is due at once.
 */
final class DelayLine
{
    /** @var list<array{int, list<mixed>}> step, packed item */
    private array $waiting = [];

    public function __construct(private readonly int $steps) {}

    /** @param list<mixed> $item */
    public function send(int $now, array $item): void
    {
        $this->waiting[] = [$now + $this->steps, $item];
    }

    /** @return list<mixed>|null the next one that has arrived */
    public function arrived(int $now): ?array
    {
        return $this->waiting === [] || $this->waiting[0][0] > $now ? null : array_shift($this->waiting)[1];
    }

    /** @return list<list<mixed>> what has not arrived yet */
    public function items(): array
    {
        return array_column($this->waiting, 1);
    }

    public function isEmpty(): bool
    {
        return $this->waiting === [];
    }

    /** @return list<array{int, list<mixed>}> steps still to go, item */
    public function pack(int $now): array
    {
        return array_map(static fn(array $waiting): array => [$waiting[0] - $now, $waiting[1]], $this->waiting);
    }

    /** @param list<array{int, list<mixed>}> $packed */
    public function restore(int $now, array $packed): void
    {
        $this->waiting = array_map(static fn(array $waiting): array => [$now + $waiting[0], $waiting[1]], $packed);
    }
}
