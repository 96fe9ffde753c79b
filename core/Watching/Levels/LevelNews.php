<?php

declare(strict_types=1);

namespace Lotrik\Watching\Levels;

/** What is told of a marked level. */
enum LevelNews: string
{
    /** the market has come near it */
    case Near = 'near';
    /** while it is near: half or less is left of the lots that rested there */
    case Halved = 'halved';
    /** the market has gone away from it: it may be told of anew */
    case Left = 'left';
}
