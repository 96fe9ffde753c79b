<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Order\Role;

/** Which lots of an account's position have a live stop, and which do not. */
final readonly class Coverage
{
    public function __construct(private AccountPosition $holding) {}

    /** The tightest stop that the position's exits have now, in ticks. */
    public function tightestStop(): ?int
    {
        $sign = $this->holding->position->lots <=> 0;
        $stops = array_column($this->protected(), 'stop');

        return $stops === [] ? null : ($sign > 0 ? max($stops) : min($stops));
    }

    /** @return list<array{lots: int, stop: int}> lots that a live stop protects, and its tick */
    public function protected(): array
    {
        $protected = [];
        foreach ($this->holding->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $stop = $this->holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Stop);
                if ($stop !== null && $stop->trigger !== null && $slot->lots > 0 && ! $stop->isLeftBehind()) {
                    $protected[] = ['lots' => min($slot->lots, $stop->leaves()), 'stop' => $stop->trigger];
                }
            }
        }

        return $protected;
    }

    public function unprotected(): int
    {
        return abs($this->holding->position->lots) - array_sum(array_column($this->protected(), 'lots'));
    }

    /** @return list<ExitSlot> lots that have no stop, or one that the market has left behind */
    public function slotsWithoutStop(): array
    {
        return array_column($this->slotsWithoutStopByEntry(), 1);
    }

    /** @return list<array{int, ExitSlot}> the same, with the entry that they are of */
    public function slotsWithoutStopByEntry(): array
    {
        $slots = [];
        foreach ($this->holding->entries as $id => $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $stop = $this->holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Stop);
                if ($slot->lots > 0 && (! $slot->wantsStop() || $stop?->isLeftBehind() === true)) {
                    $slots[] = [$id, $slot];
                }
            }
        }

        return $slots;
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
