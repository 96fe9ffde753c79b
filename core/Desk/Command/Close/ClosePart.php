<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Close;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Command\WhichPortions;
use Lotrik\Desk\Event as E;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/**
 * Closes one entry, or some of its portions, at the market. Each close is an OUO partner of the stop and target of the
 * lots that it closes: they stay until it fills, and whichever fills first lowers the others.
 */
final class ClosePart implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $id = $body->int('entry', 1, PHP_INT_MAX);
        $which = WhichPortions::in($body);
        [$contract, $holding] = $this->context->openPosition($command, $body);
        $this->context->mustBeOpen($contract);
        $entry = $holding->entries[$id] ?? throw self::entryNotFound($contract->code, $id);
        $slots = array_values(array_filter(
            $entry->exits->slots(),
            static fn(ExitSlot $c): bool => $c->lots > 0 && $which->have($c->portion->number),
        ));
        if ($slots === []) {
            throw Refusal::noOpenLots($id, $which->words());
        }
        foreach ($holding->working as $order) {
            if ($order->role === Role::Close && $order->entry === $id) {
                throw self::closing($order->id, $id);
            }
        }
        $lots = array_sum(array_map(static fn(ExitSlot $c): int => $c->lots, $slots));
        $what = $which->numbers === null ? "entry $id" : $which->words();
        $this->context->accept(
            $command,
            $contract->code,
            ['contracts' => [$contract->code]],
            "Close $what at the market: $lots of ".abs($holding->position->lots),
        );
        foreach ($slots as $i => $slot) {
            $this->context->recorder->note(new E\Order\OrderPlaced(
                $this->context->state->lastOrder + 1, $command->account->id, $contract->code, $i === 0 ? $command->clientId : null,
                $entry->exits->side->opposite(), OrderKind::Market, $slot->lots,
                null, null, TimeInForce::Day, Role::Close, E\Order\Purpose::Hand,
                "closes $what",
                entry: $id, portion: $slot->portion->number, group: $slot->group,
            ));
        }

        return ['contracts' => [$contract->code]];
    }

    private static function entryNotFound(string $contract, int $id): Refusal
    {
        return new Refusal(RefusalCode::NotFound, "the position in $contract has no entry $id", '/entry');
    }

    private static function closing(int $order, int $entry): Refusal
    {
        return new Refusal(RefusalCode::Closing, "order $order closes lots of entry $entry already");
    }
}
