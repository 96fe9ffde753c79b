<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\CommandContext;
use Lotrik\Desk\Event\CancelWished;
use Lotrik\Desk\Event\EntriesStopped;
use Lotrik\Desk\Event\LimitsSet;
use Lotrik\Desk\Event\TradeEnded;
use Lotrik\Desk\Intake\EntryRisk;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * Limits that count trades and time: after so many losses in a row, or a large one, and in times that the trader keeps free,
 * nothing is entered and what works of entries is taken back. Limits that let more through come into force with the day.
 */
final class LimitKeeper
{
    private const AGAIN_MS = 86_400_000;

    /** When there is something to do next, ms since 1970 UTC. */
    private int $next = 0;

    public function __construct(private readonly CommandContext $context) {}

    /** Tells the journal of trades that have ended, and stops entries where that is one loss too many. */
    public function settle(AccountPosition $holding, int $at): void
    {
        $account = $this->context->state->accounts[$holding->account];
        $contract = $this->context->state->contracts[$holding->contract];
        foreach ($holding->endedTrades as [$ticks, $lots]) {
            $made = $contract->money($ticks)->minus($contract->fees($lots));
            $net = $account->rates->knows($contract->currency) ? $account->rates->toBase($made) : $made;
            $this->context->recorder->note(new TradeEnded(
                $account->id, $contract->code, $net->exact(), $net->isNegative(), $account->limits->day->begins($at),
            ));
            $pause = $account->limits->pauseLoss;
            if ($pause !== null && $net->currency->is($pause->currency) && ! $pause->plus($net)->isPositive()) {
                $minutes = (int) $account->limits->pauseMinutes;
                $this->stop(
                    $account,
                    $at + $minutes * 60_000,
                    "the trade in {$contract->code} lost {$net->times(-1)->display()} {$net->currency->code}: "
                        ."after a loss of {$pause->display()} you pause for $minutes minutes",
                );
            }
            $this->countLosses($account, $at);
        }
    }

    /**
     * Time goes by: a day begins, limits come into force, a time without entries begins.
     *
     * @return bool whether it was time for anything
     */
    public function tick(int $at): bool
    {
        if ($at < $this->next) {
            return false;
        }
        $this->next = $at + self::AGAIN_MS;
        foreach ($this->context->state->limitsNext as $id => [$document, $from]) {
            if ($at >= $from) {
                $before = $this->context->state->accounts[$id];
                $since = $before->document['day_since'] ?? null;
                $isOtherDay = ($document['day'] ?? null) !== $before->limits->day->toArray();
                $this->context->recorder->note(new LimitsSet($id, $document, $isOtherDay ? $from : (is_int($since) ? $since : null)));
            } else {
                $this->next = min($this->next, $from);
            }
        }
        foreach ($this->context->state->accounts as $account) {
            $this->next = min($this->next, $account->limits->day->ends($at));
            foreach ($account->limits->windows as $window) {
                $this->next = min($this->next, $window->beginsAfter($at) ?? PHP_INT_MAX);
                if ($window->until($at) !== null) {
                    $this->takeEntriesBack($account, "{$window->words()} is a time without new entries");
                }
            }
        }

        return true;
    }

    /** Limits have been set: what is over them is taken back. */
    public function limitsChanged(int $at): void
    {
        $this->next = 0;
        $this->tick($at);
        foreach ($this->context->state->accounts as $account) {
            $this->countLosses($account, $at);
            foreach ($this->context->state->holdingsOf($account->id) as $holding) {
                $this->trim($account, $holding);
            }
        }
    }

    private function countLosses(Account $account, int $at): void
    {
        $most = $account->limits->lossesInARow;
        [$day, $lost] = $this->context->state->losses[$account->id] ?? [0, 0];
        if ($most !== null && $lost >= $most && $day === $account->limits->day->begins($at)) {
            $this->stop($account, $account->limits->day->ends($at), ($lost === 1 ? '1 losing trade' : "$lost losing trades in a row").", and the limit is $most");
        }
    }

    private function stop(Account $account, int $until, string $because): void
    {
        if ($until > ($this->context->state->entriesStopped[$account->id][0] ?? 0)) {
            $this->context->recorder->note(new EntriesStopped($account->id, $until, $because));
            $this->takeEntriesBack($account, $because);
        }
    }

    private function takeEntriesBack(Account $account, string $because): void
    {
        foreach ($this->context->state->holdingsOf($account->id) as $holding) {
            foreach ($holding->working as $order) {
                if ($order->role === Role::Entry) {
                    $this->takeBack($order, $because);
                }
            }
        }
    }

    private function takeBack(DeskOrder $order, string $because): void
    {
        if (! $order->state->isPending()) {
            $this->context->recorder->cancel($order, $because);
        } elseif ($order->state !== OrderState::PendingCancel && ! $order->cancelWished) {
            $this->context->recorder->note(new CancelWished($order->id, $because));
        }
    }

    /** Entries that would lead over what may be open, the newest first, and those without the stop that is asked for. */
    private function trim(Account $account, AccountPosition $holding): void
    {
        $limits = $account->limits->in($holding->contract);
        foreach ([Side::Buy, Side::Sell] as $side) {
            $entries = array_filter(
                $holding->working,
                static fn(DeskOrder $o): bool => $o->role === Role::Entry && $o->side === $side && $o->state !== OrderState::PendingCancel,
            );
            $lots = max(0, $holding->position->lots * $side->sign())
                + array_sum(array_map(static fn(DeskOrder $o): int => $o->leaves(), $entries));
            krsort($entries);
            foreach ($entries as $order) {
                if ($limits->positionLots !== null && $lots > $limits->positionLots) {
                    $this->takeBack($order, "with what is open and working it is over the position limit of {$limits->positionLots} lots");
                    $lots -= $order->leaves();
                } elseif ($limits->stopRequired && ! EntryRisk::isLimited($order, $holding, $this->context->state)) {
                    $this->takeBack($order, 'no protective stop is sent with it, and each lot must have one');
                }
            }
        }
    }
}
