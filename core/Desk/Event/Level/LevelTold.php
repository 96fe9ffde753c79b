<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Level;

use Lotrik\Desk\Event\Event;
use Lotrik\Watching\Levels\LevelNews;

/** Something has happened at a marked level. */
final readonly class LevelTold implements Event
{
    public const TYPE = 'level-told';

    public function __construct(
        public int $account,
        public string $contract,
        /** the level's number */
        public int $level,
        public LevelNews $news,
        /** lots that rest there now */
        public int $resting,
    ) {}
}
