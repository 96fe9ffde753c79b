<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Close;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Closes half of the position at the market, rounded down: half of what closes that are on their way leave of it. */
final class HalfOff implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        [$contract, $holding] = $this->context->openPosition($command, $body);
        $this->context->mustBeOpen($contract);
        $lots = $holding->position->lots;
        $closing = array_sum(array_map(
            static fn(DeskOrder $o): int => $o->role === Role::Close && $o->kind === OrderKind::Market ? $o->leaves() : 0,
            $holding->working,
        ));
        $left = abs($lots) - $closing;
        if ($left < 2) {
            throw self::noHalf($closing, abs($lots));
        }
        $id = $this->context->state->lastOrder + 1;
        $half = intdiv($left, 2);
        $this->context->accept($command, $contract->code, ['contracts' => [$contract->code]], "Half off: $half of ".abs($lots));
        $this->context->recorder->note(new E\Order\OrderPlaced(
            $id, $command->account->id, $contract->code, $command->clientId, Side::ofPosition($lots)->opposite(), OrderKind::Market, $half,
            null, null, TimeInForce::Day, Role::Close, E\Order\Purpose::Hand, 'half off',
        ));

        return ['contracts' => [$contract->code]];
    }

    /**
     * @param int $closing lots that are being closed already
     * @param int $lots    of the position
     */
    private static function noHalf(int $closing, int $lots): Refusal
    {
        return new Refusal(
            RefusalCode::NoHalf,
            ($closing === 0 ? 'one lot cannot be halved' : "$closing of $lots lots are being closed already, and what is left has no half")
                .'; flatten closes it',
        );
    }
}
