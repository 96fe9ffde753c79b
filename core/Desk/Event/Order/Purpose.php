<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** Who or what an order was placed for. */
enum Purpose: string
{
    /** a trader asked for it */
    case Hand = 'hand';

    /** an exit plan asked for it */
    case Exit = 'exit';

    /** the market close of a flatten: a close that the trader sends meanwhile is none of it */
    case Flatten = 'flatten';

    /** the other half of a reversal */
    case Reversal = 'reversal';
}
