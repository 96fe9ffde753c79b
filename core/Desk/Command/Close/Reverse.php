<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Close;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Flatten\ReversalEntry;
use Lotrik\Desk\Question\Order\NotFlattening;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;

/** Flat first, then the same size on the other side under the chosen plan. */
final class Reverse implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contract = $this->context->contractOf($body);
        $plan = $body->raw('exit_plan') === null ? null : ExitPlan::fromNode($body->node('exit_plan'));
        $version = $body->optionalInt('plan_version', 1, PHP_INT_MAX);
        $body->done();
        $holding = $this->context->state->holding($command->account->id, $contract->code);
        if ($holding->isClosingDown()) {
            throw NotFlattening::flattening($contract->code, 'wait until it is flat');
        }
        $ticket = $this->context->reversed($command, $holding, $plan);
        [$side, $lots] = [$ticket->request->side, $ticket->quantity];
        $answer = ['contracts' => [$contract->code]];
        $words = EventText::order($side, $lots, OrderKind::Market, null, null, $contract);
        $this->context->accept(
            $command,
            $contract->code,
            $answer,
            "Reverse {$contract->code}: flat, then $words under ".($plan->name ?? 'no exit plan'),
        );
        $this->context->recorder->note(new E\Command\FlattenStarted(
            $command->account->id,
            $contract->code,
            ClosingTrigger::Reverse,
            (new ReversalEntry($side, $lots, $plan?->document, $ticket->ranges, $version))->toArray(),
        ));

        return $answer;
    }
}
