<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;
use Lotrik\Risk\Limits\ContractLimits;
use Lotrik\Risk\Limits\Limits;

/** A trading account: whose it is, its base currency with the rates that totals are shown in, and its limits. */
final readonly class Account
{
    private function __construct(
        public int $id,
        public int $owner,
        public string $name,
        /** What it was opened with: what it is worth now is {@see Balance}. */
        public Money $opening,
        public RateTable $rates,
        public Limits $limits,
        /** @var array<string, mixed> */
        public array $document,
    ) {}

    /**
     * @param array<string, mixed> $document `{"id", "owner", "name", "currency", "balance", "rates": {"USD": "0.91"},
     *                                       "order_limit", "position_limit" (lots), "daily_loss_limit"}`: what it was opened
     *                                       with; once limits have been set, "limits" as {@see Limits} and "day_since"
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
            self::limits($node, $base),
            $document,
        );
        $node->done();

        return $account;
    }

    private static function limits(Node $node, Currency $base): Limits
    {
        $first = Limits::plain(
            $node->int('order_limit', 1, ContractLimits::MOST),
            $node->int('position_limit', 1, ContractLimits::MOST),
            Money::of($node->decimal('daily_loss_limit'), $base),
        );
        $limits = $node->raw('limits');
        $since = $node->optionalInt('day_since', 0, PHP_INT_MAX);

        return is_array($limits) ? Limits::fromArray($limits, $base, $since) : $first;
    }
}
