<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use Illuminate\Contracts\Events\Dispatcher;
use Illuminate\Database\Connection;
use Illuminate\Database\SQLiteConnection;

/**
 * The connection that the engine writes over. The same ten statements come with every turn, and an order waits for them:
 * they are spelled out and prepared once, and nobody listens to them.
 */
final class EngineConnection extends SQLiteConnection
{
    public const NAME = 'engine';

    private const MAX_STATEMENTS = 200;

    /** @var array<string, \PDOStatement> by SQL */
    private array $prepared = [];

    /** Makes the connection of this name one of these, here and in tests without the application. */
    public static function register(): void
    {
        Connection::resolverFor('sqlite', static fn(
            mixed $pdo,
            string $database,
            string $prefix,
            array $config,
        ): SQLiteConnection => ($config['name'] ?? '') === self::NAME
            ? new self($pdo, $database, $prefix, $config)
            : new SQLiteConnection($pdo, $database, $prefix, $config));
    }

    /**
     * @param string       $query
     * @param array<mixed> $bindings
     */
    public function statement($query, $bindings = []): bool
    {
        return $this->affectingStatement($query, $bindings) >= 0;
    }

    /**
     * @param string       $query
     * @param array<mixed> $bindings
     */
    public function affectingStatement($query, $bindings = []): int
    {
        return $this->run($query, $bindings, function (string $query, array $bindings): int {
            if (count($this->prepared) > self::MAX_STATEMENTS) {
                $this->prepared = [];
            }
            $statement = $this->prepared[$query] ??= $this->getPdo()->prepare($query);
            $this->bindValues($statement, $this->prepareBindings($bindings));
            $statement->execute();

            return $statement->rowCount();
        });
    }

    public function disconnect(): void
    {
        $this->prepared = [];
        parent::disconnect();
    }

    public function setEventDispatcher(Dispatcher $events): static
    {
        return $this;
    }

    public function setTransactionManager(mixed $manager): static
    {
        return $this;
    }

    protected function getDefaultQueryGrammar(): StatementMemory
    {
        return new StatementMemory($this);
    }
}
