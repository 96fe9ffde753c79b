<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\CommandContext;
use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Ties two working orders of one contract by hand: OCO; OUO where both close the position. */
final class TieOrders implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $ids = $body->list('orders');
        $body->done();
        if (count($ids) !== 2 || $ids[0] === $ids[1]) {
            throw InvalidDocument::at($body->at('orders'), InvalidDocument::show($ids), 'two different orders');
        }
        [$first, $second] = array_map(
            fn(mixed $id): DeskOrder => $this->context->orderOf($command, Node::of(['order' => $id], $body->at('orders'))),
            $ids,
        );
        if ($first->contract !== $second->contract) {
            throw Refusal::twoContracts($first->id, $first->contract, $second->id, $second->contract);
        }
        foreach ([$first, $second] as $order) {
            $this->context->mustBeFree($order);
            if ($order->role->isExit()) {
                throw Refusal::exitIsTied($order->id, $order->role->value);
            }
            if ($order->tie !== null) {
                throw Refusal::alreadyTied($order->id, $order->tie->other);
            }
        }
        $oco = $first->role !== Role::Close || $second->role !== Role::Close;
        $this->context->accept(
            $command,
            $first->contract,
            ['orders' => [$first->id, $second->id]],
            "Tie orders {$first->id} and {$second->id}",
        );
        $this->context->recorder->note(new E\OrdersTied($command->account->id, $first->contract, $first->id, $second->id, $oco));

        return ['orders' => [$first->id, $second->id]];
    }
}
