<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/** How long a column of the depth history is, in ms, and how many of that length are kept. */
enum DepthStep: int
{
    case Quarter = 250;
    case TwoSeconds = 2_000;
    case QuarterMinute = 15_000;

    /** Ten minutes, two hours, a day. */
    public function kept(): int
    {
        return match ($this) {
            self::Quarter => 2_400,
            self::TwoSeconds => 3_600,
            self::QuarterMinute => 5_760,
        };
    }

    public function shorter(): ?self
    {
        return match ($this) {
            self::Quarter => null,
            self::TwoSeconds => self::Quarter,
            self::QuarterMinute => self::TwoSeconds,
        };
    }

    /** The next longer one, which is put together from this one. */
    public function longer(): ?self
    {
        return match ($this) {
            self::Quarter => self::TwoSeconds,
            self::TwoSeconds => self::QuarterMinute,
            self::QuarterMinute => null,
        };
    }
}
