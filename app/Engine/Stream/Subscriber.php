<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use React\Socket\ConnectionInterface;

/** One open stream. While the network is behind, own events wait (up to a bound) and market data is dropped. */
final class Subscriber
{
    private const MOST_WAITING = 1_048_576;

    public bool $behind = false;

    private int $waiting = 0;

    /** @param array<string, true> $contracts */
    public function __construct(
        private readonly ConnectionInterface $connection,
        public readonly int $user,
        public readonly int $account,
        public readonly string $session,
        public readonly array $contracts,
    ) {}

    /** Own events are always written; a stream that has too many waiting is closed and its client resumes. */
    public function send(string $frames): void
    {
        if ($this->behind) {
            $this->waiting += strlen($frames);
            if ($this->waiting > self::MOST_WAITING) {
                $this->close();

                return;
            }
        }
        $this->behind = ! $this->connection->write($frames) || $this->behind;
    }

    /** Dropped while the stream is behind. */
    public function offer(string $frames): void
    {
        if (! $this->behind) {
            $this->behind = ! $this->connection->write($frames);
        }
    }

    public function caughtUp(): void
    {
        $this->behind = false;
        $this->waiting = 0;
    }

    public function close(): void
    {
        $this->connection->close();
    }
}
