<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Lotrik\ExitPlan\InvalidPlan;

/**
 * Where a stop stands for each best profit: its first distance, and the ratchets that tighten it. All in ticks.
 *
 * @phpstan-import-type PackedRatchet from Ratchet
 * @phpstan-type PackedStop array{distance: int, ratchets: list<PackedRatchet>, limit: int|null}
 */
final readonly class StopPath
{
    /** @param list<Ratchet> $ratchets */
    private function __construct(public int $distance, public array $ratchets, public ?int $limitTicks) {}

    /**
     * @param int           $distance   of the first stop, on the losing side of the anchor
     * @param list<Ratchet> $ratchets   strictly rising by `at`
     * @param int|null      $limitTicks for a stop-limit: how far beyond its trigger it may fill; null is a stop-market
     *
     * @throws InvalidPlan where two ratchets act at once
     */
    public static function of(int $distance, array $ratchets, ?int $limitTicks = null): self
    {
        $before = -1;
        foreach ($ratchets as $ratchet) {
            if ($ratchet->at <= $before) {
                throw InvalidPlan::ratchetsFallTogether($ratchet->at);
            }
            $before = $ratchet->at;
        }

        return new self($distance, $ratchets, $limitTicks);
    }

    /** @return PackedStop for {@see fromArray()} */
    public function toArray(): array
    {
        return [
            'distance' => $this->distance, 'ratchets' => array_map(static fn(Ratchet $r): array => $r->toArray(), $this->ratchets),
            'limit' => $this->limitTicks,
        ];
    }

    /** @param PackedStop $packed */
    public static function fromArray(array $packed): self
    {
        return new self($packed['distance'], array_map(Ratchet::fromArray(...), $packed['ratchets']), $packed['limit']);
    }

    /** The ratchet in charge: the last one that the best profit has reached. */
    public function governing(int $best): ?Ratchet
    {
        $governing = null;
        foreach ($this->ratchets as $ratchet) {
            if ($ratchet->at <= $best) {
                $governing = $ratchet;
            }
        }

        return $governing;
    }

    /** What the ratchet in charge asks for, in ticks from the anchor; a stop that stands tighter stays where it is. */
    public function offset(int $best): int
    {
        return $this->governing($best)?->offset($best) ?? -$this->distance;
    }

    /** The next better best profit at which the ratchets ask for another level; null where they never do again. */
    public function nextMove(int $best): ?int
    {
        $governing = $this->governing($best);
        $next = $governing === null || $governing->lock !== null ? null : $governing->nextJump($best);
        foreach ($this->ratchets as $ratchet) {
            if ($ratchet->at > $best) {
                return min($next ?? PHP_INT_MAX, $ratchet->at);
            }
        }

        return $next;
    }

    /** @return list<int> the stop, in ticks from the anchor, as the best profit grows tick by tick from 0 to `$most` */
    public function curve(int $most): array
    {
        $stops = [];
        $stop = -$this->distance;
        for ($best = 0; $best <= $most; $best++) {
            $stops[] = $stop = max($stop, $this->offset($best));
        }

        return $stops;
    }
}
