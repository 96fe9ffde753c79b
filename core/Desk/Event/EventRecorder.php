<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Order\CancelRequested;
use Lotrik\Desk\Event\Order\OrderCancelled;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Upkeep\Timetable;

/** Applies events and keeps them, in order, until the journal fetches them. */
final class EventRecorder
{
    /** @var list<Recorded> */
    private array $recorded = [];

    /** ms since 1970 UTC, of what is being handled now */
    public int $at = 0;

    /** client id of the command that is being handled now */
    public ?string $commandId = null;

    public function __construct(public readonly DeskState $state, private readonly Timetable $timetable) {}

    public function note(Event $event): void
    {
        try {
            $this->state->apply($event, $this->at);
        } catch (\Throwable $fault) {
            throw CannotBeApplied::because($event, $fault);
        }
        $fields = get_object_vars($event);
        $order = is_int($fields['order'] ?? null) ? $this->state->orders[$fields['order']] ?? null : null;
        $touched = [];
        foreach (['order', 'other', 'first', 'second'] as $field) {
            $of = is_int($fields[$field] ?? null) ? $this->state->orders[$fields[$field]] ?? null : null;
            if ($of !== null) {
                $touched[] = $of;
                $this->timetable->changed($of);
            }
        }
        $account = is_int($fields['account'] ?? null) ? $fields['account'] : $order?->account;
        $contract = is_string($fields['contract'] ?? null) ? $fields['contract'] : $order?->contract;
        $this->recorded[] = new Recorded(
            $this->state->sequence, $this->at, $account, $contract, $this->commandId, $event, EventText::of($event, $order, $this->state),
            $touched,
        );
    }

    /** Takes an order back: one that is held has never left the desk and is gone at once. */
    public function cancel(DeskOrder $order, string $because, bool $byHand = false): void
    {
        $this->note($order->isHeld() ? new OrderCancelled($order->id, $because) : new CancelRequested($order->id, $because, $byHand));
    }

    /** How many have been recorded and not fetched; with {@see since()} a way to see what one step did. */
    public function count(): int
    {
        return count($this->recorded);
    }

    /** @return list<Recorded> */
    public function since(int $from): array
    {
        return array_slice($this->recorded, $from);
    }

    /** @return list<Recorded> */
    public function fetch(): array
    {
        $recorded = $this->recorded;
        $this->recorded = [];

        return $recorded;
    }
}
