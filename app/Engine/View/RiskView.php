<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\Account;
use Lotrik\Desk\Desk;
use Lotrik\Money\Money;
use Lotrik\Risk\OpenRisk;

/** An account's risk as it goes out: totals in its base currency, contracts in their own. */
final class RiskView
{
    /**
     * @param int $at ms since 1970 UTC
     *
     * @return array<string, mixed>
     */
    public static function of(Account $account, Desk $desk, int $at): array
    {
        $zero = Money::zero($account->rates->base);
        $risk = $locked = $realised = $open = $fees = $fromHere = $zero;
        $unprotected = 0;
        $byContract = [];
        foreach ($desk->state->holdings as $code => $holdings) {
            $holding = $holdings[$account->id] ?? null;
            if ($holding === null || $holding->position->lots === 0) {
                continue;
            }
            $contract = $desk->state->contracts[$code];
            $mark = $desk->quote($code)->exit($holding->position->lots);
            $of = OpenRisk::of($holding->position, $contract, $holding->protected(), $mark);
            $openMoney = $contract->money($mark === null ? 0 : $holding->position->openTicks($mark));
            $risk = $risk->plus($account->rates->toBase($of->risk));
            $locked = $locked->plus($account->rates->toBase($of->lockedIn));
            $open = $open->plus($account->rates->toBase($openMoney));
            $fromHere = $fromHere->plus($account->rates->toBase($of->fromHere));
            $unprotected += $of->unprotected;
            $byContract[] = [
                'contract' => $code, 'currency' => $contract->currency->code, 'quantity' => $holding->position->lots,
                'open_risk' => $of->risk->exact(), 'locked_in' => $of->lockedIn->exact(), 'unprotected' => $of->unprotected,
                'risk_from_here' => $of->fromHere->exact(), 'open_money' => $openMoney->exact(),
            ];
        }
        $today = ($desk->state->days[$account->id] ?? null)?->of($at) ?? [];
        foreach ($today as $code => [$ticks, $lots]) {
            $contract = $desk->state->contracts[$code];
            $realised = $realised->plus($account->rates->toBase($contract->money($ticks)));
            $fees = $fees->plus($account->rates->toBase($contract->fees($lots)));
        }
        $net = $realised->minus($fees)->plus($open);
        $limit = $account->dailyLossLimit;

        return [
            'account' => $account->id, 'currency' => $account->rates->base->code,
            'open_risk' => $risk->exact(), 'locked_in' => $locked->exact(), 'unprotected' => $unprotected, 'risk_from_here' => $fromHere->exact(),
            'day' => ['realised' => $realised->exact(), 'open' => $open->exact(), 'fees' => $fees->exact(), 'net' => $net->exact()],
            'loss_room' => ($net->isNegative() ? $limit->plus($net) : $limit)->exact(), 'loss_limit' => $limit->exact(),
            'by_contract' => $byContract,
        ];
    }
}
