<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Exit;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Desk\Question\Level;
use Lotrik\Desk\Question\Order\NotFlattening;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/**
 * Puts a plan on the open position, swaps it, or takes it off; with `only: "unprotected"` it covers just the lots that
 * nothing protects, and the others keep their exits. No lot's stop is loosened by it: the answer says which
 * stops stayed, and what loosening them would give up. With that amount as `loosen` they go to the plan's, unless by then it
 * would be more.
 */
final class PutPlanOn implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contract = $this->context->contractOf($body);
        $plan = $body->raw('exit_plan') === null ? null : ExitPlan::fromNode($body->node('exit_plan'));
        $closeNow = $body->bool('close_now', false);
        $leave = $body->bool('leave_unprotected', false);
        $mayGiveUp = $body->optionalDecimal('loosen');
        if (! in_array($body->raw('only'), [null, 'unprotected'], true)) {
            throw $body->fault('only', '"unprotected"');
        }
        // A plan for the whole position has no part of it to itself.
        $onlyBare = $body->raw('only') !== null && $plan?->covers === PlanScope::Entry;
        $version = $body->optionalInt('plan_version', 1, PHP_INT_MAX);
        $body->done();
        $holding = $this->context->state->holding($command->account->id, $contract->code);
        if ($holding->position->lots === 0) {
            throw Refusal::flat($contract->code, 'there is nothing to put a plan on');
        }
        if ($holding->isClosingDown()) {
            throw NotFlattening::flattening($contract->code, 'no plan is needed now');
        }
        $lots = $onlyBare
            ? array_sum(array_map(static fn(OpenPortion $of): int => $of->slot->lots, $holding->coverage()->withoutStop()))
            : abs($holding->position->lots);
        if ($lots === 0) {
            throw self::nothingToCover($contract->code);
        }
        $ranges = $this->context->intake->ranges($plan, $this->context->quote($contract->code), $this->context->recorder->at);
        $resolved = $this->context->intake->fitted($plan, $command->account, $contract, $holding, $lots, $ranges);
        $hours = $this->context->hours($contract->code, $this->context->recorder->at);
        $closeNow = $closeNow && $hours->open;
        $passed = $resolved === null || $closeNow ? null : $this->firstPassed($resolved, $holding, $lots);
        if ($passed !== null) {
            $remedy = $hours->open
                ? 'say "close_now": true to close those lots at the market'
                : "{$contract->code} is {$hours->words($this->context->recorder->at)}";

            throw Refusal::stopPassed('the stop', $contract->price($passed), $remedy, '/exit_plan');
        }
        $keeps = $resolved === null ? [] : self::keeps($resolved, $holding, $onlyBare, $lots);
        [$stay, $givesUp] = $resolved === null ? [0, 0] : self::kept($keeps, $resolved, $holding, $lots);
        $money = $contract->money($givesUp);
        if ($stay > 0 && $mayGiveUp !== null && ! $money->minus(Money::of($mayGiveUp, $contract->currency))->isPositive()) {
            [$keeps, $stay] = [[], 0];
        }
        $this->context->mayBe($this->proposal($command, $holding, $contract, $resolved, $onlyBare, $keeps), 'taking the present exits off', $leave);
        $answer = ['contracts' => [$contract->code]] + ($stay === 0 ? [] : [
            'kept' => ['lots' => $stay, 'money' => $money->exact(), 'currency' => $contract->currency->code],
        ]);
        $this->context->accept(
            $command,
            $contract->code,
            $answer,
            'Put '.($plan->name ?? 'no exit plan').($onlyBare ? " on $lots unprotected lots" : ' on the position'),
        );
        $this->context->recorder->note(new E\Exit\PlanPutOn(
            $command->account->id, $contract->code, $this->context->state->lastOrder + 1, ($resolved ?? ResolvedPlan::none())->toArray(),
            $holding->position->anchor(),
            $this->takes($holding, $onlyBare), $onlyBare, $version, $keeps,
        ));

        return $answer;
    }

    /** @param array<int, int> $keeps portion → tick */
    private function proposal(
        CommandHead $command,
        AccountPosition $holding,
        Contract $contract,
        ?ResolvedPlan $plan,
        bool $onlyBare,
        array $keeps,
    ): Proposal {
        $anchor = $holding->position->anchor();
        $sign = Side::ofPosition($holding->position->lots)->sign();
        $takes = $this->takes($holding, $onlyBare);
        $levels = [];
        foreach ($plan?->offsets(array_sum(array_column($takes, 3))) ?? [] as $offset) {
            $levels[] = new Level($anchor + $sign * $offset, '/exit_plan');
        }

        return $this->context->asking->of(
            $command->account, $holding, $this->context->recorder->at, $this->context->asking->now($holding)->withPlan(
                $this->context->state->lastOrder + 1, $plan, $takes, $anchor, $keeps, $plan?->covers === PlanScope::Position,
            ), $levels, pointer: '/exit_plan',
        );
    }

    /** @return list<array{int, int, int, int}> entry, portion, group, lots: what the plan takes over */
    private function takes(AccountPosition $holding, bool $onlyBare): array
    {
        $portions = $onlyBare ? $holding->coverage()->withoutStop() : $holding->portions();

        return array_values(array_map(
            static fn(OpenPortion $of): array => [$of->entry->order, $of->slot->portion->number, $of->slot->group, $of->slot->lots],
            array_filter($portions, static fn(OpenPortion $of): bool => $of->slot->lots > 0),
        ));
    }

    /**
     * Stops that are tighter than the plan's stay: the lots go over to its portions in their order, and each portion keeps
     * the tightest stop that its lots had. Where the trader wants a looser one, the hand on the stop says what that costs.
     *
     * @return array<int, int> portion → tick
     */
    private static function keeps(ResolvedPlan $plan, AccountPosition $holding, bool $onlyBare, int $lots): array
    {
        $side = Side::ofPosition($holding->position->lots);
        $had = [];
        foreach ($onlyBare ? [] : $holding->portions() as $of) {
            $stop = $of->slot->wantsStop() && $of->order($holding, Role::Stop)?->isLeftBehind() !== true ? $of->slot->stop : null;
            array_push($had, ...array_fill(0, $of->slot->lots, $stop));
        }
        $keeps = [];
        foreach ($plan->split($lots) as $number => $n) {
            $stops = array_filter(array_splice($had, 0, $n), is_int(...));
            if ($stops !== [] && $plan->portion($number)->stop !== null) {
                $keeps[$number] = $side === Side::Buy ? max($stops) : min($stops);
            }
        }

        return $keeps;
    }

    /**
     * @param array<int, int> $keeps portion → tick
     *
     * @return array{int, int} lots whose stop stays nearer than the plan's, and ticks × lots that taking it there would give up
     */
    private static function kept(array $keeps, ResolvedPlan $plan, AccountPosition $holding, int $lots): array
    {
        $sign = Side::ofPosition($holding->position->lots)->sign();
        $split = $plan->split($lots);
        $stay = $ticks = 0;
        foreach ($keeps as $number => $tick) {
            $nearer = $sign * ($tick - $holding->position->anchor()) + (int) $plan->portion($number)->stop?->distance;
            if ($nearer > 0) {
                $stay += $split[$number];
                $ticks += $split[$number] * $nearer;
            }
        }

        return [$stay, $ticks];
    }

    /** @return int|null the tick of the first stop that the market has passed */
    private function firstPassed(ResolvedPlan $plan, AccountPosition $holding, int $lots): ?int
    {
        $side = Side::ofPosition($holding->position->lots);
        foreach (array_filter($plan->split($lots)) as $number => $n) {
            $stop = $plan->portion($number)->stop;
            $level = $stop === null ? null : $holding->position->anchor() - $side->sign() * $stop->distance;
            if ($level !== null && $this->context->quote($holding->contract)->isPassed($side->opposite(), $level)) {
                return $level;
            }
        }

        return null;
    }

    private static function nothingToCover(string $contract): Refusal
    {
        return new Refusal(RefusalCode::NothingToCover, "every lot in $contract has its stop");
    }
}
