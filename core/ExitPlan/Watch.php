<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

/** What profit is measured on. */
enum Watch: string
{
    /** the last trade */
    case Last = 'last';

    /** the quote at which the trader could get out: the bid for a long, the ask for a short */
    case ExitQuote = 'exit-quote';
}
