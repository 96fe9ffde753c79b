<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Models\AccountRow;
use App\Models\ContractRow;
use App\Models\FillRow;
use App\Models\OrderRow;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Account\AccountClosed;
use Lotrik\Desk\Event\Account\AccountOpened;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Account\RatesSet;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Event\Venue\ContractListed;

/** The tables that are views of the journal: rows of accounts, contracts, orders and fills, gathered and then written together. */
final class JournalViews
{
    /** SQLite binds at most 32,766 values in a statement; a row has up to forty. */
    private const ROWS_A_STATEMENT = 500;

    /** @var array<int, array<string, mixed>> by id */
    private array $accounts = [];

    /** @var list<array<string, mixed>> */
    private array $contracts = [];

    /** @var array<int, array<string, mixed>> by id: as each last stood */
    private array $orders = [];

    /** @var list<array<string, mixed>> */
    private array $fills = [];

    /** @param string $connection that may write */
    public function __construct(private readonly string $connection) {}

    /**
     * @param list<Recorded>      $events
     * @param DeskState           $state  right after them
     * @param callable(int): ?int $ahead  lots ahead of an order in its queue
     */
    public function add(array $events, DeskState $state, callable $ahead): void
    {
        $changed = [];
        foreach ($events as $recorded) {
            foreach ($recorded->orders as $order) {
                $changed[$order->id] = $order;
            }
            $event = $recorded->event;
            if ($event instanceof OrderFilled) {
                $this->fills[] = FillRow::columns($recorded, $event, $state);
            } elseif ($event instanceof AccountOpened || $event instanceof AccountClosed || $event instanceof RatesSet
                || $event instanceof LimitsSet) {
                $account = $state->accounts[$event->account];
                $this->accounts[$account->id] = AccountRow::columns($account, $state->isClosed($account->id));
            } elseif ($event instanceof ContractListed) {
                $place = (int) array_search($event->contract, array_keys($state->contracts), true);
                $this->contracts[] = ContractRow::columns($state->contracts[$event->contract], $place);
            }
        }
        foreach ($changed as $order) {
            $this->orders[$order->id] = OrderRow::columns($order, $state, $ahead($order->id));
        }
    }

    /** Within a transaction. */
    public function write(): void
    {
        AccountRow::on($this->connection)->upsert(array_values($this->accounts), ['id']);
        ContractRow::on($this->connection)->upsert($this->contracts, ['code']);
        foreach (array_chunk($this->fills, self::ROWS_A_STATEMENT) as $chunk) {
            FillRow::on($this->connection)->insert($chunk);
        }
        foreach (array_chunk(array_values($this->orders), self::ROWS_A_STATEMENT) as $chunk) {
            OrderRow::on($this->connection)->upsert($chunk, ['id'], OrderRow::CHANGING);
        }
    }
}
