<?php

declare(strict_types=1);

namespace Lotrik\Contract;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/**
 * When a contract trades, in the venue's own time zone. A session that closes at or before the time that it opens at
 * ends on the next day; its weekday is the one that it opens on.
 */
final class Session
{
    /** asked for every step of the market, so kept until it changes */
    private ?Hours $hours = null;

    private int $from = 0;

    /** the trading day last asked for, in ms since 1970 UTC */
    private int $dayFrom = 0;

    private int $dayUntil = 0;

    /**
     * @param list<int>                  $days    ISO 8601 weekdays, 1 is Monday
     * @param array<string, string|null> $special date on which a session would open → when it closes, null where it does not open
     */
    private function __construct(
        public readonly string $zone,
        public readonly array $days,
        public readonly string $open,
        public readonly string $close,
        private readonly array $special = [],
    ) {}

    /** @param array<string, string|null> $special date on which a session would open → when it closes, null where it does not open */
    public function under(array $special): self
    {
        ksort($special);

        return new self($this->zone, $this->days, $this->open, $this->close, $special);
    }

    /** Longer than any holiday. */
    private const LOOK_DAYS = 40;

    public static function allDay(): self
    {
        return new self('UTC', [1, 2, 3, 4, 5, 6, 7], '00:00', '24:00');
    }

    /** @throws InvalidDocument */
    public static function fromNode(Node $node): self
    {
        $zone = self::zone($node, 'zone');
        $days = [];
        foreach ($node->list('days') as $i => $day) {
            if (! is_int($day) || $day < 1 || $day > 7) {
                throw InvalidDocument::at($node->at('days').'/'.$i, InvalidDocument::show($day), 'a weekday from 1 (Monday) to 7');
            }
            $days[] = $day;
        }
        foreach (['open', 'close'] as $field) {
            if (! preg_match('/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/', $node->string($field))) {
                throw $node->fault($field, 'a time of day such as "08:00"');
            }
        }
        $session = new self($zone, $days, $node->string('open'), $node->string('close'));
        $node->done();

        return $session;
    }

    /** Whether a time of day lies within it, so that it can close then: after it opens, and before it closes anyway. */
    public function hasWithin(string $time): bool
    {
        return $this->open < $this->close
            ? $time > $this->open && $time < $this->close
            : $time > $this->open || $time < $this->close;
    }

    /** @throws InvalidDocument where the field names no time zone of the IANA database */
    public static function zone(Node $node, string $field): string
    {
        $zone = $node->string($field);
        if (! in_array($zone, \DateTimeZone::listIdentifiers(\DateTimeZone::ALL_WITH_BC), true)) {
            throw $node->fault($field, 'an IANA time zone such as "Europe/Lisbon"');
        }

        return $zone;
    }

    /** @param int $at ms since 1970 UTC */
    public function at(int $at): Hours
    {
        if ($this->hours === null || $at < $this->from || ! $this->hours->holdAt($at)) {
            $this->hours = $this->work($at);
            $this->from = $at;
        }

        return $this->hours;
    }

    /**
     * When the session ends that a moment lies in, or the next one to open after it; null where none ever ends.
     *
     * @param int $at ms since 1970 UTC
     */
    public function closeAfter(int $at): ?int
    {
        $hours = $this->work($at);

        return $hours->open || $hours->until === null ? $hours->until : $this->work($hours->until)->until;
    }

    /**
     * When the trading day that a moment belongs to began: at the last open before it. Round the clock that is
     * midnight in the venue's zone. 0 where there never is one.
     *
     * @param int $at ms since 1970 UTC
     */
    public function dayBegan(int $at): int
    {
        if ($at >= $this->dayFrom && $at < $this->dayUntil) {
            return $this->dayFrom;
        }
        [$this->dayFrom, $this->dayUntil] = [0, PHP_INT_MAX];
        foreach ($this->sessions($at, -self::LOOK_DAYS) as [$opens]) {
            if ($opens > $at) {
                $this->dayUntil = $opens;
                break;
            }
            $this->dayFrom = $opens;
        }

        return $this->dayFrom;
    }

    /** The date in the venue's zone on which the session opened that a moment lies in; null where it lies in none. */
    public function dateOf(int $at): ?string
    {
        foreach ($this->sessions($at, -1) as [$opens, $closes, $date]) {
            if ($closes > $at) {
                return $opens <= $at ? $date : null;
            }
        }

        return null;
    }

    private function work(int $at): Hours
    {
        if ($this->isRoundTheClock()) {
            return $this->roundTheClock($at);
        }
        foreach ($this->sessions($at, -1) as [$opens, $closes]) {
            if ($closes > $at) {
                return $opens <= $at ? new Hours(true, $closes, $this->zone) : new Hours(false, $opens, $this->zone);
            }
        }

        return new Hours(false, null, $this->zone);
    }

    private function isRoundTheClock(): bool
    {
        return $this->open === '00:00' && $this->close === '24:00' && count(array_unique($this->days)) === 7;
    }

    /** One day goes over into the next, but for those on which it is shut or closes early. */
    private function roundTheClock(int $at): Hours
    {
        [$open, $opens] = [true, 0];
        foreach ($this->special as $date => $close) {
            $day = new \DateTimeImmutable($date, new \DateTimeZone($this->zone));
            [$shuts, $ends] = [$close === null ? self::moment($day, '00:00') : self::moment($day, $close), self::moment($day, '24:00')];
            if ($ends <= $at) {
                continue;
            }
            if ($open && $shuts > $at) {
                return new Hours(true, $shuts, $this->zone);
            }
            if (! $open && $shuts > $opens) {
                break;
            }
            // Shut now, and perhaps the day after too.
            [$open, $opens] = [false, $ends];
        }

        return $open ? new Hours(true, null, $this->zone) : new Hours(false, $opens, $this->zone);
    }

    /**
     * The sessions in their order, from some days before a moment on.
     *
     * @return \Generator<int, array{int, int, string}> when it opens and closes, ms since 1970 UTC, and the date on which it opens
     */
    private function sessions(int $at, int $fromDay): \Generator
    {
        $today = (new \DateTimeImmutable('@'.intdiv($at, 1000)))->setTimezone(new \DateTimeZone($this->zone))->setTime(0, 0);
        for ($i = $fromDay; $i <= self::LOOK_DAYS; $i++) {
            $day = $today->modify("$i days");
            $date = $day->format('Y-m-d');
            $close = array_key_exists($date, $this->special) ? $this->special[$date] : $this->close;
            if ($close === null || ! in_array((int) $day->format('N'), $this->days, true)) {
                continue;
            }
            $closes = self::moment($close > $this->open ? $day : $day->modify('+1 day'), $close);
            yield [
                self::moment($day, $this->open),
                min($closes, self::moment($this->close > $this->open ? $day : $day->modify('+1 day'), $this->close)), $date,
            ];
        }
    }

    private static function moment(\DateTimeImmutable $day, string $time): int
    {
        return 1000 * $day->setTime((int) substr($time, 0, 2), (int) substr($time, 3))->getTimestamp();
    }

    /** @return array{zone: string, days: list<int>, open: string, close: string} */
    public function toArray(): array
    {
        return ['zone' => $this->zone, 'days' => $this->days, 'open' => $this->open, 'close' => $this->close];
    }
}
