<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** Whether a contract trades at a moment, and until when that stays so: ms since 1970 UTC, null for ever. */
final readonly class Hours
{
    /** Farther away than this a time of day says too little. In minutes. */
    private const DAY = 1_440;

    public function __construct(public bool $open, public ?int $until, private string $zone) {}

    public function holdAt(int $at): bool
    {
        return $this->until === null || $at < $this->until;
    }

    /** The same where there is hardly room: `closes in 2 h 5 min`, `opens Tue 08:00`, or `round the clock` */
    public function brief(int $at): string
    {
        if ($this->until === null) {
            return $this->words($at);
        }
        if (! $this->open) {
            return 'opens '.self::local($this->until, $this->zone)->format('D H:i');
        }
        $minutes = $this->minutesLeft($at);
        if ($minutes > self::DAY) {
            return 'closes '.self::local($this->until, $this->zone)->format('D j M H:i');
        }

        return 'closes in '.self::length($minutes);
    }

    /** `open until 18:30, 2 h 5 min left`, `shut, opens Tue 24 Nov 08:00 Europe/Lisbon`, or `round the clock` */
    public function words(int $at): string
    {
        if ($this->until === null) {
            return $this->open ? 'round the clock' : 'shut';
        }
        $until = self::local($this->until, $this->zone);
        if (! $this->open) {
            return 'shut, opens '.$until->format('D j M H:i')." $this->zone";
        }
        $minutes = $this->minutesLeft($at);
        if ($minutes > self::DAY) {
            return 'open until '.$until->format('D j M H:i');
        }

        return 'open until '.$until->format('H:i').', '.self::length($minutes).' left';
    }

    /** Minutes until it changes, rounded up, so that every place that says it agrees. @param int $at ms since 1970 UTC */
    public function minutesLeft(int $at): int
    {
        return max(1, intdiv((int) $this->until - $at + 59_999, 60_000));
    }

    private static function length(int $minutes): string
    {
        return $minutes >= 60 ? intdiv($minutes, 60).' h '.($minutes % 60).' min' : "$minutes min";
    }

    /** @param int $at ms since 1970 UTC */
    private static function local(int $at, string $zone): \DateTimeImmutable
    {
        return (new \DateTimeImmutable('@'.intdiv($at, 1000)))->setTimezone(new \DateTimeZone($zone));
    }
}
