<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Intake\Preview;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Two orders of one contract, tied from the first moment: OCO, or OUO where both close. Both are checked before the first is placed. */
final class PlacePair implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $bodies = $body->list('orders');
        if (count($bodies) !== 2) {
            throw InvalidDocument::at($body->at('orders'), count($bodies).' orders', 'exactly two orders');
        }
        $requests = [];
        foreach ($bodies as $i => $order) {
            $request = OrderRequest::fromNode(
                Node::of($order, $body->at('orders')."/$i"),
                $this->context->state,
                $this->context->recorder->at,
            );
            $this->context->mustHaveParent($command, $request);
            $requests[] = $request;
        }
        $body->done();
        $contract = $requests[0]->contract;
        if ($contract !== $requests[1]->contract) {
            throw InvalidDocument::at(
                $body->at('orders').'/1/contract',
                '"'.$requests[1]->contract->code.'"',
                "\"{$contract->code}\", the contract of the first order",
            );
        }
        $code = $contract->code;
        [$first, $second] = $this->worked($command, $requests, $code);
        $id = $this->context->state->lastOrder + 1;
        $answer = ['orders' => [$id, $id + 1]];
        $holding = $this->context->state->holding($command->account->id, $code);
        $this->context->accept(
            $command,
            $code,
            $answer,
            'Placed a pair: '.Preview::sentence($first, $holding, $command->account->limits)
                .' | '.Preview::sentence($second, $holding, $command->account->limits),
        );
        $this->context->recorder->note($first->placed($id, $command->account->id, $command->clientId, more: ', one of a pair'));
        $this->context->recorder->note($second->placed($id + 1, $command->account->id, $command->clientId, more: ', one of a pair'));
        $this->context->recorder->note(new E\Order\OrdersTied(
            $command->account->id,
            $code,
            $id,
            $id + 1,
            $first->role !== Role::Close || $second->role !== Role::Close,
        ));

        return $answer;
    }

    /**
     * Of two that are tied one-cancels-other the larger counts; of two that close, both close what is open.
     *
     * @param non-empty-list<OrderRequest> $requests
     *
     * @return array{Ticket, Ticket}
     *
     * @throws Refusal
     */
    private function worked(CommandHead $command, array $requests, string $contract): array
    {
        $holding = $this->context->state->holding($command->account->id, $contract);
        $quote = $this->context->quote($contract);
        $tickets = array_map(
            fn(OrderRequest $request): Ticket => $this->context->intake->workedOut($request, $command->account, $quote, $holding),
            $requests,
        );
        foreach ($tickets as $ticket) {
            if ($ticket->refusal !== null) {
                throw $ticket->refusal;
            }
        }
        [$first, $second] = $tickets;
        $refusal = $this->context->asking->ofOrders([$first, $second], $command->account, $holding, $quote, oco: true);

        return $refusal === null ? [$first, $second] : throw $refusal;
    }
}
