<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Level;

use Lotrik\Desk\Event\Event;

/**
 * The marked levels of an account, all of them: what is not in the list is no longer watched.
 *
 * @phpstan-import-type PackedLevel from \Lotrik\Watching\Levels\WatchedLevel
 */
final readonly class LevelsWatched implements Event
{
    public const TYPE = 'levels-watched';

    /**
     * @param list<PackedLevel> $levels
     * @param int               $within ticks from which on the market counts as near
     */
    public function __construct(public int $account, public array $levels, public int $within) {}
}
