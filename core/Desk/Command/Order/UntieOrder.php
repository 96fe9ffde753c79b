<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Dissolves the group of an order; both go on by themselves. */
final class UntieOrder implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $order = $this->context->orderOf($command, $body);
        $body->done();
        if ($order->tie === null) {
            throw self::notTied($order->id);
        }
        $other = $order->tie->other;
        $holding = $this->context->state->holding($order->account, $order->contract);
        $after = $before = $this->context->asking->now($holding);
        foreach ([$order->id, $other] as $id) {
            $entry = $before->entry($id);
            $after = $entry === null ? $after : $after->withEntry($entry->alone());
        }
        // Until now only one of them could fill.
        $this->context->mayBe($this->context->asking->of($command->account, $holding, $this->context->recorder->at, $after), '', false);
        $this->context->accept($command, $order->contract, ['orders' => [$order->id, $other]], "Untie orders {$order->id} and $other");
        $this->context->recorder->note(new E\Order\OrderUntied($order->id, $other));

        return ['orders' => [$order->id, $other]];
    }

    private static function notTied(int $order): Refusal
    {
        return new Refusal(RefusalCode::NotTied, "order $order is not tied to another; only orders that were tied by hand can be untied");
    }
}
