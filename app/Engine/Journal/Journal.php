<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Models\CheckpointRow;
use App\Models\JournalRow;
use App\Models\OrderRow;
use Illuminate\Database\ConnectionInterface;
use Illuminate\Database\Eloquent\Builder;
use Lotrik\Desk\Command\CommandArchive;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Watching\MemoryPiece;

/**
 * The append-only journal: written through the Eloquent models, many rows in a statement, in one transaction a turn with
 * the tables that are its views and the checkpoints that belong to it. What has been committed survives a kill (WAL,
 * synchronous=FULL).
 *
 * No statement is left open behind a read: SQLite could then never bring its write-ahead log back into the database.
 */
final class Journal implements CommandArchive
{
    /** What SQLite says of a file that is no database, or a broken one (SQLITE_CORRUPT, SQLITE_NOTADB). */
    private const DAMAGED = [11, 26];

    /** Commits after which the write-ahead log is brought into the database: some 250 pages, so that it takes 1 to 5 ms. */
    private const LOG_COMMITS = 16;

    /** SQLite binds at most 32,766 values in a statement; a row has up to forty. */
    private const ROWS_A_STATEMENT = 500;

    /** Rows of the journal that are read at once. */
    private const ROWS_A_READ = 2_000;

    private int $commitsInLog = 0;

    private string $lastHash;

    private int $lastSequence;

    private readonly MarketHistory $history;

    private readonly ConnectionInterface $database;

    /**
     * @param string $connection name of the one that may write
     *
     * @throws JournalDamaged where what was acknowledged is not there
     */
    public function __construct(private readonly ?Head $head = null, private readonly string $connection = EngineConnection::NAME)
    {
        try {
            $this->database = JournalRow::on($connection)->getConnection();
            // Whether it can be written shows now, and not at somebody's first order.
            $this->database->unprepared('BEGIN IMMEDIATE; PRAGMA user_version=0; ROLLBACK;');
            $last = $this->rows()->toBase()->orderByDesc('sequence')->first(['sequence', 'hash']);
            [$this->lastSequence, $this->lastHash] = $last === null ? [0, JournalRow::FIRST_HASH] : [
                (int) $last->sequence, (string) $last->hash,
            ];
            $this->compareWithHead();
            $this->history = new MarketHistory($connection);
        } catch (\PDOException $e) {
            throw self::damage($e);
        }
    }

    /**
     * Commits events with their views and checkpoints, or nothing at all.
     *
     * @param list<Recorded>                                        $events
     * @param callable(int): ?int                                   $ahead       lots ahead of an order in its queue
     * @param array<string, array{sequence: int, body: string}>     $checkpoints by name
     * @param array<string, list<MemoryPiece>>                      $memory      by contract
     */
    public function commit(
        array $events,
        DeskState $state,
        int $step,
        callable $ahead,
        array $checkpoints,
        array $memory,
        string $build,
    ): void {
        $this->commitTurns([$events], $state, $step, $ahead, $checkpoints, $memory, $build);
    }

    /**
     * The same for several turns at once: what each of them changed is looked at before the next one is asked for.
     *
     * @param iterable<list<Recorded>>                          $turns
     * @param callable(int): ?int                               $ahead
     * @param array<string, array{sequence: int, body: string}> $checkpoints
     * @param array<string, list<MemoryPiece>>                  $memory
     */
    public function commitTurns(
        iterable $turns,
        DeskState $state,
        int $step,
        callable $ahead,
        array $checkpoints,
        array $memory,
        string $build,
    ): void {
        KillPoint::reached('before-write');
        $before = $this->lastSequence;
        $this->database->transaction(function () use ($turns, $state, $step, $ahead, $checkpoints, $memory, $build): void {
            $views = new JournalViews($this->connection);
            foreach ($turns as $events) {
                $this->append($events, $step);
                $views->add($events, $state, $ahead);
            }
            $views->write();
            $rows = [];
            foreach ($checkpoints as $name => $checkpoint) {
                $rows[] = [
                    'name' => $name, 'sequence' => $checkpoint['sequence'], 'build' => $build, 'body' => Bytes::of($checkpoint['body']),
                ];
            }
            CheckpointRow::on($this->connection)->upsert($rows, ['name']);
            $this->history->save($memory);
        });
        $this->commitsInLog++;
        KillPoint::reached('after-commit');
        if ($this->lastSequence > $before) {
            $this->head?->write($this->lastSequence, $this->lastHash);
        }
    }

    public function isLogLong(): bool
    {
        return $this->commitsInLog >= self::LOG_COMMITS;
    }

    /**
     * Brings the write-ahead log into the database, between turns and in small parts. SQLite would do it by itself, but
     * later, and then within somebody's commit, which takes 10 to 40 ms.
     */
    public function shortenLog(): void
    {
        $this->commitsInLog = 0;
        $this->database->select('PRAGMA wal_checkpoint(PASSIVE)');
    }

