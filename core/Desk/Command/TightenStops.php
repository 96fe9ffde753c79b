<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Workbench;
use Lotrik\Document\Node;
use Lotrik\Order\Role;

/** Every stop of the position so many ticks nearer to the market. One that the market would have passed is refused, and none moves. */
final class TightenStops implements Command
{
    public function __construct(private readonly Workbench $bench) {}

    public function take(CommandHead $command, Node $body): array
    {
        $ticks = $body->int('ticks', 1, 10_000);
        [$contract, $holding] = $this->bench->openPosition($command, $body);
        $sign = $holding->position->lots <=> 0;
        $stops = Workbench::withStop($holding);
        if ($stops === []) {
            throw new Refusal('nothing-to-move', 'no stop is working that could be moved');
        }
        foreach ($stops as [$entry, $cover]) {
            $level = (int) $cover->stop + $sign * $ticks;
            if ($this->bench->quote($contract->code)->isPassed($entry->exits->side->opposite(), $level)) {
                throw new Refusal('stop-passed', "a stop at {$contract->price($level)} is already passed by the market; fewer ticks would do", '/ticks');
            }
        }
        $closer = "$ticks ".($ticks === 1 ? 'tick' : 'ticks').' closer';
        $answer = ['contracts' => [$contract->code], 'waiting' => $this->bench->busyExits($holding, $stops, Role::Stop)];
        $this->bench->taken($command, $contract->code, $answer, "Stops $closer");
        foreach ($stops as [$entry, $cover]) {
            $this->bench->moveExit($holding, $entry, $cover, Role::Stop, (int) $cover->stop + $sign * $ticks, $closer);
        }

        return $answer;
    }
}
