<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

use Lotrik\Order\Side;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\RecentPrints;

/** The marked levels of one contract that somebody looks at; those not asked for longest are given up. */
final class Levels
{
    private const WATCHED = 200;

    /** @var array<string, LevelWatch> least recently asked for first */
    private array $watched = [];

    public function __construct(private readonly DepthHistory $depth, private readonly RecentPrints $prints = new RecentPrints()) {}

    public function trade(int $tick, int $lots, Side $aggressor): void
    {
        foreach ($this->watched as $watch) {
            $watch->trade($tick, $lots, $aggressor);
        }
    }

    /** Whether what has traded at a level is known, and {@see of()} need not look for it. */
    public function knows(MarkedLevel $level): bool
    {
        return isset($this->watched[self::key($level)]);
    }

    private static function key(MarkedLevel $level): string
    {
        return "{$level->low} {$level->high} {$level->since}";
    }

    public function of(MarkedLevel $level): LevelWatch
    {
        $key = self::key($level);
        $watch = $this->watched[$key] ?? null;
        if ($watch === null) {
            $watch = new LevelWatch($level);
            $watch->catchUp($this->depth, $this->prints);
        }
        unset($this->watched[$key]);
        $this->watched[$key] = $watch;
        $this->watched = array_slice($this->watched, -self::WATCHED);

        return $watch;
    }
}
