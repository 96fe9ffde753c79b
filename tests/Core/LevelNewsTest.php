<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Level\LevelsWatched;
use Lotrik\Desk\Event\Level\LevelTold;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What is told of marked levels: once as the market is approaching, and no more until it has left. */
final class LevelNewsTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /** @param list<array{int, int, string}> $levels from, to in ticks, name */
    private function watch(array $levels, ?int $within = 3): void
    {
        $packed = [];
        foreach ($levels as $i => [$low, $high, $name]) {
            $packed[] = ['id' => $i + 1, 'contract' => TestSystem::CODE, 'low' => $low, 'high' => $high, 'name' => $name];
        }
        $this->system->system->desk->watchLevels(1, ['levels' => $packed] + ($within === null ? [] : ['within' => $within]), $this->system->now());
        $this->system->step(1);
    }

    /** @return list<string> */
    private function told(): array
    {
        return array_map(static fn(LevelTold $e): string => "{$e->level} {$e->news->value}", $this->system->eventsOf(LevelTold::class));
    }

    public function testALevelSpeaksOnceUntilTheMarketHasLeftIt(): void
    {
        $last = $this->system->last();
        $this->watch([[$last + 10, $last + 11, 'lid']]);
        $this->system->push(6);
        self::assertSame([], $this->told(), 'four away');
        $this->system->push(1);
        self::assertSame(['1 near'], $this->told());
        foreach ([-4, 5, -3, 4, -6, 5] as $ticks) {
            $this->system->push($ticks);
        }
        self::assertSame(['1 near'], $this->told(), 'a market that swings at the edge says nothing new');
        $this->system->push($last - $this->system->last());
        $this->system->push(7);
        self::assertSame(['1 near'], $this->told(), 'nor does one that goes away and is back within a minute');
        $this->system->push($last - $this->system->last());
        $this->system->wait(60_000);
        $this->system->push(1);
        $this->system->push(6);
        self::assertSame(['1 near', '1 left', '1 near'], $this->told());
        self::assertSame([1], array_unique(array_map(static fn(LevelTold $e): int => $e->account, $this->system->eventsOf(LevelTold::class))));
        self::assertStringContainsString('is approaching lid 417.00–417.50: ', implode('|', $this->system->words()));
    }

    /** Nobody has to look, and a kill forgets nothing of what has been said. */
    public function testWhatHasBeenToldIsKnownAfterAKill(): void
    {
        $last = $this->system->last();
        $this->watch([[$last + 10, $last + 10, '']]);
        $this->system->push(8);
        $this->system->restart();
        $this->system->push(-1);
        $this->system->push(1);
        self::assertSame(['1 near'], $this->told());
    }

    public function testTheSameListAgainChangesNothingAndAnotherOneKeepsWhatWasToldOfTheRest(): void
    {
        $last = $this->system->last();
        $this->watch([[$last + 4, $last + 4, 'a'], [$last - 20, $last - 20, 'b']]);
        $this->watch([[$last + 4, $last + 4, 'a'], [$last - 20, $last - 20, 'b']], null);
        self::assertCount(1, $this->system->eventsOf(LevelsWatched::class));
        $this->system->push(2);
        $this->watch([[$last + 4, $last + 4, 'a']], null);
        self::assertCount(2, $this->system->eventsOf(LevelsWatched::class));
        $this->system->push(1);
        self::assertSame(['1 near'], $this->told());
        $this->watch([], null);
        $this->system->push(-20);
        self::assertSame(['1 near'], $this->told(), 'nothing is watched any more');
    }

    public function testLotsThatGoAreToldOnceWhileTheMarketIsNear(): void
    {
        $last = $this->system->last();
        foreach ([20, 20] as $lots) {
            $this->system->handle('place', [
                'contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => $lots, 'kind' => 'limit',
                'price' => TestSystem::contract()->price($last + 12),
            ], 2);
        }
        $this->watch([[$last + 12, $last + 12, 'wall']]);
        $this->system->step(500);
        $this->system->push(10);
        $this->system->step(300);
        self::assertSame(['1 near'], $this->told());
        $this->system->handle('cancel-many', ['contract' => TestSystem::CODE], 2);
        $this->system->step(300);
        self::assertSame(['1 near', '1 halved'], $this->told());
        self::assertStringContainsString('have gone', implode('|', $this->system->words()));
    }

    public function testWhatIsNoLevelIsRefusedAndNamed(): void
    {
        foreach ([['low' => 0], ['high' => 1], ['id' => 'x'], ['tone' => 'sand']] as $wrong) {
            try {
                $level = $wrong + ['id' => 1, 'contract' => TestSystem::CODE, 'low' => 800, 'high' => 801, 'name' => ''];
                $this->system->system->desk->watchLevels(1, ['levels' => [$level], 'within' => 3], $this->system->now());
                self::fail('taken');
            } catch (\Lotrik\Refusal\Refusal $refusal) {
                self::assertSame('/levels/0/'.array_key_first($wrong), $refusal->pointer);
            }
        }
    }
}
