<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Exit;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;

/**
 * Stops that stand on the losing side go to the position's average, rounded to the profit side, or (`plus_fees`) as
 * many ticks beyond it as cover the round-trip fees. The ratchets stay on.
 */
final class StopsToBreakEven implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $plusFees = $body->bool('plus_fees', false);
        [$contract, $holding] = $this->context->openPosition($command, $body);
        $sign = $holding->position->lots <=> 0;
        $level = $holding->position->anchor() + ($plusFees ? $sign * $contract->ticksForFees() : 0);
        $moves = array_filter(
            CommandContext::withStop($holding),
            static fn(OpenPortion $of): bool => $sign * ($level - (int) $of->slot->stop) > 0,
        );
        if ($moves === []) {
            throw Refusal::nothingToMove("no stop stands on the losing side of {$contract->price($level)}");
        }
        if ($this->context->quote($contract->code)->isPassed(Side::ofPosition($sign)->opposite(), $level)) {
            throw Refusal::stopPassed('a stop', $contract->price($level), 'flatten, or wait until the position is ahead');
        }
        $answer = ['contracts' => [$contract->code], 'waiting' => $this->context->busyExits($holding, $moves, Role::Stop)];
        $this->context->accept(
            $command,
            $contract->code,
            $answer,
            'Stops to break-even'.($plusFees ? ' plus fees' : '')." at {$contract->write($level)}",
        );
        foreach ($moves as $of) {
            $this->context->moveExit($holding, $of, Role::Stop, $level, 'to break-even');
        }

        return $answer;
    }
}
