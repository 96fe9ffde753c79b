<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Lotrik\Contract\Session;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/**
 * A stretch of time without new entries, on some days of the week or on one date, in the zone of the account's day
 * where it names no other. One that
 * ends at or before the time that it begins at ends on the next day. All moments are ms since 1970 UTC.
 */
final readonly class Window
{
    public const TIME = '/^([01]\d|2[0-3]):[0-5]\d$/D';

    /**
     * @param list<int>   $days ISO 8601 weekdays, 1 is Monday; empty where it is on a date
     * @param string|null $date such as "2026-12-04"
     */
    private function __construct(
        public array $days,
        public ?string $date,
        public string $from,
        public string $until,
        private string $zone,
    ) {}

    public static function fromNode(Node $node, string $zone): self
    {
        $zone = $node->raw('zone') === null ? $zone : Session::zone($node, 'zone');
        $days = $node->raw('days');
        $date = $node->optionalString('date');
        if (($days === null) === ($date === null)) {
            throw InvalidDocument::at(
                $node->pointer, $days === null ? 'neither days nor a date' : 'both days and a date', 'one of the two',
            );
        }
        if ($date !== null && ! self::isDate($date)) {
            throw $node->fault('date', 'a date such as "2026-12-04"');
        }
        $list = $days === null ? [] : $node->list('days');
        if ($days !== null && ($list === [] || count($list) > 7)) {
            throw $node->fault('days', 'one to seven weekdays, 1 (Monday) to 7');
        }
        $of = [];
        foreach ($list as $i => $day) {
            if (! is_int($day) || $day < 1 || $day > 7) {
                throw InvalidDocument::at($node->at('days')."/$i", InvalidDocument::show($day), 'a weekday from 1 (Monday) to 7');
            }
            $of[$day] = $day;
        }
        ksort($of);
        foreach (['from', 'until'] as $field) {
            if (preg_match(self::TIME, $node->string($field)) !== 1) {
                throw $node->fault($field, 'a time of day such as "14:25"');
            }
        }
        if ($node->string('from') === $node->string('until')) {
            throw $node->fault('until', 'another time than from');
        }
        $node->done();

        return new self(array_values($of), $date, $node->string('from'), $node->string('until'), $zone);
    }

    /** Until when a moment lies in it; null where it does not. */
    public function until(int $at): ?int
    {
        $near = $this->near($at);
        foreach ($near as [$from, $until]) {
            if ($from <= $at && $at < $until) {
                return $until;
            }
        }

        return null;
    }

    /** When it begins next after a moment, within the next eight days; null where it does not. */
    public function beginsAfter(int $at): ?int
    {
        $near = $this->near($at);
        foreach ($near as [$from]) {
            if ($from > $at) {
                return $from;
            }
        }

        return null;
    }

    /** `14:25 to 14:35 Europe/Lisbon` */
    public function words(): string
    {
        return ($this->date === null ? '' : "{$this->date} ")."{$this->from} to {$this->until} {$this->zone}";
    }

    /** @return list<array{int, int}> in order, from the day before to eight days on */
    private function near(int $moment): array
    {
        $day = self::localDay($moment, $this->zone)->modify('-1 day');
        $found = [];
        for ($i = 0; $i < 10; $i++, $day = $day->modify('+1 day')) {
            if ($this->date === null ? in_array((int) $day->format('N'), $this->days, true) : $day->format('Y-m-d') === $this->date) {
                $found[] = [
                    self::moment($day, $this->from),
                    self::moment($this->until > $this->from ? $day : $day->modify('+1 day'), $this->until),
                ];
            }
        }

        return $found;
    }

    /** Midnight of the local day that a moment lies in. */
    public static function localDay(int $at, string $zone): \DateTimeImmutable
    {
        return (new \DateTimeImmutable('@'.intdiv($at, 1000)))->setTimezone(new \DateTimeZone($zone))->setTime(0, 0);
    }

    public static function moment(\DateTimeImmutable $day, string $time): int
    {
        return 1000 * $day->setTime((int) substr($time, 0, 2), (int) substr($time, 3))->getTimestamp();
    }

    private static function isDate(string $date): bool
    {
        $read = \DateTimeImmutable::createFromFormat('!Y-m-d', $date);

        return $read !== false && $read->format('Y-m-d') === $date;
    }

    /** @return array<string, mixed> as the document has it */
    public function toArray(): array
    {
        return ($this->date === null ? ['days' => $this->days] : ['date' => $this->date]) + [
            'from' => $this->from, 'until' => $this->until, 'zone' => $this->zone,
        ];
    }
}
