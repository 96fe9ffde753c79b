<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

/** What a plan's exits are for. */
enum PlanScope: string
{
    /** the lots of the entry that it was sent with */
    case Entry = 'entry';

    /** the whole position: every addition joins the same set of exits */
    case Position = 'position';
}
