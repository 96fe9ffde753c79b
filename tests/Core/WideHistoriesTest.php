<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Exit\EntryClosed;
use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Order\OrderRejected;
use PHPUnit\Framework\TestCase;
use Tests\Support\DeskFigures;
use Tests\Support\DeskRules;
use Tests\Support\LimitRules;
use Tests\Support\Shrinker;
use Tests\Support\TestSystem;
use Tests\Support\WideActions;
use Tests\Support\WideHistory;

/**
 * The rules over wide random histories: two accounts, three contracts in three currencies, every kind, duration and unit,
 * delays, the session's end, the loss limit, refused exits, kills. LOTRIK_WIDE says how many (600 by default), LOTRIK_SEED
 * where they begin. A failing history is shrunk and printed as a script, one action a line; LOTRIK_WIDE_SCRIPT plays such a file.
 */
final class WideHistoriesTest extends TestCase
{
    private const ACTIONS = 30;

    /** A desk is built anew after one in so many actions. */
    private const LOOKS = 9;

    public function testTheRulesHoldInEveryHistory(): void
    {
        $script = getenv('LOTRIK_WIDE_SCRIPT');
        if (is_string($script) && $script !== '') {
            [$seed, $actions] = self::read($script);
            self::assertNull($this->faultIn($seed, $actions));

            return;
        }
        $count = (int) (getenv('LOTRIK_WIDE') ?: 600);
        $first = (int) (getenv('LOTRIK_SEED') ?: 1);
        $seen = [];
        for ($seed = $first; $seed < $first + $count; $seed++) {
            $actions = WideActions::of($seed, self::ACTIONS);
            if ($this->faultIn($seed, $actions, $seen) !== null) {
                $this->failWith(
                    $seed,
                    getenv('LOTRIK_BROKEN') !== false ? $actions : Shrinker::shrink(
                        $actions,
                        fn(array $fewer): bool => $this->faultIn($seed, $fewer) !== null,
                    ),
                );
            }
        }
        foreach ([OrderFilled::class => 4, StopMoved::class => 1, EntryClosed::class => 1] as $event => $each) {
            self::assertGreaterThan($each * $count / 2, $seen[$event] ?? 0, "$event must happen");
        }
        foreach ($count >= 300 ? [AccountBarred::class, OrderRejected::class] : [] as $event) {
            self::assertGreaterThan(0, $seen[$event] ?? 0, "$event must happen at all");
        }
    }

    /**
     * What another account previews, holds back or is refused changes nothing of mine: no event, no fill, no refusal.
     * Only what reaches the market could.
     */
    public function testAnotherAccountCanDoNothingToMineButThroughTheMarket(): void
    {
        $count = max(40, intdiv((int) (getenv('LOTRIK_WIDE') ?: 600), 8));
        for ($seed = 1; $seed <= $count; $seed++) {
            $mine = array_values(array_filter(
                WideActions::of($seed, 2 * self::ACTIONS),
                static fn(array $action): bool => ($action['account'] ?? 1) === 1 && ! in_array($action['do'], ['restart', 'sweep', 'calendar', 'account-open', 'account-reset'], true),
            ));
            $alone = new WideHistory($seed, $seed % 4, 5_000);
            $beside = new WideHistory($seed, $seed % 4, 5_000);
            foreach ($mine as $i => $action) {
                $code = $i % 3 === 2 ? 0 : $i % 3;
                $beside->perform([
                    'do' => 'preview', 'account' => 2, 'contract' => $code, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market',
                    'exit_plan' => TestSystem::plan(),
                ]);
                $beside->perform([
                    'do' => 'place', 'account' => 2, 'contract' => $code, 'side' => 'buy', 'quantity' => 30, 'kind' => 'market',
                    'exit_plan' => null,
                ]);
                $beside->perform([
                    'do' => 'place', 'account' => 2, 'contract' => $code, 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit',
                    'beyond' => -9, 'release_in' => 90_000_000, 'exit_plan' => null,
                ]);
                $beside->perform(['do' => 'tighten', 'account' => 2, 'contract' => $code, 'ticks' => 1]);
                $beside->perform(['do' => $i % 2 === 0 ? 'cancel-many' : 'flatten', 'account' => 2, 'contract' => $code]);
                // The clock has gone on by a millisecond a command: mine goes on by as many.
                $alone->system->wait($beside->system->now() - $alone->system->now());
                // Whoever comes first after an open finds the market open: here it is somebody who changes nothing, in both.
                $alone->perform(['do' => 'tighten', 'account' => 3, 'contract' => $code, 'ticks' => 1]);
                $beside->perform(['do' => 'tighten', 'account' => 3, 'contract' => $code, 'ticks' => 1]);
                $alone->perform($action);
                $beside->perform($action);
            }
            self::assertSame(self::eventsOf($alone), self::eventsOf($beside), "seed $seed");
        }
    }

    /** The engine does not search for objects that only hold each other: it would stand still meanwhile. So there are none. */
    public function testNothingIsLeftBehindThatOnlyHoldsItself(): void
    {
        gc_collect_cycles();
        gc_disable();
        try {
            for ($seed = 1; $seed <= 40; $seed++) {
                $history = new WideHistory($seed, $seed % 4, $seed % 7 === 0 ? 6 : 5_000);
                gc_collect_cycles();
                foreach (WideActions::of($seed, 3 * self::ACTIONS) as $action) {
                    if ($action['do'] !== 'restart') {
                        $history->perform($action);
                    }
                }
                self::assertSame(0, gc_collect_cycles(), "seed $seed");
            }
        } finally {
            gc_enable();
        }
    }

