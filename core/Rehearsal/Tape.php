<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Contract\Contract;
use Lotrik\Contract\PriceFault;
use Lotrik\Document\LineFault;
use Lotrik\Document\Moment;
use Lotrik\Document\TableHead;
use Lotrik\Order\Side;

/**
 * A recorded tape: CSV (RFC 4180) of prints in time order, `time,contract,price,size,aggressor` and optionally
 * `bid,bid_size,ask,ask_size`. Read line by line from any lines that are given; every row is checked, and prints of other
 * contracts are skipped. A contract is known by its code or one of its aliases.
 */
final class Tape implements Prints
{
    private const NEEDED = ['time', 'contract', 'price', 'size', 'aggressor'];

    private const OPTIONAL = ['bid', 'bid_size', 'ask', 'ask_size'];

    private const MAX_RECORD_BYTES = 65_536;

    private const MAX_BLANK_LINES = 1_000;

    private bool $hasQuotes = false;

    /** up to the second, as the last print wrote it */
    private string $second = '-';

    /** µs since 1970 UTC */
    private int $secondAt = 0;

    /** @var array<string, int> prices as written → ticks: a tape has few, over and over */
    private array $known = [];

    /** @var array<array-key, int> the same for sizes */
    private array $lots = [];

    /** @var array<string, true> names of the contract */
    private readonly array $names;

    /** @param iterable<int, string> $lines with or without their line feeds */
    public function __construct(private readonly iterable $lines, private readonly Contract $contract, private readonly string $name = 'tape')
    {
        $this->names = array_fill_keys([$contract->code, ...$contract->aliases], true);
    }

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
        $depths = [];
        $count = 0;
        $found = false;
        foreach ($this->records() as $number => $record) {
            if ($columns === null) {
                $columns = $this->header($record);
                $place = array_flip($columns);
                [$time, $contract, $price, $size, $aggressor] = array_map(static fn(string $name): int => $place[$name], self::NEEDED);
                $bid = $place['bid'] ?? null;
                $ask = $place['ask'] ?? null;
                $depths = array_intersect_key($place, ['bid_size' => 1, 'ask_size' => 1]);
                $count = count($columns);

                continue;
            }
            // A record without quotes needs no more than cutting: a million of them are read in seconds.
            $cells = str_contains($record, '"') ? array_map(strval(...), str_getcsv($record, ',', '"', '')) : explode(',', $record);
            if (count($cells) !== $count) {
                throw LineFault::at($this->name, $number, count($cells).' columns', "$count as in the header");
            }
            $at = $this->moment($cells[$time]) ?? throw LineFault::at($this->name, $number, "time \"{$cells[$time]}\"", 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z');
            if ($before !== null && $at < $before) {
                throw LineFault::at($this->name, $number, "time {$cells[$time]}, before the line above", 'times that do not go backwards');
            }
            $before = $at;
            foreach ($depths as $name => $column) {
                if ($cells[$column] !== '' && ! ctype_digit($cells[$column])) {
                    throw LineFault::at($this->name, $number, "$name \"{$cells[$column]}\"", 'a whole number of lots, or nothing');
                }
            }
            $lots = $this->lots[$cells[$size]] ?? $this->size($cells[$size], $number);
            $side = $cells[$aggressor] === '' ? null : $this->side($cells[$aggressor], $number);
            if (! isset($this->names[$cells[$contract]])) {
                $this->other($cells[$contract], array_filter(['price' => $cells[$price], 'bid' => $bid === null ? '' : $cells[$bid], 'ask' => $ask === null ? '' : $cells[$ask]], static fn(string $cell, string $name): bool => $cell !== '' || $name === 'price', ARRAY_FILTER_USE_BOTH), $number);

                continue;
            }
            $found = true;
            yield new TapePrint(
                $at,
                $this->known[$cells[$price]] ?? $this->ticks($cells[$price], 'price', $number),
                $lots,
                $side,
                $bid === null || $cells[$bid] === '' ? null : $this->ticks($cells[$bid], 'bid', $number),
                $ask === null || $cells[$ask] === '' ? null : $this->ticks($cells[$ask], 'ask', $number),
            );
        }
        if ($columns === null) {
            throw LineFault::at($this->name, 1, 'nothing', 'a header row '.implode(',', self::NEEDED));
        }
        if (! $found) {
            throw LineFault::file($this->name, 'no print of '.implode(' or ', array_keys($this->names)), 'at least one');
        }
    }

    /**
     * Records of the file: lines, or several where a cell in quotes has a line break in it (RFC 4180, rule 6).
     *
     * @return \Generator<int, string> number of its first line → record
     */
    private function records(): \Generator
    {
        $open = null;
        $first = $blank = 0;
        foreach ($this->lines as $i => $line) {
            if (strlen($line) + strlen($open ?? '') > self::MAX_RECORD_BYTES) {
                throw LineFault::at($this->name, $i + 1, 'more than 64 KiB', 'at most 64 KiB a line');
            }
            $line = rtrim($line, "\r\n");
            if ($open === null && $line === '') {
                if (++$blank > self::MAX_BLANK_LINES) {
                    throw LineFault::at($this->name, $i + 1, 'more than '.self::MAX_BLANK_LINES.' blank lines in a row', 'prints');
                }

                continue;
            }
            $blank = 0;
            if (! mb_check_encoding($line, 'UTF-8')) {
                throw LineFault::at($this->name, $i + 1, 'bytes that are no UTF-8', 'text in UTF-8');
            }
            $first = $open === null ? $i + 1 : $first;
            $record = $open === null ? $line : "$open\n$line";
            if (str_contains($record, '"') && substr_count($record, '"') % 2 !== 0) {
                $open = $record;

                continue;
            }
            $open = null;
            yield $first => $record;
        }
        if ($open !== null) {
            throw LineFault::at($this->name, $first, 'a quote that nothing closes', 'a closing quote');
        }
    }

    /**
     * A print of another contract, of which only the form can be checked.
     *
     * @param array<string, string> $prices by column
     */
    private function other(string $contract, array $prices, int $line): void
    {
        if ($contract === '') {
            throw LineFault::at($this->name, $line, 'no contract', 'the code of one');
        }
        foreach ($prices as $column => $price) {
            if (! preg_match('/^-?\d{1,15}(\.\d{1,9})?$/', $price)) {
                throw LineFault::at($this->name, $line, "$column \"$price\"", 'a decimal such as 412.50');
            }
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
            throw LineFault::at($this->name, $line, "size \"$size\"", 'a whole number of lots from 1 to 999999999');
        }

        return $this->lots[$size] = (int) $size;
    }

    private function side(string $aggressor, int $line): Side
    {
        return match ($aggressor) {
            'buy' => Side::Buy,
            'sell' => Side::Sell,
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
        } catch (PriceFault $fault) {
            throw LineFault::at($this->name, $line, "$column \"$price\"", $fault->expected);
        }
    }
}
