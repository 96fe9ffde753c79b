<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Lots that a stop covers are not covered once more: two stops for one lot would be one too many to watch and to take off. */
final class LotsWithoutStop implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        foreach ($proposal->orders as $ticket) {
            if ($ticket->role !== Role::Close || ! $ticket->request->kind->isStop()) {
                continue;
            }
            $coverage = $proposal->holding->coverage();
            if ($coverage->uncovered() > 0) {
                continue;
            }
            $stop = $coverage->nearestStop();

            return Refusal::alreadyCovered(
                $ticket->closes, $stop?->id, $stop === null ? null : $proposal->contract->write((int) $stop->trigger),
            );
        }

        return null;
    }
}
