<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Engine\View\ContractView;
use App\Engine\View\FillView;
use App\Engine\View\OrderView;
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
 */
final class Journal
{
    private const FIRST_HASH = '0000000000000000000000000000000000000000000000000000000000000000';

    /** @var array<string, \PDOStatement> */
    private array $statements = [];

    private string $lastHash;

    public function __construct(private readonly \PDO $pdo)
    {
        $pdo->setAttribute(\PDO::ATTR_ERRMODE, \PDO::ERRMODE_EXCEPTION);
        $pdo->exec('PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA busy_timeout=5000;');
        $hash = $pdo->query('SELECT hash FROM journal ORDER BY sequence DESC LIMIT 1')->fetchColumn();
        $this->lastHash = is_string($hash) ? $hash : self::FIRST_HASH;
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
            foreach ($recorded->orders() as $id) {
                $touched[$id] = true;
            }
        }
        foreach (array_keys($touched) as $id) {
            $order = $state->order($id);
            $this->run('REPLACE INTO orders (id, account, contract, state, working, body) VALUES (?, ?, ?, ?, ?, ?)', [
                $order->id, $order->account, $order->contract, $order->state->value, $order->state->isFinal() ? 0 : 1,
                self::json(OrderView::of($order, $state, $ahead($id))),
            ]);
        }
        foreach ($checkpoints as $name => $checkpoint) {
            $this->run('REPLACE INTO checkpoints (name, sequence, build, body) VALUES (?, ?, ?, ?)', [$name, $checkpoint['sequence'], $build, $checkpoint['body']]);
        }
        foreach ($memory as $contract => $pieces) {
            foreach ($pieces as $piece) {
                $this->remember($contract, $piece);
            }
        }
        $this->pdo->commit();
        KillPoint::reached('after-commit');
    }

    /** @return array{sequence: int, build: string, body: string}|null */
    public function checkpoint(string $name): ?array
    {
        $row = $this->run('SELECT sequence, build, body FROM checkpoints WHERE name = ?', [$name])->fetch(\PDO::FETCH_ASSOC);

        return $row === false ? null : $row;
    }

    /** @return \Generator<MemoryPiece> of a contract, those of one kind in the order in which they were made */
    public function memory(string $contract): \Generator
    {
        $rows = $this->pdo->prepare('SELECT kind, number, body FROM market_memory WHERE contract = ? ORDER BY kind, number');
        $rows->execute([$contract]);
        while ($row = $rows->fetch(\PDO::FETCH_ASSOC)) {
            yield new MemoryPiece($row['kind'], (int) $row['number'], $row['body'], 0);
        }
    }

    /** @return \Generator<array{sequence: int, at: int, event: \Lotrik\Desk\Event\Event}> in order */
    public function after(int $sequence): \Generator
    {
        $rows = $this->pdo->prepare('SELECT sequence, at, type, version, body FROM journal WHERE sequence > ? ORDER BY sequence');
        $rows->execute([$sequence]);
        while ($row = $rows->fetch(\PDO::FETCH_ASSOC)) {
            yield ['sequence' => (int) $row['sequence'], 'at' => (int) $row['at'], 'event' => EventCodec::decode($row['type'], (int) $row['version'], $row['body'])];
        }
    }

    private function remember(string $contract, MemoryPiece $piece): void
    {
        $statement = $this->statement('INSERT INTO market_memory (contract, kind, number, body) VALUES (?, ?, ?, ?)');
        foreach ([$contract, $piece->kind, $piece->number] as $i => $value) {
            $statement->bindValue($i + 1, $value, is_int($value) ? \PDO::PARAM_INT : \PDO::PARAM_STR);
        }
        $statement->bindValue(4, $piece->body, \PDO::PARAM_LOB);
        $statement->execute();
        if ($piece->least <= 0) {
            return;
        }
        $forget = $this->statement('DELETE FROM market_memory WHERE contract = ? AND kind = ? AND number <= ?');
        $forget->bindValue(1, $contract);
        $forget->bindValue(2, $piece->kind);
        $forget->bindValue(3, $piece->least, \PDO::PARAM_INT);
        $forget->execute();
    }

    private function append(Recorded $recorded, int $step): void
    {
        $fields = [
            $recorded->sequence, $recorded->at, $step, $recorded->account, $recorded->contract, EventCodec::type($recorded->event),
            EventCodec::VERSION, $recorded->commandId, $recorded->words, EventCodec::encode($recorded->event),
        ];
        $hash = hash('sha256', $this->lastHash."\n".self::json($fields));
        $this->run(
            'INSERT INTO journal (sequence, at, step, account, contract, type, version, command_id, words, body, previous_hash, hash) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
            [...$fields, $this->lastHash, $hash],
        );
        $this->lastHash = $hash;
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
