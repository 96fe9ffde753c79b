<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\DeskOrder;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Workbench;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/** Closes half of the position at the market, rounded down: half of what closes that are on their way leave of it. */
final class HalfOff implements Command
{
    public function __construct(private readonly Workbench $bench) {}

    public function take(CommandHead $command, Node $body): array
    {
        [$contract, $holding] = $this->bench->openPosition($command, $body);
        $this->bench->mustBeOpen($contract);
        $lots = $holding->position->lots;
        $closing = array_sum(array_map(static fn(DeskOrder $o): int => $o->role === Role::Close && $o->kind === OrderKind::Market ? $o->leaves() : 0, $holding->working));
        $left = abs($lots) - $closing;
        if ($left < 2) {
            throw new Refusal('no-half', $closing === 0 ? 'one lot has no half; flatten closes it' : "$closing of ".abs($lots).' lots are being closed already, and what is left has no half; flatten closes it');
        }
        $id = $this->bench->state->lastOrder + 1;
        $half = intdiv($left, 2);
        $this->bench->taken($command, $contract->code, ['contracts' => [$contract->code]], "Half off: $half of ".abs($lots));
        $this->bench->scribe->note(new E\OrderPlaced($id, $command->account->id, $contract->code, $command->clientId, Side::ofPosition($lots)->opposite(), OrderKind::Market, $half, null, null, TimeInForce::Day, Role::Close, E\Purpose::Hand, 'half off'));

        return ['contracts' => [$contract->code]];
    }
}
