<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** A trader's account exists from here on; the document is that of \Lotrik\Desk\Account\Account. */
final readonly class AccountOpened implements Event
{
    public const TYPE = 'account-opened';

    public function __construct(
        public int $account,
        /** @var array<string, mixed> */ public array $document,
        /** @var array{int, string, string}|null until when it is barred, ms since 1970 UTC, why, and the limit */ public ?array $barred = null,
        /** @var array{int, string}|null until when nothing is entered, ms since 1970 UTC, and why */ public ?array $stopped = null,
        /** @var array{int, int}|null begin of its day, ms since 1970 UTC, and trades that its owner has lost in a row in it */ public ?array $losses = null,
    ) {}
}
