<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Contract\Contract;
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
     * @throws TapeFault naming the line, what was found and what was expected
     */
    public function prints(): \Generator
    {
        $columns = null;
        $before = null;
        foreach ($this->lines as $i => $line) {
            $line = rtrim($line, "\r\n");
            $number = $i + 1;
            if ($columns === null) {
                $columns = $this->header($line);

                continue;
            }
            if ($line === '') {
                continue;
            }
            $cells = str_getcsv($line, ',', '"', '');
            if (count($cells) !== count($columns)) {
                throw TapeFault::at($this->name, $number, count($cells).' columns', count($columns).' as in the header');
            }
            /** @var array<string, string> $row */
            $row = array_combine($columns, array_map(strval(...), $cells));
            $at = Moment::parse($row['time']) ?? throw TapeFault::at($this->name, $number, "time \"{$row['time']}\"", 'an ISO 8601 time such as 2026-11-02T09:30:00.000Z');
            if ($before !== null && $at < $before) {
                throw TapeFault::at($this->name, $number, "time {$row['time']}, before the line above", 'times that do not go backwards');
            }
            $before = $at;
            if ($row['contract'] === $this->contract->code) {
                yield $this->print($row, $at, $number);
            }
        }
        if ($columns === null) {
            throw TapeFault::at($this->name, 1, 'nothing', 'a header row '.implode(',', self::NEEDED));
        }
    }

    /** @return list<string> */
    private function header(string $line): array
    {
        $columns = array_map(static fn(?string $c): string => trim((string) $c), str_getcsv(preg_replace('/^\xEF\xBB\xBF/', '', $line) ?? '', ',', '"', ''));
        $missing = array_diff(self::NEEDED, $columns);
        $unknown = array_diff($columns, self::NEEDED, self::OPTIONAL);
        if ($missing !== [] || $unknown !== [] || count($columns) !== count(array_unique($columns))) {
            throw TapeFault::at($this->name, 1, 'the header "'.implode(',', $columns).'"', implode(',', self::NEEDED).' and optionally '.implode(',', self::OPTIONAL));
        }
        $this->hasQuotes = in_array('bid', $columns, true) && in_array('ask', $columns, true);

        return $columns;
    }

    /** @param array<string, string> $row */
    private function print(array $row, int $at, int $line): TapePrint
    {
        if (! preg_match('/^[1-9]\d{0,8}$/', $row['size'])) {
            throw TapeFault::at($this->name, $line, "size \"{$row['size']}\"", 'a whole number of lots from 1 up');
        }
        if (! in_array($row['aggressor'], ['buy', 'sell', ''], true)) {
            throw TapeFault::at($this->name, $line, "aggressor \"{$row['aggressor']}\"", 'buy, sell or nothing');
        }

        return new TapePrint(
            $at,
            $this->ticks($row['price'], 'price', $line),
            (int) $row['size'],
            Side::tryFrom($row['aggressor']),
            ($row['bid'] ?? '') === '' ? null : $this->ticks($row['bid'], 'bid', $line),
            ($row['ask'] ?? '') === '' ? null : $this->ticks($row['ask'], 'ask', $line),
        );
    }

    private function ticks(string $price, string $column, int $line): int
    {
        try {
            return $this->contract->ticks($price);
        } catch (\DomainException $e) {
            throw TapeFault::at($this->name, $line, "$column $price", $e->getMessage());
        }
    }
}
