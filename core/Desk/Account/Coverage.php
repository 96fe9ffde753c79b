<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Order\Role;
use Lotrik\Risk\ProtectedLots;

/** Which lots of an account's position have a live stop, and which do not. */
final readonly class Coverage
{
    public function __construct(private AccountPosition $holding) {}

    /** The tightest stop that the position's exits have now, in ticks. */
    public function tightestStop(): ?int
    {
        $sign = $this->holding->position->lots <=> 0;
        $stops = array_map(static fn(ProtectedLots $part): int => $part->stop, $this->protected());

        return $stops === [] ? null : ($sign > 0 ? max($stops) : min($stops));
    }

    /** @return list<ProtectedLots> */
    public function protected(): array
    {
        $protected = [];
        foreach ($this->holding->portions() as $of) {
            $stop = $of->order($this->holding, Role::Stop);
            if ($stop !== null && $stop->trigger !== null && $of->slot->lots > 0 && ! $stop->isLeftBehind()) {
                $protected[] = new ProtectedLots(min($of->slot->lots, $stop->leaves()), $stop->trigger);
            }
        }

        return $protected;
    }

    public function unprotected(): int
    {
        $protected = array_map(static fn(ProtectedLots $part): int => $part->lots, $this->protected());

        return abs($this->holding->position->lots) - array_sum($protected);
    }

    /** @return list<OpenPortion> lots that have no stop, or one that the market has left behind */
    public function withoutStop(): array
    {
        return array_values(array_filter(
            $this->holding->portions(),
            fn(OpenPortion $of): bool => $of->slot->lots > 0
                && (! $of->slot->wantsStop() || $of->order($this->holding, Role::Stop)?->isLeftBehind() === true),
        ));
    }

    /** Unprotected lots whose plan has no stop, on purpose: no alarm, a quiet word. */
    public function unstoppedByPlan(): int
    {
        $lots = 0;
        foreach ($this->holding->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $lots += $slot->portion->stop === null && $slot->stop === null && $entry->exits->plan->name !== null ? $slot->lots : 0;
            }
        }

        return $lots;
    }
}
