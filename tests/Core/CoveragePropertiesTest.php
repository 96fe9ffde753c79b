<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigRational;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Desk\Event\StopMoved;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\RandomHistory;
use Tests\Support\TestFloor;

/**
 * The coverage rules over random histories. LOTRIK_HISTORIES says how many (2,000 by default), LOTRIK_SEED where they
 * begin; a failing one prints its seed and what was done.
 */
final class CoveragePropertiesTest extends TestCase
{
    private const ACTIONS = 24;

    private static function histories(): int
    {
        return (int) (getenv('LOTRIK_HISTORIES') ?: 2000);
    }

    public function testTheCoverageRulesHoldAfterEveryAction(): void
    {
        $this->eachHistory(self::histories(), 0, function (RandomHistory $history): void {
            $this->exitsNeverExceedThePosition($history->floor);
            $this->everyLotIsAccountedFor($history->floor);
            $this->whatShouldBeProtectedIs($history->floor);
        });
    }

    public function testNothingFlipsWhateverTheDelayAndAllIsCoveredOnceItIsQuiet(): void
    {
        $this->eachHistory(intdiv(self::histories(), 4), 3, static function (): void {}, function (RandomHistory $history): void {
            // Far from anything that waits there, until no answer is under way.
            for ($i = 0; $i < 40 && $this->isBusy($history->floor); $i++) {
                $history->step(10);
            }
            $this->exitsNeverExceedThePosition($history->floor);
            $this->everyLotIsAccountedFor($history->floor);
            $this->whatShouldBeProtectedIs($history->floor);
        });
    }

    /** @param callable(RandomHistory): void $after each action */
    private function eachHistory(int $count, int $delay, callable $after, ?callable $atEnd = null): void
    {
        $first = (int) (getenv('LOTRIK_SEED') ?: 1);
        $fills = $moves = 0;
        for ($seed = $first; $seed < $first + $count; $seed++) {
            $history = new RandomHistory($seed, $delay === 0 ? 0 : 1 + $seed % 5, $after);
            try {
                $history->run(self::ACTIONS);
                if ($atEnd !== null) {
                    $atEnd($history);
                }
                $this->eventsMakeSense($history->floor);
                $this->replayGivesTheSameState($history->floor);
            } catch (\Throwable $fault) {
                self::fail("seed $seed (LOTRIK_SEED=$seed LOTRIK_HISTORIES=1): {$fault->getMessage()}\n".implode("\n", $history->script)."\n--\n".implode("\n", array_slice($history->floor->words(), -40)));
            }
            foreach ($history->floor->events as $recorded) {
                $fills += $recorded->event instanceof OrderFilled ? 1 : 0;
                $moves += $recorded->event instanceof StopMoved ? 1 : 0;
            }
        }
        self::assertGreaterThan(5 * $count, $fills, 'the histories must trade');
        self::assertGreaterThan(intdiv($count, 2), $moves, 'the ratchets must move');
    }

    private function isBusy(TestFloor $floor): bool
    {
        foreach ($floor->working() as $order) {
            if ($order->state->isPending()) {
                return true;
            }
        }

        return $floor->holding()->flattening || $floor->floor->market(TestFloor::CODE)->venue->position(1) !== $floor->lots();
    }

    /** Rules 1 and 2: no exit can flip a position, and none works when flat. */
    private function exitsNeverExceedThePosition(TestFloor $floor): void
    {
        $lots = ['stop' => 0, 'target' => 0];
        foreach ($floor->working() as $order) {
            self::assertSame($order->quantity - $order->filled, $order->leaves());
            if ($order->role->isExit()) {
                self::assertLessThan(0, $order->side->sign() * $floor->lots(), "{$order->role->value} {$order->id} is not on the closing side of {$floor->lots()}");
                $lots[$order->role->value] += $order->leaves();
            } elseif ($order->role === Role::Close) {
                self::assertLessThanOrEqual(abs($floor->lots()), $order->leaves(), "close {$order->id}");
            }
        }
        self::assertLessThanOrEqual(abs($floor->lots()), $lots['stop']);
        self::assertLessThanOrEqual(abs($floor->lots()), $lots['target']);
    }

