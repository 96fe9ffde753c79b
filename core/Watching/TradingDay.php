<?php

declare(strict_types=1);

namespace Lotrik\Watching;

use Brick\Math\BigRational;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\Side;

/**
 * What one contract has traded since its trading day began: first, highest, lowest and last price, lots, their
 * average price, and the lots at each price by the side that took them. Prices in ticks, null before the first trade.
 *
 * When a day begins, the last trade of the day before is its settlement (this venue's own rule).
 */
final class TradingDay
{
    public ?int $settlement = null;

    public ?int $open = null;

    public ?int $high = null;

    public ?int $low = null;

    public ?int $last = null;

    public int $lots = 0;

    /** The farthest between two prints that followed each other, in ticks; from the settlement to the first one too. */
    public int $jump = 0;

    /** Sum of tick × lots. */
    private int $turnover = 0;

    /** @var array<int, array{int, int}> tick → lots bought, lots sold by whoever took */
    private array $traded = [];

    /** @param int $began ms since 1970 UTC; 0 before the first day */
    public function __construct(public int $began = 0) {}

    public function begin(int $at): void
    {
        $this->began = $at;
        $this->settlement = $this->last ?? $this->settlement;
        $this->open = $this->high = $this->low = $this->last = null;
        $this->lots = $this->turnover = $this->jump = 0;
        $this->traded = [];
    }

    public function add(int $tick, int $lots, Side $aggressor): void
    {
        $this->jump = max($this->jump, abs($tick - ($this->last ?? $this->settlement ?? $tick)));
        $this->open ??= $tick;
        $this->high = max($this->high ?? $tick, $tick);
        $this->low = min($this->low ?? $tick, $tick);
        $this->last = $tick;
        $this->lots += $lots;
        $this->turnover += $tick * $lots;
        $this->traded[$tick] ??= [0, 0];
        $this->traded[$tick][$aggressor === Side::Buy ? 0 : 1] += $lots;
    }

    /** The volume-weighted average price, exact, in ticks. */
    public function average(): ?BigRational
    {
        return $this->lots === 0 ? null : BigRational::of($this->turnover)->dividedBy($this->lots)->simplified();
    }

    /** What a change since is counted from: the settlement, or the day's first trade where there is none. */
    public function reference(): ?int
    {
        return $this->settlement ?? $this->open;
    }

    /** @return array<int, array{int, int}> tick → lots bought, lots sold */
    public function traded(): array
    {
        return $this->traded;
    }

    /** @param int|null $ticks how far from the settlement the contract may trade */
    public function limits(?int $ticks): ?PriceLimits
    {
        return PriceLimits::around($this->settlement, $ticks);
    }

    /** @return array<string, mixed> to be given to {@see unpack()} */
    public function pack(): array
    {
        return [
            'began' => $this->began, 'settlement' => $this->settlement, 'open' => $this->open, 'high' => $this->high, 'low' => $this->low,
            'last' => $this->last, 'lots' => $this->lots, 'turnover' => $this->turnover, 'jump' => $this->jump,
            'traded' => array_map(static fn(int $tick, array $lots): array => [$tick, ...$lots], array_keys($this->traded), $this->traded),
        ];
    }

    /**
     * @param array{began: int, settlement: int|null, open: int|null, high: int|null, low: int|null, last: int|null, lots: int,
     *     turnover: int, jump?: int, traded: list<array{int, int, int}>} $packed
     */
    public static function unpack(array $packed): self
    {
        $day = new self($packed['began']);
        [$day->settlement, $day->open, $day->high, $day->low, $day->last] = [
            $packed['settlement'], $packed['open'], $packed['high'], $packed['low'], $packed['last'],
        ];
        // Days that were kept before there were jumps begin with none.
        [$day->lots, $day->turnover, $day->jump] = [$packed['lots'], $packed['turnover'], $packed['jump'] ?? 0];
        foreach ($packed['traded'] as [$tick, $bought, $sold]) {
            $day->traded[$tick] = [$bought, $sold];
        }

        return $day;
    }
}
