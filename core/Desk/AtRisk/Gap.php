<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** How far through each stop the market is taken to jump: so many ticks, or as far as each contract has jumped lately. */
final readonly class Gap
{
    public const MOST_TICKS = 100_000;

    public const HOUR = 'hour';

    public const DAY = 'day';

    private const HOUR_MS = 3_600_000;

    private function __construct(private ?int $ticks, private string $over) {}

    public static function ticks(int $ticks): self
    {
        return new self($ticks, '');
    }

    /**
     * @param string $written a whole number of ticks, `hour` or `day`
     *
     * @throws Refusal
     */
    public static function parse(string $written): self
    {
        return match (true) {
            $written === self::HOUR, $written === self::DAY => new self(null, $written),
            preg_match('/^\d{1,6}$/', $written) === 1 && (int) $written <= self::MOST_TICKS => self::ticks((int) $written),
            default => throw Refusal::invalid('gap', $written, 'a whole number of ticks up to '.self::MOST_TICKS.', hour or day'),
        };
    }

    /**
     * Ticks for one contract.
     *
     * @param int $at ms since 1970 UTC
     */
    public function of(Quote $quote, int $at): int
    {
        // The day's own is at least the hour's: an hour may reach back before the day, never the other way round.
        $hour = $this->ticks === null ? $quote->prints->largestJump($at - self::HOUR_MS)[0] : 0;

        return $this->ticks ?? ($this->over === self::DAY ? max($hour, $quote->day->jump) : $hour);
    }
}
