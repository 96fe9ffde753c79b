<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

/** What has come upon one account since it was opened; its document is {@see Account}. Times in ms since 1970 UTC. */
final class AccountBook
{
    /** It is only read from now on. */
    public bool $isClosed = false;

    public int $barredUntil = 0;

    /** The limit that it was last barred for, in words. */
    public string $barredFor = '';

    /** @var array{array<string, mixed>, int}|null limits that will be in force, and from when */
    public ?array $limitsNext = null;

    /** @var array{int, string} until when a limit keeps it from new entries, and which one */
    public array $entriesStopped = [0, ''];

    /** @var array{int, int} begin of its trading day, and how many trades were lost in a row up to now in it */
    public array $losses = [0, 0];

    /** @var array<string, array{int, int}> limit → begin of the day, and the percentage that was told last */
    public array $neared = [];

    /** @var array<string, array{int, int}> contract → the close that was told of last, and how many minutes before it */
    public array $closeTold = [];

    /** @var list<int> when its newest entries were sent, oldest first */
    public array $entriesSent = [];

    public DayTally $day;

    /** All that it has made and paid. */
    public DayTally $made;

    /** Ticks from which on the market counts as near to its levels; null until it has marked any. */
    public ?int $levelsWithin = null;

    public function __construct()
    {
        $this->day = new DayTally();
        $this->made = new DayTally();
    }

    public function isBarred(int $at): bool
    {
        return $at < $this->barredUntil;
    }
}
