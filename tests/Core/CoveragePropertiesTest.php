<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigRational;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Event;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Desk\Event\OrderPlaced;
use Lotrik\Desk\Event\OrderReplaced;
use Lotrik\Desk\Event\ReplaceRequested;
use Lotrik\Desk\Event\StopMoved;
use Lotrik\ExitPlan\Covers;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\History;
use Tests\Support\RandomActions;
use Tests\Support\Shrinker;
use Tests\Support\TestFloor;

/**
 * The coverage rules over random histories. LOTRIK_HISTORIES says how many (2,000 by default), LOTRIK_SEED where they
 * begin. A failing history is shrunk and printed as a script, one action a line; LOTRIK_SCRIPT plays such a file.
 */
final class CoveragePropertiesTest extends TestCase
{
    private const ACTIONS = 24;

    /** @var array<string, int> portion of an entry → the level of its stop before, in ticks */
    private array $stopsBefore = [];

    public function testTheCoverageRulesHoldAfterEveryAction(): void
    {
        $this->eachHistory(self::histories(), false);
    }

    public function testNothingFlipsWhateverTheDelayAndAllIsCoveredOnceItIsQuiet(): void
    {
        $this->eachHistory(intdiv(self::histories(), 4), true);
    }

    /** Shrunk histories that the rules once did not hold in, each named after what was wrong. */
    public function testHistoriesThatOnceFailedHold(): void
    {
        $files = glob(__DIR__.'/once-failed/*.jsonl') ?: [];
        self::assertNotEmpty($files);
        foreach ($files as $file) {
            [$head, $actions] = self::read($file);
            self::assertNull($this->faultIn($head['seed'], $head['delayed'], $actions), basename($file));
        }
    }

    public function testAFailingHistoryShrinksToWhatItTakes(): void
    {
        $played = 0;
        $fails = static function (array $actions) use (&$played): bool {
            $played++;

            return in_array('buy', $actions, true) && in_array('kill', $actions, true) && array_search('buy', $actions, true) < array_search('kill', $actions, true);
        };
        self::assertSame(['buy', 'kill'], Shrinker::shrink(['step', 'buy', 'step', 'push', 'sell', 'kill', 'step', 'push', 'step'], $fails));
        self::assertLessThan(40, $played);
    }

    private static function histories(): int
    {
        return (int) (getenv('LOTRIK_HISTORIES') ?: 2000);
    }

    private function eachHistory(int $count, bool $delayed): void
    {
        $script = getenv('LOTRIK_SCRIPT');
        if (is_string($script) && $script !== '') {
            [$head, $actions] = self::read($script);
            self::assertNull($head['delayed'] === $delayed ? $this->faultIn($head['seed'], $delayed, $actions) : null);

            return;
        }
        $first = (int) (getenv('LOTRIK_SEED') ?: 1);
        $fills = $moves = 0;
        for ($seed = $first; $seed < $first + $count; $seed++) {
            $actions = RandomActions::of($seed, self::ACTIONS);
            if ($this->faultIn($seed, $delayed, $actions, $fills, $moves) !== null) {
                // What is broken on purpose need only be noticed.
                $this->failWith($seed, $delayed, getenv('LOTRIK_BROKEN') !== false ? $actions : Shrinker::shrink($actions, fn(array $fewer): bool => $this->faultIn($seed, $delayed, $fewer) !== null));
            }
        }
        self::assertGreaterThan(5 * $count, $fills, 'the histories must trade');
        self::assertGreaterThan(intdiv($count, 2), $moves, 'the ratchets must move');
    }

