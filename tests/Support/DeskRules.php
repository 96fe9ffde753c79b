<?php

declare(strict_types=1);

namespace Tests\Support;

use Brick\Math\BigRational;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\Command\StepsDone;
use Lotrik\Desk\Event\Command\StepsStopped;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;

/** What must hold in every history, for every account and contract; each rule throws where it does not. */
final class DeskRules
{
    /** Events whose fills have been counted. */
    private int $counted = 0;

    /** @var array<string, array{int, int}> account and contract → lots and cost of its fills so far */
    private array $fills = [];

    public function __construct(private readonly TestSystem $system) {}

    /** At any moment without answers under way. */
    public function holdNow(): void
    {
        for (; $this->counted < count($this->system->events); $this->counted++) {
            $recorded = $this->system->events[$this->counted];
            if ($recorded->event instanceof E\Fill\OrderFilled) {
                $key = "$recorded->account $recorded->contract";
                $lots = $recorded->orders[0]->side->sign() * $recorded->event->quantity;
                $this->fills[$key] = [($this->fills[$key][0] ?? 0) + $lots, ($this->fills[$key][1] ?? 0) + $lots * $recorded->event->price];
            }
        }
        foreach ($this->system->system->desk->state->holdings as $code => $holdings) {
            foreach ($holdings as $account => $holding) {
                $where = "account $account in $code";
                $this->exitsNeverExceedThePosition($where, $holding);
                $this->everyLotIsAccountedFor($where, $account, $code);
                $this->whatShouldBeProtectedIs($where, $holding);
            }
        }
    }

    /** Of the whole history, from its first event on. */
    public function heldAllAlong(): void
    {
        $this->nothingIsEnteredWhereItMustNotBe();
        $this->replayGivesTheSame($this->eventsMakeSense());
    }

