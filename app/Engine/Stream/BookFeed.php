<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use Lotrik\Order\Side;
use Lotrik\Venue\MarketFeed;

/** One contract's public market data between two flushes: levels as they are at the flush. */
final class BookFeed implements MarketFeed
{
    /** @var array<int, array{int, int}> tick → lots, orders */
    private array $bids = [];

    /** @var array<int, array{int, int}> */
    private array $asks = [];

    /** @var array<int, true> */
    private array $dirtyBids = [];

    /** @var array<int, true> */
    private array $dirtyAsks = [];

    /** Prints go out from the desk's own list, which knows when each of them was. */
    public function trade(int $tick, int $lots, Side $aggressor): void {}

    public function level(Side $side, int $tick, int $lots, int $orders): void
    {
        if ($side === Side::Buy) {
            $this->dirtyBids[$tick] = true;
            if ($lots === 0) {
                unset($this->bids[$tick]);
            } else {
                $this->bids[$tick] = [$lots, $orders];
            }
        } else {
            $this->dirtyAsks[$tick] = true;
            if ($lots === 0) {
                unset($this->asks[$tick]);
            } else {
                $this->asks[$tick] = [$lots, $orders];
            }
        }
    }

    /** @return array<int, int> tick → lots that rest on a side */
    public function lots(Side $side): array
    {
        return array_map(static fn(array $level): int => $level[0], $side === Side::Buy ? $this->bids : $this->asks);
    }

    /** @return array{bids: list<array{int, int, int}>, asks: list<array{int, int, int}>} every level */
    public function full(): array
    {
        $rows = static fn(array $levels): array => array_map(
            static fn(int $tick, array $l): array => [$tick, $l[0], $l[1]],
            array_keys($levels),
            $levels,
        );

        return ['bids' => $rows($this->bids), 'asks' => $rows($this->asks)];
    }

    /** @return array{bids: list<array{int, int, int}>, asks: list<array{int, int, int}>}|null what has changed since the last call */
    public function changes(): ?array
    {
        if ($this->dirtyBids === [] && $this->dirtyAsks === []) {
            return null;
        }
        $changes = ['bids' => self::rows($this->dirtyBids, $this->bids), 'asks' => self::rows($this->dirtyAsks, $this->asks)];
        $this->dirtyBids = $this->dirtyAsks = [];

        return $changes;
    }

    /**
     * @param array<int, true>            $dirty
     * @param array<int, array{int, int}> $levels
     *
     * @return list<array{int, int, int}>
     */
    private static function rows(array $dirty, array $levels): array
    {
        $rows = [];
        foreach ($dirty as $tick => $is) {
            $level = $levels[$tick] ?? null;
            $rows[] = $level === null ? [$tick, 0, 0] : [$tick, $level[0], $level[1]];
        }

        return $rows;
    }
}
