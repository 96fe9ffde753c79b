<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\EntryExits;
use Lotrik\Order\Role;

/** The open lots of one entry order with the exits that they should have. */
final class Entry
{
    /** A stop or the first target has filled, and what still works of the entry is to be cancelled. */
    public bool $ended = false;

    public function __construct(public readonly int $order, public readonly EntryExits $exits) {}

    public function endsWith(Role $filled): void
    {
        $this->ended = $this->ended || $filled === Role::Stop || $this->exits->plan->afterTarget === AfterTarget::CancelEntry;
    }
}
