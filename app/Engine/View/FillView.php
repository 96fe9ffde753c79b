<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Contract\Contract;

/** A fill as it goes out, over HTTP and on the stream. */
final class FillView
{
    /**
     * @param array<string, mixed> $row columns of a FillRow
     *
     * @return array<string, mixed>
     */
    public static function of(array $row, Contract $contract): array
    {
        $price = static fn(?int $ticks): ?string => $ticks === null ? null : $contract->price($ticks);

        return [
            'id' => $row['id'], 'order' => $row['order_id'], 'account' => $row['account_id'], 'contract' => $row['contract_code'],
            'side' => $row['side'], 'quantity' => $row['quantity'], 'price' => $contract->price($row['price']),
            'time' => Time::iso($row['at']), 'fee' => $row['fee'],
            'slippage_ticks' => $row['slippage_ticks'], 'slippage_money' => $row['slippage_money'],
            'touch' => $row['bid_size'] === null ? null : [
                'bid' => $price($row['bid']), 'bid_size' => $row['bid_size'], 'ask' => $price($row['ask']), 'ask_size' => $row['ask_size'],
            ],
            'level' => $row['price'], 'print' => $row['print'], 'role' => $row['role'], 'why' => $row['why'],
            'sequence' => $row['sequence'],
        ];
    }
}
