<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Quote;

/** What a change of a working order would cost, said before it is sent: its place in the queue, or that it would trade. */
final class ChangePreview
{
    /**
     * @param int|null $ahead lots in the queue before the order; null where it stands in none
     *
     * @return array{words: string, keeps_place: bool, would_trade: bool}
     */
    public static function of(Modification $change, DeskOrder $order, ?int $ahead, Quote $quote, Contract $contract): array
    {
        $wouldTrade = $change->tradesAtOnce($order, $quote);
        $keeps = $change->keepsPlace($order);

        return [
            'words' => match (true) {
                $wouldTrade => Modification::atMarket($order, $contract, $quote),
                $ahead === null => '',
                default => ($keeps ? 'keeps' : 'loses')." its place, $ahead ahead",
            },
            'keeps_place' => $keeps, 'would_trade' => $wouldTrade,
        ];
    }
}
