<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Contract\Contract;
use Lotrik\Document\LineFault;
use Lotrik\Document\Moment;
use Lotrik\Document\TableHead;
use Lotrik\Order\Side;

/**
 * A recorded tape: CSV (RFC 4180) of prints in time order, `time,contract,price,size,aggressor` and optionally
 * `bid,bid_size,ask,ask_size`. Read line by line from any lines that are given; prints of other contracts are skipped.
 */
final class Tape implements Prints
{
    private const NEEDED = ['time', 'contract', 'price', 'size', 'aggressor'];

    private const OPTIONAL = ['bid', 'bid_size', 'ask', 'ask_size'];

    private bool $hasQuotes = false;

    /** up to the second, as the last print wrote it */
    private string $second = '-';

    /** µs since 1970 UTC */
    private int $secondAt = 0;

    /** @var array<string, int> prices as written → ticks: a tape has few, over and over */
    private array $known = [];

    /** @var array<array-key, int> the same for sizes */
    private array $lots = [];

    /** @param iterable<int, string> $lines */
    public function __construct(private readonly iterable $lines, private readonly Contract $contract, private readonly string $name = 'tape') {}

    /** Whether the header names bid and ask; known once reading has begun. */
    public function hasQuotes(): bool
    {
        return $this->hasQuotes;
    }

    /**
     * @return \Generator<int, TapePrint>
     *
     * @throws LineFault naming the line, what was found and what was expected
     */
    public function prints(): \Generator
    {
        $columns = $before = $bid = $ask = null;
        $time = $contract = $price = $size = $aggressor = 0;
        foreach ($this->lines as $i => $line) {
            $line = rtrim($line, "\r\n");
            $number = $i + 1;
            if ($columns === null) {
                $columns = $this->header($line);
                $place = array_flip($columns);
                [$time, $contract, $price, $size, $aggressor] = array_map(static fn(string $name): int => $place[$name], self::NEEDED);
                $bid = $place['bid'] ?? null;
                $ask = $place['ask'] ?? null;

                continue;
            }
            if ($line === '') {
                continue;
            }
            // A line without quotes needs no more than cutting: a million of them are read in seconds.
            $cells = str_contains($line, '"') ? array_map(strval(...), str_getcsv($line, ',', '"', '')) : explode(',', $line);
            if (count($cells) !== count($columns)) {
                throw LineFault::at($this->name, $number, count($cells).' columns', count($columns).' as in the header');
            }
            $at = $this->moment($cells[$time]) ?? throw LineFault::at($this->name, $number, "time \"{$cells[$time]}\"", 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z');
            if ($before !== null && $at < $before) {
                throw LineFault::at($this->name, $number, "time {$cells[$time]}, before the line above", 'times that do not go backwards');
            }
            $before = $at;
            if ($cells[$contract] === $this->contract->code) {
                yield new TapePrint(
                    $at,
                    $this->known[$cells[$price]] ?? $this->ticks($cells[$price], 'price', $number),
                    $this->lots[$cells[$size]] ?? $this->size($cells[$size], $number),
                    $this->side($cells[$aggressor], $number),
                    $bid === null || $cells[$bid] === '' ? null : $this->ticks($cells[$bid], 'bid', $number),
                    $ask === null || $cells[$ask] === '' ? null : $this->ticks($cells[$ask], 'ask', $number),
                );
            }
        }
        if ($columns === null) {
            throw LineFault::at($this->name, 1, 'nothing', 'a header row '.implode(',', self::NEEDED));
        }
    }

    /** @return list<string> */
    private function header(string $line): array
    {
        $columns = TableHead::columns($this->name, $line, self::NEEDED, self::OPTIONAL);
        $this->hasQuotes = in_array('bid', $columns, true) && in_array('ask', $columns, true);

        return $columns;
    }

    private function size(string $size, int $line): int
    {
        if (! preg_match('/^[1-9]\d{0,8}$/', $size)) {
            throw LineFault::at($this->name, $line, "size \"$size\"", 'a whole number of lots from 1 up');
        }

        return $this->lots[$size] = (int) $size;
    }

    private function side(string $aggressor, int $line): ?Side
    {
        return match ($aggressor) {
            'buy' => Side::Buy,
            'sell' => Side::Sell,
            '' => null,
            default => throw LineFault::at($this->name, $line, "aggressor \"$aggressor\"", 'buy, sell or nothing'),
        };
    }

    /** Most prints share their second with the one before: it is worked out once. */
    private function moment(string $text): ?int
    {
        if (strlen($text) === 24 && strncmp($text, $this->second, 19) === 0 && $text[19] === '.' && $text[23] === 'Z' && ctype_digit($ms = substr($text, 20, 3))) {
            return $this->secondAt + 1000 * (int) $ms;
        }
        $at = Moment::parse($text);
        if ($at !== null && strlen($text) === 24 && $text[23] === 'Z') {
            $this->second = substr($text, 0, 19);
            $this->secondAt = $at - $at % 1_000_000;
        }

        return $at;
    }

    private function ticks(string $price, string $column, int $line): int
    {
        try {
            return $this->known[$price] ??= $this->contract->ticks($price);
        } catch (\DomainException $e) {
            throw LineFault::at($this->name, $line, "$column $price", $e->getMessage());
        }
    }
}