    /**
     * Plays actions and looks at the rules after each of them, or, where answers are under way, once it is quiet.
     *
     * @param list<array<string, mixed>> $actions
     */
    private function faultIn(int $seed, bool $delayed, array $actions, int &$fills = 0, int &$moves = 0, ?History &$history = null): ?string
    {
        try {
            $history = new History($seed, $delayed ? 1 + $seed % 5 : 0);
            $this->stopsBefore = [];
            foreach ($actions as $action) {
                $history->perform($action);
                if (! $delayed) {
                    $this->rulesHold($history->floor);
                    $this->noStopLoosensByItself($history->floor, (string) $action['do']);
                }
            }
            // Far from anything that waits there, until no answer is under way.
            for ($i = 0; $delayed && $i < 40 && $this->isBusy($history->floor); $i++) {
                $history->floor->step(10);
            }
            $this->rulesHold($history->floor);
            $this->eventsMakeSense($history->floor);
            $this->replayGivesTheSameState($history->floor);
        } catch (\Throwable $fault) {
            return $fault->getMessage();
        }
        foreach ($history->floor->events as $recorded) {
            $fills += $recorded->event instanceof OrderFilled ? 1 : 0;
            $moves += $recorded->event instanceof StopMoved ? 1 : 0;
        }

        return null;
    }

    /** @param list<array<string, mixed>> $actions shrunk */
    private function failWith(int $seed, bool $delayed, array $actions): never
    {
        $fault = $this->faultIn($seed, $delayed, $actions, history: $history);
        $lines = array_map(static fn(array $a): string => json_encode($a, JSON_THROW_ON_ERROR), [['seed' => $seed, 'delayed' => $delayed], ...$actions]);
        $file = tempnam(sys_get_temp_dir(), 'history');
        file_put_contents($file, implode("\n", $lines)."\n");
        self::fail("seed $seed: $fault\nplay it again with LOTRIK_SCRIPT=$file\n".implode("\n", $lines)."\n--\n".implode("\n", $history->refused ?? [])."\n--\n".implode("\n", array_slice($history?->floor->words() ?? [], -40)));
    }

    /** @return array{array{seed: int, delayed: bool}, list<array<string, mixed>>} */
    private static function read(string $file): array
    {
        $lines = array_map(static fn(string $line): array => json_decode($line, true, 512, JSON_THROW_ON_ERROR), file($file, FILE_IGNORE_NEW_LINES | FILE_SKIP_EMPTY_LINES) ?: []);

        return [$lines[0], array_slice($lines, 1)];
    }

    private function rulesHold(TestFloor $floor): void
    {
        $this->exitsNeverExceedThePosition($floor);
        $this->everyLotIsAccountedFor($floor);
        $this->whatShouldBeProtectedIs($floor);
    }

    /** Whatever fills, joins or restarts: only the trader's own hand, or another plan, loosens a stop. */
    private function noStopLoosensByItself(TestFloor $floor, string $do): void
    {
        $now = [];
        foreach ($floor->holding()->entries as $id => $entry) {
            $sign = $entry->exits->side->sign();
            if ($entry->exits->plan->covers === Covers::Position) {
                // A portion can empty and be filled again with other lots; eventsMakeSense looks at its orders.
                continue;
            }
            foreach ($entry->exits->covers() as $cover) {
                $key = "$id/$sign/{$cover->portion->number}/{$cover->group}";
                if ($cover->lots > 0 && $cover->stop !== null) {
                    $now[$key] = $cover->stop;
                    if (isset($this->stopsBefore[$key]) && ! in_array($do, ['modify', 'set-exit', 'cover'], true)) {
                        self::assertGreaterThanOrEqual(0, $sign * ($cover->stop - $this->stopsBefore[$key]), "the stop of $key loosened");
                    }
                }
            }
        }
        $this->stopsBefore = $now;
    }

