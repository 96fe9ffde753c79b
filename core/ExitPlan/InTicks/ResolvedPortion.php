<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

/**
 * One portion with its distances in ticks.
 *
 * @phpstan-import-type PackedStop from StopPath
 * @phpstan-type PackedPortion array{lots: int|null, target: int|null, stop: PackedStop|null, percent?: int}
 */
final readonly class ResolvedPortion
{
    /**
     * @param int           $number counted from 1
     * @param int|null      $lots   null where it takes all that is left
     * @param int|null      $target ticks from the anchor, null for a runner
     * @param StopPath|null $stop   null where the plan has no stop
     * @param int|null      $percent the share of an order that its lots are; null where the plan says lots
     */
    public function __construct(
        public int $number,
        public ?int $lots,
        public ?int $target,
        public ?StopPath $stop,
        public ?int $percent = null,
    ) {}

    /** Rounded down, at least one. */
    public static function share(int $percent, int $quantity): int
    {
        return max(1, intdiv($quantity * $percent, 100));
    }

    /** @return PackedPortion */
    public function toArray(): array
    {
        return ['lots' => $this->lots, 'target' => $this->target, 'stop' => $this->stop?->toArray()]
            + ($this->percent === null ? [] : ['percent' => $this->percent]);
    }

    /** @param PackedPortion $packed */
    public static function fromArray(int $number, array $packed): self
    {
        return new self(
            $number,
            $packed['lots'],
            $packed['target'],
            $packed['stop'] === null ? null : StopPath::fromArray($packed['stop']),
            $packed['percent'] ?? null,
        );
    }
}
