<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Desk\Event\Event;

/** Applies events and keeps them, in order, until the journal fetches them. */
final class Scribe
{
    /** @var list<Recorded> */
    private array $recorded = [];

    /** ms since 1970 UTC, of what is being handled now */
    public int $at = 0;

    /** client id of the command that is being handled now */
    public ?string $commandId = null;

    public function __construct(public readonly DeskState $state) {}

    public function note(Event $event): void
    {
        $this->state->apply($event, $this->at);
        $order = property_exists($event, 'order') ? $this->state->orders[$event->order] ?? null : null;
        $account = property_exists($event, 'account') ? $event->account : $order?->account;
        $contract = property_exists($event, 'contract') ? $event->contract : $order?->contract;
        $this->recorded[] = new Recorded($this->state->sequence, $this->at, $account, $contract, $this->commandId, $event, Words::of($event, $this->state));
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
