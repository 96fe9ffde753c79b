<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Engine\View\ContractView;
use App\Engine\View\FillView;
use App\Engine\View\OrderView;
use Lotrik\Desk\CommandArchive;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\AccountOpened;
use Lotrik\Desk\Event\ContractListed;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Desk\Recorded;
use Lotrik\Watching\MemoryPiece;

/**
 * The append-only journal: written with prepared statements, in one transaction a turn with the tables that are its
 * views and the checkpoints that belong to it. What has been committed survives a kill (WAL, synchronous=FULL).
 *
 * No statement is left open behind a read: SQLite could then never bring its write-ahead log back into the database.
 */
final class Journal implements CommandArchive
{
    public const FIRST_HASH = '0000000000000000000000000000000000000000000000000000000000000000';

    /** What SQLite says of a file that is no database, or a broken one (SQLITE_CORRUPT, SQLITE_NOTADB). */
    private const DAMAGED = [11, 26];

    /** After a checkpoint of SQLite's own the write-ahead log is cut back to this. */
    private const WAL_BYTES = 8_388_608;

    /** Commits after which the write-ahead log is brought into the database: some 250 pages, so that it takes 1 to 5 ms. */
    private const LOG_COMMITS = 16;

    /** @var array<string, \PDOStatement> */
    private array $statements = [];

    private int $commitsInLog = 0;

    private string $lastHash;

    private int $lastSequence;

    private readonly MarketHistory $history;

