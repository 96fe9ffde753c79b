<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use App\Engine\View\Time;

/** Tickets that open one stream each, within 30 seconds; kept in memory, so a restart forgets them. */
final class Tickets
{
    private const SECONDS = 30;

    /** @var array<string, array{user: int, account: int, session: string, until: float}> */
    private array $open = [];

    /** @var list<callable(int, string): void> */
    private array $onRevoke = [];

    /** @param \Closure(): float $now wall time in seconds */
    public function __construct(private readonly string $url, private readonly \Closure $now) {}

    /** @return array{ticket: string, url: string, expires_at: string} */
    public function issue(int $user, int $account, string $session): array
    {
        $now = ($this->now)();
        $this->open = array_filter($this->open, static fn(array $t): bool => $t['until'] > $now);
        $ticket = bin2hex(random_bytes(24));
        $this->open[$ticket] = ['user' => $user, 'account' => $account, 'session' => $session, 'until' => $now + self::SECONDS];

        return ['ticket' => $ticket, 'url' => $this->url, 'expires_at' => Time::iso((int) (($now + self::SECONDS) * 1000))];
    }

    /** @return array{user: int, account: int, session: string, until: float}|null null where it is unknown, used or late */
    public function redeem(string $ticket): ?array
    {
        $found = $this->open[$ticket] ?? null;
        unset($this->open[$ticket]);

        return $found !== null && $found['until'] > ($this->now)() ? $found : null;
    }

    /** @param callable(int, string): void $close gets the user and the session ('' for all of the user's) */
    public function onRevoke(callable $close): void
    {
        $this->onRevoke[] = $close;
    }

    /** @return array{revoked: true} */
    public function revoke(int $user, string $session): array
    {
        $this->open = array_filter($this->open, static fn(array $t): bool => $t['user'] !== $user || ($session !== '' && $t['session'] !== $session));
        foreach ($this->onRevoke as $close) {
            $close($user, $session);
        }

        return ['revoked' => true];
    }
}
