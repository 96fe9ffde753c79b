<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Brick\Math\BigRational;
use Lotrik\Desk\AtRisk\Coverage;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ReversalEntry;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Steps\StepsUnderWay;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Order\Role;
use Lotrik\Position\Position;

/** What one account has in one contract: position, entries, working orders, and how far it is with closing down. */
final class AccountPosition
{
    /** where {@see $refusedExits} has the market close of a flatten */
    public const FLATTEN = 'flatten';

    /** The venue refused an exit: it is sent again at a print, this many ms later at the soonest; until then its lots are unprotected. */
    private const TRY_AGAIN = 1000;

    public Position $position;

    /** @var array<int, Entry> by entry order id, oldest first */
    public array $entries = [];

    /** @var array<int, Entry> entries whose last lot has closed and of which the journal has not been told */
    public array $closed = [];

    /** @var array<int, DeskOrder> orders that are not in a final state */
    public array $working = [];

    /** @var array<string, int> "entry/portion/group/role" → the exit order that stands for it */
    public array $exitOrders = [];

    /** @var array<string, int> the same → when the venue last refused it, ms since 1970 UTC */
    public array $refusedExits = [];

    public ClosingDown $closing = ClosingDown::Not;

    public ?ReversalEntry $thenEnter = null;

    /** The market close that a flatten has sent. */
    public ?int $flattenOrder = null;

    /** The action key that is being carried out. */
    public ?StepsUnderWay $steps = null;

    /** @var array{BigRational, int} of the trade that is open: ticks × lots that it has realised, and lots that paid a side's fee */
    public array $trade;

    /** @var array{BigRational, int} what of it a pause has been made for already */
    public array $paused;

    /** @var list<array{BigRational, int, BigRational, int}> trades that have ended and of which the journal has not been told; and what of each a pause had been made for */
    public array $endedTrades = [];

    public int $sequence = 0;

    public function __construct(public readonly int $account, public readonly string $contract)
    {
        $this->position = new Position();
        $this->trade = $this->paused = [BigRational::zero(), 0];
    }

    /**
     * Counts a fill into the trade that is open. One that goes through flat ends a trade and begins another.
     *
     * @param BigRational $made ticks × lots that it realised
     */
    public function traded(BigRational $made, int $opened, int $closed): void
    {
        [$ticks, $lots] = $this->trade;
        $this->trade = [$ticks->plus($made)->simplified(), $lots + $closed];
        if ($closed > 0 && abs($this->position->lots) === $opened) {
            $this->endedTrades[] = [...$this->trade, ...$this->paused];
            $this->trade = $this->paused = [BigRational::zero(), 0];
        }
        $this->trade[1] += $opened;
    }

    public function isClosingDown(): bool
    {
        return $this->closing !== ClosingDown::Not;
    }

    /** The same as if an order did not work. */
    public function withoutOrder(int $order): self
    {
        $without = clone $this;
        unset($without->working[$order]);

        return $without;
    }

    /** @param string $key as in {@see $refusedExits} */
    public function wasJustRefused(string $key, int $at): bool
    {
        return $at < ($this->refusedExits[$key] ?? $at - self::TRY_AGAIN) + self::TRY_AGAIN;
    }

    /** Whether the trader wants an order gone that is still on its way. */
    public function isCancelWished(DeskOrder $order): bool
    {
        $slot = $this->slotOf($order);

        return ! $order->state->isFinal()
            && ($order->cancelWished || ($slot !== null && ($order->role === Role::Stop ? $slot->stopTakenOff : $slot->targetTakenOff)));
    }

    public static function exitKey(int $entry, int $portion, int $group, Role $role): string
    {
        return "$entry/$portion/$group/{$role->value}";
    }

    public function exitOrder(int $entry, int $portion, int $group, Role $role): ?DeskOrder
    {
        return $this->working[$this->exitOrders["$entry/$portion/$group/{$role->value}"] ?? 0] ?? null;
    }

    /** The portion that an exit order stands for; null for other orders. */
    public function slotOf(DeskOrder $order): ?ExitSlot
    {
        return $this->portionOf($order)?->slot;
    }

    /** The exits that every addition to the position joins, where a plan covers the position. */
    public function coveringEntry(): ?Entry
    {
        foreach ($this->entries as $entry) {
            if ($entry->exits->plan->covers === PlanScope::Position && $entry->exits->openLots() > 0) {
                return $entry;
            }
        }

        return null;
    }

    /** @return list<OpenPortion> of all its entries, those without lots among them */
    public function portions(): array
    {
        $portions = [];
        foreach ($this->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $portions[] = new OpenPortion($entry, $slot);
            }
        }

        return $portions;
    }

    /** The portion whose stop or target an order is; null where it is neither. */
    public function portionOf(DeskOrder $order): ?OpenPortion
    {
        $entry = $this->entries[(int) $order->entry] ?? null;
        $slot = $entry?->exits->find((int) $order->portion, (int) $order->group);

        return $entry === null || $slot === null || ! $order->role->isExit() ? null : new OpenPortion($entry, $slot);
    }

    /** Which of its lots have a stop. */
    public function coverage(): Coverage
    {
        return new Coverage($this);
    }

    /** Takes lots that closed by hand off the exits: oldest entry first, portion by portion. */
    public function closeByHand(int $lots, Closing $by): void
    {
        foreach ($this->entries as $entry) {
            $lots = $lots > 0 ? $entry->close($lots, $by) : 0;
        }
    }

    /** All open lots of the other entries go over to one that covers the position. */
    public function gatherInto(Entry $set): void
    {
        foreach ($this->entries as $entry) {
            foreach ($entry === $set ? [] : $entry->exits->slots() as $slot) {
                if ($slot->lots > 0) {
                    $entry->handOver($slot->portion->number, $slot->group, $slot->lots, $set);
                }
            }
        }
    }

    /** Entries of which nothing is open and no order works any more. */
    public function forgetClosedEntries(): void
    {
        $exits = array_fill_keys(array_map(static fn(DeskOrder $o): int => (int) $o->entry, $this->working), true);
        foreach ($this->entries as $id => $entry) {
            if ($entry->exits->openLots() === 0 && ! isset($this->working[$id]) && ! isset($exits[$id])) {
                unset($this->entries[$id]);
                if ($entry->record?->isWorthKeeping() === true) {
                    $this->closed[$id] = $entry;
                }
                foreach (['exitOrders', 'refusedExits'] as $keyed) {
                    $this->{$keyed} = array_filter(
                        $this->{$keyed},
                        static fn(string $key): bool => ! str_starts_with($key, "$id/"),
                        ARRAY_FILTER_USE_KEY,
                    );
                }
            }
        }
    }
}
