<?php

declare(strict_types=1);

namespace App\Engine\Rpc;

use App\Engine\EngineRefusal;
use App\Engine\Operation\Operation;
use App\Models\User;
use Lotrik\Refusal\Refusal;

/** Asks the engine, in the name of a user and one of the user's accounts. */
final class EngineClient
{
    private const SECONDS = 5;

    private const MAX_BYTES = 65_536;

    /** An engine that stands still does not greet: nothing waits for it longer than this. */
    private const GREETING_SECONDS = 1;

    /** No socket, or one without a process (ENOENT, ECONNREFUSED). */
    private const NOBODY_LISTENS = [2, 111];

    /** Moving a practice market on by many steps takes its time, and nobody's order waits for it. */
    private const PRACTICE_SECONDS = 60;

    private ?int $user = null;

    private int $account = 0;

    public function __construct(private readonly string $socket, private readonly string $build) {}

    public function for(User $user, int $account): self
    {
        $client = clone $this;
        $client->user = $user->id;
        $client->account = $account;

        return $client;
    }

    /**
     * @param array<array-key, mixed> $body
     * @param string                  $fingerprint of a command as it was sent
     *
     * @return array{status: int, body: array<array-key, mixed>}
     *
     * @throws Refusal           what the engine refused, with its words
     * @throws EngineUnavailable
     */
    public function call(Operation $op, array $body = [], string $fingerprint = ''): array
    {
        $stream = @stream_socket_client('unix://'.$this->socket, $code, $message, self::GREETING_SECONDS);
        if ($stream === false) {
            throw EngineUnavailable::away(isGone: in_array($code, self::NOBODY_LISTENS, true));
        }
        stream_set_timeout($stream, self::GREETING_SECONDS);
        try {
            $greeting = json_decode((string) fgets($stream), true);
            if (! is_array($greeting)) {
                throw EngineUnavailable::away();
            }
            if (($greeting['build'] ?? null) !== $this->build) {
                throw EngineUnavailable::otherBuild();
            }
            $call = json_encode([
                'v' => 1, 'id' => bin2hex(random_bytes(6)), 'op' => $op->value,
                'actor' => ['user' => $this->user, 'account' => $this->account],
                'deadline' => microtime(true) + self::SECONDS, 'body' => (object) $body, 'fingerprint' => $fingerprint,
            ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION)."\n";
            if (strlen($call) > self::MAX_BYTES) {
                throw EngineRefusal::commandTooLarge(self::MAX_BYTES);
            }
            stream_set_timeout($stream, $op === Operation::Practice ? self::PRACTICE_SECONDS : self::SECONDS);
            fwrite($stream, $call);
            $line = fgets($stream);
        } finally {
            fclose($stream);
        }
        $reply = is_string($line) ? json_decode($line, true) : null;
        if (! is_array($reply)) {
            throw EngineUnavailable::outcomeUnknown();
        }
        if (($reply['ok'] ?? false) !== true) {
            throw Refusal::fromArray($reply['problem']);
        }

        return ['status' => $reply['status'], 'body' => $reply['body']];
    }
}
