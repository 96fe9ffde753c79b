<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Book\Book;
use Lotrik\Book\BookSink;
use Lotrik\Book\RestingOrder;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Passed;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\RestingDepth;
use Lotrik\Venue\Touch;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\Venue;
use Lotrik\Venue\VenueSnapshot;
use Lotrik\Venue\WorkingOrder;

/**
 * The simulated venue for one contract: the book, the traders' stops, and what must hold inside one sweep, before
 * its next fill: OCO and OUO groups, reduce-only, and that no account trades with itself.
 *
 * Every public call is one action. What it did is fetched with {@see outcomes()}: execution reports and prints in
 * the order in which they happened. A stop is elected by a print and filled after the sweep that printed it.
 *
 * @phpstan-import-type PackedOrder from WorkingOrder
 */
final class SimulatedVenue implements Venue, BookSink, RestingDepth
{
    public const SELF_TRADE = 'it would have traded with another order of the same account';

    /** Working orders of one account that it takes. */
    public const MAX_ORDERS = 5_000;

    /** One in so many of them is kept for orders that only reduce. */
    private const ROOM = 10;

    public readonly Book $book;

    /** @var array<int, WorkingOrder> */
    private array $working = [];

    /** @var array<int, int> account → net lots */
    private array $positions = [];

    /** @var list<ExecutionReport|TradePrint> */
    private array $outcomes = [];

    /** @var list<int> triggered stops that have yet to enter the book */
    private array $elected = [];

    /** @var array<int, int> market orders that the book could not fill, in order of arrival */
    private array $waiting = [];

    private OrderGroups $groups;

    private readonly Triggers $triggers;

    /** outside the session orders are taken and rest, and nothing matches */
    private bool $open = true;

    /** @var array<int, int> exit stops that the market had passed when they came or moved while it was shut */
    private array $passedWhileShut = [];

    /** @var array<int, int> account → working orders */
    private array $counts = [];

    private int $prints = 0;

    /** execution reports so far: the newest one's id */
    private int $executions = 0;

    private ?PriceLimits $limits = null;

    private ?TradePrint $last = null;

    public function __construct(private readonly MarketFeed $feed, private readonly int $maxOrders = self::MAX_ORDERS)
    {
        $this->book = new Book($this);
        $this->groups = new OrderGroups();
        $this->triggers = new Triggers();
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
        return $this->last;
    }

    /** From now on nothing trades beyond these; what waited at the old ones goes on. */
    public function limitTo(?PriceLimits $limits): void
    {
        $this->limits = $limits;
        $this->settle();
    }

    public function isOpen(): bool
    {
        return $this->open;
    }

    /** The session ends: from now on nothing matches. */
    public function shut(): void
    {
        $this->open = false;
    }

    /** The session begins: what came while it was shut and would have traded goes to the market, in the order in which it came. */
    public function open(): void
    {
        if ($this->open) {
            return;
        }
        $this->open = true;
        $passed = array_filter(
            array_intersect_key($this->working, $this->passedWhileShut),
            fn(WorkingOrder $o): bool => $o->waitsForTrigger() && $this->isPassed($o),
        );
        $this->passedWhileShut = [];
        $this->elect($passed);
        foreach ($this->waiting as $id) {
            // A fill of one of them may take others off: those that are tied to it, or have nothing left to close.
            $order = $this->working[$id] ?? null;
            if ($order?->limit() !== null) {
                unset($this->waiting[$id]);
                $this->enter($order);
            }
        }
        $this->settle();
    }

    public function nearestAllowed(int $tick): int
    {
        return $this->limits?->nearest($tick) ?? $tick;
    }

    public function reconnect(): VenueSnapshot
    {
        return new VenueSnapshot($this->working, $this->positions);
    }

    /** @return int net lots that an account has here */
    public function position(int $account): int
    {
        return $this->positions[$account] ?? 0;
    }

    /** @return list<ExecutionReport|TradePrint> what has happened since the last call */
    public function outcomes(): array
    {
        $outcomes = $this->outcomes;
        $this->outcomes = [];

        return $outcomes;
    }

