<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\OpenPortion;
use Lotrik\Desk\CommandContext;
use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;

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
        $levels = $this->levels($body, $contract);
        [, $holding] = $this->context->openPosition($command, $body);
        $sets = $moves = $words = $waiting = [];
        foreach ($levels as [$role, $level, $pointer]) {
            $this->mustNotBePassed($role, $level, $contract, $holding, $pointer);
            $without = $this->lotsWithout($role, $level, $holding);
            $elsewhere = $without === [] ? $this->elsewhere($role, $level, $holding) : [];
            array_push($sets, ...$without);
            array_push($waiting, ...$this->context->busyExits($holding, $elsewhere, $role));
            $moves[] = [$elsewhere, $role, $level];
            $words[] = "{$role->value} of the position at {$contract->write($level)}";
        }
        if ($sets === [] && array_filter(array_column($moves, 0)) === []) {
            throw Refusal::nothingToMove("every {$levels[0][0]->value} stands there already");
        }
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
     * One by `role` and `level`, or by `stop`, `target` or both.
     *
     * @return non-empty-list<array{Role, int, string}> role, tick and pointer
     */
    private function levels(Node $body, Contract $contract): array
    {
        if ($body->has('role') || $body->has('level')) {
            $role = match ($body->raw('role')) {
                'stop' => Role::Stop,
                'target' => Role::Target,
                default => throw $body->fault('role', '"stop" or "target"'),
            };

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
            throw Refusal::stopPassed('a stop', $contract->price($level), 'a target would stand there, or flatten', $pointer);
        }
        $exit = $quote->exit($side->sign());
        if ($role === Role::Target && $exit !== null && $side->sign() * ($exit - $level) > 0) {
            throw Refusal::targetPassed($contract->price($level), $pointer);
        }
    }

    /** @return list<E\ExitSet> */
    private function lotsWithout(Role $role, int $level, AccountPosition $holding): array
    {
        $sets = [];
        foreach ($holding->portions() as $of) {
            if ($of->slot->lots > 0 && ! ($role === Role::Stop ? $of->slot->wantsStop() : $of->slot->wantsTarget())) {
                $sets[] = new E\ExitSet(
                    $holding->account, $holding->contract, $of->entry->order, $of->slot->portion->number, $of->slot->group, $role, $level,
                );
            }
        }

        return $sets;
    }

    /** @return list<OpenPortion> those whose stop or target stands at another level */
    private function elsewhere(Role $role, int $level, AccountPosition $holding): array
    {
        if ($role === Role::Stop) {
            return array_values(array_filter(
                CommandContext::withStop($holding),
                static fn(OpenPortion $of): bool => $of->slot->stop !== $level,
            ));
        }

        return array_values(array_filter(
            $holding->portions(),
            static fn(OpenPortion $of): bool => $of->slot->wantsTarget() && $of->slot->target !== $level,
        ));
    }
}
