<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;

/** The table of what the markets remember: prints and depth history. Rows go when no contract needs anything in them any more. */
final class MarketHistory
{
    /** Whatever a contract that hardly trades would still need. */
    private const MAX_ROWS = 50_000;

    private const FORGETS_EVERY = 100;

    /** @var array<string, array<string, int>> kind → contract → number of its newest item */
    private array $newest = [];

    private int $id;

    private int $saves = 0;

    public function __construct(private readonly \PDO $pdo)
    {
        $last = $this->pdo->query('SELECT MAX(id) FROM market_history');
        $this->id = $last === false ? 0 : (int) ($last->fetchAll(\PDO::FETCH_COLUMN)[0] ?? 0);
        $rows = $this->pdo->query('SELECT kind, newest FROM market_history ORDER BY kind, id');
        while ($rows !== false && ($row = $rows->fetch(\PDO::FETCH_NUM))) {
            /** @var array<string, int> $numbers */
            $numbers = json_decode((string) $row[1], true, 512, JSON_THROW_ON_ERROR);
            $this->newest[(string) $row[0]] = $numbers + ($this->newest[(string) $row[0]] ?? []);
        }
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
            foreach ($memory as $contract => $pieces) {
                foreach ($pieces as $piece) {
                    $this->newest[$piece->kind][$contract] = $piece->number;
                }
            }
        }
        if (++$this->saves % self::FORGETS_EVERY === 0) {
            array_map($this->forget(...), array_keys($this->newest));
        }
    }

    /** @return \Generator<string, MemoryPiece> contract → piece: all that is still needed, of each kind in the order in which it was made */
    public function pieces(): \Generator
    {
        $rows = $this->pdo->query('SELECT kind, body FROM market_history ORDER BY kind, id');
        while ($rows !== false && ($row = $rows->fetch(\PDO::FETCH_NUM))) {
            foreach (MemoryRow::pieces((string) $row[0], (string) $row[1]) as $contract => $piece) {
                if ($piece->number > ($this->newest[$piece->kind][$contract] ?? 0) - MarketMemory::kept($piece->kind)) {
                    yield $contract => $piece;
                }
            }
        }
    }

    /** The oldest rows of a kind, as far as nothing in them is needed; a few at a time. */
    private function forget(string $kind): void
    {
        $oldest = $this->pdo->prepare('SELECT id, newest FROM market_history WHERE kind = ? ORDER BY id LIMIT '.(3 * self::FORGETS_EVERY));
        $oldest->execute([$kind]);
        $until = null;
        foreach ($oldest->fetchAll(\PDO::FETCH_NUM) as [$id, $newest]) {
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
}
