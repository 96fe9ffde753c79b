<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandContext;
use Lotrik\Desk\CommandHead;
use Lotrik\Desk\DeskOrder;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Refusal;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\Order\Role;

/** Ties two working orders of one contract by hand: OCO; OUO where both close the position. */
final class TieOrders implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function take(CommandHead $command, Node $body): array
    {
        $ids = $body->list('orders');
        $body->done();
        if (count($ids) !== 2 || $ids[0] === $ids[1]) {
            throw DocumentFault::at($body->at('orders'), DocumentFault::show($ids), 'two different orders');
        }
        [$first, $second] = array_map(fn(mixed $id): DeskOrder => $this->context->orderOf($command, Node::of(['order' => $id], $body->at('orders'))), $ids);
        if ($first->contract !== $second->contract) {
            throw new Refusal('two-contracts', "order {$first->id} is in {$first->contract} and order {$second->id} in {$second->contract}; only orders of one contract can be tied", '/orders');
        }
        foreach ([$first, $second] as $order) {
            $this->context->mustBeFree($order);
            if ($order->role->isExit()) {
                throw new Refusal('exit-is-tied', "order {$order->id} is the {$order->role->value} of a portion and belongs with its other side already; tie entries and hand-made orders", '/orders');
            }
            if ($order->tie !== null) {
                throw new Refusal('already-tied', "order {$order->id} is tied to order {$order->tie->other}; untie it first", '/orders');
            }
        }
        $oco = $first->role !== Role::Close || $second->role !== Role::Close;
        $this->context->taken($command, $first->contract, ['orders' => [$first->id, $second->id]], "Tie orders {$first->id} and {$second->id}");
        $this->context->recorder->note(new E\OrdersTied($command->account->id, $first->contract, $first->id, $second->id, $oco));

        return ['orders' => [$first->id, $second->id]];
    }
}