    private function isBusy(TestFloor $floor): bool
    {
        foreach ($floor->working() as $order) {
            if ($order->state->isPending()) {
                return true;
            }
        }

        return $floor->holding()->isClosingDown() || $floor->floor->market(TestFloor::CODE)->venue->position(1) !== $floor->lots();
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
                self::assertSame($cover->wantsTarget() && ! $holding->isClosingDown() ? $cover->lots : 0, $target?->leaves() ?? 0, 'lots at the target');
                if ($stop !== null && ! $stop->triggered) {
                    self::assertSame($cover->stop, $stop->trigger);
                }
                $wanted += $cover->wantsStop() && $stop?->isLeftBehind() !== true ? $cover->lots : 0;
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
            if ($event instanceof OrderFilled && $recorded->account === 1) {
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
        $triggers = $emptied = [];
        foreach ($floor->events as $recorded) {
            $this->onlyTheHandLoosens($recorded->event, $again, $triggers, $emptied);
            $again->apply(EventCodec::decode(EventCodec::type($recorded->event), EventCodec::version($recorded->event), EventCodec::encode($recorded->event), $again), $recorded->at);
        }
        foreach ($live->holdings[TestFloor::CODE] ?? [] as $account => $holding) {
            foreach ($holding->entries as $id => $entry) {
                $again->holding($account, TestFloor::CODE)->entries[$id]->exits->restoreBests($entry->exits->bests());
                $again->holding($account, TestFloor::CODE)->entries[$id]->facts?->restoreExtremes($entry->facts?->extremes());
            }
        }
        $this->assertSameState($live->orders, $again->orders);
        $this->assertSameState($live, unserialize(serialize($live)), 'a checkpoint of the desk is the desk');
        $this->assertSameState(self::seen($live), self::seen($again));
        $this->assertSameState([$live->sequence, $live->taken, $live->days, $live->lastOrder], [$again->sequence, $again->taken, $again->days, $again->lastOrder]);
    }

    /** PHP compares first: PHPUnit, which takes long, is only asked to say what differs. */
    private function assertSameState(mixed $expected, mixed $found, string $what = ''): void
    {
        if ($expected == $found) {
            $this->addToAssertionCount(1);
        } else {
            self::assertEquals($expected, $found, $what);
        }
    }

    /**
     * Whatever moves a stop but the trader's hand tightens it, unless its portion had emptied meanwhile: then it is
     * for other lots.
     *
     * @param array<int, int>     $triggers stop order → its level before this event, in ticks
     * @param array<string, true> $emptied  portions that have been empty since their stop last moved
     */
    private function onlyTheHandLoosens(Event $event, DeskState $before, array &$triggers, array &$emptied): void
    {
        $key = static fn(int $order): string => "{$before->order($order)->entry}/{$before->order($order)->portion}/{$before->order($order)->group}";
        foreach ($event instanceof ReplaceRequested || $event instanceof OrderFilled ? $before->holding(1, TestFloor::CODE)->entries : [] as $id => $entry) {
            foreach ($entry->exits->covers() as $cover) {
                if ($cover->lots === 0) {
                    $emptied["$id/{$cover->portion->number}/{$cover->group}"] = true;
                }
            }
        }
        if ($event instanceof OrderPlaced && $event->role === Role::Stop) {
            $triggers[$event->order] = (int) $event->trigger;
            unset($emptied["$event->entry/$event->portion/$event->group"]);
        }
        if ($event instanceof ReplaceRequested && $event->trigger !== null && isset($triggers[$event->order])) {
            // A stop closes: one that sells stands below, one that buys above.
            $tighter = -$before->order($event->order)->side->sign() * ($event->trigger - $triggers[$event->order]);
            self::assertTrue($event->byHand || $tighter > 0 || isset($emptied[$key($event->order)]), "stop {$event->order} was loosened, and not by hand");
            unset($emptied[$key($event->order)]);
        }
        if ($event instanceof OrderReplaced && isset($triggers[$event->order])) {
            $triggers[$event->order] = (int) $event->trigger;
        }
    }

    /** @return array<string, array<int, \Lotrik\Desk\Holding>> those in which something has happened */
    private static function seen(DeskState $state): array
    {
        return array_filter(array_map(static fn(array $holdings): array => array_filter($holdings, static fn($h): bool => $h->sequence > 0), $state->holdings));
    }
}
