<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Order\Passed;
use Lotrik\Order\Side;

/** The market as the desk sees it now. Prices in ticks, null where there is none. */
final class Quote
{
    public ?int $bid = null;

    public ?int $ask = null;

    public ?int $last = null;

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

    /** @return array{int|null, int|null, int|null} */
    public function pack(): array
    {
        return [$this->bid, $this->ask, $this->last];
    }

    /** @param array{int|null, int|null, int|null} $packed */
    public static function unpack(array $packed): self
    {
        $quote = new self();
        [$quote->bid, $quote->ask, $quote->last] = $packed;

        return $quote;
    }
}
