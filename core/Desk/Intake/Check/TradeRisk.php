<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake\Check;

use Brick\Math\RoundingMode;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Intake\EntryRisk;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Quote;
use Lotrik\Refusal\Refusal;

/** No order loses more at its stops, with fees, than the trader allows for a trade. */
final class TradeRisk implements EntryCheck
{
    public function refuse(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $most = $account->limits->in($holding->contract)->mostRisk($account->balance);
        if ($most === null || $ticket->mayOpenLots() === 0) {
            return null;
        }
        $risk = EntryRisk::of($ticket);
        if ($risk === null) {
            return Refusal::tradeRiskUnlimited("{$most->display()} {$most->currency->code}");
        }
        $inBase = $account->rates->toBase($risk);

        return $inBase->minus($most)->isPositive() ? Refusal::tradeRisk(
            $inBase->display(),
            "{$most->display()} {$most->currency->code}",
            $ticket->mayOpenLots(),
            $most->dividedBy($inBase)->multipliedBy($ticket->mayOpenLots())->toScale(0, RoundingMode::FLOOR)->toInt(),
        ) : null;
    }
}
