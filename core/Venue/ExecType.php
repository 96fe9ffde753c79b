<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/** What an execution report says. The names follow FIX 5.0 ExecType (150); Reduced is a Restated (D): the venue took lots off by itself. */
enum ExecType: string
{
    case Accepted = 'new';
    case Triggered = 'triggered';
    case Filled = 'trade';
    case Reduced = 'restated';
    case Replaced = 'replaced';
    case ReplaceRefused = 'replace-refused';
    case Cancelled = 'cancelled';
    case Refused = 'rejected';
}
