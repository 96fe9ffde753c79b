<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

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
            throw self::twoContracts($first->id, $first->contract, $second->id, $second->contract);
        }
        foreach ([$first, $second] as $order) {
            $this->context->mustBeFree($order);
            if ($order->role->isExit()) {
                throw self::exitIsTied($order->id, $order->role->value);
            }
            if ($order->tie !== null) {
                throw self::alreadyTied($order->id, $order->tie->other);
            }
        }
        $oco = $first->role !== Role::Close || $second->role !== Role::Close;
        $this->context->accept(
            $command,
            $first->contract,
            ['orders' => [$first->id, $second->id]],
            "Tie orders {$first->id} and {$second->id}",
        );
        $this->context->recorder->note(new E\Order\OrdersTied($command->account->id, $first->contract, $first->id, $second->id, $oco));

        return ['orders' => [$first->id, $second->id]];
    }

    private static function twoContracts(int $first, string $contract, int $second, string $other): Refusal
    {
        return new Refusal(
            RefusalCode::TwoContracts,
            "order $first is in $contract and order $second in $other; only orders of one contract can be tied",
            '/orders',
        );
    }

    /** @param string $role stop or target */
    private static function exitIsTied(int $order, string $role): Refusal
    {
        return new Refusal(
            RefusalCode::ExitIsTied,
            "order $order is the $role of a portion and belongs with its other side already; tie entries and hand-made orders",
            '/orders',
        );
    }

    private static function alreadyTied(int $order, int $other): Refusal
    {
        return new Refusal(RefusalCode::AlreadyTied, "order $order is tied to order $other; untie it first", '/orders');
    }
}
