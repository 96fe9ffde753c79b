<?php

declare(strict_types=1);

namespace Lotrik\Desk\Flatten;

/** What moves the closing down of a contract on; see {@see ClosingDown}. */
enum ClosingTrigger: string
{
    /** the trader flattens, once more or for the first time */
    case Flatten = 'flatten';

    /** the trader reverses */
    case Reverse = 'reverse';

    /** the account is barred, or is barred and holds something all the same */
    case Bar = 'bar';

    /** its session ends soon, and the trader wants to be flat by then */
    case CloseNear = 'close-near';

    /** the contract's session has ended */
    case SessionEnd = 'session-end';

    /** position 0 and nothing working */
    case Flat = 'flat';

    /** Nobody asked for it: the desk flattens by a limit, or at the end of a session. */
    public function isAutomatic(): bool
    {
        return in_array($this, [self::Bar, self::CloseNear, self::SessionEnd], true);
    }
}
