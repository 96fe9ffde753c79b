<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Order\Passed;
use Lotrik\Order\Side;
use Lotrik\Watching\MinuteBars;
use Lotrik\Watching\RecentPrints;

/** The market as the desk sees it: now, and its bars of a minute. Prices in ticks, null where there is none. */
final class Quote
{
    public ?int $bid = null;

    public ?int $ask = null;

    public ?int $last = null;

    public readonly MinuteBars $bars;

    public readonly RecentPrints $prints;

    public function __construct()
    {
        $this->bars = new MinuteBars();
        $this->prints = new RecentPrints();
    }

    public function isPassed(Side $side, int $trigger): bool
    {
        return Passed::is($side, $trigger, $this->last, $this->bid, $this->ask);
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

    /** @return array{int|null, int|null, int|null, list<int>|null} the bars before the newest one are packed apart */
    public function pack(): array
    {
        return [$this->bid, $this->ask, $this->last, $this->bars->packNewest()];
    }

    /** @param array{int|null, int|null, int|null, 3?: array{int, int, int, int, int, int}|null} $packed */
    public static function unpack(array $packed): self
    {
        $quote = new self();
        [$quote->bid, $quote->ask, $quote->last] = $packed;
        $quote->bars->restore([], $packed[3] ?? null);

        return $quote;
    }
}
