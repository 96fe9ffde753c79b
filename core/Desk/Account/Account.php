<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;

/** A trading account: whose it is, its base currency with the rates that totals are shown in, and its limits. */
final readonly class Account
{
    private function __construct(
        public int $id,
        public int $owner,
        public string $name,
        public Money $balance,
        public RateTable $rates,
        public int $orderLimit,
        public int $positionLimit,
        public Money $dailyLossLimit,
        /** @var array<string, mixed> */
        public array $document,
    ) {}

    /**
     * @param array<string, mixed> $document `{"id", "owner", "name", "currency", "balance", "rates": {"USD": "0.91"},
     *                                       "order_limit", "position_limit" (lots), "daily_loss_limit"}`
     */
    public static function fromArray(array $document): self
    {
        $node = Node::of($document);
        $base = Currency::of($node->string('currency'));
        $rates = $node->raw('rates');
        /** @var array<string, string> $rates */
        $rates = is_array($rates) ? $rates : [];
        $account = new self(
            $node->int('id', 1, PHP_INT_MAX),
            $node->int('owner', 1, PHP_INT_MAX),
            $node->string('name'),
            Money::of($node->decimal('balance'), $base),
            RateTable::of($base, $rates),
            $node->int('order_limit', 1, 1_000_000),
            $node->int('position_limit', 1, 1_000_000),
            Money::of($node->decimal('daily_loss_limit'), $base),
            $document,
        );
        $node->done();

        return $account;
    }
}
