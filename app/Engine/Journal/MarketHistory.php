<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;

/**
 * The table of what the markets remember: prints and depth history. Rows go when no contract needs anything in them any
 * more. At a start what the markets go on with is read first, and the rest in chunks.
 */
final class MarketHistory
{
    /** Whatever a contract that hardly trades would still need. */
    private const MAX_ROWS = 50_000;

    private const FORGETS_EVERY = 100;

    /** @var array<string, array<string, int>> kind → contract → number of its newest item */
    private array $newest = [];

    /** @var array<string, int> kind → rows with a lower id have not been read */
    private array $unreadBelow = [];

    private int $id;

    private int $saves = 0;

    public function __construct(private readonly \PDO $pdo)
    {
        $this->id = (int) ($this->rows('SELECT MAX(id) FROM market_history', [])[0][0] ?? 0);
    }

    /** @param array<string, list<MemoryPiece>> $memory by contract; within a transaction */
    public function save(array $memory): void
    {
        foreach (MemoryRow::of($memory) as $kind => $row) {
            $statement = $this->pdo->prepare('INSERT INTO market_history (kind, id, newest, body) VALUES (?, ?, ?, ?)');
            foreach ([$kind, ++$this->id, $row->newest()] as $i => $value) {
                $statement->bindValue($i + 1, $value, is_int($value) ? \PDO::PARAM_INT : \PDO::PARAM_STR);
            }
            $statement->bindValue(4, $row->body, \PDO::PARAM_LOB);
            $statement->execute();
        }
        foreach ($memory as $contract => $pieces) {
            foreach ($pieces as $piece) {
                $this->newest[$piece->kind][$contract] = $piece->number;
            }
        }
        if (++$this->saves % self::FORGETS_EVERY === 0) {
            array_map($this->forget(...), array_keys($this->newest));
        }
    }

    /**
     * What the markets go on with, of each kind in the order in which it was made.
     *
     * @return \Generator<string, MemoryPiece> contract → piece
     */
    public function recent(): \Generator
    {
        foreach (MarketMemory::kinds() as $kind) {
            $from = $this->firstNeeded($kind);
            foreach ($this->rows('SELECT body FROM market_history WHERE kind = ? AND id >= ? ORDER BY id', [$kind, $from]) as [$body]) {
                yield from $this->needed($kind, (string) $body);
            }
            $this->unreadBelow[$kind] = $from;
        }
    }

    /**
     * More of what is older, newest first.
     *
     * @return list<array{string, MemoryPiece}>|null contract and piece; null where nothing is left to be read
     */
    public function older(int $rows): ?array
    {
        foreach ($this->unreadBelow as $kind => $below) {
            $pieces = [];
            $found = $this->rows('SELECT id, body FROM market_history WHERE kind = ? AND id < ? ORDER BY id DESC LIMIT '.$rows, [$kind, $below]);
            foreach ($found as [$id, $body]) {
                $this->unreadBelow[$kind] = (int) $id;
                foreach ($this->needed((string) $kind, (string) $body) as $contract => $piece) {
                    $pieces[] = [$contract, $piece];
                }
            }
            if ($found !== []) {
                return $pieces;
            }
            unset($this->unreadBelow[$kind]);
        }

        return null;
    }

    /** The id from which on each contract finds what it needs to go on; how far each of them has come is noted on the way. */
    private function firstNeeded(string $kind): int
    {
        $newest = $done = [];
        $from = PHP_INT_MAX;
        foreach ($this->rows('SELECT id, newest FROM market_history WHERE kind = ? ORDER BY id DESC', [$kind]) as [$id, $numbers]) {
            /** @var array<string, int> $numbers */
            $numbers = json_decode((string) $numbers, true, 512, JSON_THROW_ON_ERROR);
            foreach ($numbers as $contract => $number) {
                $newest[$contract] ??= $number;
                if (! isset($done[$contract])) {
                    $from = min($from, (int) $id);
                }
                if ($number <= $newest[$contract] - MarketMemory::neededAtOnce($kind)) {
                    $done[$contract] = true;
                }
            }
        }
        $this->newest[$kind] = $newest;

        return $from;
    }

    /** @return \Generator<string, MemoryPiece> contract → piece, of a row */
    private function needed(string $kind, string $body): \Generator
    {
        foreach (MemoryRow::pieces($kind, $body) as $contract => $piece) {
            if ($piece->number > ($this->newest[$kind][$contract] ?? 0) - MarketMemory::kept($kind)) {
                yield $contract => $piece;
            }
        }
    }

    /** The oldest rows of a kind, as far as nothing in them is needed; a few at a time. */
    private function forget(string $kind): void
    {
        $until = null;
        foreach ($this->rows('SELECT id, newest FROM market_history WHERE kind = ? ORDER BY id LIMIT '.(3 * self::FORGETS_EVERY), [$kind]) as [$id, $newest]) {
            if (! $this->isGone($kind, (string) $newest) && (int) $id > $this->id - self::MAX_ROWS * count($this->newest)) {
                break;
            }
            $until = (int) $id;
        }
        if ($until !== null) {
            $this->pdo->prepare('DELETE FROM market_history WHERE kind = ? AND id <= ?')->execute([$kind, $until]);
        }
    }

    private function isGone(string $kind, string $newest): bool
    {
        /** @var array<string, int> $numbers */
        $numbers = json_decode($newest, true, 512, JSON_THROW_ON_ERROR);
        foreach ($numbers as $contract => $number) {
            if ($number > ($this->newest[$kind][$contract] ?? 0) - MarketMemory::kept($kind)) {
                return false;
            }
        }

        return true;
    }

    /**
     * All rows at once, so that no statement stays open.
     *
     * @param list<int|string> $values
     *
     * @return list<array<int, mixed>>
     */
    private function rows(string $sql, array $values): array
    {
        $statement = $this->pdo->prepare($sql);
        $statement->execute($values);

        return array_values($statement->fetchAll(\PDO::FETCH_NUM));
    }
}
