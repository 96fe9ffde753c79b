<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Book\Book;
use Lotrik\Book\BookSink;
use Lotrik\Book\RestingOrder;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\Passed;
use Lotrik\Order\Side;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\Touch;
use Lotrik\Venue\WorkingOrder;

/**
 * What happens inside one sweep of the book, before its next fill: OCO and OUO groups, reduce-only, that no account trades with
 * itself, and the stops that a print sets off. A stop is elected by a print and filled after the sweep that printed it.
 */
final class Matching implements BookSink
{
    public const SELF_TRADE = 'it would have traded with another order of the same account';

    public readonly Book $book;

    public ?PriceLimits $limits = null;

    /** @var list<int> triggered stops that have yet to enter the book */
    private array $elected = [];

    /** @var array<int, int> orders that would trade, and cannot yet: the book could not fill them, or the session is shut; in order of arrival */
    private array $waiting = [];

    private readonly Triggers $triggers;

    public function __construct(
        private readonly MarketFeed $feed,
        public readonly WorkingOrders $orders,
        public readonly Reports $reports,
        public readonly OrderGroups $groups,
        public readonly VenueSession $session,
    ) {
        $this->book = new Book($this);
        $this->triggers = new Triggers();
    }

    /** An order of the simulated market itself. Ids are its own, below zero. */
    public function flow(int $id, Side $side, int $tick, int $lots): void
    {
        if ($this->session->isOpen()) {
            $this->book->limit($id, 0, $side, $this->limits === null ? $tick : $this->limits->nearest($tick), $lots);
            if ($this->elected !== [] || $this->waiting !== []) {
                $this->matchWaiting();
            }
        }
    }

    /** The session begins: what came while it was shut and would have traded goes to the market, in the order in which it came. */
    public function open(): void
    {
        $passed = array_filter(
            array_intersect_key($this->orders->all(), $this->session->open()),
            fn(WorkingOrder $o): bool => $o->waitsForTrigger() && $this->isPassed($o),
        );
        $this->elect($passed);
        foreach ($this->waiting as $id) {
            // A fill of one of them may take others off: those that are tied to it, or have nothing left to close.
            $order = $this->orders->get($id);
            if ($order?->limit() !== null) {
                unset($this->waiting[$id]);
                $this->enter($order);
            }
        }
        $this->matchWaiting();
    }

    /** Triggers have come, moved or gone. */
    public function noteTriggers(): void
    {
        $this->triggers->note($this->orders->all());
    }

    public function isWaiting(int $id): bool
    {
        return isset($this->waiting[$id]);
    }

    /** It has a new price, or more lots, and comes to the book anew. */
    public function enterAnew(WorkingOrder $order): void
    {
        unset($this->waiting[$order->id]);
        $this->enter($order);
    }

    /** @return list<int> what waits, to be given to {@see resume()} */
    public function waiting(): array
    {
        return array_values($this->waiting);
    }

    /** @param list<int> $waiting */
    public function resume(array $waiting): void
    {
        $this->waiting = array_combine($waiting, $waiting);
        $this->noteTriggers();
    }

    public function preventSelfTrade(RestingOrder $resting, int $taker): bool
    {
        $order = $this->orders->working($resting->id);
        $incoming = $this->orders->working($taker);
        if ($order->exit && ! $incoming->exit) {
            $this->withdraw($incoming, self::SELF_TRADE);

            return false;
        }
        $this->withdraw($order, self::SELF_TRADE);

        return true;
    }

