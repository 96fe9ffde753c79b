<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Book\Book;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\RestingDepth;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\Venue;
use Lotrik\Venue\VenueSnapshot;
use Lotrik\Venue\WorkingOrder;

/**
 * The simulated venue for one contract: which orders it takes, changes and refuses. What happens in its book is {@see Matching}'s.
 *
 * Every public call is one action. What it did is fetched with {@see outcomes()}: execution reports and prints in
 * the order in which they happened.
 *
 * @phpstan-import-type PackedVenue from VenuePacking
 */
final class SimulatedVenue implements Venue, RestingDepth
{
    /** Working orders of one account that it takes. */
    public const MAX_ORDERS = 5_000;

    /** One in so many of them is kept for orders that only reduce. */
    private const ROOM = 10;

    public readonly Book $book;

    private readonly Matching $matching;

    public function __construct(MarketFeed $feed, private readonly int $maxOrders = self::MAX_ORDERS, ?Matching $matching = null)
    {
        $this->matching = $matching
            ?? new Matching($feed, new WorkingOrders(), new Reports(), new OrderGroups(), new VenueSession());
        $this->book = $this->matching->book;
    }

    /** @return array<string, mixed> the whole state but for the flow's, to be given to {@see unpack()} */
    public function pack(): array
    {
        return VenuePacking::pack($this->matching);
    }

    /** @param PackedVenue $packed */
    public static function unpack(array $packed, MarketFeed $feed, int $maxOrders = self::MAX_ORDERS): self
    {
        return new self($feed, $maxOrders, VenuePacking::unpack($packed, $feed));
    }

    public function bestBid(): ?int
    {
        return $this->book->bestBid();
    }

    public function bestAsk(): ?int
    {
        return $this->book->bestAsk();
    }

    public function last(): ?TradePrint
    {
        return $this->matching->reports->last();
    }

    /** From now on nothing trades beyond these; what waited at the old ones goes on. */
    public function limitTo(?PriceLimits $limits): void
    {
        $this->matching->limits = $limits;
        $this->matching->matchWaiting();
    }

    public function nearestAllowed(int $tick): int
    {
        return $this->matching->limits?->nearest($tick) ?? $tick;
    }

    public function isOpen(): bool
    {
        return $this->matching->session->isOpen();
    }

    /** The session ends: from now on nothing matches. */
    public function shut(): void
    {
        $this->matching->session->shut();
    }

    public function open(): void
    {
        if (! $this->isOpen()) {
            $this->matching->open();
        }
    }

    public function reconnect(): VenueSnapshot
    {
        return new VenueSnapshot($this->matching->orders->all(), $this->matching->orders->positions());
    }

    /** @return int net lots that an account has here */
    public function position(int $account): int
    {
        return $this->matching->orders->position($account);
    }

    public function outcomes(): array
    {
        return $this->matching->reports->take();
    }

    /** An order of the simulated market itself. Ids are its own, below zero. */
    public function flow(int $id, Side $side, int $tick, int $lots): void
    {
        $this->matching->flow($id, $side, $tick, $lots);
    }

    public function cancelFlow(int $id): void
    {
        $this->book->cancel($id);
    }

    /** Takes a trader's order. An entry stop that the market has passed is refused; an exit's closes at the market. */
    public function submit(WorkingOrder $order): void
    {
        if (! $this->isOpen() && (! $order->reduceOnly || $order->tif->isImmediate())) {
            $this->matching->reports->of(ExecType::Refused, $order, because: 'the market was shut when it reached the venue');

            return;
        }
        $most = $this->mostOrders($order);
        if ($this->matching->orders->countOf($order->account) >= $most) {
            $this->matching->reports->of(
                ExecType::Refused, $order, because: "the venue takes at most $most such orders of one account at a time",
            );

            return;
        }
        $passed = $order->waitsForTrigger() && $this->matching->isPassed($order);
        if ($passed && ! $order->exit) {
            $this->matching->reports->of(ExecType::Refused, $order, because: 'its trigger was already passed when it reached the venue');

            return;
        }
        $tooLate = $this->matching->groups->refusal($order);
        if ($tooLate !== null) {
            $this->matching->reports->of(ExecType::Refused, $order, because: $tooLate);

            return;
        }
        if ($order->tif === TimeInForce::FillOrKill && ($found = $this->matching->available($order)) < $order->lots) {
            $this->matching->reports->of(
                ExecType::Refused,
                $order,
                because: "fill or kill: the book has only $found of {$order->lots} lots at its price or better",
            );

            return;
        }
        $this->matching->orders->add($order);
        $this->matching->reports->of(ExecType::Accepted, $order);
        if ($order->reduceOnly) {
            $this->matching->enforceReduceOnly($order->account);
        }
        if (! $this->matching->orders->has($order->id)) {
            return;
        }
        if ($passed) {
            $this->matching->electNow($order);
        } elseif ($order->waitsForTrigger()) {
            $this->matching->noteTriggers();
        } else {
            $this->matching->enter($order);
        }
        $this->matching->matchWaiting();
    }