    private function everyLotIsAccountedFor(TestFloor $floor): void
    {
        $holding = $floor->holding();
        self::assertSame($floor->floor->market(TestFloor::CODE)->venue->position(1), $floor->lots(), 'desk and venue agree');
        self::assertSame(abs($floor->lots()), array_sum(array_map(static fn($e): int => $e->exits->openLots(), $holding->entries)), 'the entries hold the position');
        $cost = $lots = 0;
        foreach ($floor->events as $recorded) {
            if ($recorded->event instanceof OrderFilled && $recorded->account === 1) {
                $sign = $floor->order($recorded->event->order)->side->sign();
                $lots += $sign * $recorded->event->quantity;
                $cost += $sign * $recorded->event->quantity * $recorded->event->price;
            }
        }
        self::assertSame($lots, $floor->lots());
        $now = $holding->position->realised->plus($holding->position->openTicks($floor->last()));
        self::assertTrue($now->isEqualTo(BigRational::of($lots * $floor->last() - $cost)), 'realised and open add up to the fills');
    }

    /** Every portion that wants a stop or target has exactly that, at its level and for its lots. */
    private function whatShouldBeProtectedIs(TestFloor $floor): void
    {
        $holding = $floor->holding();
        $wanted = 0;
        foreach ($holding->entries as $entry) {
            foreach ($entry->exits->covers() as $cover) {
                $stop = $holding->exitOrder($entry->order, $cover->portion->number, $cover->group, Role::Stop);
                $target = $holding->exitOrder($entry->order, $cover->portion->number, $cover->group, Role::Target);
                self::assertSame($cover->wantsStop() ? $cover->lots : 0, $stop?->leaves() ?? 0, 'lots under the stop');
                self::assertSame($cover->wantsTarget() && ! $holding->flattening ? $cover->lots : 0, $target?->leaves() ?? 0, 'lots at the target');
                if ($stop !== null && ! $stop->triggered) {
                    self::assertSame($cover->stop, $stop->trigger);
                }
                $wanted += $cover->wantsStop() ? $cover->lots : 0;
            }
        }
        self::assertSame(abs($floor->lots()) - $wanted, $holding->unprotected());
    }

    /** A ratchet only ever tightens; an exit or close only ever reduces. */
    private function eventsMakeSense(TestFloor $floor): void
    {
        $position = 0;
        foreach ($floor->events as $recorded) {
            $event = $recorded->event;
            if ($event instanceof StopMoved) {
                self::assertGreaterThan(0, ($event->to - $event->from) * ($position <=> 0), 'a ratchet loosened a stop');
            }
            if ($event instanceof OrderFilled) {
                $order = $floor->order($event->order);
                $before = $position;
                $position += $order->side->sign() * $event->quantity;
                if ($order->role !== Role::Entry) {
                    self::assertLessThan(abs($before), abs($position), 'an exit that does not reduce');
                    self::assertGreaterThanOrEqual(0, $before * $position, 'an exit that flips');
                }
            }
        }
    }

    /** The journal's events, written out and read back, give the same state; best prices come from the checkpoint. */
    private function replayGivesTheSameState(TestFloor $floor): void
    {
        $live = $floor->floor->desk->state;
        $again = new DeskState();
        foreach ($floor->events as $recorded) {
            $again->apply(EventCodec::decode(EventCodec::type($recorded->event), EventCodec::VERSION, EventCodec::encode($recorded->event)), $recorded->at);
        }
        foreach ($live->holdings[TestFloor::CODE] ?? [] as $account => $holding) {
            foreach ($holding->entries as $id => $entry) {
                $again->holding($account, TestFloor::CODE)->entries[$id]->exits->restoreBests($entry->exits->bests());
            }
        }
        self::assertEquals($live->orders, $again->orders);
        self::assertEquals($live, unserialize(serialize($live)), 'a checkpoint of the desk is the desk');
        self::assertEquals(array_map(static fn($h) => array_filter($h, static fn($x): bool => $x->sequence > 0), $live->holdings), array_map(static fn($h) => array_filter($h, static fn($x): bool => $x->sequence > 0), $again->holdings));
        self::assertEquals([$live->sequence, $live->taken, $live->days, $live->lastOrder], [$again->sequence, $again->taken, $again->days, $again->lastOrder]);
    }
}
