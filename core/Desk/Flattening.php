<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Event\FlattenEnded;
use Lotrik\Desk\Event\OrderPlaced;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/**
 * Brings a contract to flat, one step at a time: entries, targets and hand-made orders go; the stops stay; then a
 * market close for the net goes out, and the stops shrink as it fills. It is done at position 0 with nothing working.
 * A reversal is a flatten with an entry behind it. Like the exits it looks only at the state, so it survives a kill.
 */
final class Flattening
{
    /** What its own market order says it is for: a close that the trader sends meanwhile is none of it, and goes like the rest. */
    public const WHY = 'flatten';

    public function __construct(private readonly Scribe $scribe) {}

    public function advance(Holding $holding): void
    {
        if (! $holding->flattening) {
            return;
        }
        $goes = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role !== Role::Stop && $o->id !== $holding->flattenOrder);
        foreach ($goes as $order) {
            if (! $order->state->isPending()) {
                $this->scribe->cancel($order, 'the contract is being flattened');
            }
        }
        if ($goes !== []) {
            return;
        }
        if ($holding->position->lots !== 0) {
            // A position whose market is shut closes at the open.
            $open = $this->scribe->state->contracts[$holding->contract]->session->at($this->scribe->at)->open;
            if ($open && ! isset($holding->working[$holding->flattenOrder ?? 0])) {
                $this->close($holding);
            }
        } elseif ($holding->working === []) {
            $this->end($holding);
        }
    }

    private function close(Holding $holding): void
    {
        $lots = $holding->position->lots;
        $this->scribe->note(new OrderPlaced(
            $this->scribe->state->lastOrder + 1, $holding->account, $holding->contract, null, Side::ofPosition($lots)->opposite(),
            OrderKind::Market, abs($lots), null, null, TimeInForce::GoodTillCancelled, Role::Close, self::WHY,
        ));
    }

    private function end(Holding $holding): void
    {
        $then = $holding->thenEnter;
        $this->scribe->note(new FlattenEnded($holding->account, $holding->contract, 'flat, nothing working'));
        if ($then !== null) {
            $this->scribe->note(new OrderPlaced(
                $this->scribe->state->lastOrder + 1, $holding->account, $holding->contract, null, Side::from($then['side']),
                OrderKind::Market, $then['quantity'], null, null, TimeInForce::Day, Role::Entry, 'the other half of a reversal', $then['plan'], ranges: $then['ranges'] ?? null,
            ));
        }
    }
}
