<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Quote;
use Lotrik\Order\Side;

/** Something that may raise what can be open or lost in a contract, as it is now and as it would be: what the rules are asked about. */
final readonly class Proposal
{
    /**
     * @param AccountPosition $holding what the account has, or would have by then
     * @param int             $at      ms since 1970 UTC
     * @param list<Ticket>    $orders  that are sent, or released, with it
     * @param list<Level>     $levels  at which something would rest, or be set off
     * @param DeskOrder|null  $changed an order that works, as it is
     * @param Ticket|null     $to      what it would be
     * @param int|null        $stopsTo where stops would go that are moved, in ticks
     * @param string          $pointer to the field that asks for it
     * @param int             $sent    entries that the same command has sent before
     */
    public function __construct(
        public Account $account,
        public Contract $contract,
        public AccountPosition $holding,
        public Quote $quote,
        public int $at,
        public Exposure $before,
        public Exposure $after,
        public array $orders = [],
        public array $levels = [],
        public ?DeskOrder $changed = null,
        public ?Ticket $to = null,
        public ?int $stopsTo = null,
        public string $pointer = '/quantity',
        public int $sent = 0,
        public bool $isRelease = false,
    ) {}

    /** Whether more may come to be open by it: an order that may open, or one that reaches farther. */
    public function opens(): bool
    {
        return $this->entries() !== [] || $this->reachesFarther();
    }

    /** The same of what goes to the venue now: an order that is held is judged when it is released. */
    public function opensNow(): bool
    {
        return $this->entries() === []
            ? $this->reachesFarther()
            : array_filter($this->entries(), static fn(Ticket $of): bool => $of->request->releaseWhen === null) !== [];
    }

    /** @return list<Ticket> of the orders that are sent, those that may open */
    public function entries(): array
    {
        return array_values(array_filter($this->orders, static fn(Ticket $of): bool => $of->mayOpen()));
    }

    public function reachesFarther(): bool
    {
        [$before, $after] = [$this->before->reach(), $this->after->reach()];

        return $after->on(Side::Buy) > $before->on(Side::Buy) || $after->on(Side::Sell) > $before->on(Side::Sell);
    }

    /** How many open lots would have no stop any more. */
    public function unprotects(): int
    {
        return max(0, $this->after->bare() - $this->before->bare());
    }
}