    /** @return array{sequence: int, build: string, body: string}|null */
    public function checkpoint(string $name): ?array
    {
        $found = CheckpointRow::on($this->connection)->find($name);

        return $found === null ? null : ['sequence' => $found->sequence, 'build' => $found->build, 'body' => $found->body];
    }

    /**
     * What the markets go on with, those of one kind in the order in which they were made.
     *
     * @return \Generator<string, MemoryPiece> contract → piece
     */
    public function memory(): \Generator
    {
        return $this->history->recent();
    }

    /** @return list<array{string, MemoryPiece}>|null more of what is older, contract and piece, newest first; null where nothing is left */
    public function olderMemory(int $rows): ?array
    {
        return $this->history->older($rows);
    }

    /**
     * The rows after a sequence, each checked against the one before it, as they were written: {@see EventCodec::decode()} reads them.
     *
     * @return \Generator<array{sequence: int, at: int, type: string, version: int, body: string}> in order
     *
     * @throws JournalDamaged
     */
    public function after(int $sequence, string $hash): \Generator
    {
        try {
            do {
                $rows = $this->rows()->toBase()->where('sequence', '>', $sequence)->orderBy('sequence')->limit(self::ROWS_A_READ)->get();
                foreach ($rows as $found) {
                    $row = (array) $found;
                    if ($row['sequence'] !== ++$sequence) {
                        throw JournalDamaged::gap((int) $row['sequence']);
                    }
                    if ($row['previous_hash'] !== $hash || $row['hash'] !== JournalRow::hash($hash, $row)) {
                        throw JournalDamaged::rowChanged($sequence);
                    }
                    $hash = (string) $row['hash'];
                    yield [
                        'sequence' => $sequence, 'at' => (int) $row['at'], 'type' => (string) $row['type'],
                        'version' => (int) $row['version'], 'body' => (string) $row['body'],
                    ];
                }
            } while ($rows->count() === self::ROWS_A_READ);
        } catch (\PDOException $e) {
            throw self::damage($e);
        }
    }

    private static function damage(\PDOException $fault): \Exception
    {
        return in_array($fault->errorInfo[1] ?? 0, self::DAMAGED, true) ? JournalDamaged::unreadable($fault->getMessage()) : $fault;
    }

    /** @return string|null null where there is no such row */
    public function hashAt(int $sequence): ?string
    {
        $hash = $this->rows()->where('sequence', $sequence)->value('hash');

        return $hash === null ? null : (string) $hash;
    }

    public function lastHash(): string
    {
        return $this->lastHash;
    }

    /** The stamp of its last row, ms since 1970 UTC; 0 where it is empty. */
    public function lastAt(): int
    {
        return (int) $this->rows()->orderByDesc('sequence')->value('at');
    }

    /** The type stands in the statement: with a bound value SQLite would not use the index that has commands only. */
    public function has(int $account, string $clientId): bool
    {
        return $this->rows()->where('account', $account)->where('command_id', $clientId)->whereRaw("type = 'command'")->exists();
    }

    /** An order as it last was, however long ago it ended. */
    public function order(int $id): ?OrderRow
    {
        return OrderRow::on($this->connection)->find($id);
    }

    /**
     * What beside the chain of hashes does not fit it, in one line each: it keeps nothing from starting, and it is said.
     *
     * @return list<string>
     */
    public function whatDiffers(DeskState $state): array
    {
        $lines = array_map(
            static fn(string $row): string => "$row: found other than the journal says, expected the same; what trades follows the journal",
            ViewsCheck::of($state, $this->connection),
        );
        if ($this->lastSequence > 0 && $this->head !== null && $this->head->read() === null) {
            $lines[] = "journal.head: found none beside a journal of $this->lastSequence rows, expected the last one that was "
                .'acknowledged; whether rows are missing at the end cannot be told';
        }

        return $lines;
    }

    /** @return Builder<JournalRow> */
    private function rows(): Builder
    {
        return JournalRow::on($this->connection);
    }

    private function compareWithHead(): void
    {
        $head = $this->head?->read();
        if ($head === null || $head[0] === 0) {
            return;
        }
        if ($head[0] > $this->lastSequence) {
            throw JournalDamaged::acknowledgedMissing($head[0], $this->lastSequence);
        }
        if ($this->hashAt($head[0]) !== $head[1]) {
            throw JournalDamaged::acknowledgedOther($head[0]);
        }
    }

    /** @param list<Recorded> $events */
    private function append(array $events, int $step): void
    {
        $rows = [];
        $hash = $this->lastHash;
        foreach ($events as $recorded) {
            $rows[] = $row = JournalRow::columns($recorded, $step, $hash);
            $hash = $row['hash'];
        }
        foreach (array_chunk($rows, self::ROWS_A_STATEMENT) as $chunk) {
            $this->rows()->insert($chunk);
        }
        if ($events !== []) {
            [$this->lastHash, $this->lastSequence] = [$hash, $events[count($events) - 1]->sequence];
        }
    }
}