    /** Takes a trader's order. An entry stop that the market has passed is refused; an exit's closes at the market. */
    public function submit(WorkingOrder $order): void
    {
        if (! $this->open && (! $order->reduceOnly || $order->tif->isImmediate())) {
            $this->report(ExecType::Refused, $order, because: 'the market was shut when it reached the venue');

            return;
        }
        $most = $this->mostOrders($order);
        if (($this->counts[$order->account] ?? 0) >= $most) {
            $this->report(ExecType::Refused, $order, because: "the venue takes at most $most such orders of one account at a time");

            return;
        }
        $passed = $order->waitsForTrigger() && $this->isPassed($order);
        if ($passed && ! $order->exit) {
            $this->report(ExecType::Refused, $order, because: 'its trigger was already passed when it reached the venue');

            return;
        }
        $tooLate = $this->groups->refusal($order);
        if ($tooLate !== null) {
            $this->report(ExecType::Refused, $order, because: $tooLate);

            return;
        }
        if ($order->tif === TimeInForce::FillOrKill && ($found = $this->available($order)) < $order->lots) {
            $this->report(
                ExecType::Refused,
                $order,
                because: "fill or kill: the book has only $found of {$order->lots} lots at its price or better",
            );

            return;
        }
        $this->working[$order->id] = $order;
        $this->counts[$order->account] = ($this->counts[$order->account] ?? 0) + 1;
        $this->report(ExecType::Accepted, $order);
        if ($order->reduceOnly) {
            $this->enforceReduceOnly($order->account);
        }
        if (! isset($this->working[$order->id])) {
            return;
        }
        if ($passed) {
            $this->electNow($order);
        } elseif ($order->waitsForTrigger()) {
            $this->triggers->note($this->working);
        } else {
            $this->enter($order);
        }
        $this->settle();
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

    /** A stop that the market has passed closes at the market, or at the open. */
    private function electNow(WorkingOrder $order): void
    {
        if ($this->open) {
            $this->elect([$order]);
        } else {
            $this->passedWhileShut[$order->id] = $order->id;
            $this->triggers->note($this->working);
        }
    }

    /** An unknown id is no fault: its last report is already on its way to the desk. */
    public function cancel(int $id, string $because): void
    {
        $order = $this->working[$id] ?? null;
        if ($order !== null) {
            $this->withdraw($order, $because);
        }
    }

    /**
     * Changes an order. Lots are given as a change, so that a command under way and a fill that crosses it add up.
     * Raising them, or another price, loses the place in the queue; lowering keeps it.
     */
    public function replace(int $id, int $lotsChange, ?int $price, ?int $trigger): void
    {
        $order = $this->working[$id] ?? null;
        if ($order === null) {
            return;
        }
        if ($trigger !== null && $order->waitsForTrigger() && ! $order->exit && $this->isPassed($order, $trigger)) {
            $this->report(ExecType::ReplaceRefused, $order, because: 'the new trigger was already passed when it reached the venue');

            return;
        }
        if ($order->lots + $lotsChange <= 0) {
            $this->withdraw($order, 'its lots were lowered to nothing');

            return;
        }
        $resting = $this->book->order($id);
        $parked = isset($this->waiting[$id]) && $order->limit() !== null;
        $keepsPlace = $resting !== null && $lotsChange <= 0 && ($price === null || $price === $order->price);
        $order->lots += $lotsChange;
        $order->price = $price ?? $order->price;
        $order->trigger = $order->triggered ? $order->trigger : $trigger ?? $order->trigger;
        $this->report(ExecType::Replaced, $order, $order->lots);
        if ($keepsPlace) {
            $this->book->reduce($id, -$lotsChange);
        } elseif ($resting !== null) {
            $this->book->cancel($id);
        }
        if ($order->reduceOnly) {
            $this->enforceReduceOnly($order->account);
        }
        if (! isset($this->working[$id])) {
            return;
        }
        if ($order->waitsForTrigger()) {
            // Only a trigger that was moved can be passed without a print; other changes wait for theirs.
            unset($this->passedWhileShut[$id]);
            $trigger !== null && $this->isPassed($order) ? $this->electNow($order) : $this->triggers->note($this->working);
        } elseif (($resting !== null && ! $keepsPlace) || $parked) {
            unset($this->waiting[$id]);
            $this->enter($order);
        }
        $this->settle();
    }

    /**
     * Makes two working orders a group. One that is gone already leaves nothing to tie: the desk sees to the other.
     *
     * @param bool $oco a fill or trigger of one cancels the other; else a fill of one lowers the other by the same lots
     */
    public function tie(int $first, int $second, int $group, bool $oco): void
    {
        foreach ([$first, $second] as $id) {
            if (isset($this->working[$id])) {
                $this->working[$id]->oco = $oco ? $group : null;
                $this->working[$id]->ouo = $oco ? null : $group;
            }
        }
    }

    public function untie(int $id): void
    {
        if (isset($this->working[$id])) {
            $this->working[$id]->oco = $this->working[$id]->ouo = null;
        }
    }

    /** An order of the simulated market itself. Ids are its own, below zero. */
    public function flow(int $id, Side $side, int $tick, int $lots): void
    {
        if ($this->open) {
            $this->book->limit($id, 0, $side, $this->limits === null ? $tick : $this->limits->nearest($tick), $lots);
            if ($this->elected !== [] || $this->waiting !== []) {
                $this->settle();
            }
        }
    }

    public function cancelFlow(int $id): void
    {
        $this->book->cancel($id);
    }

    public function preventSelfTrade(RestingOrder $resting, int $taker): bool
    {
        $order = $this->working[$resting->id];
        $incoming = $this->working[$taker];
        if ($order->exit && ! $incoming->exit) {
            $this->withdraw($incoming, self::SELF_TRADE);

            return false;
        }
        $this->withdraw($order, self::SELF_TRADE);

        return true;
    }

    public function trade(RestingOrder $resting, int $taker, int $takerAccount, Side $takerSide, int $tick, int $lots, int $takerLeft): int
    {
        $print = $this->last = new TradePrint(++$this->prints, $tick, $lots, $takerSide);
        $touch = $resting->account === 0 && $takerAccount === 0 ? null : $this->touchBefore($takerSide, $tick, $lots);
        if ($resting->account !== 0) {
            $this->fill($this->working[$resting->id], $lots, $tick, $touch);
        }
        if ($takerAccount !== 0) {
            $this->fill($this->working[$taker], $lots, $tick, $touch);
        }
        $this->outcomes[] = $print;
        $this->feed->trade($tick, $lots, $takerSide);
        if ($this->triggers->areReachedBy($tick)) {
            $this->elect(Triggers::setOff($this->working, $tick));
        }

        return $takerAccount === 0 ? $takerLeft : ($this->working[$taker]->lots ?? 0);
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

    /** @return array<string, mixed> the whole state but for the flow's, to be given to {@see unpack()} */
    public function pack(): array
    {
        $levels = [];
        foreach ([...$this->book->levels(Side::Buy), ...$this->book->levels(Side::Sell)] as $level) {
            for ($order = $level->first; $order !== null; $order = $order->behind) {
                $levels[] = [$order->id, $order->account, $order->side === Side::Buy ? 1 : -1, $order->tick, $order->lots];
            }
        }

        return [
            'resting' => $levels,
            'working' => array_map(static fn(WorkingOrder $o) => $o->pack(), array_values($this->working)),
            'positions' => array_filter($this->positions),
            'waiting' => array_values($this->waiting),
            'last' => $this->last === null ? null : [$this->last->tick, $this->last->lots, $this->last->aggressor->value],
            'prints' => $this->prints,
            'executions' => $this->executions,
            'decided' => $this->groups->pack(),
            'open' => $this->open,
            'passedWhileShut' => array_values($this->passedWhileShut),
        ];
    }

    /**
     * @param array{
     *     resting: list<array{int, int, int, int, int}>, working: list<PackedOrder>, positions: array<int, int>,
     *     waiting: list<int>, last: array{int, int, string}|null, prints: int, executions?: int,
     *     decided?: array<int, string>, open?: bool, passedWhileShut?: list<int>,
     * } $packed
     */
    public static function unpack(array $packed, MarketFeed $feed, int $maxOrders = self::MAX_ORDERS): self
    {
        $venue = new self($feed, $maxOrders);
        foreach ($packed['resting'] as [$id, $account, $sign, $tick, $lots]) {
            $venue->book->rest($id, $account, $sign === 1 ? Side::Buy : Side::Sell, $tick, $lots);
        }
        foreach ($packed['working'] as $order) {
            $venue->working[$order[0]] = WorkingOrder::unpack($order);
            $venue->counts[$order[1]] = ($venue->counts[$order[1]] ?? 0) + 1;
        }
        $venue->positions = $packed['positions'];
        $venue->waiting = array_combine($packed['waiting'], $packed['waiting']);
        $venue->prints = $packed['prints'];
        $venue->executions = $packed['executions'] ?? 0;
        $venue->groups = new OrderGroups($packed['decided'] ?? []);
        $venue->open = $packed['open'] ?? true;
        $venue->passedWhileShut = array_combine($packed['passedWhileShut'] ?? [], $packed['passedWhileShut'] ?? []);
        if ($packed['last'] !== null) {
            $venue->last = new TradePrint($venue->prints, $packed['last'][0], $packed['last'][1], Side::from($packed['last'][2]));
        }
        $venue->triggers->note($venue->working);

        return $venue;
    }

    /**
     * A fill that would cross flat is two: the old side's exits are gone before the new position is born.
     *
     * @param Touch|null $touch just before it
     */
    private function fill(WorkingOrder $order, int $lots, int $tick, ?Touch $touch): void
    {
        $position = $this->position($order->account);
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
        $this->positions[$order->account] = $this->position($order->account) + $order->side->sign() * $lots;
        if ($order->lots === 0) {
            $this->forget($order);
        }
        $this->outcomes[] = new ExecutionReport(
            ExecType::Filled, $order->id, $this->nextExecution(), $order->filled, $order->lots, $lots, $tick,
            print: $this->prints, touch: $touch,
        );
        foreach (OrderGroups::lowered($order, $lots, $this->working) as $reduction) {
            $this->lower($reduction);
        }
        $this->cancelOco($order, 'filled');
        $this->enforceReduceOnly($order->account);
    }

    private function cancelOco(WorkingOrder $order, string $what): void
    {
        foreach ($this->groups->decide($order, $this->working, $what) as $reduction) {
            $this->withdraw($reduction->order, $reduction->because);
        }
    }

    private function enforceReduceOnly(int $account): void
    {
        foreach (ReduceOnly::excess($this->working, $account, $this->position($account)) as $reduction) {
            $this->lower($reduction);
        }
    }

    private function lower(Reduction $reduction): void
    {
        [$order, $by] = [$reduction->order, $reduction->lots];
        if ($by <= 0 || ! isset($this->working[$order->id])) {
            return;
        }
        if ($by >= $order->lots) {
            $this->withdraw($order, $reduction->because);

            return;
        }
        $order->lots -= $by;
        $this->book->reduce($order->id, $by);
        $this->report(ExecType::Reduced, $order, $by, $reduction->because);
    }

    private function withdraw(WorkingOrder $order, string $because): void
    {
        $order->lots = 0;
        $this->book->cancel($order->id);
        $this->forget($order);
        $this->report(ExecType::Cancelled, $order, because: $because);
    }

    private function forget(WorkingOrder $order): void
    {
        unset($this->working[$order->id], $this->waiting[$order->id], $this->passedWhileShut[$order->id]);
        if (--$this->counts[$order->account] <= 0) {
            unset($this->counts[$order->account]);
        }
        if ($order->waitsForTrigger()) {
            $this->triggers->note($this->working);
        }
    }

    private function report(ExecType $type, WorkingOrder $order, int $lots = 0, string $because = ''): void
    {
        $this->outcomes[] = new ExecutionReport(
            $type, $order->id, $this->nextExecution(), $order->filled, $type === ExecType::Refused ? 0 : $order->lots, $lots,
            $order->price, $order->trigger, because: $because,
        );
    }

    private function nextExecution(): string
    {
        return (string) ++$this->executions;
    }

    private function isPassed(WorkingOrder $order, ?int $trigger = null): bool
    {
        return Passed::is(
            $order->kind->triggerSide($order->side),
            $trigger ?? (int) $order->trigger,
            $this->last?->tick,
            $this->book->bestBid(),
            $this->book->bestAsk(),
        );
    }

    /** @param array<WorkingOrder> $orders nearest trigger first */
    private function elect(array $orders): void
    {
        foreach ($orders as $order) {
            if (isset($this->working[$order->id])) {
                $order->triggered = true;
                $this->elected[] = $order->id;
                $this->report(ExecType::Triggered, $order);
                $this->cancelOco($order, 'triggered');
            }
        }
        $this->triggers->note($this->working);
    }

    private function enter(WorkingOrder $order): void
    {
        if (! $this->open && $this->wouldTrade($order)) {
            $this->waiting[$order->id] = $order->id;

            return;
        }
        $left = $this->book->take($order->id, $order->account, $order->side, $this->reach($order), $order->lots);
        if ($left === 0 || ! isset($this->working[$order->id])) {
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

    /** Lots of others that the order is sure to fill at once: what stands behind an order of its own account is not. */
    private function available(WorkingOrder $order): int
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
    private function settle(): void
    {
        if ($this->elected === [] && $this->waiting === []) {
            return;
        }
        while ($this->open) {
            if ($this->elected !== []) {
                $order = $this->working[array_shift($this->elected)] ?? null;
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
            $order = $this->working[$id];
            $best = $this->book->best($order->side->opposite());
            $reach = $this->reach($order);
            if ($best !== null && ($reach === null || $order->side->sign() * ($best - $reach) <= 0)) {
                return $order;
            }
        }

        return null;
    }
}
