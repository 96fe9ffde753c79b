<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

/**
 * A marked level that its trader is told about: once as the market comes near, once where its lots go, and then no more until
 * the market has left it.
 *
 * @phpstan-type PackedLevel array{id: int, contract: string, low: int, high: int, name: string}
 */
final class WatchedLevel
{
    /** How long a level has spoken for at the least, ms: a market that comes and goes says nothing new each time. */
    private const RESTS = 60_000;

    public bool $isNear = false;

    private int $toldAt = PHP_INT_MIN;

    public bool $isHalved = false;

    /** @param int $within ticks from which on the market counts as near */
    public function __construct(
        public readonly int $id,
        public readonly string $name,
        public readonly MarkedLevel $level,
        private readonly int $within,
    ) {}

    /**
     * @param int $last tick of the last trade
     * @param int $at   ms since 1970 UTC
     */
    public function newsOfPrice(int $last, int $at): ?LevelNews
    {
        $away = abs($this->level->distance($last));

        return match (true) {
            ! $this->isNear && $away <= $this->within => LevelNews::Near,
            // It has to go clearly farther than it came: a market that swings at the edge would speak at each swing.
            $this->isNear && $away > 2 * $this->within + 2 && $at - self::RESTS >= $this->toldAt => LevelNews::Left,
            default => null,
        };
    }

    public function newsOfLots(LevelFigures $figures): ?LevelNews
    {
        return $this->isNear && ! $this->isHalved && $figures->halved ? LevelNews::Halved : null;
    }

    /** @param int $at ms since 1970 UTC */
    public function told(LevelNews $news, int $at): void
    {
        $this->toldAt = $at;
        $this->isNear = $news !== LevelNews::Left;
        $this->isHalved = $news === LevelNews::Halved;
    }

    /** Whether this is the same level at the same place, told of in the same way. */
    public function isAs(self $other): bool
    {
        return [$this->id, $this->name, $this->level->low, $this->level->high, $this->within]
            === [$other->id, $other->name, $other->level->low, $other->level->high, $other->within];
    }
}