    public function isBusy(): bool
    {
        foreach ($this->system->system->desk->state->holdings as $code => $holdings) {
            if ($this->system->system->isBusy($code)) {
                return true;
            }
            $open = $this->system->system->market($code)->venue->isOpen();
            foreach ($holdings as $holding) {
                foreach ($holding->working as $order) {
                    if ($order->state->isPending() || $order->cancelWished) {
                        return true;
                    }
                }
                if ($holding->isClosingDown() && $open && $holding->refusedExits === []) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Rules 1 and 2: no exit can flip a position, and none works when flat. */
    private function exitsNeverExceedThePosition(string $where, \Lotrik\Desk\Position\AccountPosition $holding): void
    {
        $lots = ['stop' => 0, 'target' => 0];
        foreach ($holding->working as $order) {
            self::must($order->quantity - $order->filled === $order->leaves(), "$where: leaves of order {$order->id}");
            if ($order->role->isExit()) {
                self::must(
                    $order->side->sign() * $holding->position->lots < 0,
                    "$where: {$order->role->value} {$order->id} is not on the closing side of {$holding->position->lots}",
                );
                $lots[$order->role->value] += $order->leaves();
            } elseif ($order->role === Role::Close) {
                self::must($order->leaves() <= abs($holding->position->lots), "$where: close {$order->id} is for more than the position");
            }
        }
        self::must(
            $lots['stop'] <= abs($holding->position->lots) && $lots['target'] <= abs($holding->position->lots),
            "$where: exits for more than the position",
        );
    }

    private function everyLotIsAccountedFor(string $where, int $account, string $code): void
    {
        $holding = $this->system->holding($account, $code);
        $at = $this->system->system->market($code)->venue->position($account);
        self::must($at === $holding->position->lots, "$where: the desk has {$holding->position->lots} lots, the venue $at");
        $open = array_sum(array_map(static fn($e): int => $e->exits->openLots(), $holding->entries));
        self::must(abs($holding->position->lots) === $open, "$where: the entries hold $open lots of {$holding->position->lots}");
        [$lots, $cost] = $this->fills["$account $code"] ?? [0, 0];
        $last = (int) $this->system->system->desk->quote($code)->last;
        $now = $holding->position->realised->plus($holding->position->openTicks($last)->rational());
        self::must(
            $lots === $holding->position->lots && $now->isEqualTo(BigRational::of($lots * $last - $cost)),
            "$where: realised and open do not add up to the fills",
        );
    }

    /** Every portion that wants a stop or target has exactly that, at its level and for its lots, but where the venue refused it. */
    private function whatShouldBeProtectedIs(string $where, \Lotrik\Desk\Position\AccountPosition $holding): void
    {
        $wanted = 0;
        foreach ($holding->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $of = "$where: portion {$slot->portion->number} of entry {$entry->order}";
                foreach ([Role::Stop, Role::Target] as $role) {
                    $order = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, $role);
                    if (isset($holding->refusedExits[\Lotrik\Desk\Position\AccountPosition::exitKey(
                        $entry->order,
                        $slot->portion->number,
                        $slot->group,
                        $role,
                    )])) {
                        continue;
                    }
                    $lots = ($role === Role::Stop ? $slot->wantsStop() : $slot->wantsTarget() && ! $holding->isClosingDown())
                        ? $slot->lots
                        : 0;
                    self::must(
                        $lots === ($order?->leaves() ?? 0),
                        "$of wants $lots lots at its {$role->value}, there are ".($order?->leaves() ?? 0),
                    );
                    if ($order !== null && ! $order->triggered) {
                        $level = $role === Role::Stop ? $slot->stop : $slot->target;
                        self::must($order->level() === $level, "$of: its {$role->value} stands at {$order->level()} and should at $level");
                    }
                    $wanted += $role === Role::Stop && $lots > 0 && $order?->isLeftBehind() !== true ? $slot->lots : 0;
                }
            }
        }
        if ($holding->refusedExits === []) {
            foreach ($holding->working as $order) {
                $isStop = $order->role === Role::Close && in_array($order->kind, [OrderKind::Stop, OrderKind::StopLimit], true);
                $wanted += $isStop && ! $order->isHeld() && ! ($order->kind === OrderKind::StopLimit && $order->triggered) ? $order->leaves() : 0;
            }
            self::must(max(0, abs($holding->position->lots) - $wanted) === $holding->coverage()->unprotected(), "$where: unprotected lots");
        }
    }

    /** A ratchet only ever tightens; an exit or close only ever reduces; states change as the FIX matrices say. What was written is read back and applied anew. */
    private function eventsMakeSense(): DeskState
    {
        $positions = $states = [];
        $replayed = new DeskState();
        foreach ($this->system->events as $recorded) {
            $event = $recorded->event;
            $key = "$recorded->account $recorded->contract";
            if ($event instanceof E\Exit\StopMoved) {
                self::must(
                    ($event->to - $event->from) * (($positions[$key] ?? 0) <=> 0) > 0,
                    "a ratchet loosened a stop at {$recorded->sequence}",
                );
            }
            if ($event instanceof E\Fill\OrderFilled) {
                $order = $recorded->orders[0];
                $before = $positions[$key] ?? 0;
                $positions[$key] = $before + $order->side->sign() * $event->quantity;
                if ($order->role !== Role::Entry) {
                    self::must(
                        abs($positions[$key]) < abs($before) && $before * $positions[$key] >= 0,
                        "{$order->role->value} {$order->id} did not just reduce $before to {$positions[$key]}",
                    );
                }
            }
            self::must(
                ! $event instanceof E\Venue\ReportOutOfPlace && ! $event instanceof E\Venue\VenueDiffers && ! $event instanceof E\Venue\StrayOrderFound,
                "the venue and the desk differ at {$recorded->sequence}: {$recorded->words}",
            );
            if ($event instanceof E\Order\OrderPlaced && $event->role === Role::Entry) {
                $this->staysWithinTheLimits($event, $replayed, $recorded->at);
            }
            $replayed->apply(
                E\EventCodec::decode(E\EventCodec::type($event), E\EventCodec::version($event), E\EventCodec::encode($event), $replayed),
                $recorded->at,
            );
            foreach ($recorded->orders as $order) {
                $now = ($replayed->orders[$order->id] ?? null)?->state;
                if ($now !== null) {
                    self::must(
                        ($states[$order->id] ?? $now) === $now || $states[$order->id]->canBecome($now),
                        "order {$order->id} went from {$this->word($states[$order->id] ?? $now)} to {$this->word($now)} at {$recorded->sequence}",
                    );
                    $states[$order->id] = $now;
                }
            }
        }

        return $replayed;
    }

    /** No entry is sent that the limits in force do not allow, whatever came before it. */
    private function staysWithinTheLimits(E\Order\OrderPlaced $entry, DeskState $before, int $at): void
    {
        $account = $before->accounts[$entry->account];
        $limits = $account->limits->in($entry->contract);
        $holding = $before->holding($entry->account, $entry->contract);
        $isHeld = $entry->hold !== null;
        $closes = $entry->kind === OrderKind::Market && ! $isHeld ? $holding->position->closedBy($entry->side, $entry->quantity) : 0;
        $entries = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry);
        // Of two that are tied one-cancels-other one fills.
        $alone = $pairs = [];
        foreach ($entries as $order) {
            if ($order->side === $entry->side && $order->tie?->oco === true) {
                $pairs[$order->tie->group] = max($order->leaves(), $pairs[$order->tie->group] ?? 0);
            } elseif ($order->side === $entry->side) {
                $alone[] = $order->leaves();
            }
        }
        $lots = $entry->quantity - $closes + max(0, $holding->position->lots * $entry->side->sign()) + array_sum($alone) + array_sum($pairs);
        // The second of an OCO pair may stand beside the first: one of the two fills.
        $isPaired = str_contains($entry->why, 'one of a pair');
        foreach ([
            'larger than the order limit' => $closes < $entry->quantity && $entry->quantity > ($limits->orderLots ?? PHP_INT_MAX),
            'over the position limit' => ! $isPaired && $closes < $entry->quantity && $lots > ($limits->positionLots ?? PHP_INT_MAX),
            'one too many' => count($entries) + 1 > ($limits->workingOrders ?? PHP_INT_MAX),
            'after entries were stopped' => $at < ($before->bookOf($entry->account)->entriesStopped[0]),
            'in a time without entries' => ! $isHeld && $account->limits->windowAt($at) !== null,
            'without its stop' => $limits->stopRequired && $closes < $entry->quantity && $entry->plan === null && $holding->coveringEntry() === null,
        ] as $words => $isWrong) {
            self::must(! $isWrong, "entry {$entry->order} was sent though it is $words");
        }
    }