    /** @return list<string> events of account 1, with their orders counted from its own first */
    private static function eventsOf(WideHistory $history): array
    {
        $numbers = [];
        $number = static function (int $id) use (&$numbers): int {
            return $numbers[$id] ??= count($numbers) + 1;
        };
        $events = [];
        foreach ($history->system->events as $recorded) {
            if ($recorded->account !== 1) {
                continue;
            }
            $fields = array_diff_key(
                get_object_vars($recorded->event),
                [
                    'clientId' => 1, 'fingerprint' => 1, 'answer' => 1, 'fill' => 1, 'words' => 1, 'because' => 1, 'takes' => 1,
                    'facts' => 1, 'hold' => 1, 'why' => 1, 'steps' => 1,
                    // A fill that an open brings comes with the first command after it, whosever that is: a millisecond or so sooner.
                    'until' => 1,
                ],
            );
            foreach (['order', 'entry', 'other', 'first', 'second', 'joins', 'placed'] as $field) {
                if (is_int($fields[$field] ?? null)) {
                    $fields[$field] = $number($fields[$field]);
                }
            }
            $events[] = $recorded->event::class.' '.json_encode($fields);
        }

        return $events;
    }

    /** Shrunk histories that the rules once did not hold in, each named after what was wrong. */
    public function testHistoriesThatOnceFailedHold(): void
    {
        foreach (glob(__DIR__.'/once-failed/wide/*.jsonl') ?: [] as $file) {
            [$seed, $actions] = self::read($file);
            self::assertNull($this->faultIn($seed, $actions), basename($file));
        }
        $this->addToAssertionCount(1);
    }

    /**
     * Plays actions and looks at the rules after each of them, or, where answers are under way, once it is quiet.
     *
     * @param list<array<string, mixed>> $actions
     * @param array<string, int>         $seen
     */
    private function faultIn(int $seed, array $actions, array &$seen = [], ?WideHistory &$history = null): ?string
    {
        try {
            $delay = $seed % 2 === 0 ? 0 : 1 + $seed % 5;
            // In some worlds the venue takes so few orders that it refuses exits.
            $history = new WideHistory($seed, $delay, $seed % 7 === 0 ? 6 : 5_000, $seed % 5 === 0);
            $rules = new DeskRules($history->system);
            $limits = new LimitRules($history->system);
            foreach ($actions as $i => $action) {
                $history->perform($action);
                $limits->holdAfter((string) $action['do']);
                if (($seed + $i) % self::LOOKS === 0) {
                    $this->freshDeskSaysTheSame($history->system);
                }
                if ($delay === 0) {
                    $rules->holdNow();
                }
            }
            for ($i = 0; $i < 60 && $rules->isBusy(); $i++) {
                $history->system->step(10);
            }
            if ($rules->isBusy()) {
                return 'something waits for ever';
            }
            $rules->holdNow();
            $rules->heldAllAlong();
        } catch (\Throwable $fault) {
            return $fault->getMessage()
                .($fault instanceof \RuntimeException ? '' : ' in '.basename($fault->getFile()).':'.$fault->getLine());
        }
        foreach ($history->system->events as $recorded) {
            $seen[$recorded->event::class] = ($seen[$recorded->event::class] ?? 0) + 1;
        }

        return null;
    }

    /** A desk that is built from the journal and the checkpoints says the same as the one that has run, in every figure that it can be asked for. */
    private function freshDeskSaysTheSame(TestSystem $system): void
    {
        $live = DeskFigures::of($system->system, $system->now());
        $again = DeskFigures::of($system->fresh(), $system->now());
        foreach ($live as $of => $figures) {
            foreach ($figures as $name => $figure) {
                if ($figure != ($again[$of][$name] ?? null)) {
                    throw new \RuntimeException("$of: $name is ".json_encode($figure).' on the desk that has run, and '.json_encode($again[$of][$name] ?? null).' on one that is built anew');
                }
            }
        }
    }

    /** @param list<array<string, mixed>> $actions shrunk */
    private function failWith(int $seed, array $actions): never
    {
        $none = [];
        $fault = $this->faultIn($seed, $actions, $none, $history);
        $lines = array_map(static fn(array $a): string => json_encode($a, JSON_THROW_ON_ERROR), [['seed' => $seed], ...$actions]);
        $file = tempnam(sys_get_temp_dir(), 'wide');
        file_put_contents($file, implode("\n", $lines)."\n");
        self::fail("seed $seed: $fault\nplay it again with LOTRIK_WIDE_SCRIPT=$file\n".implode("\n", $lines)."\n--\n".implode(
            "\n",
            $history->refused ?? [],
        )."\n--\n".implode(
            "\n",
            array_slice($history?->system->words() ?? [], -45),
        ));
    }

    /** @return array{int, list<array<string, mixed>>} */
    private static function read(string $file): array
    {
        $lines = array_map(
            static fn(string $line): array => json_decode($line, true, 512, JSON_THROW_ON_ERROR),
            file($file, FILE_IGNORE_NEW_LINES | FILE_SKIP_EMPTY_LINES) ?: [],
        );

        return [$lines[0]['seed'], array_slice($lines, 1)];
    }
}
