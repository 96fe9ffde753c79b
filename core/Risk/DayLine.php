<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\Money;

/**
 * How an account's trading day has gone: what it stood at with what was open, and what had closed less fees, from time to
 * time. Never more points than are said: when there are, every second one goes and they lie twice as far apart from then on.
 * Prints are not journaled, so it is kept beside the markets' checkpoint.
 *
 * @phpstan-type DayPoint array{int, string, string}
 * @phpstan-type PackedDayLine array{int, int, list<DayPoint>, DayPoint|null, DayPoint|null}
 */
final class DayLine
{
    public const MOST = 480;

    private const CLOSEST_MS = 5_000;

    /** ms between two points at least */
    private int $apart = self::CLOSEST_MS;

    /** @var list<DayPoint> ms since 1970 UTC; exact money of the account: with what was open, and what had closed */
    private array $points = [];

    /** @var DayPoint|null where it stood best, at 0 or above */
    private ?array $best = null;

    /** @var DayPoint|null where it stood worst, at 0 or below */
    private ?array $worst = null;

    /** @param int $day when the day began, ms since 1970 UTC */
    public function __construct(public readonly int $day) {}

    /**
     * Whether a moment gives a point, so that nothing is worked out for one that does not.
     *
     * @param bool $hasFilled an order has filled since the last one: what had closed may have changed
     */
    public function isDue(int $at, bool $hasFilled): bool
    {
        $last = $this->points[count($this->points) - 1] ?? null;

        return $last === null || $hasFilled || $at - $last[0] >= $this->apart;
    }

    /** @param Money $net with what is open; `$closed` what has closed, less fees */
    public function add(int $at, Money $net, Money $closed): void
    {
        $last = count($this->points) - 1;
        // Of one moment the last word counts.
        $this->points[($this->points[$last][0] ?? null) === $at ? $last : $last + 1] = [$at, $net->exact(), $closed->exact()];
        if (count($this->points) > self::MOST) {
            $this->apart *= 2;
            $this->points = array_values(array_filter($this->points, static fn(int $i): bool => $i % 2 === 0, ARRAY_FILTER_USE_KEY));
        }
    }

    /** What the day stands at, whether it gives a point or not. */
    public function saw(int $at, Money $net): void
    {
        if ($net->isPositive() && ($this->best === null || $net->amount()->isGreaterThan($this->best[1]))) {
            $this->best = [$at, $net->exact(), ''];
        } elseif ($net->isNegative() && ($this->worst === null || $net->amount()->isLessThan($this->worst[1]))) {
            $this->worst = [$at, $net->exact(), ''];
        }
    }

    /** @return list<DayPoint> oldest first; where it stood best and worst among them */
    public function points(): array
    {
        $points = $this->points;
        foreach ([$this->best, $this->worst] as $seen) {
            $before = $seen === null ? [] : array_filter($points, static fn(array $point): bool => $point[0] <= $seen[0]);
            if ($seen !== null && $before !== [] && $before[count($before) - 1][0] !== $seen[0]) {
                array_splice($points, count($before), 0, [[$seen[0], $seen[1], $before[count($before) - 1][2]]]);
            }
        }

        return $points;
    }

    /** @return array{int, string}|null when it stood best, and at what; null where it has never been above 0 */
    public function best(): ?array
    {
        return $this->best === null ? null : [$this->best[0], $this->best[1]];
    }

    /** @return array{int, string}|null when it stood worst; null where it has never been below 0 */
    public function worst(): ?array
    {
        return $this->worst === null ? null : [$this->worst[0], $this->worst[1]];
    }

    /** @return PackedDayLine */
    public function pack(): array
    {
        return [$this->day, $this->apart, $this->points, $this->best, $this->worst];
    }

    /** @param PackedDayLine $packed */
    public static function unpack(array $packed): self
    {
        $line = new self($packed[0]);
        [, $line->apart, $line->points, $line->best, $line->worst] = $packed;

        return $line;
    }
}
