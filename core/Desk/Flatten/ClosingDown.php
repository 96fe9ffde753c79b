<?php

declare(strict_types=1);

namespace Lotrik\Desk\Flatten;

use Lotrik\Desk\Upkeep\Flattening;

/**
 * How far an account is with closing a contract down. A flatten, a bar and the end of the session take away what a
 * reversal would have entered; nothing but being flat ends it.
 */
enum ClosingDown: string
{
    /** it trades */
    case Not = 'not';

    /** it is being brought to flat */
    case Flattening = 'flattening';

    /** it is being brought to flat, and then the other side is entered */
    case Reversing = 'reversing';

    public function on(ClosingTrigger $trigger): self
    {
        return match ($trigger) {
            ClosingTrigger::Flatten, ClosingTrigger::Bar, ClosingTrigger::CloseNear => self::Flattening,
            // A reversal is refused while a flatten runs: it does not get here.
            ClosingTrigger::Reverse => $this === self::Flattening ? self::Flattening : self::Reversing,
            ClosingTrigger::SessionEnd => $this === self::Not ? self::Not : self::Flattening,
            ClosingTrigger::Flat => self::Not,
        };
    }
}
