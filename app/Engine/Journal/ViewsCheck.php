<?php

declare(strict_types=1);

namespace App\Engine\Journal;

use App\Models\AccountRow;
use App\Models\FillRow;
use App\Models\OrderRow;
use Lotrik\Desk\DeskState;

/**
 * Whether the tables that the web reads say what the journal says, as far as the desk has it at hand: accounts, orders that work or
 * ended lately, and what filled of them. What trades follows the journal in any case.
 */
final class ViewsCheck
{
    private const ROWS_A_READ = 500;

    /** Columns of an order that only an event changes. */
    private const OF_ORDERS = ['account_id', 'contract_code', 'side', 'kind', 'quantity', 'filled', 'cost', 'price', 'trigger', 'state'];

    private const OF_ACCOUNTS = [
        'owner_id', 'name', 'currency', 'balance', 'rates', 'order_limit', 'position_limit', 'daily_loss_limit', 'closed',
    ];

    /**
     * @param string $connection that may read
     *
     * @return list<string> the rows that differ, in words
     */
    public static function of(DeskState $state, string $connection): array
    {
        $differ = [];
        $accounts = AccountRow::on($connection)->toBase()->get()->keyBy('id');
        foreach ($state->accounts as $id => $account) {
            if (! self::isSame(AccountRow::columns($account, $state->isClosed($id)), $accounts[$id] ?? null, self::OF_ACCOUNTS)) {
                $differ[] = "accounts row $id";
            }
        }
        foreach (array_chunk($state->orders, self::ROWS_A_READ, true) as $orders) {
            $rows = OrderRow::on($connection)->toBase()->whereIn('id', array_keys($orders))->get()->keyBy('id');
            $filled = FillRow::on($connection)->toBase()->whereIn('order_id', array_keys($orders))
                ->groupBy('order_id')->selectRaw('order_id, sum(quantity) as lots, sum(quantity * price) as cost')
                ->get()->keyBy('order_id');
            foreach ($orders as $id => $order) {
                if (! self::isSame(OrderRow::columns($order, $state, null), $rows[$id] ?? null, self::OF_ORDERS)) {
                    $differ[] = "orders row $id";
                }
                if ((int) ($filled[$id]->lots ?? 0) !== $order->filled || (int) ($filled[$id]->cost ?? 0) !== $order->cost) {
                    $differ[] = "fills of order $id";
                }
            }
        }

        return $differ;
    }

    /**
     * @param array<string, int|string|bool|null> $columns
     * @param list<string>                        $names
     */
    private static function isSame(array $columns, ?object $row, array $names): bool
    {
        $found = (array) $row;
        foreach ($names as $name) {
            $wanted = is_bool($columns[$name]) ? (int) $columns[$name] : $columns[$name];
            $isThere = array_key_exists($name, $found) && ($wanted === null) === ($found[$name] === null);
            if (! $isThere || (string) $wanted !== (string) $found[$name]) {
                return false;
            }
        }

        return true;
    }
}
