<?php

declare(strict_types=1);

namespace Lotrik\Watching;

use Lotrik\Order\Side;

/**
 * The way that a contract's price has gone, for hours: its prints without those that say nothing new to whoever follows a
 * price. A print is left out where its price and its side are those of the print before; the first of each five seconds is
 * always kept, so that what is entered then fills at its own print.
 */
final class PriceTrail
{
    public const KEPT = 100_000;

    /** Entries may be tried at whole multiples of it, in ms. */
    public const STRETCH = 5_000;

    /** Bytes of a print: its time, and what it is. */
    private const BYTES = 12;

    private const CHUNK = 1_000;

    /** @var list<array{string, string, int}> packed times and prints and the number of the newest one, oldest first; only the last one grows */
    private array $chunks = [];

    private int $held = 0;

    /** Number of the newest one: each that is kept is one more than the one before. */
    private int $made = 0;

    private ?int $before = null;

    private int $stretch = 0;

    /** @param int $at ms since 1970 UTC, never before the last one */
    public function add(int $at, int $tick, Side $aggressor): void
    {
        $print = 2 * $tick + ($aggressor === Side::Buy ? 1 : 0);
        $stretch = intdiv($at, self::STRETCH);
        if ($print === $this->before && $stretch === $this->stretch) {
            return;
        }
        [$this->before, $this->stretch] = [$print, $stretch];
        $last = count($this->chunks) - 1;
        if ($last < 0 || strlen($this->chunks[$last][1]) >= 4 * self::CHUNK) {
            $this->chunks[++$last] = ['', '', 0];
        }
        [$times, $prints] = $this->chunks[$last];
        $this->chunks[$last] = [$times.pack('P', $at), $prints.pack('l', $print), ++$this->made];
        $this->held++;
        $this->forget();
    }

    public function made(): int
    {
        return $this->made;
    }

    /** When the oldest one that is kept was, ms since 1970 UTC; null where there is none. */
    public function oldest(): ?int
    {
        return $this->chunks === [] ? null : self::first($this->chunks[0][0]);
    }

    /** When the newest one was. */
    public function newest(): ?int
    {
        return $this->chunks === [] ? null : self::first(substr($this->chunks[count($this->chunks) - 1][0], -8));
    }

    /**
     * Those from a moment on, a thousand or so at a time, the oldest first; the first ones may be from before it.
     *
     * @return \Generator<int, array{non-empty-list<int>, non-empty-list<int>}> ms since 1970 UTC of each; and twice its tick, one more
     *                                                                          where whoever took bought
     */
    public function since(int $at): \Generator
    {
        $from = 0;
        while (isset($this->chunks[$from + 1]) && self::first($this->chunks[$from + 1][0]) <= $at) {
            $from++;
        }
        foreach (array_slice($this->chunks, $from) as [$times, $prints]) {
            /** @var array{non-empty-list<int>, non-empty-list<int>} $unpacked */
            $unpacked = [array_values((array) unpack('P*', $times)), array_values((array) unpack('l*', $prints))];
            yield $unpacked;
        }
    }

    /** Those after a number, to be kept: the times of all, then the prints of all. */
    public function packAfter(int $number): string
    {
        $wanted = min($this->held, $this->made - $number);
        $times = $prints = '';
        for ($i = count($this->chunks) - 1; $i >= 0 && strlen($prints) < 4 * $wanted; $i--) {
            [$times, $prints] = [$this->chunks[$i][0].$times, $this->chunks[$i][1].$prints];
        }

        return $wanted <= 0 ? '' : substr($times, -8 * $wanted).substr($prints, -4 * $wanted);
    }

    /** Packed ones as if all of them had come so many ms later. */
    public static function later(string $packed, int $ms): string
    {
        [$times, $prints] = self::parts($packed);

        /** @var list<int> $moments */
        $moments = array_values((array) unpack('P*', $times));

        return pack('P*', ...array_map(static fn(int $at): int => $at + $ms, $moments)).$prints;
    }

    /**
     * Brings some back, whichever come first.
     *
     * @param int $newest number of the last one in what {@see packAfter()} gave
     */
    public function unpack(int $newest, string $packed): void
    {
        if ($packed === '') {
            return;
        }
        [$times, $prints] = self::parts($packed);
        $this->held += intdiv(strlen($packed), self::BYTES);
        if ($newest > $this->made) {
            $this->chunks[] = [$times, $prints, $newest];
            $this->made = $newest;
            /** @var array{1: int} $last */
            $last = unpack('l', $prints, strlen($prints) - 4);
            $this->before = $last[1];
            $this->stretch = intdiv(self::first(substr($times, -8)), self::STRETCH);
        } else {
            $this->insert($times, $prints, $newest);
        }
        $this->forget();
    }

    /** Where their numbers belong; together with those that follow them where there are few of these. */
    private function insert(string $times, string $prints, int $newest): void
    {
        $i = 0;
        while (isset($this->chunks[$i]) && $this->chunks[$i][2] < $newest) {
            $i++;
        }
        [$timesAfter, $printsAfter, $last] = $this->chunks[$i] ?? ['', '', 0];
        if (strlen($printsAfter) < 4 * self::CHUNK && $last - intdiv(strlen($printsAfter), 4) === $newest) {
            $this->chunks[$i] = [$times.$timesAfter, $prints.$printsAfter, $last];
        } else {
            array_splice($this->chunks, $i, 0, [[$times, $prints, $newest]]);
        }
    }

    private function forget(): void
    {
        while ($this->held - intdiv(strlen($this->chunks[0][1] ?? ''), 4) >= self::KEPT) {
            $this->held -= intdiv(strlen((array_shift($this->chunks) ?? ['', '', 0])[1]), 4);
        }
    }

    /** @return array{string, string} times, prints */
    private static function parts(string $packed): array
    {
        $count = intdiv(strlen($packed), self::BYTES);

        return [substr($packed, 0, 8 * $count), substr($packed, 8 * $count)];
    }

    private static function first(string $times): int
    {
        /** @var array{1: int} $first */
        $first = unpack('P', $times);

        return $first[1];
    }
}
