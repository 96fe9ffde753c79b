<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** What filled first of the exits of an entry. */
enum FirstExit: string
{
    case Stop = 'stop';
    /** A stop that a ratchet had moved to the entry's average or beyond it. */
    case BreakEven = 'break-even';
    case Target = 'target';
}
