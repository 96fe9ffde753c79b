<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Intake\Preview;
use Lotrik\Document\Node;

/** An order, worked out and checked. */
final class PlaceOrder implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $request = OrderRequest::fromNode($body, $this->context->state, $this->context->recorder->at);
        $ticket = $this->context->worked($command, $request);
        $id = $this->context->state->lastOrder + 1;
        $holding = $this->context->state->holding($command->account->id, $request->contract->code);
        $this->context->accept(
            $command, $request->contract->code, ['order' => $id],
            'Placed: '.Preview::sentence($ticket, $holding, $command->account->limits),
        );
        $this->context->recorder->note($ticket->placed($id, $command->account->id, $command->clientId));

        return ['order' => $id];
    }
}
