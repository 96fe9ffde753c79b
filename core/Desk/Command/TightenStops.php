<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\DeskOrder;
use Lotrik\Desk\Event as E;
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
        $stops = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Stop && ! $o->triggered && ! $o->state->isPending());
        if ($stops === []) {
            throw new Refusal('nothing-to-move', 'no stop is working that could be moved');
        }
        foreach ($stops as $order) {
            $level = (int) $order->trigger + $sign * $ticks;
            if ($this->bench->quote($contract->code)->isPassed($order->side, $level)) {
                throw new Refusal('stop-passed', "a stop at {$contract->price($level)} is already passed by the market; fewer ticks would do", '/ticks');
            }
        }
        $answer = ['contracts' => [$contract->code]];
        $this->bench->taken($command, $contract->code, $answer, "Stops $ticks ticks closer");
        foreach ($stops as $order) {
            $shift = $sign * $ticks;
            $this->bench->scribe->note(new E\ReplaceRequested($order->id, 0, $order->price === null ? null : $order->price + $shift, (int) $order->trigger + $shift, "$ticks ticks closer", true));
        }

        return $answer;
    }
}
