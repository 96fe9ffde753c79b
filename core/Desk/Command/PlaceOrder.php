<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Preview;
use Lotrik\Desk\Workbench;
use Lotrik\Document\Node;
use Lotrik\Order\Role;

/** An order, worked out and checked. */
final class PlaceOrder implements Command
{
    public function __construct(private readonly Workbench $bench) {}

    public function take(CommandHead $command, Node $body): array
    {
        $request = OrderRequest::fromNode($body, $this->bench->state);
        $ticket = $this->bench->intake->work($request, $command->account, $this->bench->quote($request->contract->code));
        if ($ticket->refusal !== null) {
            throw $ticket->refusal;
        }
        $id = $this->bench->state->lastOrder + 1;
        $holding = $this->bench->state->holding($command->account->id, $request->contract->code);
        $words = Preview::of($ticket, $holding)['words'];
        assert(is_string($words));
        $this->bench->taken($command, $request->contract->code, ['order' => $id], "Placed: $words");
        $this->bench->scribe->note(new E\OrderPlaced(
            $id, $command->account->id, $request->contract->code, $command->clientId, $request->side, $request->kind, $ticket->quantity,
            $request->price, $request->trigger, $request->tif, $ticket->role, 'by hand', $ticket->role === Role::Entry ? $request->plan?->document : null, tag: $request->tag,
        ));

        return ['order' => $id];
    }
}
