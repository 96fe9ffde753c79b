<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Event\AccountBarred;
use Lotrik\Desk\Event\FlattenStarted;
use Lotrik\Money\Money;
use Lotrik\Order\Passed;
use Lotrik\Risk\DayResult;

/**
 * The daily loss limit: when realised − fees + open reaches it, everything is flattened and cancelled, and the account
 * is barred from new entries until its next trading day (UTC, until accounts have a day of their own).
 *
 * Open lots are marked at the last trade clamped into the quote, so that a missing bid for a moment liquidates nothing.
 */
final class LossLimit
{
    private const DAY_MS = 86_400_000;

    /** @var array<string, array{int, int|null}> account and contract → sequence and mark that were last looked at */
    private array $looked = [];

    public function __construct(private readonly Workbench $bench) {}

    /** @return list<Holding> what has to be flattened now; empty while there is room */
    public function look(Holding $holding, int $at): array
    {
        $key = "{$holding->account} {$holding->contract}";
        // Most of what a market does moves neither: depth comes and goes behind the touch.
        $seen = [$holding->sequence, $holding->position->lots === 0 ? null : $this->mark($holding->contract)];
        if (($this->looked[$key] ?? null) === $seen || $this->bench->state->isBarred($holding->account, $at)) {
            return [];
        }
        $this->looked[$key] = $seen;
        $account = $this->bench->state->accounts[$holding->account];
        $net = $this->net($account, $at);
        if ($account->dailyLossLimit->plus($net)->isPositive()) {
            return [];
        }
        $this->bench->scribe->note(new AccountBarred(
            $account->id, (intdiv($at, self::DAY_MS) + 1) * self::DAY_MS,
            "the day stands at {$net->display(true)}, and the loss limit is {$account->dailyLossLimit->display()} {$account->rates->base->code}",
        ));
        $flattens = [];
        foreach ($this->bench->state->holdings as $holdings) {
            $of = $holdings[$account->id] ?? null;
            if ($of !== null && ($of->position->lots !== 0 || $of->working !== [])) {
                if (! $of->flattening) {
                    $this->bench->scribe->note(new FlattenStarted($account->id, $of->contract));
                }
                $flattens[] = $of;
            }
        }

        return $flattens;
    }

    private function mark(string $contract): ?int
    {
        $quote = $this->bench->quote($contract);

        return Passed::clamped($quote->last, $quote->bid, $quote->ask);
    }

    private function net(Account $account, int $at): Money
    {
        $base = $account->rates->toBase(...);
        $day = DayResult::of($account, $this->bench->state, $at);
        $net = $day->realised->minus($day->fees);
        foreach ($this->bench->state->holdings as $code => $holdings) {
            $position = ($holdings[$account->id] ?? null)?->position;
            $mark = $this->mark($code);
            if ($position !== null && $position->lots !== 0 && $mark !== null) {
                $net = $net->plus($base($this->bench->state->contracts[$code]->money($position->openTicks($mark))));
            }
        }

        return $net;
    }
}