    public function trade(RestingOrder $resting, int $taker, int $takerAccount, Side $takerSide, int $tick, int $lots, int $takerLeft): int
    {
        $print = $this->reports->print($tick, $lots, $takerSide);
        $touch = $resting->account === 0 && $takerAccount === 0 ? null : $this->touchBefore($takerSide, $tick, $lots);
        if ($resting->account !== 0) {
            $this->fill($this->orders->working($resting->id), $lots, $tick, $touch);
        }
        if ($takerAccount !== 0) {
            $this->fill($this->orders->working($taker), $lots, $tick, $touch);
        }
        $this->reports->tellPrint($print);
        $this->feed->trade($tick, $lots, $takerSide);
        if ($this->triggers->areReachedBy($tick)) {
            $this->elect(Triggers::setOff($this->orders->all(), $tick));
        }

        return $takerAccount === 0 ? $takerLeft : ($this->orders->get($taker)->lots ?? 0);
    }

    /** As it was before a fill that the book has done. */
    private function touchBefore(Side $takerSide, int $tick, int $lots): Touch
    {
        $near = $this->book->best($takerSide);
        $nearLots = $near === null ? 0 : $this->book->level($takerSide, $near)->lots ?? 0;
        $farLots = ($this->book->level($takerSide->opposite(), $tick)->lots ?? 0) + $lots;

        return $takerSide === Side::Buy ? new Touch($near, $nearLots, $tick, $farLots) : new Touch($tick, $farLots, $near, $nearLots);
    }

    public function level(Side $side, int $tick, int $lots, int $orders): void
    {
        $this->feed->level($side, $tick, $lots, $orders);
    }

    /**
     * A fill that would cross flat is two: the old side's exits are gone before the new position is born.
     *
     * @param Touch|null $touch just before it
     */
    private function fill(WorkingOrder $order, int $lots, int $tick, ?Touch $touch): void
    {
        $position = $this->orders->position($order->account);
        $closing = $position * $order->side->sign() < 0 ? min($lots, abs($position)) : 0;
        foreach ([$closing, $lots - $closing] as $part) {
            if ($part > 0) {
                $this->fillPart($order, $part, $tick, $touch);
            }
        }
    }

    private function fillPart(WorkingOrder $order, int $lots, int $tick, ?Touch $touch): void
    {
        $order->lots -= $lots;
        $order->filled += $lots;
        $this->orders->traded($order->account, $order->side->sign() * $lots);
        if ($order->lots === 0) {
            $this->forget($order);
        }
        $this->reports->filled($order, $lots, $tick, $touch);
        foreach (OrderGroups::lowered($order, $lots, $this->orders->all()) as $reduction) {
            $this->lower($reduction);
        }
        $this->cancelOco($order, 'filled');
        $this->enforceReduceOnly($order->account);
    }

    private function cancelOco(WorkingOrder $order, string $what): void
    {
        foreach ($this->groups->decide($order, $this->orders->all(), $what) as $reduction) {
            $this->withdraw($reduction->order, $reduction->because);
        }
    }

    public function enforceReduceOnly(int $account): void
    {
        foreach (ReduceOnly::excess($this->orders->all(), $account, $this->orders->position($account)) as $reduction) {
            $this->lower($reduction);
        }
    }

    private function lower(Reduction $reduction): void
    {
        [$order, $by] = [$reduction->order, $reduction->lots];
        if ($by <= 0 || ! $this->orders->has($order->id)) {
            return;
        }
        if ($by >= $order->lots) {
            $this->withdraw($order, $reduction->because);

            return;
        }
        $order->lots -= $by;
        $this->book->reduce($order->id, $by);
        $this->reports->of(ExecType::Reduced, $order, $by, $reduction->because);
    }

    public function withdraw(WorkingOrder $order, string $because): void
    {
        $order->lots = 0;
        $this->book->cancel($order->id);
        $this->forget($order);
        $this->reports->of(ExecType::Cancelled, $order, because: $because);
    }

    private function forget(WorkingOrder $order): void
    {
        $this->orders->remove($order);
        $this->session->forget($order->id);
        unset($this->waiting[$order->id]);
        if ($order->waitsForTrigger()) {
            $this->noteTriggers();
        }
    }