    /** @throws JournalDamaged where what was acknowledged is not there */
    public function __construct(private readonly \PDO $pdo, private readonly ?Head $head = null)
    {
        try {
            $pdo->setAttribute(\PDO::ATTR_ERRMODE, \PDO::ERRMODE_EXCEPTION);
            $pdo->exec('PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA busy_timeout=5000; PRAGMA journal_size_limit='.self::WAL_BYTES.';');
            // Whether it can be written shows now, and not at somebody's first order.
            $pdo->exec('BEGIN IMMEDIATE; PRAGMA user_version=0; ROLLBACK;');
            $last = $this->row('SELECT sequence, hash FROM journal ORDER BY sequence DESC LIMIT 1', []);
            [$this->lastSequence, $this->lastHash] = $last === null ? [0, self::FIRST_HASH] : [(int) $last['sequence'], (string) $last['hash']];
            $this->compareWithHead();
            $this->history = new MarketHistory($pdo);
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
    public function commit(array $events, DeskState $state, int $step, callable $ahead, array $checkpoints, array $memory, string $build): void
    {
        KillPoint::reached('before-write');
        $this->pdo->beginTransaction();
        $touched = [];
        foreach ($events as $recorded) {
            $this->append($recorded, $step);
            $this->view($recorded, $state);
            foreach ($recorded->orders as $order) {
                $touched[$order->id] = $order;
            }
        }
        foreach ($touched as $order) {
            $this->run('REPLACE INTO orders (id, account, contract, state, working, body) VALUES (?, ?, ?, ?, ?, ?)', [
                $order->id, $order->account, $order->contract, $order->state->value, $order->state->isFinal() ? 0 : 1,
                self::json(OrderView::of($order, $state, $ahead($order->id))),
            ]);
        }
        foreach ($checkpoints as $name => $checkpoint) {
            $this->saveCheckpoint($name, $checkpoint['sequence'], $checkpoint['body'], $build);
        }
        $this->history->save($memory);
        $this->pdo->commit();
        $this->commitsInLog++;
        KillPoint::reached('after-commit');
        if ($events !== []) {
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
        $this->row('PRAGMA wal_checkpoint(PASSIVE)', []);
    }

    /** @return array{sequence: int, build: string, body: string}|null */
    public function checkpoint(string $name): ?array
    {
        $row = $this->row('SELECT sequence, build, body FROM checkpoints WHERE name = ?', [$name]);

        return $row === null ? null : ['sequence' => (int) $row['sequence'], 'build' => (string) $row['build'], 'body' => (string) $row['body']];
    }

    /** @return \Generator<string, MemoryPiece> contract → piece: what the markets go on with, those of one kind in the order in which they were made */
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
            $rows = $this->pdo->prepare('SELECT * FROM journal WHERE sequence > ? ORDER BY sequence');
            $rows->execute([$sequence]);
            while ($row = $rows->fetch(\PDO::FETCH_ASSOC)) {
                if ((int) $row['sequence'] !== ++$sequence) {
                    throw JournalDamaged::gap((int) $row['sequence']);
                }
                $next = self::hash($hash, [
                    $sequence, (int) $row['at'], (int) $row['step'], $row['account'], $row['contract'], $row['type'], (int) $row['version'], $row['command_id'], $row['words'], $row['body'],
                ]);
                if ($row['previous_hash'] !== $hash || $row['hash'] !== $next) {
                    throw JournalDamaged::rowChanged($sequence);
                }
                $hash = $next;
                yield ['sequence' => $sequence, 'at' => (int) $row['at'], 'type' => (string) $row['type'], 'version' => (int) $row['version'], 'body' => (string) $row['body']];
            }
            $rows->closeCursor();
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
        $row = $this->row('SELECT hash FROM journal WHERE sequence = ?', [$sequence]);

        return $row === null ? null : (string) $row['hash'];
    }

    public function lastHash(): string
    {
        return $this->lastHash;
    }

    /** The stamp of its last row, ms since 1970 UTC; 0 where it is empty. */
    public function lastAt(): int
    {
        return (int) ($this->row('SELECT at FROM journal ORDER BY sequence DESC LIMIT 1', [])['at'] ?? 0);
    }

    public function has(int $account, string $clientId): bool
    {
        return $this->row("SELECT 1 AS found FROM journal WHERE account = ? AND command_id = ? AND type = 'command' LIMIT 1", [$account, $clientId]) !== null;
    }

    /** @return array<string, mixed>|null an order as it last was, however long ago it ended */
    public function order(int $id): ?array
    {
        $row = $this->row('SELECT body FROM orders WHERE id = ?', [$id]);
        $order = $row === null ? null : json_decode((string) $row['body'], true);

        return is_array($order) ? $order : null;
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

    private function saveCheckpoint(string $name, int $sequence, string $body, string $build): void
    {
        $statement = $this->statement('REPLACE INTO checkpoints (name, sequence, build, body) VALUES (?, ?, ?, ?)');
        $statement->bindValue(1, $name);
        $statement->bindValue(2, $sequence, \PDO::PARAM_INT);
        $statement->bindValue(3, $build);
        $statement->bindValue(4, $body, \PDO::PARAM_LOB);
        $statement->execute();
    }

    private function append(Recorded $recorded, int $step): void
    {
        $fields = [
            $recorded->sequence, $recorded->at, $step, $recorded->account, $recorded->contract, EventCodec::type($recorded->event),
            EventCodec::version($recorded->event), $recorded->commandId, $recorded->words, EventCodec::encode($recorded->event),
        ];
        $hash = self::hash($this->lastHash, $fields);
        $this->run(
            'INSERT INTO journal (sequence, at, step, account, contract, type, version, command_id, words, body, previous_hash, hash) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
            [...$fields, $this->lastHash, $hash],
        );
        $this->lastHash = $hash;
        $this->lastSequence = $recorded->sequence;
    }

    /** @param list<int|string|null> $fields of a row, as the table has them */
    private static function hash(string $before, array $fields): string
    {
        return hash('sha256', $before."\n".self::json($fields));
    }

    private function view(Recorded $recorded, DeskState $state): void
    {
        $event = $recorded->event;
        if ($event instanceof OrderFilled) {
            $fill = FillView::of($recorded, $event, $state);
            $this->run('INSERT INTO fills (id, account, contract, body) VALUES (?, ?, ?, ?)', [$fill['id'], $fill['account'], $fill['contract'], self::json($fill)]);
        } elseif ($event instanceof AccountOpened) {
            $body = $event->document;
            unset($body['owner']);
            $this->run('REPLACE INTO accounts (id, owner, body) VALUES (?, ?, ?)', [$event->account, $event->document['owner'], self::json($body)]);
        } elseif ($event instanceof ContractListed) {
            $this->run('REPLACE INTO contracts (code, position, body) VALUES (?, ?, ?)', [
                $event->contract, (int) array_search($event->contract, array_keys($state->contracts), true), self::json(ContractView::of($state->contracts[$event->contract])),
            ]);
        }
    }

    /**
     * The first row, with the statement closed behind it.
     *
     * @param list<mixed> $values
     *
     * @return array<string, mixed>|null
     */
    private function row(string $sql, array $values): ?array
    {
        $statement = $this->run($sql, $values);
        $row = $statement->fetch(\PDO::FETCH_ASSOC);
        $statement->closeCursor();

        return is_array($row) ? $row : null;
    }

    /** @param list<mixed> $values */
    private function run(string $sql, array $values): \PDOStatement
    {
        $statement = $this->statement($sql);
        $statement->execute($values);

        return $statement;
    }

    private function statement(string $sql): \PDOStatement
    {
        return $this->statements[$sql] ??= $this->pdo->prepare($sql);
    }

    private static function json(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}