    private function word(OrderState $state): string
    {
        return $state->value;
    }

    /** Between a flatten and its end, and while an account is barred, nothing new is entered; a dropped reversal enters nothing. */
    private function nothingIsEnteredWhereItMustNotBe(): void
    {
        $closing = $barred = $ended = [];
        foreach ($this->system->events as $recorded) {
            $event = $recorded->event;
            $key = "$recorded->account $recorded->contract";
            if ($event instanceof E\Command\FlattenStarted) {
                $closing[$key] = $event->trigger;
            } elseif ($event instanceof E\Command\FlattenEnded) {
                $closing[$key] = $closing[$key] === ClosingTrigger::Reverse ? ClosingTrigger::Reverse : null;
                $ended[$key] = true;
            } elseif ($event instanceof E\Account\AccountBarred) {
                $barred[(int) $recorded->account] = $event->until;
            } elseif ($event instanceof E\Order\OrderPlaced && $event->role === Role::Entry) {
                self::must(
                    $recorded->at >= ($barred[(int) $recorded->account] ?? 0),
                    "entry {$event->order} was sent while account {$recorded->account} was barred",
                );
                self::must(
                    ! isset($closing[$key]) || ($closing[$key] === ClosingTrigger::Reverse && isset($ended[$key])),
                    "entry {$event->order} was sent while {$recorded->contract} was being flattened",
                );
                unset($closing[$key], $ended[$key]);
            }
        }
    }

    /** The journal's events, written out and read back, give the same state, and a restart the same markets, quotes and caches; best prices come from the checkpoint. */
    private function replayGivesTheSame(DeskState $again): void
    {
        $live = $this->system->system->desk->state;
        foreach ($live->holdings as $code => $holdings) {
            foreach ($holdings as $account => $holding) {
                foreach ($holding->entries as $id => $entry) {
                    $other = $again->holding($account, $code)->entries[$id];
                    $other->exits->restoreBests($entry->exits->bests());
                    if ($entry->record !== null) {
                        // Both, so that neither keeps what it has not looked at again.
                        $extremes = $entry->record->extremes();
                        $entry->record->restoreExtremes($extremes);
                        $other->record?->restoreExtremes($extremes);
                    }
                }
            }
        }
        [$live, $again] = [self::withoutCaches($live), self::withoutCaches($again)];
        self::must($live == $again, 'the events do not give the same state again: '.$this->difference($live, $again));
        self::must($live == unserialize(serialize($live)), 'a checkpoint of the desk is not the desk');
        foreach ($live->holdings as $holdings) {
            foreach ($holdings as $holding) {
                if ($holding->refusedExits !== []) {
                    // What the venue refused is tried again at once.
                    return;
                }
            }
        }
        $before = array_map($this->system->system->packMarket(...), array_keys($this->system->system->markets()));
        $events = count($this->system->events);
        $this->system->restart();
        $found = array_filter(
            array_slice($this->system->events, $events),
            static fn(Recorded $recorded): bool => ! $recorded->event instanceof StepsStopped && ! $recorded->event instanceof StepsDone,
        );
        self::must(
            $found === [],
            'a restart found something to do: '.implode(' | ', $this->system->wordsSince($events)),
        );
        self::must(
            json_encode($before) === json_encode(array_map(
                $this->system->system->packMarket(...),
                array_keys($this->system->system->markets()),
            )),
            'a market, quote or line is not the same after a restart',
        );
    }

    /** A contract keeps the hours, and an account the day, that it was last asked for: what they are stands in their documents. */
    private static function withoutCaches(DeskState $state): DeskState
    {
        $state = clone $state;
        $state->contracts = array_map(static fn($contract): array => $contract->toArray(), $state->contracts);
        $state->accounts = array_map(static fn($account): array => $account->document, $state->accounts);

        return $state;
    }

    private function difference(DeskState $live, DeskState $again): string
    {
        foreach (get_object_vars($live) as $name => $value) {
            if ($value != $again->{$name}) {
                foreach (is_array($value) ? $value : [] as $key => $of) {
                    if ($of != ($again->{$name}[$key] ?? null)) {
                        return "$name of $key";
                    }
                }

                return $name;
            }
        }

        return 'something private';
    }

    private static function must(bool $holds, string $otherwise): void
    {
        if (! $holds) {
            throw new \RuntimeException($otherwise);
        }
    }
}
