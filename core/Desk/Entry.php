<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\EntryExits;
use Lotrik\Order\Role;

/** The open lots of one entry order with the exits that they should have. */
final class Entry
{
    /** @var list<int> orders whose lots are here: one, or all that added to a position under one plan */
    private array $orders;

    /** @var list<int> those of them that had filled when a stop or the first target did: what still works of them is to be cancelled */
    public array $ended = [];

    public function __construct(public readonly int $order, public readonly EntryExits $exits)
    {
        $this->orders = [$order];
    }

    public function isJoinedBy(int $order): void
    {
        if (! in_array($order, $this->orders, true)) {
            $this->orders[] = $order;
        }
    }

    public function endsWith(Role $filled): void
    {
        if ($filled === Role::Stop || $this->exits->plan->afterTarget === AfterTarget::CancelEntry) {
            $this->ended = $this->orders;
        }
    }
}
