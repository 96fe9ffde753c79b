<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\Role;

/** Which portions of an open position come next: for the keys that act on the first of them. */
final readonly class NextPortions
{
    public function __construct(private AccountPosition $holding) {}

    /** @return list<OpenPortion> what its stop-limit has left behind, all of it; without any of that the first portion */
    public function toClose(): array
    {
        $open = $this->open();
        $behind = array_values(array_filter(
            $open,
            fn(OpenPortion $of): bool => $of->order($this->holding, Role::Stop)?->isLeftBehind() === true,
        ));

        return $behind !== [] ? $behind : array_slice($open, 0, 1);
    }

    /** The target of the first portion that has one; null where none has. */
    public function toLetRun(): ?DeskOrder
    {
        foreach ($this->open() as $of) {
            $target = $of->order($this->holding, Role::Target);
            if ($target !== null) {
                return $target;
            }
        }

        return null;
    }

    /** @return list<DeskOrder> stops that are steered by hand and have ratchets to go back to */
    public function toHandBack(): array
    {
        $stops = [];
        foreach ($this->open() as $of) {
            $stop = $of->order($this->holding, Role::Stop);
            if ($stop !== null && $of->slot->stopByHand && $of->entry->exits->ratchetLevel($of->slot) !== null) {
                $stops[] = $stop;
            }
        }

        return $stops;
    }

    /** @return list<OpenPortion> */
    private function open(): array
    {
        return array_values(array_filter($this->holding->portions(), static fn(OpenPortion $of): bool => $of->slot->lots > 0));
    }
}
