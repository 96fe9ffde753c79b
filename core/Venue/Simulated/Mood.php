<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

/** How the simulated market behaves for a while. */
enum Mood: string
{
    case Quiet = 'quiet';
    case Steady = 'steady';
    case Trend = 'trend';
    case Burst = 'burst';
    case Thin = 'thin';

    /** Events a second: orders, cancels and trades of the market together. */
    public function rate(): int
    {
        return match ($this) {
            self::Quiet => 25,
            self::Steady => 100,
            self::Trend => 150,
            self::Burst => 500,
            self::Thin => 40,
        };
    }

    /** How many orders the flow wants to see resting. */
    public function depth(): int
    {
        return match ($this) {
            self::Thin => 60,
            self::Burst => 140,
            default => 190,
        };
    }

    /** Out of 1,000 events, how many take liquidity. */
    public function takers(): int
    {
        return match ($this) {
            self::Quiet => 70,
            self::Steady => 120,
            self::Trend, self::Thin => 150,
            self::Burst => 220,
        };
    }

    /** How far from even the takers' side may lean, in thousandths. */
    public function lean(): int
    {
        return match ($this) {
            self::Quiet, self::Thin => 60,
            self::Steady => 90,
            self::Trend => 300,
            self::Burst => 260,
        };
    }
}
