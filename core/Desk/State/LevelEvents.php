<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Watching\Levels\MarkedLevel;
use Lotrik\Watching\Levels\WatchedLevel;

/** Marked levels that a trader is told of. */
final class LevelEvents
{
    /** What has been told of a level that stays as it is counts on. */
    public static function watched(DeskState $state, E\Level\LevelsWatched $event): void
    {
        $state->bookOf($event->account)->levelsWithin = $event->within;
        $before = [];
        foreach ($state->levels as $code => $accounts) {
            $before[$code] = $accounts[$event->account] ?? [];
            unset($state->levels[$code][$event->account]);
        }
        foreach ($event->levels as $packed) {
            $level = new WatchedLevel(
                $packed['id'],
                $packed['name'],
                new MarkedLevel($packed['low'], $packed['high'], 0),
                $event->within,
            );
            $was = $before[$packed['contract']][$level->id] ?? null;
            $state->levels[$packed['contract']][$event->account][$level->id] = $was?->isAs($level) === true ? $was : $level;
        }
    }
}
