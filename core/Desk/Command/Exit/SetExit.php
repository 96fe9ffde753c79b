<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Exit;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Command\WhichPortions;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Desk\Question\Level;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Distance;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/**
 * A stop, a target, or both as a pair, for the open position. Lots that have none of the kind get it; where all have
 * one, all of them go to the level.
 */
final class SetExit implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contract = $this->context->contractOf($body);
        $holding = $this->context->state->holding($command->account->id, $contract->code);
        $which = WhichPortions::in($body);
        $of = self::part($body, $which, $holding);
        $levels = $body->has('by') ? [$this->typed($body, $contract, $holding, $of)] : $this->levels($body, $contract);
        $this->context->openPosition($command, $body);
        $part = $which->numbers === null ? 'the position' : $which->words();
        $sets = $moves = $words = $waiting = [];
        $asking = $this->context->asking;
        $after = $asking->now($holding);
        $at = [];
        $stopsTo = null;
        foreach ($levels as [$role, $level, $pointer]) {
            $this->mustNotBePassed($role, $level, $contract, $holding, $pointer);
            $without = $this->lotsWithout($role, $level, $holding, $of);
            $elsewhere = $without === [] ? $this->elsewhere($role, $level, $holding, $of) : [];
            array_push($sets, ...$without);
            array_push($waiting, ...$this->context->busyExits($holding, $elsewhere, $role));
            $moves[] = [$elsewhere, $role, $level];
            $at[] = new Level($level, $pointer, self::farthest($elsewhere, $role, $level));
            if ($role === Role::Stop) {
                $after = $after->withStops($without === [] ? $elsewhere : self::withoutStop($of), $level);
                $stopsTo = [$level, $pointer];
            }
            $words[] = "{$role->value} of $part at {$contract->write($level)}";
        }
        if ($sets === [] && array_filter(array_column($moves, 0)) === []) {
            throw Refusal::nothingToMove("every {$levels[0][0]->value} stands there already");
        }
        $this->context->mayBe(
            $asking->of($command->account, $holding, $this->context->recorder->at, $after, $at, $stopsTo[0] ?? null, $stopsTo[1] ?? ''),
            '', true,
        );
        $answer = ['contracts' => [$contract->code], 'waiting' => $waiting];
        $this->context->accept($command, $contract->code, $answer, ucfirst(implode(', ', $words)));
        foreach ($sets as $event) {
            $this->context->recorder->note($event);
        }
        foreach ($moves as [$portions, $role, $level]) {
            foreach ($portions as $of) {
                $this->context->moveExit($holding, $of, $role, $level, 'by hand');
            }
        }

        return $answer;
    }

    /**
     * @param list<OpenPortion> $portions
     *
     * @return list<OpenPortion> those that want no stop yet
     */
    private static function withoutStop(array $portions): array
    {
        return array_values(array_filter($portions, static fn(OpenPortion $of): bool => ! $of->slot->wantsStop()));
    }

    /**
     * @param list<OpenPortion> $portions
     *
     * @return int|null where the one of them stands that is farthest from a level; null where none does
     */
    private static function farthest(array $portions, Role $role, int $level): ?int
    {
        $stand = array_filter(
            array_map(static fn(OpenPortion $of): ?int => $role === Role::Stop ? $of->slot->stop : $of->slot->target, $portions),
            is_int(...),
        );
        usort($stand, static fn(int $a, int $b): int => abs($b - $level) <=> abs($a - $level));

        return $stand[0] ?? null;
    }

    /**
     * One by `role` and `level`, or by `stop`, `target` or both.
     *
     * @return non-empty-list<array{Role, int, string}> role, tick and pointer
     */
    private function levels(Node $body, Contract $contract): array
    {
        if ($body->has('role') || $body->has('level')) {
            $role = self::role($body);

            return [[$role, $this->level($body, 'level', $role, $contract), '/level']];
        }
        $levels = [];
        foreach ([Role::Stop, Role::Target] as $role) {
            if ($body->has($role->value)) {
                $levels[] = [$role, $this->level($body, $role->value, $role, $contract), "/{$role->value}"];
            }
        }

        return $levels === [] ? throw $body->fault('role', '"stop" or "target" with a level, or a stop and a target') : $levels;
    }

    private function level(Node $body, string $field, Role $role, Contract $contract): int
    {
        return (int) OrderRequest::level($body, $field, $contract, true, $role === Role::Stop ? OrderKind::Stop : OrderKind::Limit);
    }

    private function mustNotBePassed(Role $role, int $level, Contract $contract, AccountPosition $holding, string $pointer): void
    {
        $quote = $this->context->quote($contract->code);
        $side = Side::ofPosition($holding->position->lots);
        if ($role === Role::Stop && $quote->isPassed($side->opposite(), $level)) {
            throw Refusal::stopPassed('a stop', $contract->price($level), 'use a target there, or flatten', $pointer);
        }
        $exit = $quote->exit($side->sign());
        if ($role === Role::Target && $exit !== null && $side->sign() * ($exit - $level) > 0) {
            throw self::targetPassed($contract->price($level), $pointer);
        }
    }

    /**
     * The portions that are meant: those of one entry, some of them, or all of the position.
     *
     * @return non-empty-list<OpenPortion>
     */
    private static function part(Node $body, WhichPortions $which, AccountPosition $holding): array
    {
        $entry = $body->optionalInt('entry', 1, PHP_INT_MAX);
        if ($which->numbers !== null && $entry === null) {
            throw $body->fault('entry', 'the entry that the portion is of');
        }
        $part = array_values(array_filter(
            $holding->portions(),
            static fn(OpenPortion $of): bool => $of->slot->lots > 0
                && ($entry === null || $of->entry->order === $entry) && $which->have($of->slot->portion->number),
        ));

        return $part !== [] ? $part : throw ($entry === null
            ? Refusal::flat($holding->contract, 'there is no position to act on')
            : Refusal::noOpenLots($entry, $which->words()));
    }

    /**
     * As a trader types it: a price; ticks, or money for the lots that are meant, from where they were entered. A number
     * without a sign is a loss for a stop and a profit for a target. A stop that is no whole tick is rounded towards less
     * risk, a target to the nearest tick.
     *
     * @param non-empty-list<OpenPortion> $of
     *
     * @return array{Role, int, string} role, tick and pointer
     */
    private function typed(Node $body, Contract $contract, AccountPosition $holding, array $of): array
    {
        $role = self::role($body);
        $by = $body->string('by');
        $typed = str_replace('−', '-', $body->string('value', null, 24));
        if ($by === 'price') {
            return [$role, $this->level($body, 'value', $role, $contract), '/value'];
        }
        if (! in_array($by, ['ticks', 'money'], true)) {
            throw $body->fault('by', 'price, ticks or money');
        }
        if (preg_match('/^([+-]?)(\d{1,12}(?:\.\d{1,9})?)$/', $typed, $found) !== 1 || ($by === 'ticks' && str_contains($typed, '.'))) {
            throw $body->fault('value', $by === 'ticks' ? 'whole ticks, such as "8"' : 'an amount of money, such as "20.00"');
        }
        $isLoss = $found[1] === '' ? $role === Role::Stop : $found[1] === '-';
        $lots = array_sum(array_map(static fn(OpenPortion $one): int => $one->slot->lots, $of));
        $ticks = $by === 'ticks'
            ? BigRational::of($found[2])
            : BigRational::of($found[2])->dividedBy($contract->money($lots)->amount());
        if ($isLoss && $role === Role::Stop && $ticks->isLessThan(1)) {
            throw $body->fault('value', "at least one tick, which is {$contract->money($lots)->display()} for them");
        }
        if ($ticks->isGreaterThan(Distance::MAX_TICKS)) {
            throw $body->fault(
                'value',
                'no more than '.Distance::MAX_TICKS." ticks, which is {$contract->money(Distance::MAX_TICKS * $lots)->display()} for them",
            );
        }
        $profit = $isLoss ? $ticks->negated() : $ticks;
        $whole = $profit->toScale(0, $role === Role::Stop ? RoundingMode::CEILING : RoundingMode::HALF_UP)->toInt();
        $from = count($of) === 1 ? $of[0]->entry->exits->anchor($of[0]->slot->group) : $holding->position->anchor();

        return [$role, $from + Side::ofPosition($holding->position->lots)->sign() * $whole, '/value'];
    }

    private static function role(Node $body): Role
    {
        return match ($body->raw('role')) {
            'stop' => Role::Stop,
            'target' => Role::Target,
            default => throw $body->fault('role', '"stop" or "target"'),
        };
    }

    /**
     * @param list<OpenPortion> $portions
     *
     * @return list<E\Exit\ExitSet>
     */
    private function lotsWithout(Role $role, int $level, AccountPosition $holding, array $portions): array
    {
        $sets = [];
        foreach ($portions as $of) {
            if (! ($role === Role::Stop ? $of->slot->wantsStop() : $of->slot->wantsTarget())) {
                $sets[] = new E\Exit\ExitSet(
                    $holding->account, $holding->contract, $of->entry->order, $of->slot->portion->number, $of->slot->group, $role, $level,
                );
            }
        }

        return $sets;
    }

    /**
     * @param list<OpenPortion> $portions
     *
     * @return list<OpenPortion> those of them whose stop or target stands at another level
     */
    private function elsewhere(Role $role, int $level, AccountPosition $holding, array $portions): array
    {
        if ($role === Role::Stop) {
            $meant = array_map(static fn(OpenPortion $of): ExitSlot => $of->slot, $portions);

            return array_values(array_filter(
                CommandContext::withStop($holding),
                static fn(OpenPortion $of): bool => $of->slot->stop !== $level && in_array($of->slot, $meant, true),
            ));
        }

        return array_values(array_filter(
            $portions,
            static fn(OpenPortion $of): bool => $of->slot->wantsTarget() && $of->slot->target !== $level,
        ));
    }

    private static function targetPassed(string $price, string $pointer): Refusal
    {
        return new Refusal(
            RefusalCode::TargetPassed,
            "a target at $price is already reached by the market; use a stop there, or flatten",
            $pointer,
        );
    }
}
