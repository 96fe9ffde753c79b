<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/** What ends a bar. */
enum BarKind: string
{
    /** so many seconds, counted in UTC from midnight 1970 */
    case Time = 'time';
    /** so many prints */
    case Trades = 'trades';
    /** so many lots: a print that has more is divided */
    case Volume = 'volume';
    /** a price so many ticks away from the bar's other end */
    case Range = 'range';
}
