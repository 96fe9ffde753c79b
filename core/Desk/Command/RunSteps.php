<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Event as E;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Intake\Preview;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Steps\Step;
use Lotrik\Desk\Steps\StepAction;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/**
 * An action key of several steps in one contract. Every order in it is checked before anything is done, as things will be
 * when its turn comes: one that would be refused refuses all. {@see \Lotrik\Desk\Upkeep\StepKeeper} takes them.
 */
final class RunSteps implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $contract = $this->context->contractOf($body);
        $name = $body->string('name', null, 24);
        $list = $body->list('steps');
        if ($list === [] || count($list) > Step::MOST) {
            throw InvalidDocument::at($body->at('steps'), count($list).' steps', 'one to '.Step::MOST);
        }
        $steps = [];
        foreach ($list as $i => $step) {
            $steps[] = Step::fromNode(Node::of($step, $body->at('steps')."/$i"));
        }
        $body->done();
        $holding = $this->context->state->holding($command->account->id, $contract->code);
        if ($holding->steps !== null) {
            throw self::stepsUnderWay($holding->steps->name);
        }
        $answer = ['steps' => count($steps)];
        $words = $this->checked($command, $steps, $holding);
        $this->context->accept($command, $contract->code, $answer, "$name: ".implode(', then ', $words));
        $this->context->recorder->note(new E\Command\StepsBegun(
            $command->account->id, $contract->code, $name, $command->clientId,
            array_map(static fn(Step $step): array => $step->toArray(), $steps),
        ));

        return $answer;
    }

    /**
     * @param list<Step> $steps
     *
     * @return list<string> each in words
     *
     * @throws Refusal
     * @throws InvalidDocument
     */
    private function checked(CommandHead $command, array $steps, AccountPosition $holding): array
    {
        $words = [];
        $sent = 0;
        foreach ($steps as $i => $step) {
            if ($step->do === StepAction::Reverse) {
                $this->context->reversed($command, $holding, $step->plan("/steps/$i"));
            }
            if ($step->do !== StepAction::Order) {
                $words[] = $step->do->words();
                $holding = self::after($step, $holding);

                continue;
            }
            $request = OrderRequest::fromNode(
                Node::of(['contract' => $holding->contract] + $step->body, "/steps/$i/order"),
                $this->context->state,
                $this->context->recorder->at,
            );
            $ticket = $this->context->worked($command, $request, $holding, $sent);
            $sent += $ticket->mayOpen() && $request->releaseWhen === null ? 1 : 0;
            $words[] = Preview::sentence($ticket, $holding, $command->account->limits);
            $holding = clone $holding;
            // Orders of earlier steps count against the limits of later ones; no order has a number below zero.
            $holding->working[-1 - $i] = new DeskOrder(
                $ticket->placed(-1 - $i, $command->account->id, $command->clientId),
                $this->context->recorder->at,
            );
        }

        return $words;
    }

    /** What the account will have when a step that closes or cancels has come through. */
    private static function after(Step $step, AccountPosition $holding): AccountPosition
    {
        if ($step->do === StepAction::Flatten || $step->do === StepAction::Reverse) {
            $after = new AccountPosition($holding->account, $holding->contract);
            $lots = -$holding->position->lots;
            if ($step->do === StepAction::Reverse && $lots !== 0) {
                $after->position->fill(Side::ofPosition($lots), abs($lots), $holding->position->anchor());
            }

            return $after;
        }
        $gone = match ($step->do) {
            StepAction::CancelAll => Side::cases(),
            StepAction::CancelBuys => [Side::Buy],
            StepAction::CancelSells => [Side::Sell],
            default => [],
        };
        $after = clone $holding;
        $after->working = array_filter(
            $after->working,
            static fn(DeskOrder $order): bool => $order->role->isExit() || ! in_array($order->side, $gone, true),
        );

        return $after;
    }

    /** @param string $name of the action key */
    private static function stepsUnderWay(string $name): Refusal
    {
        return new Refusal(RefusalCode::StepsUnderWay, "$name is still being carried out; wait until its last step is done, or flatten");
    }
}
