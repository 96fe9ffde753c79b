<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Contract;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\Passed;
use Lotrik\Order\Side;
use Lotrik\Venue\TradePrint;
use Lotrik\Watching\Bars\Bars;
use Lotrik\Watching\Bars\MinuteBars;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Levels\Levels;
use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\PriceTrail;
use Lotrik\Watching\RecentPrints;
use Lotrik\Watching\TradingDay;

/** The market as the desk sees it: now, and its bars of a minute. Prices in ticks, null where there is none. */
final class Quote
{
    public ?int $bid = null;

    public ?int $ask = null;

    public ?int $last = null;

    public readonly MinuteBars $bars;

    public readonly RecentPrints $prints;

    public readonly PriceTrail $trail;

    public readonly TradingDay $day;

    public readonly DepthHistory $depth;

    /** bars of any kind, for those who look at them; {@see $bars} are those that exit plans measure with */
    public readonly Bars $series;

    public readonly Levels $levels;

    /** its prints and its depth history in pieces, to be kept */
    public readonly MarketMemory $memory;

    public function __construct(?TradingDay $day = null)
    {
        $this->day = $day ?? new TradingDay();
        $this->bars = new MinuteBars();
        $this->prints = new RecentPrints();
        $this->trail = new PriceTrail();
        $this->depth = new DepthHistory();
        $this->series = new Bars($this->prints);
        $this->levels = new Levels($this->depth, $this->prints);
        $this->memory = new MarketMemory($this->prints, $this->depth, $this->trail);
    }

    public function isPassed(Side $side, int $trigger): bool
    {
        return Passed::is($side, $trigger, $this->last, $this->bid, $this->ask);
    }

    /** What limits are judged at: the last trade, moved into the quote where it lies outside. */
    public function mark(): ?int
    {
        return Passed::clamped($this->last, $this->bid, $this->ask);
    }

    /** Where a position of this sign could get out: the bid for a long, the ask for a short. */
    public function exit(int $sign): ?int
    {
        return ($sign >= 0 ? $this->bid : $this->ask) ?? $this->last;
    }

    /** Where an order on this side would fill at the market. */
    public function touch(Side $side): ?int
    {
        return ($side === Side::Buy ? $this->ask : $this->bid) ?? $this->last;
    }

    /** @param int $at ms since 1970 UTC, never before the last one */
    public function traded(int $at, TradePrint $print): void
    {
        [$tick, $lots, $aggressor] = [$print->tick, $print->lots, $print->aggressor];
        $this->last = $tick;
        $this->bars->add($at, $tick, $lots);
        $this->prints->add($print->number, $at, $tick, $lots, $aggressor);
        $this->trail->add($at, $tick, $aggressor);
        $this->day->add($tick, $lots, $aggressor);
        $this->depth->trade($tick, $lots, $aggressor);
        $this->series->add($at, $tick, $lots);
        $this->levels->trade($tick, $lots, $aggressor);
    }

    /**
     * Between which prices something may rest or be set off today. Before the first settlement the day's first trade stands for it:
     * nothing is kept from trading yet, but an order far beyond is a slip of the hand then too.
     */
    public function limits(Contract $contract): ?PriceLimits
    {
        return $this->day->limits($contract->priceLimitTicks) ?? PriceLimits::around($this->day->reference(), $contract->priceLimitTicks);
    }

    /**
     * The bars before the newest one, and the memory, are packed apart.
     *
     * @return array{int|null, int|null, int|null, list<int>|null, array<string, mixed>, array<int, array{int, int}>}
     */
    public function pack(): array
    {
        return [$this->bid, $this->ask, $this->last, $this->bars->packNewest(), $this->day->pack(), $this->depth->unsampled()];
    }

    /**
     * @param array{int|null, int|null, int|null, 3?: array{int, int, int, int, int, int}|null, 4?: array<string, mixed>,
     *     5?: array<int, array{int, int}>} $packed
     */
    public static function unpack(array $packed): self
    {
        // @phpstan-ignore argument.type (the shape is that of pack())
        $quote = new self(isset($packed[4]) ? TradingDay::unpack($packed[4]) : null);
        [$quote->bid, $quote->ask, $quote->last] = $packed;
        $quote->bars->restore([], $packed[3] ?? null);
        $quote->depth->resumeTrades($packed[5] ?? []);

        return $quote;
    }
}
