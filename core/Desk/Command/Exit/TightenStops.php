<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Exit;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Every stop of the position so many ticks nearer to the market. One that the market would have passed is refused, and none moves. */
final class TightenStops implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $ticks = $body->int('ticks', 1, 10_000);
        [$contract, $holding] = $this->context->openPosition($command, $body);
        $sign = $holding->position->lots <=> 0;
        $stops = CommandContext::withStop($holding);
        if ($stops === []) {
            throw Refusal::nothingToMove('no stop is working that could be moved');
        }
        foreach ($stops as $of) {
            $level = (int) $of->slot->stop + $sign * $ticks;
            if ($this->context->quote($contract->code)->isPassed($of->entry->exits->side->opposite(), $level)) {
                throw Refusal::stopPassed('a stop', $contract->price($level), 'use fewer ticks', '/ticks');
            }
        }
        $closer = "$ticks ".($ticks === 1 ? 'tick' : 'ticks').' closer';
        $answer = ['contracts' => [$contract->code], 'waiting' => $this->context->busyExits($holding, $stops, Role::Stop)];
        $this->context->accept($command, $contract->code, $answer, "Stops $closer");
        foreach ($stops as $of) {
            $this->context->moveExit($holding, $of, Role::Stop, (int) $of->slot->stop + $sign * $ticks, $closer);
        }

        return $answer;
    }
}
