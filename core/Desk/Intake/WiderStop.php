<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\OpenPortion;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Refusal\Refusal;

/** A stop that goes farther away by hand: what a trade may risk holds for it as for the order that it came with. */
final class WiderStop
{
    /**
     * @param list<OpenPortion> $moved  portions whose stop would go there
     * @param int               $to     in ticks
     * @param string            $pointer to what asks for it
     *
     * @return Refusal|null where an entry could then lose more than a trade may risk; a stop that only tightens is never refused
     */
    public static function refusal(array $moved, int $to, Account $account, Contract $contract, string $pointer): ?Refusal
    {
        $most = $account->limits->in($contract->code)->mostRisk($account->balance);
        // Without a rate nobody can say what it would risk.
        if ($most === null || ! $account->rates->knows($contract->currency)) {
            return null;
        }
        foreach ($moved as $of) {
            $exits = $of->entry->exits;
            $sign = $exits->side->sign();
            if ($of->slot->lots === 0 || ($of->slot->stop !== null && $sign * ($to - $of->slot->stop) >= 0)) {
                continue;
            }
            $there = array_filter($moved, static fn(OpenPortion $other): bool => $other->entry === $of->entry);
            $slots = array_map(static fn(OpenPortion $other): ExitSlot => $other->slot, $there);
            $risk = $account->rates->toBase($contract->money(self::ticks($exits, $slots, $to))->plus($contract->fees(2 * $exits->openLots())));
            if (! $risk->minus($most)->isPositive()) {
                continue;
            }
            // So many ticks less for each lot that goes there.
            $lots = array_sum(array_map(static fn(ExitSlot $slot): int => $slot->lots, $slots));
            $over = $risk->minus($most)->dividedBy($account->rates->toBase($contract->money($lots)));
            $farthest = $to + $sign * $over->toScale(0, RoundingMode::CEILING)->toInt();

            return Refusal::widerStop(
                $risk->display(),
                "{$most->display()} {$most->currency->code}",
                $of->slot->stop === null || $sign * ($farthest - $of->slot->stop) < 0 ? $contract->price($farthest) : null,
                $pointer,
            );
        }

        return null;
    }

    /**
     * What the open lots of an entry lose at their stops from where they came in, in ticks × lots, with some stops elsewhere.
     *
     * @param array<ExitSlot> $moved
     */
    private static function ticks(EntryExits $exits, array $moved, int $to): int
    {
        $sign = $exits->side->sign();
        $ticks = 0;
        foreach ($exits->slots() as $slot) {
            $stop = in_array($slot, $moved, true) ? $to : ($slot->wantsStop() ? $slot->stop : null);
            $ticks += $stop === null ? 0 : $slot->lots * max(0, $sign * ($exits->anchor($slot->group) - $stop));
        }

        return $ticks;
    }
}
