<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Lotrik\Contract\Session;
use Lotrik\Document\Node;

/**
 * The trading day of an account: it begins each day at one time of day in one time zone, whatever its markets do. All
 * moments are ms since 1970 UTC.
 */
final class AccountDay
{
    private const DAY_MS = 86_400_000;

    /** A day that has been set anew is at least so long, so that two days do not begin shortly after each other. */
    private const LEAST_MS = self::DAY_MS / 2;

    /** @var array{int, int} begin and end of the day that was asked for last: several times at each print */
    private array $found = [0, 0];

    private int $holdsUntil = 0;

    /**
     * @param string   $rolls such as "00:00"
     * @param int|null $since when this came into force, at the begin of a day; null where it always was
     */
    private function __construct(public readonly string $zone, public readonly string $rolls, private readonly ?int $since) {}

    public static function utc(): self
    {
        return new self('UTC', '00:00', null);
    }

    public static function fromNode(Node $node, ?int $since): self
    {
        $zone = Session::zone($node, 'zone');
        $rolls = $node->string('rolls');
        if (preg_match(Window::TIME, $rolls) !== 1) {
            throw $node->fault('rolls', 'a time of day such as "17:00"');
        }
        $node->done();

        return new self($zone, $rolls, $since);
    }

    /** When the day that a moment lies in began. */
    public function begins(int $at): int
    {
        return $this->find($at)[0];
    }

    /** When the next day begins. */
    public function ends(int $at): int
    {
        return $this->find($at)[1];
    }

    /** @return array{int, int} when the day that a moment lies in began, and when it ends */
    private function find(int $at): array
    {
        if ($at < $this->found[0] || $at >= $this->holdsUntil) {
            $this->found = $this->look($at);
            // Another kind of day may come into force in the middle of it.
            $this->holdsUntil = $this->since !== null && $at < $this->since ? min($this->found[1], $this->since) : $this->found[1];
        }

        return $this->found;
    }

    /** @return array{int, int} */
    private function look(int $at): array
    {
        if ($this->since === null && $this->zone === 'UTC' && $this->rolls === '00:00') {
            $from = intdiv($at, self::DAY_MS) * self::DAY_MS;

            return [$from, $from + self::DAY_MS];
        }
        $day = Window::localDay($at, $this->zone)->modify('-1 day');
        $from = 0;
        while (($until = Window::moment($day, $this->rolls)) <= $at) {
            $from = $until;
            $day = $day->modify('+1 day');
        }
        if ($this->since === null || $at < $this->since || $from >= $this->since + self::LEAST_MS) {
            return [$from, $until];
        }
        // The first day of a new kind: from when it came into force to the first roll that is not too soon.
        while (($until = Window::moment($day, $this->rolls)) < $this->since + self::LEAST_MS) {
            $day = $day->modify('+1 day');
        }

        return [$this->since, $until];
    }

    /** @return array{zone: string, rolls: string} */
    public function toArray(): array
    {
        return ['zone' => $this->zone, 'rolls' => $this->rolls];
    }
}
