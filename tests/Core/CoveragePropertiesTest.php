<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Event;
use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\OrderReplaced;
use Lotrik\Desk\Event\Order\ReplaceRequested;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\DeskRules;
use Tests\Support\History;
use Tests\Support\RandomActions;
use Tests\Support\Shrinker;
use Tests\Support\TestSystem;

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

            return in_array('buy', $actions, true)
                && in_array('kill', $actions, true)
                && array_search('buy', $actions, true) < array_search('kill', $actions, true);
        };
        self::assertSame(
            ['buy', 'kill'],
            Shrinker::shrink(['step', 'buy', 'step', 'push', 'sell', 'kill', 'step', 'push', 'step'], $fails),
        );
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
                $this->failWith(
                    $seed,
                    $delayed,
                    getenv('LOTRIK_BROKEN') !== false ? $actions : Shrinker::shrink(
                        $actions,
                        fn(array $fewer): bool => $this->faultIn($seed, $delayed, $fewer) !== null,
                    ),
                );
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
            $rules = new DeskRules($history->system);
            $this->stopsBefore = [];
            foreach ($actions as $action) {
                $history->perform($action);
                if (! $delayed) {
                    $rules->holdNow();
                    $this->noStopLoosensByItself($history->system, (string) $action['do']);
                }
            }
            // Far from anything that waits there, until no answer is under way.
            for ($i = 0; $delayed && $i < 40 && $rules->isBusy(); $i++) {
                $history->system->step(10);
            }
            $rules->holdNow();
            $this->onlyTheHandLoosened($history->system);
            $rules->heldAllAlong();
        } catch (\Throwable $fault) {
            return $fault->getMessage();
        }
        foreach ($history->system->events as $recorded) {
            $fills += $recorded->event instanceof OrderFilled ? 1 : 0;
            $moves += $recorded->event instanceof StopMoved ? 1 : 0;
        }

        return null;
    }

    /** @param list<array<string, mixed>> $actions shrunk */
    private function failWith(int $seed, bool $delayed, array $actions): never
    {
        $fault = $this->faultIn($seed, $delayed, $actions, history: $history);
        $lines = array_map(
            static fn(array $a): string => json_encode($a, JSON_THROW_ON_ERROR),
            [['seed' => $seed, 'delayed' => $delayed], ...$actions],
        );
        $file = tempnam(sys_get_temp_dir(), 'history');
        file_put_contents($file, implode("\n", $lines)."\n");
        self::fail("seed $seed: $fault\nplay it again with LOTRIK_SCRIPT=$file\n".implode("\n", $lines)."\n--\n".implode(
            "\n",
            $history->refused ?? [],
        )."\n--\n".implode(
            "\n",
            array_slice($history?->system->words() ?? [], -40),
        ));
    }

    /** @return array{array{seed: int, delayed: bool}, list<array<string, mixed>>} */
    private static function read(string $file): array
    {
        $lines = array_map(
            static fn(string $line): array => json_decode($line, true, 512, JSON_THROW_ON_ERROR),
            file($file, FILE_IGNORE_NEW_LINES | FILE_SKIP_EMPTY_LINES) ?: [],
        );

        return [$lines[0], array_slice($lines, 1)];
    }

    /** Whatever fills, joins or restarts: only the trader's own hand, or another plan, loosens a stop. */
    private function noStopLoosensByItself(TestSystem $system, string $do): void
    {
        $now = [];
        foreach ($system->holding()->entries as $id => $entry) {
            $sign = $entry->exits->side->sign();
            if ($entry->exits->plan->covers === PlanScope::Position) {
                // A portion can empty and be filled again with other lots; eventsMakeSense looks at its orders.
                continue;
            }
            foreach ($entry->exits->slots() as $slot) {
                $key = "$id/$sign/{$slot->portion->number}/{$slot->group}";
                if ($slot->lots > 0 && $slot->stop !== null) {
                    $now[$key] = $slot->stop;
                    if (isset($this->stopsBefore[$key]) && ! in_array($do, ['modify', 'set-exit', 'cover'], true)) {
                        self::assertGreaterThanOrEqual(0, $sign * ($slot->stop - $this->stopsBefore[$key]), "the stop of $key loosened");
                    }
                }
            }
        }
        $this->stopsBefore = $now;
    }

    /** Looked at event by event, beside the state before each of them. */
    private function onlyTheHandLoosened(TestSystem $system): void
    {
        $again = new DeskState();
        $triggers = $emptied = [];
        foreach ($system->events as $recorded) {
            $this->onlyTheHandLoosens($recorded->event, $again, $triggers, $emptied);
            $again->apply($recorded->event, $recorded->at);
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
        $key = static fn(int $order): string
            => "{$before->order($order)->entry}/{$before->order($order)->portion}/{$before->order($order)->group}";
        foreach ($event instanceof ReplaceRequested || $event instanceof OrderFilled ? $before->holding(1, TestSystem::CODE)->entries : [] as $id => $entry) {
            foreach ($entry->exits->slots() as $slot) {
                if ($slot->lots === 0) {
                    $emptied["$id/{$slot->portion->number}/{$slot->group}"] = true;
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
            self::assertTrue(
                $event->byHand || $tighter > 0 || isset($emptied[$key($event->order)]),
                "stop {$event->order} was loosened, and not by hand",
            );
            unset($emptied[$key($event->order)]);
        }
        if ($event instanceof OrderReplaced && isset($triggers[$event->order])) {
            $triggers[$event->order] = (int) $event->trigger;
        }
    }
}
