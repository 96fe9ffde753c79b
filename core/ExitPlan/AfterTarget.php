<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

/** What becomes of the part of an entry that still works when its first target fills. */
enum AfterTarget: string
{
    case CancelEntry = 'cancel-entry';
    case KeepEntry = 'keep-entry';
}
