<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\CommandContext;
use Lotrik\Desk\CommandHead;
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
        $tickets = [];
        foreach ($bodies as $i => $order) {
            $request = OrderRequest::fromNode(
                Node::of($order, $body->at('orders')."/$i"),
                $this->context->state,
                $this->context->recorder->at,
            );
            $tickets[] = $this->context->worked($command, $request);
        }
        $body->done();
        [$first, $second] = $tickets;
        if ($first->request->contract !== $second->request->contract) {
            throw InvalidDocument::at(
                $body->at('orders').'/1/contract',
                '"'.$second->request->contract->code.'"',
                "\"{$first->request->contract->code}\", the contract of the first order",
            );
        }
        $code = $first->request->contract->code;
        $this->mustHaveRoom($command, $code, count(array_filter($tickets, static fn(Ticket $of): bool => $of->mayOpen())));
        $id = $this->context->state->lastOrder + 1;
        $answer = ['orders' => [$id, $id + 1]];
        $holding = $this->context->state->holding($command->account->id, $code);
        $this->context->accept(
            $command,
            $code,
            $answer,
            'Placed a pair: '.Preview::sentence($first, $holding).' | '.Preview::sentence($second, $holding),
        );
        $this->context->recorder->note($first->placed($id, $command->account->id, $command->clientId, more: ', one of a pair'));
        $this->context->recorder->note($second->placed($id + 1, $command->account->id, $command->clientId, more: ', one of a pair'));
        $this->context->recorder->note(new E\OrdersTied(
            $command->account->id,
            $code,
            $id,
            $id + 1,
            $first->role !== Role::Close || $second->role !== Role::Close,
        ));

        return $answer;
    }

    /** Each of them was checked as if it came alone. */
    private function mustHaveRoom(CommandHead $command, string $contract, int $entries): void
    {
        $most = $command->account->limits->in($contract)->workingOrders;
        $working = count(array_filter(
            $this->context->state->holding($command->account->id, $contract)->working,
            static fn(DeskOrder $o): bool => $o->role === Role::Entry,
        ));
        if ($most !== null && $entries > 0 && $working + $entries > $most) {
            throw Refusal::workingOrders($entries, $working, $most, $contract);
        }
    }
}
