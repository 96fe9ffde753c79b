<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Desk;
use Lotrik\Money\Money;
use Lotrik\Risk\Limits\ContractLimits;

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
        $risk = AccountFigures::risk($account, $desk, $at);
        [$until, $because] = $desk->state->bookOf($account->id)->entriesStopped;
        $isBarred = $desk->state->isBarred($account->id, $at);
        $funds = $desk->queries->funds($account, $at);
        $byContract = [];
        foreach ($risk->byContract as $code => $part) {
            [$lots, $margin] = $funds->contracts[$code] ?? [0, Money::zero($part->open->currency)];
            $byContract[] = [
                'contract' => $code, 'currency' => $part->open->currency->code, 'quantity' => $part->lots,
                'open_risk' => $part->risk->risk->exact(), 'locked_in' => $part->risk->lockedIn->exact(),
                'unprotected' => $part->risk->unprotected,
                'risk_from_here' => $part->risk->fromHere->exact(), 'open_money' => $part->open->exact(),
                'margin' => $account->rates->toBase($margin)->exact(), 'may_open' => $lots,
            ];
        }

        return [
            'account' => $account->id, 'currency' => $account->rates->base->code,
            'open_risk' => $risk->risk->exact(), 'locked_in' => $risk->lockedIn->exact(), 'unprotected' => $risk->unprotected,
            'risk_from_here' => $risk->fromHere->exact(),
            'day' => [
                'realised' => $risk->realised->exact(), 'open' => $risk->open->exact(), 'fees' => $risk->fees->exact(),
                'net' => $risk->net->exact(),
            ],
            'barred_until' => $isBarred ? Time::iso($desk->state->bookOf($account->id)->barredUntil) : null,
            'barred_for' => $isBarred ? $desk->state->bookOf($account->id)->barredFor : null,
            'stopped_until' => $at < $until ? Time::iso($until) : null, 'stopped_because' => $at < $until ? $because : null,
            'balance' => $funds->balance->exact(), 'margin_used' => $funds->margin->exact(), 'buying_power' => $funds->left->exact(),
            'order_limit' => $account->limits->each->orderLots ?? ContractLimits::MOST,
            'loss_room' => $risk->lossRoom->left->exact(), 'loss_limit' => $risk->lossRoom->of->exact(),
            'loss_room_limit' => $risk->lossRoom->limit,
            'by_contract' => $byContract,
        ];
    }
}
