<?php

declare(strict_types=1);

namespace App\Engine\Stream;

/** Brings encoded stream events to whoever is to get them. */
interface Fanout
{
    /** Own events of one commit: never merged or dropped, kept for those who come back. */
    public function own(int $account, int $sequence, string $frames): void;

    /**
     * Public market data: dropped for a stream that is behind, which later gets a full picture instead.
     *
     * @param string|null $together the same for those that take trades together; null where it is the same
     */
    public function market(string $contract, string $frames, ?string $together = null): void;

    /** Merged figures of one account: dropped for a stream that is behind. */
    public function mark(int $account, string $frame): void;

    public function all(string $frame): void;

    public function isWatched(string $contract): bool;

    /** Whether somebody takes its trades one by one, or together. */
    public function takesTrades(string $contract, bool $together): bool;

    /** What came up to a sequence could not be told: all streams are closed, and each page asks anew for how things are. */
    public function startAnew(int $sequence): void;

    /** @return list<int> accounts that somebody is looking at */
    public function accounts(): array;
}