    /** Room is kept for what protects and closes: entries do not take all of it, and neither do exits what a close at the market needs. */
    private function mostOrders(WorkingOrder $order): int
    {
        $room = intdiv($this->maxOrders, self::ROOM);

        return $this->maxOrders + match (true) {
            ! $order->reduceOnly => -$room,
            $order->kind === OrderKind::Market => $room,
            default => 0,
        };
    }

    /** An unknown id is no fault: its last report is already on its way to the desk. */
    public function cancel(int $id, string $because): void
    {
        $order = $this->matching->orders->get($id);
        if ($order !== null) {
            $this->matching->withdraw($order, $because);
        }
    }

    /**
     * Changes an order. Lots are given as a change, so that a command under way and a fill that crosses it add up.
     * Raising them, or another price, loses the place in the queue; lowering keeps it.
     */
    public function replace(int $id, int $lotsChange, ?int $price, ?int $trigger): void
    {
        $order = $this->matching->orders->get($id);
        if ($order === null) {
            return;
        }
        if ($trigger !== null && $order->waitsForTrigger() && ! $order->exit && $this->matching->isPassed($order, $trigger)) {
            $this->matching->reports->of(
                ExecType::ReplaceRefused, $order, because: 'the new trigger was already passed when it reached the venue',
            );

            return;
        }
        if ($order->lots + $lotsChange <= 0) {
            $this->matching->withdraw($order, 'its lots were lowered to nothing');

            return;
        }
        $resting = $this->book->order($id);
        $parked = $this->matching->isWaiting($id) && $order->limit() !== null;
        $keepsPlace = $resting !== null && $lotsChange <= 0 && ($price === null || $price === $order->price);
        $order->lots += $lotsChange;
        $order->price = $price ?? $order->price;
        $order->trigger = $order->triggered ? $order->trigger : $trigger ?? $order->trigger;
        $this->matching->reports->of(ExecType::Replaced, $order, $order->lots);
        if ($keepsPlace) {
            $this->book->reduce($id, -$lotsChange);
        } elseif ($resting !== null) {
            $this->book->cancel($id);
        }
        if ($order->reduceOnly) {
            $this->matching->enforceReduceOnly($order->account);
        }
        if (! $this->matching->orders->has($id)) {
            return;
        }
        if ($order->waitsForTrigger()) {
            // Only a trigger that was moved can be passed without a print; other changes wait for theirs.
            $this->matching->session->forget($id);
            $trigger !== null && $this->matching->isPassed($order) ? $this->matching->electNow($order) : $this->matching->noteTriggers();
        } elseif (($resting !== null && ! $keepsPlace) || $parked) {
            $this->matching->enterAnew($order);
        }
        $this->matching->matchWaiting();
    }

    /**
     * Makes two working orders a group. One that is gone already leaves nothing to tie: the desk sees to the other.
     *
     * @param bool $oco a fill or trigger of one cancels the other; else a fill of one lowers the other by the same lots
     */
    public function tie(int $first, int $second, int $group, bool $oco): void
    {
        foreach ([$this->matching->orders->get($first), $this->matching->orders->get($second)] as $order) {
            if ($order !== null) {
                $order->oco = $oco ? $group : null;
                $order->ouo = $oco ? null : $group;
            }
        }
    }

    public function untie(int $id): void
    {
        $order = $this->matching->orders->get($id);
        if ($order !== null) {
            $order->oco = $order->ouo = null;
        }
    }

    public function facing(Side $side, int $account): array
    {
        $levels = [];
        foreach ($this->book->levels($side->opposite()) as $level) {
            $lots = 0;
            for ($resting = $level->first; $resting !== null; $resting = $resting->behind) {
                $lots += $resting->account === $account ? 0 : $resting->lots;
            }
            if ($lots > 0) {
                $levels[] = [$level->tick, $lots];
            }
        }

        return $levels;
    }
}
