<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\ClosingDown;
use Lotrik\Desk\Account\ClosingTrigger;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\CommandContext;
use Lotrik\Desk\Event\AccountBarred;
use Lotrik\Desk\Event\FlattenStarted;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\LossLimit;
use Lotrik\Risk\MarkedPosition;

/**
 * When the daily loss limit is reached everything of the account is flattened and cancelled, and it is barred from new
 * entries until its next trading day.
 */
final class LossWatch
{
    /** @var array<string, array{int, int|null}> account and contract → sequence and mark that were last looked at */
    private array $looked = [];

    private readonly LossLimit $limit;

    public function __construct(private readonly CommandContext $context)
    {
        $this->limit = new LossLimit();
    }

    /** @return list<AccountPosition> what has to be flattened now; empty while there is room */
    public function check(AccountPosition $holding, int $at): array
    {
        $key = "{$holding->account} {$holding->contract}";
        // Most of what a market does moves neither: depth comes and goes behind the touch.
        $seen = [$holding->sequence, $holding->position->lots === 0 ? null : $this->mark($holding->contract)];
        if (($this->looked[$key] ?? null) === $seen) {
            return [];
        }
        $this->looked[$key] = $seen;
        if ($this->context->state->isBarred($holding->account, $at)) {
            return $this->holdsAllTheSame($holding) ? [$holding] : [];
        }
        $account = $this->context->state->accounts[$holding->account];
        $net = $this->net($account, $at);
        if (! LossLimit::isReached($account->dailyLossLimit, $net)) {
            return [];
        }
        $this->context->recorder->note(new AccountBarred(
            $account->id, LossLimit::nextDay($at),
            "the day stands at {$net->display(true)}, and the loss limit is {$account->dailyLossLimit->display()} "
                ."{$account->rates->base->code}",
        ));
        $flattens = [];
        foreach ($this->context->state->holdings as $holdings) {
            $of = $holdings[$account->id] ?? null;
            if ($of !== null && ($of->position->lots !== 0 || $of->working !== [] || $of->isClosingDown())) {
                $this->closeDown($of);
                $flattens[] = $of;
            }
        }

        return $flattens;
    }

    /** A barred account goes on being flattened until it is flat, whatever came in meanwhile. */
    private function holdsAllTheSame(AccountPosition $holding): bool
    {
        $opens = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry);
        if ($holding->position->lots === 0 && $opens === [] && $holding->closing !== ClosingDown::Reversing) {
            return false;
        }
        $this->closeDown($holding);

        return true;
    }

    /** What a reversal would have entered afterwards is taken away with it. */
    private function closeDown(AccountPosition $holding): void
    {
        if ($holding->closing !== ClosingDown::Flattening) {
            $this->context->recorder->note(new FlattenStarted($holding->account, $holding->contract, ClosingTrigger::Bar));
        }
    }

    private function mark(string $contract): ?int
    {
        $quote = $this->context->quote($contract);

        return LossLimit::mark($quote->last, $quote->bid, $quote->ask);
    }

    private function net(Account $account, int $at): Money
    {
        $positions = [];
        foreach ($this->context->state->holdings as $code => $holdings) {
            $position = ($holdings[$account->id] ?? null)?->position;
            if ($position !== null) {
                $positions[$code] = new MarkedPosition($this->context->state->contracts[$code], $position, $this->mark($code));
            }
        }

        return $this->limit->net(
            $account->id,
            $account->rates,
            $at,
            $positions,
            fn(): DayResult => AccountFigures::day($account, $this->context->state, $at),
        );
    }
}
