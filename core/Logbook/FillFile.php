<?php

declare(strict_types=1);

namespace Lotrik\Logbook;

use Lotrik\Contract\Contract;
use Lotrik\Contract\InvalidPrice;
use Lotrik\Document\InvalidLine;
use Lotrik\Document\Moment;
use Lotrik\Document\TableHead;
use Lotrik\Order\Side;

/**
 * Fills from another program as CSV (RFC 4180): `time,contract,side,quantity,price` and optionally `id`. Contracts are
 * known by their code or by one of their aliases. All or nothing: one bad line, and nothing is taken.
 */
final class FillFile
{
    public const MAX_LINES = 5_000;

    private const NEEDED = ['time', 'contract', 'side', 'quantity', 'price'];

    /** @var array<string, Contract> by code and alias */
    private array $contracts = [];

    /** @param iterable<Contract> $contracts */
    public function __construct(iterable $contracts, private readonly string $name = 'fills')
    {
        $codes = [];
        foreach ($contracts as $contract) {
            $codes[$contract->code] = $contract;
            foreach ($contract->aliases as $symbol) {
                $this->contracts[$symbol] = $contract;
            }
        }
        // A code is its contract's own, whatever another one is called elsewhere.
        $this->contracts = $codes + $this->contracts;
    }

    /**
     * @return list<OutsideFill>
     *
     * @throws InvalidLine
     */
    public function read(string $csv): array
    {
        $fills = $seen = [];
        $columns = null;
        foreach (explode("\n", $csv) as $i => $line) {
            $line = rtrim($line, "\r");
            if ($columns === null) {
                $columns = TableHead::columns($this->name, $line, self::NEEDED, ['id']);
            } elseif ($line !== '') {
                $cells = array_map(strval(...), str_getcsv($line, ',', '"', ''));
                if (count($cells) !== count($columns)) {
                    throw $this->fault($i, count($cells).' columns', count($columns).' as in the header');
                }
                if (count($fills) === self::MAX_LINES) {
                    throw $this->fault($i, 'more than '.self::MAX_LINES.' fills', 'at most that many in one file');
                }
                // Two fills that are alike in everything are two fills: the second of them is told apart.
                $row = implode("\n", $cells);
                $seen[$row] = ($seen[$row] ?? 0) + 1;
                $fills[] = $this->fill($i, array_combine($columns, $cells), $seen[$row]);
            }
        }

        return $fills;
    }

    /** @param array<string, string> $row */
    private function fill(int $i, array $row, int $nth): OutsideFill
    {
        $at = Moment::parse($row['time']) ?? throw $this->fault(
            $i,
            "time \"{$row['time']}\"",
            'an ISO 8601 time such as 2026-11-02T09:30:00.000Z',
        );
        $contract = $this->contracts[$row['contract']] ?? throw $this->fault(
            $i,
            "contract \"{$row['contract']}\"",
            'a listed contract or one of its outside symbols',
        );
        $side = Side::tryFrom($row['side']) ?? throw $this->fault($i, "side \"{$row['side']}\"", 'buy or sell');
        if (! preg_match('/^[1-9]\d{0,8}$/', $row['quantity'])) {
            throw $this->fault($i, "quantity \"{$row['quantity']}\"", 'a whole number of lots from 1 to 999999999');
        }
        try {
            $tick = $contract->ticks($row['price']);
        } catch (InvalidPrice $fault) {
            throw $this->fault($i, "price \"{$row['price']}\"", $fault->expected);
        }
        $id = $row['id'] ?? '';
        $what = $id === '' ? [$at, $contract->code, $side->value, $row['quantity'], $tick, $nth] : [$contract->code, $id];

        return new OutsideFill(intdiv($at, 1000), $contract, $side, (int) $row['quantity'], $tick, hash('sha256', implode("\n", $what)));
    }

    private function fault(int $i, string $found, string $expected): InvalidLine
    {
        return InvalidLine::at($this->name, $i + 1, $found, $expected);
    }
}
