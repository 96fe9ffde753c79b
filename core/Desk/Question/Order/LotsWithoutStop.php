<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

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

            return self::alreadyCovered(
                $ticket->closes, $stop?->id, $stop === null ? null : $proposal->contract->write((int) $stop->trigger),
            );
        }

        return null;
    }

    /**
     * @param int         $lots that it was for
     * @param int|null    $stop the order that covers them; null where it has not reached the venue yet
     * @param string|null $at   where that stands
     */
    private static function alreadyCovered(int $lots, ?int $stop, ?string $at): Refusal
    {
        $those = $lots === 1 ? 'that lot' : "those $lots lots";

        return new Refusal(
            RefusalCode::AlreadyCovered,
            $stop === null ? "a stop for $those is on its way" : "stop order $stop at $at covers $those already; move that one",
            null,
            $stop === null ? [] : ['covered_by' => $stop],
        );
    }
}
