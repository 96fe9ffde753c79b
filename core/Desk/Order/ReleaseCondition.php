<?php

declare(strict_types=1);

namespace Lotrik\Desk\Order;

/**
 * What an order waits for at the desk before it goes to the venue: a time, a price of any contract, the first fill of
 * another order (FIX ContingencyType 2, one triggers the other). All that is given must hold at the same moment.
 *
 * @phpstan-type PackedRelease array{releaseAt: int|null, contract: string|null, level: int|null, rising: bool, after: int|null}
 */
final readonly class ReleaseCondition
{
    /**
     * @param int|null    $releaseAt ms since 1970 UTC
     * @param string|null $contract  whose last price is watched
     * @param int|null    $level     in ticks
     * @param bool        $rising    at or above the level; else at or below
     * @param int|null    $after     the order whose first fill it waits for
     */
    public function __construct(
        public ?int $releaseAt = null,
        public ?string $contract = null,
        public ?int $level = null,
        public bool $rising = true,
        public ?int $after = null,
    ) {}

    public function isNothing(): bool
    {
        return $this->releaseAt === null && $this->contract === null && $this->after === null;
    }

    /** @param int|null $last last price of the contract that is watched */
    public function isOver(int $at, ?int $last, bool $parentFilled): bool
    {
        return ($this->releaseAt === null || $at >= $this->releaseAt)
            && ($this->level === null || ($last !== null && ($this->rising ? $last >= $this->level : $last <= $this->level)))
            && ($this->after === null || $parentFilled);
    }

    /** @return PackedRelease */
    public function toArray(): array
    {
        return [
            'releaseAt' => $this->releaseAt, 'contract' => $this->contract, 'level' => $this->level, 'rising' => $this->rising,
            'after' => $this->after,
        ];
    }

    /** @param PackedRelease $packed */
    public static function fromArray(array $packed): self
    {
        return new self($packed['releaseAt'], $packed['contract'], $packed['level'], $packed['rising'], $packed['after']);
    }
}
