<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Engine\Operation\Operation;

/** One call to the engine, as it came over the socket. */
final readonly class Request
{
    /**
     * @param int|null             $user     who asks; null is the machine's own operator on the console
     * @param float                $deadline wall time, seconds; past it the request is dropped
     * @param array<string, mixed> $body
     */
    private function __construct(
        public string $id,
        public Operation $op,
        public ?int $user,
        public int $account,
        public float $deadline,
        public array $body,
        public string $fingerprint,
    ) {}

    /** @throws \UnexpectedValueException */
    public static function parse(string $line): self
    {
        $call = json_decode($line, true);
        if (
            ! is_array($call)
            || ($call['v'] ?? null) !== 1
            || ! is_string($call['op'] ?? null)
            || ! is_array($call['body'] ?? null)
            || ! is_array($call['actor'] ?? null)
        ) {
            throw new \UnexpectedValueException('a call is one line {"v":1,"id","op","actor":{"user","account"},"deadline","body"}');
        }
        $op = Operation::tryFrom($call['op']) ?? throw new \UnexpectedValueException("the engine knows no operation \"{$call['op']}\"");
        /** @var array<string, mixed> $body */
        $body = $call['body'];
        $user = $call['actor']['user'] ?? null;
        $account = $call['actor']['account'] ?? null;
        $text = static fn(string $field): string => is_string($call[$field] ?? null) ? $call[$field] : '';

        return new self(
            $text('id'), $op, is_int($user) ? $user : null, is_int($account) ? $account : 0,
            is_numeric($call['deadline'] ?? null) ? (float) $call['deadline'] : 0.0, $body, $text('fingerprint'),
        );
    }
}
