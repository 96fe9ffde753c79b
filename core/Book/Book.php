<?php

declare(strict_types=1);

namespace Lotrik\Book;

use Lotrik\Order\Side;

/**
 * The resting orders of one contract with price-time priority.
 *
 * Prices are ticks. The book knows nothing of stops, positions or groups: the venue keeps those through its sink.
 */
final class Book
{
    /** How far the next best price is looked for tick by tick before the levels themselves are searched. */
    private const NEAR = 48;

    /** @var array<int, PriceLevel> */
    private array $bids = [];

    /** @var array<int, PriceLevel> */
    private array $asks = [];

    /** @var array<int, RestingOrder> */
    private array $orders = [];

    private ?int $bestBid = null;

    private ?int $bestAsk = null;

    public function __construct(private readonly BookSink $sink) {}

    public function bestBid(): ?int
    {
        return $this->bestBid;
    }

    public function bestAsk(): ?int
    {
        return $this->bestAsk;
    }

    public function best(Side $side): ?int
    {
        return $side === Side::Buy ? $this->bestBid : $this->bestAsk;
    }

    public function order(int $id): ?RestingOrder
    {
        return $this->orders[$id] ?? null;
    }

    public function level(Side $side, int $tick): ?PriceLevel
    {
        return $side === Side::Buy ? $this->bids[$tick] ?? null : $this->asks[$tick] ?? null;
    }

    /**
     * The levels of one side, best first.
     *
     * @return list<PriceLevel>
     */
    public function levels(Side $side, int $most = PHP_INT_MAX): array
    {
        $levels = $side === Side::Buy ? $this->bids : $this->asks;
        $side === Side::Buy ? krsort($levels) : ksort($levels);

        return array_slice(array_values($levels), 0, $most);
    }

    /** @return array<int, int> tick → lots that rest there, of both sides */
    public function lots(): array
    {
        $lots = [];
        foreach ([$this->bids, $this->asks] as $levels) {
            foreach ($levels as $tick => $level) {
                $lots[$tick] = $level->lots;
            }
        }

        return $lots;
    }

    /** Lots ahead of an order in the queue of its level. */
    public function ahead(int $id): ?int
    {
        $order = $this->orders[$id] ?? null;
        if ($order === null) {
            return null;
        }
        $lots = 0;
        for ($other = $order->ahead; $other !== null; $other = $other->ahead) {
            $lots += $other->lots;
        }

        return $lots;
    }

    /**
     * Fills against the other side as far as `$limit` allows.
     *
     * @param int|null $limit worst price in ticks, null for any
     *
     * @return int lots that found no fill, of those that the sink still allowed
     */
    public function take(int $id, int $account, Side $side, ?int $limit, int $lots): int
    {
        $buys = $side === Side::Buy;
        $other = $side->opposite();
        while ($lots > 0) {
            $tick = $buys ? $this->bestAsk : $this->bestBid;
            if ($tick === null || ($limit !== null && ($buys ? $tick > $limit : $tick < $limit))) {
                break;
            }
            $level = $buys ? $this->asks[$tick] : $this->bids[$tick];
            $resting = $level->first;
            assert($resting !== null);
            if ($account !== 0 && $resting->account === $account) {
                if (! $this->sink->preventSelfTrade($resting, $id)) {
                    return 0;
                }

                continue;
            }
            $fill = $lots < $resting->lots ? $lots : $resting->lots;
            $resting->lots -= $fill;
            $level->lots -= $fill;
            if ($resting->lots === 0) {
                $level->remove($resting);
                unset($this->orders[$resting->id]);
                if ($level->orders === 0) {
                    $this->drop($other, $tick);
                }
            }
            $this->sink->level($other, $tick, $level->lots, $level->orders);
            $lots = $this->sink->trade($resting, $id, $account, $side, $tick, $fill, $lots - $fill);
        }

        return $lots;
    }

    /** Puts an order at the end of the queue at its price. The caller has taken what it crosses. */
    public function rest(int $id, int $account, Side $side, int $tick, int $lots): void
    {
        $order = new RestingOrder($id, $account, $side, $tick, $lots);
        $this->orders[$id] = $order;
        if ($side === Side::Buy) {
            $level = $this->bids[$tick] ??= new PriceLevel($tick);
            if ($this->bestBid === null || $tick > $this->bestBid) {
                $this->bestBid = $tick;
            }
        } else {
            $level = $this->asks[$tick] ??= new PriceLevel($tick);
            if ($this->bestAsk === null || $tick < $this->bestAsk) {
                $this->bestAsk = $tick;
            }
        }
        $level->append($order);
        $this->sink->level($side, $tick, $level->lots, $level->orders);
    }

    /** Takes what crosses, rests what is left. */
    public function limit(int $id, int $account, Side $side, int $tick, int $lots): void
    {
        // Most of what comes crosses nobody.
        $best = $side === Side::Buy ? $this->bestAsk : $this->bestBid;
        $crosses = $best !== null && ($side === Side::Buy ? $tick >= $best : $tick <= $best);
        $left = $crosses ? $this->take($id, $account, $side, $tick, $lots) : $lots;
        if ($left > 0) {
            $this->rest($id, $account, $side, $tick, $left);
        }
    }

    /** Lowers an order by some of its lots; it keeps its place. */
    public function reduce(int $id, int $by): void
    {
        $order = $this->orders[$id] ?? null;
        if ($order === null) {
            return;
        }
        if ($by >= $order->lots) {
            $this->cancel($id);

            return;
        }
        $level = $order->level;
        assert($level !== null);
        $order->lots -= $by;
        $level->lots -= $by;
        $this->sink->level($order->side, $order->tick, $level->lots, $level->orders);
    }

    public function cancel(int $id): void
    {
        $order = $this->orders[$id] ?? null;
        if ($order === null) {
            return;
        }
        $level = $order->level;
        assert($level !== null);
        $level->remove($order);
        unset($this->orders[$id]);
        if ($level->orders === 0) {
            $this->drop($order->side, $order->tick);
        }
        $this->sink->level($order->side, $order->tick, $level->lots, $level->orders);
    }

    private function drop(Side $side, int $tick): void
    {
        if ($side === Side::Buy) {
            unset($this->bids[$tick]);
            if ($this->bestBid === $tick) {
                $this->bestBid = self::next($this->bids, $tick, -1);
            }
        } else {
            unset($this->asks[$tick]);
            if ($this->bestAsk === $tick) {
                $this->bestAsk = self::next($this->asks, $tick, 1);
            }
        }
    }

    /** @param array<int, PriceLevel> $levels */
    private static function next(array $levels, int $tick, int $step): ?int
    {
        if ($levels === []) {
            return null;
        }
        for ($i = 0; $i < self::NEAR; $i++) {
            $tick += $step;
            if (isset($levels[$tick])) {
                return $tick;
            }
        }

        return $step > 0 ? min(array_keys($levels)) : max(array_keys($levels));
    }
}
