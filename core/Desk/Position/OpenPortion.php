<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Lotrik\Desk\Order\DeskOrder;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Order\Role;

/** One portion of an open entry, with the exits of that portion. */
final readonly class OpenPortion
{
    public function __construct(public Entry $entry, public ExitSlot $slot) {}

    /** The working order that is its stop or target; null where there is none. */
    public function order(AccountPosition $holding, Role $role): ?DeskOrder
    {
        return $holding->exitOrder($this->entry->order, $this->slot->portion->number, $this->slot->group, $role);
    }
}
