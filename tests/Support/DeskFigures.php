<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\TradingSystem;
use Lotrik\Desk\WhatIf;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\DayUse;
use Lotrik\Risk\Limits\AccountDay;

/** Every figure that a desk can be asked for, so that two desks can be compared: one that has run, and one that is built anew. */
final class DeskFigures
{
    /** @return array<string, mixed> */
    public static function of(TradingSystem $system, int $at): array
    {
        $desk = $system->desk;
        $figures = [];
        foreach ($desk->state->accounts as $id => $account) {
            $risk = AccountFigures::risk($account, $desk, $at);
            $funds = $desk->queries->funds($account, $at);
            $day = $account->limits->day->begins($at);
            $figures["account $id"] = [
                'risk' => array_map(static fn($money): string => $money->exact(), [
                    $risk->risk, $risk->lockedIn, $risk->fromHere, $risk->realised, $risk->open, $risk->fees, $risk->net, $risk->lossRoom->left, $risk->lossRoom->of,
                ]),
                'unprotected' => $risk->unprotected, 'nearest' => $risk->lossRoom->limit,
                'funds' => [$funds->balance->exact(), $funds->open->exact(), $funds->margin->exact(), $funds->left->exact()],
                'uses' => array_map(static fn(DayUse $use): array => [$use->limit, $use->used->exact(), $use->of->exact(), $use->percent()], $desk->lossWatch()->uses($account, $at)),
                'day' => [$day, $account->limits->day->ends($at), self::freshDay($account->limits->day, $account->document)->begins($at)],
                'barred' => $desk->state->isBarred($id, $at), 'stopped' => $desk->state->bookOf($id)->entriesStopped,
                'closed' => array_map(static fn(array $of): array => [$of[0]->text(), $of[1]], $desk->state->bookOf($id)->day->of($day)),
            ];
            foreach (array_keys($desk->state->contracts) as $code) {
                $holding = $desk->state->holding($id, $code);
                if ($holding->sequence > 0) {
                    $figures["account $id in $code"] = self::holding($system, $id, $code, $at);
                }
            }
        }

        return $figures;
    }

    /** @return array<string, mixed> */
    private static function holding(TradingSystem $system, int $account, string $code, int $at): array
    {
        $desk = $system->desk;
        $of = $desk->state->accounts[$account];
        $contract = $desk->state->contracts[$code];
        $holding = $desk->state->holding($account, $code);
        $risk = $desk->atStops->of($holding, $contract)->from($desk->quote($code)->mark());
        $asked = static function (callable $ask): array {
            try {
                return $ask();
            } catch (Refusal $refusal) {
                return $refusal->toArray();
            }
        };
        $order = [
            'account' => $account, 'contract' => $code, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market', 'exit_plan' => TestSystem::plan('"stop":{"ticks":5}'),
        ];
        $first = array_key_first($holding->working);

        return [
            'lots' => $holding->position->lots, 'average' => (string) $holding->position->average, 'realised' => (string) $holding->position->realised,
            'at stops' => [$risk->risk->exact(), $risk->lockedIn->exact(), $risk->unprotected, $risk->fromHere->exact()],
            'covered' => [$holding->coverage()->unprotected(), $holding->coverage()->uncovered(), $holding->coverage()->nearestStop()?->id],
            'reach' => [Reach::of($holding)->on(\Lotrik\Order\Side::Buy), Reach::of($holding)->on(\Lotrik\Order\Side::Sell)],
            'preview' => $asked(static fn(): array => $desk->queries->preview($account, $order, $at)),
            'through' => $asked(static fn(): array => $desk->queries->preview($account, ['side' => 'sell', 'closing' => 'through'] + $order, $at)),
            'change' => $first === null ? null : $asked(static fn(): array => $desk->queries->previewChange($account, ['account' => $account, 'order' => $first, 'quantity' => 9], null, $at)),
            'size' => $asked(static fn(): array => $desk->queries->size($account, ['risk' => ['money' => '100.00']] + array_diff_key($order, ['quantity' => 1]), $at)),
            'what if' => $asked(static fn(): array => array_map(
                static fn($one): array => [$one->position->lots, $one->unprotected(), $one->atEntry?->exact()],
                $desk->queries->whatIf($account, ['orders' => [$order]], $at),
            )),
            'open' => isset(WhatIf::now($of, $desk->state)[$code]) ? WhatIf::now($of, $desk->state)[$code]->unprotected() : null,
            'bests' => array_map(static fn($entry): array => [$entry->exits->bests(), $entry->record?->extremes()], $holding->entries),
        ];
    }

    /**
     * The same day without anything that it has found before.
     *
     * @param array<string, mixed> $document of the account
     */
    private static function freshDay(AccountDay $day, array $document): AccountDay
    {
        return \Lotrik\Desk\Account\Account::fromArray($document)->limits->day;
    }
}
