<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** The rates that an account's totals are shown through, all of them. */
final readonly class RatesSet implements Event
{
    public const TYPE = 'rates-set';

    /** @param array<string, string> $rates currency code → exact rate to the base currency */
    public function __construct(public int $account, public array $rates) {}
}
