<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Order\OrderStanding;
use Lotrik\Desk\Order\ReleaseCondition;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/** An order as it goes out, over HTTP and on the stream. */
final class OrderView
{
    /**
     * From the columns themselves: the engine writes some thousand of them in a turn.
     *
     * @param array<string, mixed> $row     columns of an OrderRow
     * @param Contract|null        $watched the contract whose price it waits for
     *
     * @return array<string, mixed>
     */
    public static function of(array $row, Contract $contract, ?Contract $watched): array
    {
        $price = static fn(?int $ticks): ?string => $ticks === null ? null : $contract->price($ticks);
        $time = static fn(?int $at): ?string => $at === null ? null : Time::iso($at);
        $average = DeskOrder::averageOf($row['cost'], $row['filled']);
        $words = OrderStanding::words(
            Role::from($row['role']),
            OrderKind::from($row['kind']),
            $row['beyond_anchor'],
            (bool) $row['triggered'],
            (bool) $row['held'],
        );

        return [
            'id' => $row['id'], 'client_id' => $row['client_id'], 'account' => $row['account_id'], 'contract' => $row['contract_code'],
            'side' => $row['side'], 'kind' => $row['kind'], 'quantity' => $row['quantity'], 'filled' => $row['filled'],
            'leaves' => OrderState::from($row['state'])->isFinal() ? 0 : $row['quantity'] - $row['filled'],
            'price' => $price($row['price']), 'trigger' => $price($row['trigger']),
            'average_price' => $average === null ? null : $contract->averagePrice($average), 'tif' => $row['tif'],
            'state' => $row['state'], 'reason' => $row['reason'], 'role' => $row['role'],
            'plan' => $row['plan'], 'portion' => $row['portion'], 'steering' => $row['steering'],
            'ahead' => $row['ahead'], 'created_at' => Time::iso($row['created_at']), 'ended_at' => $time($row['ended_at']),
            'tag' => $row['tag'], 'why' => $row['why'], 'level' => $row['level'], 'words' => $words,
            'counts_from' => $row['beyond_anchor'] === null || $row['trigger'] === null
                ? null
                : $contract->write($row['trigger'] + Side::from($row['side'])->sign() * $row['beyond_anchor']),
            'expires_at' => $time($row['expires_at']), 'cancel_at' => $time($row['cancel_at']), 'release_at' => $time($row['release_at']),
            'held_until' => $row['held'] ? EventText::releaseWhen(self::condition($row), $watched) : null,
            'wished' => $row['cancel_wished'] ? 'cancel' : null,
            'tied' => $row['tied_order'] === null ? null : ['order' => $row['tied_order'], 'kind' => $row['tied_kind']],
            'path' => array_map(
                static fn(array $stood): array => ['time' => Time::iso($stood[0]), 'level' => $stood[1]],
                json_decode($row['path'], true, 4, JSON_THROW_ON_ERROR),
            ),
        ];
    }

    /** @param array<string, mixed> $row */
    private static function condition(array $row): ReleaseCondition
    {
        return new ReleaseCondition(
            $row['release_at'],
            $row['watched_code'],
            $row['watched_level'],
            (bool) $row['watched_rising'],
            $row['after_order'],
        );
    }
}
