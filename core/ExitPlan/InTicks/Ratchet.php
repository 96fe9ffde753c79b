<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Lotrik\ExitPlan\InvalidPlan;

/**
 * One stage that tightens the stop, in ticks: lock a level, or trail the best price in jumps.
 *
 * @phpstan-type PackedRatchet array{at: int, lock: int|null, trail: int, by: int}
 */
final readonly class Ratchet
{
    private function __construct(public int $at, public ?int $lock, public int $trail, public int $by) {}

    /** From a best profit of `$at` on the stop stands `$ticks` beyond the anchor. */
    public static function lock(int $at, int $ticks): self
    {
        if ($ticks >= $at) {
            throw InvalidPlan::lockReachesAt($at, $ticks);
        }

        return new self($at, $ticks, 0, 0);
    }

    /** From `$at` on the stop follows `$trail` ticks behind the best price, in jumps of `$by` counted from `$at`. */
    public static function trail(int $at, int $trail, int $by): self
    {
        return new self($at, null, $trail, $by);
    }

    /** @return PackedRatchet for {@see fromArray()} */
    public function toArray(): array
    {
        return ['at' => $this->at, 'lock' => $this->lock, 'trail' => $this->trail, 'by' => $this->by];
    }

    /** @param PackedRatchet $packed of a ratchet that was checked when it was made */
    public static function fromArray(array $packed): self
    {
        return new self($packed['at'], $packed['lock'], $packed['trail'], $packed['by']);
    }

    /** Where the stop stands, in ticks from the anchor towards profit, once the best profit is `$best` (at least `at`). */
    public function offset(int $best): int
    {
        return $this->lock ?? $this->at - $this->trail + intdiv($best - $this->at, $this->by) * $this->by;
    }

    /** The next better best profit at which a trail asks for another level. */
    public function nextJump(int $best): int
    {
        return $this->at + (intdiv($best - $this->at, $this->by) + 1) * $this->by;
    }

    public function word(): string
    {
        return $this->lock === null ? 'trail' : 'lock';
    }
}
