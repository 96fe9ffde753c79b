<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use App\Engine\EngineRefusal;
use App\Engine\View\Time;
use Lotrik\Refusal\Refusal;

/** Tickets that open one stream each, within 30 seconds; kept in memory, so a restart forgets them. */
final class Tickets
{
    private const SECONDS = 30;

    /** A request that began before its session was signed out is over by then. */
    private const REMEMBERED_SECONDS = 3600;

    /** Open tickets of one user; the oldest gives way. */
    private const MAX_OF_USER = 64;

    /** @var array<string, array{user: int, account: int, session: string, until: float}> */
    private array $open = [];

    /** @var array<string, float> sessions that were signed out, and until when that is remembered */
    private array $over = [];

    /** @var list<callable(int, string): void> */
    private array $onRevoke = [];

    /** @param \Closure(): float $now wall time in seconds */
    public function __construct(private readonly string $url, private readonly \Closure $now) {}

    /**
     * @return array{ticket: string, url: string, expires_at: string}
     *
     * @throws Refusal `unauthenticated` where the session has been signed out while the request was on its way
     */
    public function issue(int $user, int $account, string $session): array
    {
        $now = ($this->now)();
        if (($this->over["$user $session"] ?? 0) > $now) {
            throw EngineRefusal::signedOut();
        }
        $this->open = array_filter($this->open, static fn(array $t): bool => $t['until'] > $now);
        $own = array_keys(array_filter($this->open, static fn(array $t): bool => $t['user'] === $user));
        if (count($own) >= self::MAX_OF_USER) {
            unset($this->open[$own[0]]);
        }
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
        $now = ($this->now)();
        $this->over = array_filter($this->over, static fn(float $until): bool => $until > $now);
        if ($session !== '') {
            $this->over["$user $session"] = $now + self::REMEMBERED_SECONDS;
        }
        $this->open = array_filter(
            $this->open,
            static fn(array $t): bool => $t['user'] !== $user || ($session !== '' && $t['session'] !== $session),
        );
        foreach ($this->onRevoke as $close) {
            $close($user, $session);
        }

        return ['revoked' => true];
    }
}
