<?php

declare(strict_types=1);

namespace App\Engine\Stream;

/**
 * The last own events of each account, for streams that come back. Bounded by bytes, for an account and in all: where an
 * account has none left, its streams begin with the whole state.
 */
final class RecentFrames
{
    private const MAX_OF_ACCOUNT = 262_144;

    private const MAX_IN_ALL = 33_554_432;

    /** @var array<int, list<array{int, string}>> account → sequence and frames, oldest first; the account heard of longest ago first */
    private array $frames = [];

    /** @var array<int, int> account → bytes of its frames */
    private array $bytes = [];

    private int $inAll = 0;

    /** @var array<int, int> account → sequence before its first frame, where some were dropped */
    private array $after = [];

    /** @param int $startedAt sequence before which nothing is known */
    public function __construct(private int $startedAt) {}

    public function add(int $account, int $sequence, string $frames): void
    {
        $own = $this->frames[$account] ?? [];
        unset($this->frames[$account]);
        $own[] = [$sequence, $frames];
        $this->bytes[$account] = ($this->bytes[$account] ?? 0) + strlen($frames);
        $this->inAll += strlen($frames);
        $drop = 0;
        while ($this->bytes[$account] > self::MAX_OF_ACCOUNT && $drop < count($own) - 1) {
            $this->bytes[$account] -= strlen($own[$drop][1]);
            $this->inAll -= strlen($own[$drop][1]);
            $this->after[$account] = $own[$drop][0];
            $drop++;
        }
        $this->frames[$account] = $drop === 0 ? $own : array_slice($own, $drop);
        while ($this->inAll > self::MAX_IN_ALL && count($this->frames) > 1) {
            $this->forget((int) array_key_first($this->frames));
        }
    }

    /** @return string|null all own events after a sequence; null where they are no longer all at hand */
    public function after(int $account, int $sequence): ?string
    {
        if ($sequence < ($this->after[$account] ?? $this->startedAt)) {
            return null;
        }

        return implode('', array_map(static fn(array $of): string => $of[0] > $sequence ? $of[1] : '', $this->frames[$account] ?? []));
    }

    public function bytes(): int
    {
        return $this->inAll;
    }

    /** What an account has is gone: whoever comes back to it begins anew. */
    private function forget(int $account): void
    {
        $own = $this->frames[$account];
        $this->after[$account] = $own[count($own) - 1][0];
        $this->inAll -= $this->bytes[$account];
        unset($this->frames[$account], $this->bytes[$account]);
    }
}
