<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use React\Socket\ConnectionInterface;

/**
 * One open stream. While the network is behind, own events wait, up to a bound of its own and one of all streams
 * together; market data is dropped.
 */
final class Subscriber
{
    private const MAX_WAITING = 1_048_576;

    public bool $behind = false;

    /** bytes written since the network was last seen to have taken all */
    private int $waiting = 0;

    /**
     * @param array<string, true> $contracts
     * @param bool                $together  trades of a contract come as one event
     */
    public function __construct(
        private readonly ConnectionInterface $connection,
        private readonly WaitingBytes $budget,
        public readonly int $user,
        public readonly int $account,
        public readonly string $session,
        public readonly array $contracts,
        public readonly bool $together = false,
    ) {}

    /** Own events are always written; a stream that has too many waiting is closed and its client resumes. */
    public function send(string $frames): void
    {
        if ($this->behind && ($this->waiting + strlen($frames) > self::MAX_WAITING || $this->budget->isExceeded())) {
            $this->close();

            return;
        }
        $this->write($frames);
    }

    /** Dropped while the stream is behind. */
    public function offer(string $frames): void
    {
        if (! $this->behind) {
            $this->write($frames);
        }
    }

    public function caughtUp(): void
    {
        $this->behind = false;
        $this->release();
    }

    public function close(): void
    {
        $this->release();
        $this->connection->close();
    }

    /** Its connection is gone, and with it what waited. */
    public function release(): void
    {
        $this->budget->release($this->waiting);
        $this->waiting = 0;
    }

    private function write(string $frames): void
    {
        $this->behind = ! $this->connection->write($frames);
        if ($this->behind) {
            $this->waiting += strlen($frames);
            $this->budget->add(strlen($frames));
        }
    }
}
