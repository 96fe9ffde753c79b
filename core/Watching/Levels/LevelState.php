<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

/** What has become of a marked level since it was marked. */
enum LevelState: string
{
    case Untouched = 'untouched';
    /** the market trades inside */
    case Touched = 'touched';
    /** the market came to it and left on the side from which it came */
    case Held = 'held';
    /** the market has traded on its other side */
    case Broken = 'broken';
}
