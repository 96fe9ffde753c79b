<?php

declare(strict_types=1);

namespace Lotrik\Watching;

use Lotrik\Watching\Depth\DepthColumn;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\Depth\TypicalDepth;

/**
 * What is remembered of one contract's market (its last prints, the way of its price, its depth history) in pieces, so that it can be kept
 * on disk: each call gives what has come since the one before, and all pieces together bring everything back.
 */
final class MarketMemory
{
    private const PRINTS = 'prints';

    private const TRAIL = 'trail';

    /** that a market goes on with; the rest is only looked at when somebody asks */
    private const LAST_PRINTS = 100;

    /** @var array<string, int> kind → number of the newest item that is in a piece */
    private array $packed = [];

    public function __construct(
        private readonly RecentPrints $prints,
        private readonly DepthHistory $depth,
        private readonly PriceTrail $trail,
    ) {}

    /** @return list<MemoryPiece> what has come since the last call */
    public function pieces(): array
    {
        $pieces = [];
        $newest = $this->prints->newest();
        if ($newest > ($this->packed[self::PRINTS] ?? 0)) {
            $pieces[] = new MemoryPiece(self::PRINTS, $newest, $this->prints->packAfter($this->packed[self::PRINTS] ?? 0));
            $this->packed[self::PRINTS] = $newest;
        }
        $made = $this->trail->made();
        if ($made > ($this->packed[self::TRAIL] ?? 0)) {
            $pieces[] = new MemoryPiece(self::TRAIL, $made, $this->trail->packAfter($this->packed[self::TRAIL] ?? 0));
            $this->packed[self::TRAIL] = $made;
        }
        foreach (DepthStep::cases() as $step) {
            $made = $this->depth->made($step);
            if ($made > ($this->packed[self::kind($step)] ?? 0)) {
                $pieces[] = new MemoryPiece(
                    self::kind($step),
                    $made,
                    $this->depth->packAfter($step, $this->packed[self::kind($step)] ?? 0),
                );
                $this->packed[self::kind($step)] = $made;
            }
        }

        return $pieces;
    }

    /** A piece as if all in it had happened so many ms later. */
    public static function later(MemoryPiece $piece, int $ms): MemoryPiece
    {
        $body = match ($piece->kind) {
            self::PRINTS => RecentPrints::later($piece->body, $ms),
            self::TRAIL => PriceTrail::later($piece->body, $ms),
            default => DepthColumn::later($piece->body, $ms),
        };

        return new MemoryPiece($piece->kind, $piece->number, $body);
    }

    /** One piece comes back, the newest of its kind first or the oldest. {@see restored()} once all that is needed at once is here. */
    public function restore(MemoryPiece $piece): void
    {
        if ($piece->kind === self::PRINTS) {
            $this->prints->unpack($piece->number, $piece->body);
        } elseif ($piece->kind === self::TRAIL) {
            $this->trail->unpack($piece->number, $piece->body);
        } else {
            $this->depth->unpack(DepthStep::from((int) $piece->kind), $piece->number, $piece->body);
        }
        $this->packed[$piece->kind] = max($piece->number, $this->packed[$piece->kind] ?? 0);
    }

    public function restored(): void
    {
        $this->depth->resume();
    }

    /** @return list<string> all kinds of pieces */
    public static function kinds(): array
    {
        return [self::PRINTS, self::TRAIL, ...array_map(self::kind(...), DepthStep::cases())];
    }

    /** How many of the newest items of a kind a market needs to go on; what is older may come later. */
    public static function neededAtOnce(string $kind): int
    {
        return match ($kind) {
            self::PRINTS => self::LAST_PRINTS,
            self::TRAIL => 1,
            self::kind(DepthStep::Quarter) => TypicalDepth::SAMPLES,
            // As many as one of the next length is put together from.
            default => 16,
        };
    }

    /** How many items of a kind are kept. */
    public static function kept(string $kind): int
    {
        return match ($kind) {
            self::PRINTS => RecentPrints::KEPT,
            self::TRAIL => PriceTrail::KEPT,
            default => DepthStep::from((int) $kind)->kept(),
        };
    }

    private static function kind(DepthStep $step): string
    {
        return (string) $step->value;
    }
}
