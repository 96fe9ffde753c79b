<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Event\Account\DayBegun;
use Lotrik\Desk\Event\Account\EntriesStopped;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Account\TradeEnded;
use Lotrik\Desk\Event\Order\CancelWished;
use Lotrik\Desk\Event\Order\OrderReplaced;
use Lotrik\Desk\Event\Order\ReplaceRequested;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Question\Exposure;
use Lotrik\Desk\Question\WorkingEntry;
use Lotrik\Money\Money;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;

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
    public function judgeTrades(AccountPosition $holding, int $at): void
    {
        $account = $this->context->state->accounts[$holding->account];
        $contract = $this->context->state->contracts[$holding->contract];
        foreach ($holding->endedTrades as [$ticks, $lots, $pausedTicks, $pausedLots]) {
            $net = self::net($account, $contract, $ticks, $lots);
            $this->context->recorder->note(new TradeEnded(
                $account->id, $contract->code, $net->exact(), $net->isNegative(), $account->limits->day->begins($at),
            ));
            $this->pause($account, $contract, self::net($account, $contract, $ticks->minus($pausedTicks), $lots - $pausedLots), null, $at);
            $this->countLosses($account, $at);
        }
        // A trader who never goes flat loses all the same: what has closed since the last flat, or since the last pause, counts.
        [$ticks, $lots] = $holding->trade;
        [$pausedTicks, $pausedLots] = $holding->paused;
        if ($account->limits->pauseLoss !== null && ! $ticks->isEqualTo($pausedTicks)) {
            $this->pause(
                $account, $contract, self::net($account, $contract, $ticks->minus($pausedTicks), $lots - $pausedLots), $contract->code, $at,
            );
        }
    }

    private static function net(Account $account, Contract $contract, BigRational $ticks, int $lots): Money
    {
        $made = $contract->money($ticks)->minus($contract->fees($lots));

        return $account->rates->knows($contract->currency) ? $account->rates->toBase($made) : $made;
    }

    /** @param string|null $counted contract whose losses count anew from here; null where its trade has ended */
    private function pause(Account $account, Contract $contract, Money $net, ?string $counted, int $at): void
    {
        $pause = $account->limits->pauseLoss;
        if ($pause === null || ! $net->currency->is($pause->currency) || $pause->plus($net)->isPositive()) {
            return;
        }
        $minutes = (int) $account->limits->pauseMinutes;
        $this->stop(
            $account,
            $at + $minutes * 60_000,
            "{$contract->code} lost {$net->negated()->display()} {$net->currency->code}: "
                ."after a loss of {$pause->display()} you pause for $minutes minutes",
            $counted,
        );
    }

    /**
     * Time goes by: a day begins, limits come into force, a no-entry window begins.
     *
     * @return bool whether it was time for anything
     */
    public function tick(int $at): bool
    {
        if ($at < $this->next) {
            return false;
        }
        $this->next = $at + self::AGAIN_MS;
        foreach ($this->context->state->books as $id => $book) {
            [$document, $from] = $book->limitsNext ?? [[], PHP_INT_MAX];
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
            $this->carryOver($account, $at);
            foreach ($account->limits->windows as $window) {
                $this->next = min($this->next, $window->beginsAfter($at) ?? PHP_INT_MAX);
                if ($window->until($at) !== null) {
                    // What is held is judged when it is released.
                    $this->cancelEntries($account, "{$window->words()} is a no-entry window", heldToo: false);
                }
            }
        }

        return true;
    }

    /** Lots that are open as a day begins count in it from the mark of now. */
    private function carryOver(Account $account, int $at): void
    {
        $day = $account->limits->day->begins($at);
        $tally = $this->context->state->bookOf($account->id)->day;
        // What has filled since it began came after this.
        if ($tally->day() >= $day) {
            return;
        }
        $carried = [];
        foreach ($this->context->state->holdingsOf($account->id) as $holding) {
            $mark = $holding->position->lots === 0 ? null : $this->context->quote($holding->contract)->mark();
            if ($mark !== null) {
                $carried[$holding->contract] = [(string) $holding->position->openTicks($mark)->rational(), abs($holding->position->lots)];
            }
        }
        if ($carried !== []) {
            $this->context->recorder->note(new DayBegun($account->id, $day, $carried));
        }
    }

    /** Limits have been set: what is over them is taken back. */
    public function limitsChanged(int $at): void
    {
        $this->next = 0;
        $this->tick($at);
        foreach ($this->context->state->accounts as $account) {
            $this->countLosses($account, $at);
            foreach ($this->context->state->holdingsOf($account->id) as $holding) {
                $this->judgeTrades($holding, $at);
                $this->trim($account, $holding, $at);
            }
        }
    }

    private function countLosses(Account $account, int $at): void
    {
        $most = $account->limits->lossesInARow;
        [$day, $lost] = $this->context->state->bookOf($account->id)->losses;
        if ($most !== null && $lost >= $most && $day === $account->limits->day->begins($at)) {
            $this->stop(
                $account, $account->limits->day->ends($at),
                ($lost === 1 ? '1 losing trade' : "$lost losing trades in a row").", and the limit is $most",
            );
        }
    }

    private function stop(Account $account, int $until, string $because, ?string $contract = null): void
    {
        $already = $this->context->state->bookOf($account->id)->entriesStopped[0];
        // What a pause has been made for counts no more, also where a longer one is in force.
        if ($until > $already || $contract !== null) {
            $this->context->recorder->note(new EntriesStopped($account->id, max($until, $already), $because, $contract));
            $this->cancelEntries($account, $because);
        }
    }

    private function cancelEntries(Account $account, string $because, bool $heldToo = true): void
    {
        foreach ($this->context->state->holdingsOf($account->id) as $holding) {
            foreach ($holding->working as $order) {
                if ($order->role === Role::Entry && ($heldToo || ! $order->isHeld())) {
                    $this->cancelEntry($order, $because);
                }
            }
        }
    }

    private function cancelEntry(DeskOrder $order, string $because): void
    {
        if (! $order->state->isPending()) {
            $this->context->recorder->cancel($order, $because);
        } elseif ($order->state !== OrderState::PendingCancel && ! $order->cancelWished) {
            $this->context->recorder->note(new CancelWished($order->id, $because));
        }
    }

    /**
     * What works and would now be refused is taken back, the newest first, or lowered where lots are the cause: as if the entries
     * were sent once more under the limits of now, in the order in which they came.
     */
    private function trim(Account $account, AccountPosition $holding, int $at): void
    {
        $asking = $this->context->asking;
        $all = $asking->now($holding);
        $kept = $all->withoutEntries();
        ksort($holding->working);
        foreach ($holding->working as $order) {
            $entry = $all->entry($order->id);
            if ($entry === null || $order->state === OrderState::PendingCancel || $order->cancelWished) {
                $kept = $entry === null ? $kept : $kept->withEntry($entry);

                continue;
            }
            $ticket = $this->context->intake->standing($order, $this->context->quote($order->contract), $at);
            $refusal = $asking->standing($kept, $kept->withEntry($entry), $ticket, $account, $holding, $at);
            if ($refusal === null) {
                $kept = $kept->withEntry($entry);

                continue;
            }
            $fits = $order->state->isPending() ? 0 : $this->mostThatFits($kept, $entry, $ticket, $account, $holding, $at);
            if ($fits === 0) {
                $this->cancelEntry($order, "by your limits: {$refusal->getMessage()}");

                continue;
            }
            $kept = $kept->withEntry($entry->changed($fits - $entry->lots, $entry->at, null));
            $this->lower($order, $fits, $refusal->getMessage());
        }
    }

    /** How many of an entry's lots may go on working; 0 where it is not its lots that are too many. */
    private function mostThatFits(
        Exposure $kept,
        WorkingEntry $entry,
        Ticket $ticket,
        Account $account,
        AccountPosition $holding,
        int $at,
    ): int {
        [$low, $high] = [0, $entry->lots];
        while ($high - $low > 1) {
            $lots = intdiv($low + $high, 2);
            $with = $kept->withEntry($entry->changed($lots - $entry->lots, $entry->at, null));
            $may = $this->context->asking->standing($kept, $with, $ticket, $account, $holding, $at) === null;
            [$low, $high] = $may ? [$lots, $high] : [$low, $lots];
        }

        return $low;
    }

    private function lower(DeskOrder $order, int $lots, string $because): void
    {
        $by = $order->leaves() - $lots;
        $this->context->recorder->note($order->isHeld()
            ? new OrderReplaced($order->id, $lots, $order->price, $order->trigger)
            : new ReplaceRequested($order->id, -$by, null, null, "reduced by $by: $because", false));
    }
}
