<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Funds;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Event\Account\CloseNear;
use Lotrik\Desk\Event\Command\FlattenStarted;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Risk\Margin;

/**
 * Before a session ends: what is open and what works is told in good time, and where the trader wants it the contract is
 * flattened by itself. It looks only at the state and the time, so that a restart tells nothing twice and forgets nothing.
 */
final class CloseKeeper
{
    private const MINUTE = 60_000;

    /** Minutes before the close. */
    private const MARKS = [1, 5, 15, self::MARGIN_MARK];

    /** Told only where there are lots too many for the initial margin, in good time before it counts. */
    private const MARGIN_MARK = 30;

    /** An account that flattens by itself is told so many minutes before that. */
    private const FLATTEN_AHEAD = 15;

    private const AGAIN_MS = 86_400_000;

    /** When there is something to do next, ms since 1970 UTC. */
    private int $next = 0;

    public function __construct(private readonly CommandContext $context) {}

    /** A session or a limit is not what it was. */
    public function changed(): void
    {
        $this->next = 0;
    }

    /** @return bool whether a contract is being flattened now that was not */
    public function tick(int $at): bool
    {
        if ($at < $this->next) {
            return false;
        }
        $this->next = $at + self::AGAIN_MS;
        $flattens = false;
        foreach ($this->context->state->contracts as $code => $contract) {
            $hours = $contract->session->at($at);
            $this->at($hours->until, $at);
            if (! $hours->open || $hours->until === null) {
                continue;
            }
            foreach ($this->context->state->holdings[$code] ?? [] as $id => $holding) {
                $flattens = $this->flatten($holding, $hours->until, $at) || $flattens;
                $this->tell($holding, $hours->until, $at);
            }
            foreach ($this->context->state->accounts as $account) {
                $this->at($hours->until - ($account->limits->flattenBeforeClose ?? 0) * self::MINUTE, $at);
                foreach (self::marks($account) as $minutes) {
                    $this->at($hours->until - $minutes * self::MINUTE, $at);
                }
            }
        }

        return $flattens;
    }

    /** Something is to be done then. */
    private function at(?int $then, int $at): void
    {
        $this->next = $then !== null && $then > $at ? min($this->next, $then) : $this->next;
    }

    private function flatten(AccountPosition $holding, int $closes, int $at): bool
    {
        $minutes = $this->context->state->accounts[$holding->account]->limits->flattenBeforeClose;
        $opens = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry);
        if (
            $minutes === null || $at < $closes - $minutes * self::MINUTE || $holding->closing === ClosingDown::Flattening
            || ($holding->position->lots === 0 && $opens === [] && ! $holding->isClosingDown())
        ) {
            return false;
        }
        $this->context->recorder->note(new FlattenStarted($holding->account, $holding->contract, ClosingTrigger::CloseNear));

        return true;
    }

    private function tell(AccountPosition $holding, int $closes, int $at): void
    {
        if ($holding->position->lots === 0 && $holding->working === []) {
            return;
        }
        [$of, $told] = $this->context->state->bookOf($holding->account)->closeTold[$holding->contract] ?? [0, PHP_INT_MAX];
        $account = $this->context->state->accounts[$holding->account];
        $flattens = $account->limits->flattenBeforeClose;
        foreach (self::marks($account) as $minutes) {
            if ($at >= $closes - $minutes * self::MINUTE) {
                $margin = $minutes >= intdiv(Margin::INITIAL_BEFORE_CLOSE_MS, self::MINUTE) ? $this->margin($holding, $at) : '';
                $isWorthIt = $minutes !== self::MARGIN_MARK || $margin !== '' || $minutes === $flattens + self::FLATTEN_AHEAD;
                if ($isWorthIt && ($of !== $closes || $minutes < $told)) {
                    $by = $flattens === null || $minutes <= $flattens
                        ? ''
                        : "; it is flattened $flattens minutes before the close, per your limits";
                    $this->context->recorder->note(new CloseNear(
                        $holding->account, $holding->contract, $minutes, $closes, self::left($holding).$margin.$by,
                    ));
                }

                return;
            }
        }
    }

    /** @return list<int> minutes before the close at which an account is told, the last one first */
    private static function marks(Account $account): array
    {
        $flattens = $account->limits->flattenBeforeClose;
        $marks = array_unique([...self::MARKS, ...($flattens === null ? [] : [$flattens + self::FLATTEN_AHEAD])]);
        sort($marks);

        return $marks;
    }

    /** What the initial margin will ask that is not there; empty where all lots fit. */
    private function margin(AccountPosition $holding, int $at): string
    {
        $contract = $this->context->state->contracts[$holding->contract];
        $account = $this->context->state->accounts[$holding->account];
        $lots = $account->rates->knows($contract->currency)
            ? (new Funds($this->context->state, $this->context->quotes))->lotsOverInitial($account, $holding, $contract, $at)
            : 0;

        return $lots === 0 ? '' : '; the initial margin counts from '.intdiv(Margin::INITIAL_BEFORE_CLOSE_MS, self::MINUTE)
            ." minutes before the close, and $lots ".($lots === 1 ? 'lot is' : 'lots are').' too many for it';
    }

    /** `long 2, 3 working orders: 2 end with the day, 1 stays; 2 lots lose their stop with it` */
    private static function left(AccountPosition $holding): string
    {
        $lots = $holding->position->lots;
        $day = $stays = 0;
        foreach ($holding->working as $order) {
            $order->tif === TimeInForce::Day && ! $order->role->isExit() ? $day++ : $stays++;
        }
        $orders = $day + $stays;
        $bare = 0;
        foreach ($holding->coverage()->byHand() as [$stop, $part]) {
            $bare += $stop->tif === TimeInForce::Day ? $part->lots : 0;
        }

        return ($lots === 0 ? 'flat' : ($lots > 0 ? 'long ' : 'short ').abs($lots))
            .($orders === 0 ? ', no working orders' : ", $orders working ".($orders === 1 ? 'order' : 'orders')
                .": $day ".($day === 1 ? 'ends' : 'end')." with the day, $stays ".($stays === 1 ? 'stays' : 'stay'))
            .($bare === 0 ? '' : "; $bare ".($bare === 1 ? 'lot loses its' : 'lots lose their').' stop with it');
    }
}
