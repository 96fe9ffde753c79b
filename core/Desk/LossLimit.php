<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Event\AccountBarred;
use Lotrik\Desk\Event\FlattenStarted;
use Lotrik\Money\Money;
use Lotrik\Order\Passed;
use Lotrik\Order\Role;
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

    /** @var array<int, array{int, int, list<string>, Money}> account → fills so far, day, open contracts, and what no mark moves */
    private array $still = [];

    public function __construct(private readonly CommandContext $context) {}

    /** @return list<Holding> what has to be flattened now; empty while there is room */
    public function look(Holding $holding, int $at): array
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
        if ($account->dailyLossLimit->plus($net)->isPositive()) {
            return [];
        }
        $this->context->recorder->note(new AccountBarred(
            $account->id, (intdiv($at, self::DAY_MS) + 1) * self::DAY_MS,
            "the day stands at {$net->display(true)}, and the loss limit is {$account->dailyLossLimit->display()} {$account->rates->base->code}",
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
    private function holdsAllTheSame(Holding $holding): bool
    {
        $opens = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry);
        if ($holding->position->lots === 0 && $opens === [] && $holding->closing !== ClosingDown::Reversing) {
            return false;
        }
        $this->closeDown($holding);

        return true;
    }

    /** What a reversal would have entered afterwards is taken away with it. */
    private function closeDown(Holding $holding): void
    {
        if ($holding->closing !== ClosingDown::Flattening) {
            $this->context->recorder->note(new FlattenStarted($holding->account, $holding->contract, ClosingTrigger::Bar));
        }
    }

    private function mark(string $contract): ?int
    {
        $quote = $this->context->quote($contract);

        return Passed::clamped($quote->last, $quote->bid, $quote->ask);
    }

    private function net(Account $account, int $at): Money
    {
        $base = $account->rates->toBase(...);
        $net = $this->still($account, $at);
        foreach ($this->context->state->holdings as $code => $holdings) {
            $lots = ($holdings[$account->id] ?? null)->position->lots ?? 0;
            $mark = $lots === 0 ? null : $this->mark($code);
            if ($mark !== null) {
                $net = $net->plus($base($this->context->state->contracts[$code]->money($lots * $mark)));
            }
        }

        return $net;
    }

    /**
     * What no mark moves: the day's result less fees, and open positions marked at tick 0. The digits of an average
     * and of what was realised grow with each partial close until the position is flat, but they are fractions of the
     * same fills: together they are mostly whole ticks again. So they are added up once a fill, not once a print.
     */
    private function still(Account $account, int $at): Money
    {
        $day = intdiv($at, self::DAY_MS);
        $fills = 0;
        $open = [];
        foreach ($this->context->state->holdings as $code => $holdings) {
            $holding = $holdings[$account->id] ?? null;
            $fills += $holding->position->fills ?? 0;
            if ($holding !== null && $holding->position->lots !== 0 && $this->mark($code) !== null) {
                $open[$code] = $holding->position;
            }
        }
        $known = $this->still[$account->id] ?? null;
        if ($known !== null && $known[0] === $fills && $known[1] === $day && $known[2] === array_keys($open)) {
            return $known[3];
        }
        $base = $account->rates->toBase(...);
        $result = DayResult::of($account, $this->context->state, $at);
        $still = $result->realised->minus($result->fees);
        foreach ($open as $code => $position) {
            $still = $still->plus($base($this->context->state->contracts[$code]->money($position->openTicks(0))));
        }
        $this->still[$account->id] = [$fills, $day, array_keys($open), $still];

        return $still;
    }
}
