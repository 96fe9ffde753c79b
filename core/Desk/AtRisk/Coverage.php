<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\OpenPortion;
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
        $stops = array_map(static fn(array $part): int => $part[1]->stop, $this->byPortion());

        return $stops === [] ? null : ($sign > 0 ? max($stops) : min($stops));
    }

    /** @return list<ProtectedLots> */
    public function protected(): array
    {
        return [...array_column($this->byPortion(), 1), ...array_column($this->byHand(), 1)];
    }

    /** @return list<array{OpenPortion, ProtectedLots}> the lots of each portion that have a live stop */
    public function byPortion(): array
    {
        $protected = [];
        foreach ($this->holding->portions() as $of) {
            $stop = $of->order($this->holding, Role::Stop);
            if ($stop !== null && $stop->trigger !== null && $of->slot->lots > 0 && ! $stop->isLeftBehind()) {
                $protected[] = [$of, new ProtectedLots(min($of->slot->lots, $stop->leaves()), $stop->trigger)];
            }
        }

        return $protected;
    }

    /** @return list<array{DeskOrder, ProtectedLots}> the lots that no portion's stop closes and one sent by hand does, the nearest first */
    public function byHand(): array
    {
        $bare = abs($this->holding->position->lots) - array_sum(
            array_map(static fn(array $part): int => $part[1]->lots, $this->byPortion()),
        );
        $stops = $bare === 0 ? [] : array_filter($this->stopsByHand(), static fn(DeskOrder $stop): bool => ! $stop->isHeld());
        $protected = [];
        foreach ($this->nearestFirst($stops) as $stop) {
            $lots = min($bare, $stop->leaves());
            $bare -= $lots;
            if ($lots > 0) {
                $protected[] = [$stop, new ProtectedLots($lots, (int) $stop->trigger)];
            }
        }

        return $protected;
    }

    /** How many lots closing stops that were sent by hand would close, whatever else covers them. */
    public function lotsByHand(): int
    {
        return array_sum(array_map(static fn(DeskOrder $stop): int => $stop->isHeld() ? 0 : $stop->leaves(), $this->stopsByHand()));
    }

    /** How many lots would have no stop any more without this one. */
    public function protectedBy(DeskOrder $stop): int
    {
        if ($stop->role === Role::Stop) {
            return $stop->leaves();
        }
        foreach ($stop->role === Role::Close && $stop->kind->isStop() ? $this->byHand() : [] as [$order, $part]) {
            if ($order === $stop) {
                return $part->lots;
            }
        }

        return 0;
    }

    public function unprotected(): int
    {
        $protected = array_map(static fn(ProtectedLots $part): int => $part->lots, $this->protected());

        return abs($this->holding->position->lots) - array_sum($protected);
    }

    /**
     * Lots that a stop has yet to be sent for: neither the exits nor a closing stop that was sent by hand stand for them.
     */
    public function uncovered(): int
    {
        $exits = array_map(
            fn(OpenPortion $of): int => $of->slot->wantsStop() && $of->order($this->holding, Role::Stop)?->isLeftBehind() !== true
                ? $of->slot->lots
                : 0,
            $this->holding->portions(),
        );
        $byHand = array_map(static fn(DeskOrder $order): int => $order->leaves(), $this->stopsByHand());

        return max(0, abs($this->holding->position->lots) - array_sum($exits) - array_sum($byHand));
    }

    /** The live stop that is nearest to the market, of the exits or sent by hand; null where none has reached the venue. */
    public function nearestStop(): ?DeskOrder
    {
        $exits = array_map(fn(OpenPortion $of): ?DeskOrder => $of->order($this->holding, Role::Stop), $this->holding->portions());
        $stops = array_filter([...$exits, ...$this->stopsByHand()], static fn(?DeskOrder $stop): bool => $stop?->trigger !== null);

        return $this->nearestFirst($stops)[0] ?? null;
    }

    /**
     * @param array<DeskOrder> $stops
     *
     * @return list<DeskOrder>
     */
    private function nearestFirst(array $stops): array
    {
        $sign = $this->holding->position->lots <=> 0;
        usort($stops, static fn(DeskOrder $a, DeskOrder $b): int => $sign * ((int) $b->trigger <=> (int) $a->trigger));

        return $stops;
    }

    /** @return array<DeskOrder> closing stops that are no exits, but for those that the market has left behind */
    public function stopsByHand(): array
    {
        return array_filter(
            $this->holding->working,
            static fn(DeskOrder $order): bool => $order->role === Role::Close && $order->kind->isStop() && ! $order->isLeftBehind(),
        );
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

    /** Lots whose stop-limit has triggered and stands with the market beyond it. */
    public function leftBehind(): int
    {
        return array_sum(array_map(
            fn(OpenPortion $of): int => $of->order($this->holding, Role::Stop)?->isLeftBehind() === true ? $of->slot->lots : 0,
            $this->holding->portions(),
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

        // A stop that was sent by hand covers them all the same.
        return min($lots, $this->unprotected());
    }
}
