<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\Order\Role;

/** The open lots of one entry order with the exits that they should have. */
final class Entry
{
    /** @var list<int> orders whose lots are here: one, or all that added to a position under one plan */
    private array $orders;

    /** @var list<int> those of them that had filled when a stop or the first target did: what still works of them is to be cancelled */
    public array $ended = [];

    /** @param EntryRecord|null $record null where it was opened by a build that kept none */
    public function __construct(public readonly int $order, public readonly EntryExits $exits, public readonly ?EntryRecord $record)
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

    /**
     * Lots of it close: those of one portion, where the order belongs to one, or else portion by portion.
     *
     * @return int lots that it did not have
     */
    public function close(int $lots, Closing $by, ?int $portion = null, ?int $group = null): int
    {
        foreach ($this->exits->take($lots, $portion, $group) as [$number, $taken]) {
            $this->record?->closed($number, $taken, $by);
            $lots -= $taken;
        }

        return $lots;
    }

    /** Lots of one portion go over to another entry's exits. */
    public function handOver(int $portion, int $group, int $lots, self $to): void
    {
        $this->exits->closed($portion, $group, $lots);
        if ($this->record !== null) {
            $to->record?->absorb($this->record, $lots);
        }
    }

    /** Takes note of where its stops first stand, and what its open lots would lose there. */
    public function noteRisk(): void
    {
        foreach ($this->exits->slots() as $slot) {
            if ($slot->stop !== null) {
                $this->record?->stopPlaced($slot->portion->number, $slot->stop);
            }
        }
        $this->record?->atRisk($this->exits->riskAtStops());
    }
}
