<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Preview;
use Lotrik\Desk\Workbench;
use Lotrik\Document\Node;

/** An order, worked out and checked. */
final class PlaceOrder implements Command
{
    public function __construct(private readonly Workbench $bench) {}

    public function take(CommandHead $command, Node $body): array
    {
        $request = OrderRequest::fromNode($body, $this->bench->state, $this->bench->scribe->at);
        $ticket = $this->bench->worked($command, $request);
        $id = $this->bench->state->lastOrder + 1;
        $holding = $this->bench->state->holding($command->account->id, $request->contract->code);
        $this->bench->taken($command, $request->contract->code, ['order' => $id], 'Placed: '.Preview::sentence($ticket, $holding));
        $this->bench->scribe->note($ticket->placed($id, $command->account->id, $command->clientId));

        return ['order' => $id];
    }
}
