<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** A trader's account exists from here on; the document is that of \Lotrik\Desk\Account\Account. */
final readonly class AccountOpened implements Event
{
    public const TYPE = 'account-opened';

    public function __construct(
        public int $account,
        /** @var array<string, mixed> */ public array $document,
    ) {}
}
