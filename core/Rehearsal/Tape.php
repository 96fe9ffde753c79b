<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Contract\Contract;
use Lotrik\Contract\InvalidPrice;
use Lotrik\Document\InvalidLine;
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

    /** of a time with ms and Z, such as 2026-11-02T09:30:00.000Z */
    private const TIME_BYTES = 24;

    private const MAX_SEEN = 100_000;

    private bool $hasQuotes = false;

    /** a record whose last cell goes on in the next line */
    private ?string $open = null;

    /** number of the line where the last record began */
    private int $first = 0;

    /** number of the last line that was not blank */
    private int $lastWritten = 0;

    /** up to the second, as the last print wrote it */
    private string $second = '-';

    /** µs since 1970 UTC */
    private int $secondAt = 0;

    /** @var array<string, int> prices as written → ticks: a tape has few, over and over */
    private array $known = [];

    /**
     * Records from behind their time, which have been checked once and come again and again.
     *
     * @var array<string, array{int, int, Side|null}> tick, lots, side
     */
    private array $seen = [];

    /** @var array<string, true> names of the contract */
    private readonly array $names;

    /** @param iterable<int, string> $lines with or without their line feeds */
    public function __construct(
        private readonly iterable $lines,
        private readonly Contract $contract,
        private readonly string $name = 'tape',
    ) {
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
     * @throws InvalidLine naming the line, what was found and what was expected
     */
    public function prints(): \Generator
    {
        $columns = $before = $bid = $ask = null;
        $time = $contract = $price = $size = $aggressor = 0;
        $depths = [];
        $count = 0;
        $found = false;
        foreach ($this->lines as $i => $line) {
            $line = rtrim($line, "\r\n");
            $again = $this->open === null ? $this->seen[substr($line, self::TIME_BYTES)] ?? null : null;
            if ($again !== null) {
                $number = $this->lastWritten = $i + 1;
                $written = substr($line, 0, self::TIME_BYTES);
                $at = $this->moment($written) ?? throw $this->noTime($written, $number);
            } else {
                [$number, $record] = $this->record($line, $i + 1);
                if ($record === null) {
                    continue;
                }
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
                $quoted = str_contains($record, '"');
                $cells = $quoted ? array_map(strval(...), str_getcsv($record, ',', '"', '')) : explode(',', $record);
                if (count($cells) !== $count) {
                    throw InvalidLine::at($this->name, $number, count($cells).' columns', "$count as in the header");
                }
                $written = $cells[$time];
                $at = $this->moment($written) ?? throw $this->noTime($written, $number);
            }
            if ($before !== null && $at < $before) {
                throw InvalidLine::at($this->name, $number, "time $written, before the line above", 'times that do not go backwards');
            }
            $before = $at;
            if ($again !== null) {
                [$tick, $lots, $side] = $again;
                yield new TapePrint($at, $tick, $lots, $side);

                continue;
            }
            foreach ($depths as $name => $column) {
                if ($cells[$column] !== '' && ! ctype_digit($cells[$column])) {
                    throw InvalidLine::at($this->name, $number, "$name \"{$cells[$column]}\"", 'a whole number of lots, or nothing');
                }
            }
            $lots = $this->size($cells[$size], $number);
            $side = $this->side($cells[$aggressor], $number);
            if (! isset($this->names[$cells[$contract]])) {
                $this->other(
                    $cells[$contract],
                    array_filter(
                        ['price' => $cells[$price], 'bid' => $bid === null ? '' : $cells[$bid], 'ask' => $ask === null ? '' : $cells[$ask]],
                        static fn(string $cell, string $name): bool => $cell !== '' || $name === 'price',
                        ARRAY_FILTER_USE_BOTH,
                    ),
                    $number,
                );

                continue;
            }
            $found = true;
            $tick = $this->ticks($cells[$price], 'price', $number);
            if ($columns === self::NEEDED && strlen($written) === self::TIME_BYTES && ! $quoted && count($this->seen) < self::MAX_SEEN) {
                $this->seen[substr($record, self::TIME_BYTES)] = [$tick, $lots, $side];
            }
            yield new TapePrint(
                $at,
                $tick,
                $lots,
                $side,
                $bid === null || $cells[$bid] === '' ? null : $this->ticks($cells[$bid], 'bid', $number),
                $ask === null || $cells[$ask] === '' ? null : $this->ticks($cells[$ask], 'ask', $number),
            );
        }
        if ($this->open !== null) {
            throw InvalidLine::at($this->name, $this->first, 'a quote that nothing closes', 'a closing quote');
        }
        if ($columns === null) {
            throw InvalidLine::at($this->name, 1, 'nothing', 'a header row '.implode(',', self::NEEDED));
        }
        if (! $found) {
            throw InvalidLine::file($this->name, 'no print of '.implode(' or ', array_keys($this->names)), 'at least one');
        }
    }

    /**
     * A record of the file: a line, or several where a cell in quotes has a line break in it (RFC 4180, rule 6).
     *
     * @return array{int, string|null} number of its first line; null where it does not end here, or is blank
     */
    private function record(string $line, int $number): array
    {
        if (strlen($line) + strlen($this->open ?? '') > self::MAX_RECORD_BYTES) {
            throw InvalidLine::at($this->name, $number, 'more than 64 KiB', 'at most 64 KiB a line');
        }
        if ($this->open === null && $line === '') {
            if ($number - $this->lastWritten > self::MAX_BLANK_LINES) {
                throw InvalidLine::at($this->name, $number, 'more than '.self::MAX_BLANK_LINES.' blank lines in a row', 'prints');
            }

            return [$number, null];
        }
        $this->lastWritten = $number;
        if (! mb_check_encoding($line, 'UTF-8')) {
            throw InvalidLine::at($this->name, $number, 'bytes that are no UTF-8', 'text in UTF-8');
        }
        $this->first = $this->open === null ? $number : $this->first;
        $record = $this->open === null ? $line : "$this->open\n$line";
        $this->open = str_contains($record, '"') && substr_count($record, '"') % 2 !== 0 ? $record : null;

        return [$this->first, $this->open === null ? $record : null];
    }

    private function noTime(string $written, int $line): InvalidLine
    {
        return InvalidLine::at($this->name, $line, "time \"$written\"", 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z');
    }

    /**
     * A print of another contract, of which only the form can be checked.
     *
     * @param array<string, string> $prices by column
     */
    private function other(string $contract, array $prices, int $line): void
    {
        if ($contract === '') {
            throw InvalidLine::at($this->name, $line, 'no contract', 'the code of one');
        }
        foreach ($prices as $column => $price) {
            if (! preg_match('/^-?\d{1,15}(\.\d{1,9})?$/', $price)) {
                throw InvalidLine::at($this->name, $line, "$column \"$price\"", 'a decimal such as 412.50');
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
            throw InvalidLine::at($this->name, $line, "size \"$size\"", 'a whole number of lots from 1 to 999999999');
        }

        return (int) $size;
    }

    private function side(string $aggressor, int $line): ?Side
    {
        return match ($aggressor) {
            '' => null,
            'buy' => Side::Buy,
            'sell' => Side::Sell,
            default => throw InvalidLine::at($this->name, $line, "aggressor \"$aggressor\"", 'buy, sell or nothing'),
        };
    }

    /** Most prints share their second with the one before: it is worked out once. */
    private function moment(string $text): ?int
    {
        if (
            strlen($text) === self::TIME_BYTES
            && strncmp($text, $this->second, 19) === 0
            && $text[19] === '.'
            && $text[23] === 'Z'
            && ctype_digit($ms = substr($text, 20, 3))
        ) {
            return $this->secondAt + 1000 * (int) $ms;
        }
        $at = Moment::parse($text);
        if ($at !== null && strlen($text) === self::TIME_BYTES && $text[23] === 'Z') {
            $this->second = substr($text, 0, 19);
            $this->secondAt = $at - $at % 1_000_000;
        }

        return $at;
    }

    private function ticks(string $price, string $column, int $line): int
    {
        try {
            return $this->known[$price] ??= $this->contract->ticks($price);
        } catch (InvalidPrice $fault) {
            throw InvalidLine::at($this->name, $line, "$column \"$price\"", $fault->expected);
        }
    }
}
