<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Money\Fraction;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Position\Position;
use Lotrik\Risk\ProtectedLots;

/** A position with the stops of its lots: as it is, or as it would be if something that is only looked at were done. */
final readonly class ProtectedPosition
{
    /**
     * @param list<StoppedLots> $parts   oldest entry first
     * @param Money|null        $atEntry what its lots were to lose at most when they were entered; null where that has no limit
     */
    private function __construct(public Contract $contract, public Position $position, public array $parts, public ?Money $atEntry) {}

    public static function of(AccountPosition $holding, Contract $contract): self
    {
        $parts = array_map(static fn(array $part): StoppedLots => new StoppedLots(
            $part[0]->entry->order,
            $part[0]->slot->portion->number,
            $part[0]->order($holding, Role::Stop)?->id,
            $part[1]->lots,
            $part[1]->stop,
        ), $holding->coverage()->byPortion());
        foreach ($holding->coverage()->byHand() as [$order, $part]) {
            $parts[] = new StoppedLots(null, null, $order->id, $part->lots, $part->stop);
        }
        $flat = $holding->position->lots === 0;

        return new self(
            $contract,
            $holding->position,
            $parts,
            $flat ? Money::zero($contract->currency) : RiskAtEntry::of($holding, $contract),
        );
    }

    /** A stop that works is moved. */
    public function withStop(int $order, int $tick): self
    {
        return $this->having($this->position, array_map(
            static fn(StoppedLots $part): StoppedLots => $part->order === $order ? $part->with(stop: $tick) : $part,
            $this->parts,
        ), $this->atEntry);
    }

    /** The lots that have no stop get one. */
    public function withStopForRest(int $tick): self
    {
        $bare = $this->unprotected();

        return $bare === 0 ? $this : $this->having(
            $this->position,
            [...$this->parts, new StoppedLots(null, null, null, $bare, $tick)],
            $this->atEntry,
        );
    }

    /** An order is filled where it would stand; a closing stop covers what is bare. */
    public function withOrder(Ticket $ticket): self
    {
        $at = $ticket->at;
        if ($at === null || $ticket->refusal !== null) {
            return $this;
        }
        if ($ticket->role === Role::Close) {
            return $ticket->request->kind->isStop() ? $this->withStopForRest($at) : $this->withClose($ticket, $at);
        }
        $then = clone $this->position;
        $then->fill($ticket->request->side, $ticket->quantity, $at);
        // Against what is open by then: another draft may have filled before it.
        $closes = $this->position->closedBy($ticket->request->side, $ticket->quantity);
        $opens = $ticket->quantity - $closes;
        $kept = $this->without($closes);
        $sign = $ticket->request->side->sign();
        if ($ticket->joins !== null) {
            $joined = $ticket->joins->order;
            $parts = array_values(array_filter($kept, static fn(StoppedLots $part): bool => $part->entry !== $joined));
            foreach ($ticket->joins->exits->gathered(abs($then->lots), $then->anchor())->slots() as $slot) {
                if ($slot->stop !== null && $slot->lots > 0 && $slot->wantsStop()) {
                    $parts[] = new StoppedLots($joined, $slot->portion->number, null, $slot->lots, $slot->stop);
                }
            }

            return $this->having($then, $parts, null);
        }
        $risked = $closes > 0 ? Money::zero($this->contract->currency) : $this->atEntry;
        $bare = $opens;
        foreach ($ticket->plan?->split($opens) ?? [] as $number => $lots) {
            $stop = $ticket->plan?->portion($number)->stop;
            if ($lots > 0 && $stop !== null) {
                $kept[] = new StoppedLots(null, $number, null, $lots, $at - $sign * $stop->distance, $at);
                $risked = $risked?->plus($this->contract->money($stop->distance * $lots));
                $bare -= $lots;
            }
        }

        return $this->having($then, $kept, $bare > 0 ? null : $risked);
    }

    /** Lots close: their stops go with them, and what the rest was to lose is its share. */
    private function withClose(Ticket $ticket, int $at): self
    {
        $lots = $this->position->closedBy($ticket->request->side, $ticket->quantity);
        $open = abs($this->position->lots);
        if ($lots === 0) {
            return $this;
        }
        $then = clone $this->position;
        $then->fill($ticket->request->side, $lots, $at);

        return $this->having($then, $this->without($lots), $this->atEntry?->times(Fraction::ratio($open - $lots, $open)));
    }

    /** Lots that no stop closes. */
    public function unprotected(): int
    {
        return abs($this->position->lots) - array_sum(array_map(static fn(StoppedLots $part): int => $part->lots, $this->parts));
    }

    /** @return list<ProtectedLots> */
    public function protected(): array
    {
        return array_map(static fn(StoppedLots $part): ProtectedLots => new ProtectedLots($part->lots, $part->stop), $this->parts);
    }

    /** The side that its stops trade against. */
    public function against(): Side
    {
        return $this->position->lots > 0 ? Side::Buy : Side::Sell;
    }

    /** @return list<StoppedLots> what is left once so many lots have closed, the oldest first */
    private function without(int $lots): array
    {
        // Lots without a stop may be the ones that close: those with one then keep it.
        $left = [];
        foreach ($this->parts as $part) {
            $here = min($lots, $part->lots);
            $lots -= $here;
            if ($part->lots > $here) {
                $left[] = $part->with(lots: $part->lots - $here);
            }
        }

        return $left;
    }

    /** @param list<StoppedLots> $parts */
    private function having(Position $position, array $parts, ?Money $atEntry): self
    {
        return new self($this->contract, $position, $parts, $atEntry);
    }
}