    public function isPassed(WorkingOrder $order, ?int $trigger = null): bool
    {
        return Passed::is(
            $order->kind->triggerSide($order->side),
            $trigger ?? (int) $order->trigger,
            $this->reports->last()?->tick,
            $this->book->bestBid(),
            $this->book->bestAsk(),
        );
    }

    /** A stop that the market has passed closes at the market, or at the open. */
    public function electNow(WorkingOrder $order): void
    {
        if ($this->session->isOpen()) {
            $this->elect([$order]);
        } else {
            $this->session->passed($order->id);
            $this->noteTriggers();
        }
    }

    /** @param array<WorkingOrder> $orders nearest trigger first */
    public function elect(array $orders): void
    {
        foreach ($orders as $order) {
            if ($this->orders->has($order->id)) {
                $order->triggered = true;
                $this->elected[] = $order->id;
                $this->reports->of(ExecType::Triggered, $order);
                $this->cancelOco($order, 'triggered');
            }
        }
        $this->noteTriggers();
    }

    public function enter(WorkingOrder $order): void
    {
        if (! $this->session->isOpen() && $this->wouldTrade($order)) {
            $this->waiting[$order->id] = $order->id;

            return;
        }
        $left = $this->book->take($order->id, $order->account, $order->side, $this->reach($order), $order->lots);
        if ($left === 0 || ! $this->orders->has($order->id)) {
            return;
        }
        if ($order->tif->isImmediate()) {
            $this->withdraw($order, 'immediate or cancel: nothing more was there to fill it');

            return;
        }
        $limit = $order->limit();
        if ($limit === null) {
            $this->waiting[$order->id] = $order->id;
        } else {
            $this->book->rest($order->id, $order->account, $order->side, $limit, $left);
        }
    }

    private function wouldTrade(WorkingOrder $order): bool
    {
        $limit = $order->limit();
        $best = $this->book->best($order->side->opposite());

        return $limit === null || ($best !== null && $order->side->sign() * ($limit - $best) >= 0);
    }

    /** The worst price that an order may trade at now; null for any. */
    private function reach(WorkingOrder $order): ?int
    {
        $bound = $order->side === Side::Buy ? $this->limits?->high : $this->limits?->low;
        $limit = $order->limit();

        return $bound === null || $limit === null
            ? $limit ?? $bound
            : ($order->side === Side::Buy ? min($limit, $bound) : max($limit, $bound));
    }

    /** Lots of others that the order is sure to fill at once: what stands behind an order of its own account is not. */
    public function available(WorkingOrder $order): int
    {
        $lots = 0;
        $reach = $this->reach($order);
        foreach ($this->book->levels($order->side->opposite()) as $level) {
            if ($reach !== null && $order->side->sign() * ($level->tick - $reach) > 0) {
                break;
            }
            for ($resting = $level->first; $resting !== null; $resting = $resting->behind) {
                if ($resting->account === $order->account) {
                    return $lots;
                }
                $lots += $resting->lots;
            }
        }

        return $lots;
    }

    /** Lets triggered stops, and market orders that found nobody, into the book until nothing more can happen. */
    public function matchWaiting(): void
    {
        if ($this->elected === [] && $this->waiting === []) {
            return;
        }
        while ($this->session->isOpen()) {
            if ($this->elected !== []) {
                $order = $this->orders->get(array_shift($this->elected));
            } else {
                $order = $this->nextThatFindsLiquidity();
                if ($order === null) {
                    return;
                }
                unset($this->waiting[$order->id]);
            }
            if ($order !== null) {
                $this->enter($order);
            }
        }
    }

    private function nextThatFindsLiquidity(): ?WorkingOrder
    {
        foreach ($this->waiting as $id) {
            $order = $this->orders->working($id);
            $best = $this->book->best($order->side->opposite());
            $reach = $this->reach($order);
            if ($best !== null && ($reach === null || $order->side->sign() * ($best - $reach) <= 0)) {
                return $order;
            }
        }

        return null;
    }
}
