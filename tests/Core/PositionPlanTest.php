<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Plans that cover the position: every addition joins one set of exits. */
final class PositionPlanTest extends TestCase
{
    private const PLAN = '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":4}},{"rest":true,"target":{"ticks":12}}],"ratchets":[{"at":5,"lock":0}],"covers":"position","after_target":"keep-entry"';

    public function testAnAdditionMovesTheAnchorToTheAverageAndNeverLoosensTheStop(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan(self::PLAN));
        $first = $system->average();
        self::assertSame([1 => $first - 6], $system->stops());
        $system->push(-3);
        $system->place('buy', 1, plan: TestSystem::plan(self::PLAN));
        self::assertSame(1, count($system->holding()->entries), 'one set of exits');
        $anchor = $system->holding()->position->anchor();
        self::assertLessThan($first, $anchor);
        self::assertSame([1 => $first - 6, 2 => $first - 6], $system->stops(), 'one stop, which does not go down with the average');
        self::assertSame([1 => $anchor + 4, 2 => $anchor + 12], $system->targets(), 'targets follow the average');
    }

    public function testPortionsAreFilledAgainInOrderFromTheLotsNowOpen(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan(self::PLAN));
        $at = $system->holding()->position->anchor();
        $system->push($at + 4 - $system->last());
        self::assertSame([2 => 1], array_filter($this->lots($system)), 'the first portion is out at its target');
        $system->place('buy', 1);
        self::assertSame([1 => 1, 2 => 1], $this->lots($system), 'what was added without a plan joins, and fills the first portion again');
        self::assertSame(0, $system->holding()->coverage()->unprotected());
        foreach ($system->stops() as $stop) {
            self::assertGreaterThanOrEqual($at - 6, $stop, 'no lot has a looser stop than it had');
        }
    }

    public function testLotsThatChangeTheirPortionTakeTheirStopWithThem(): void
    {
        $system = new TestSystem();
        $system->place(
            'buy',
            3,
            plan: TestSystem::plan('"stop":{"ticks":9},"portions":[{"lots":2,"target":{"ticks":4}},{"rest":true,"target":null,"stop":{"ticks":3}}],"covers":"position","after_target":"keep-entry"'),
        );
        $at = $system->holding()->position->anchor();
        $system->push($at + 4 - $system->last());
        self::assertSame([2 => -3], $system->stops($at), 'the portion with the near stop is left');
        $system->push(-4);
        $system->place('buy', 1);
        self::assertSame([1 => 2], $this->lots($system), 'its lot has gone to the first portion');
        self::assertGreaterThanOrEqual($at - 3, $system->stops()[1], 'whose stop would be farther');
    }

    public function testASetThatIsBornOverOtherEntriesTakesThemInWithTheirTightestStop(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":3}'));
        $tight = array_values($system->stops())[0];
        $system->push(2);
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":20},"covers":"position"'));
        self::assertSame(3, $system->holding()->coveringEntry()?->exits->openLots());
        self::assertSame([1 => $tight], $system->stops());
        self::assertSame(1, count($system->working(Role::Stop)));
        self::assertSame(0, $system->holding()->coverage()->unprotected());
    }

    public function testTheFirstTargetCancelsWhatStillWorksOfTheOrdersThatJoined(): void
    {
        $system = new TestSystem();
        $system->place(
            'buy',
            1,
            plan: TestSystem::plan('"stop":{"ticks":20},"portions":[{"rest":true,"target":{"ticks":3}}],"covers":"position"'),
        );
        $resting = $system->place('buy', 1, 'limit', TestSystem::contract()->price($system->last() - 8), TestSystem::plan(self::PLAN));
        $system->push($system->average() + 3 - $system->last());
        self::assertSame(0, $system->lots());
        self::assertSame('new', $system->order($resting)->state->value, 'it had filled nothing, so it is an entry of its own');
    }

    public function testThePreviewSaysThatAnOrderJoinsAndWhatBecomesOfTheExits(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan(self::PLAN));
        $system->push(-2);
        $preview = $system->system->desk->queries->preview(
            1,
            ['account' => 1, 'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'],
            $system->now(),
        );
        self::assertStringContainsString('joins Short tide, which covers the position · 3 lots then risk', $preview['words']);
        $system->place('buy', 1);
        self::assertSame(array_column($preview['split'], 'lots', 'portion'), $this->lots($system), 'what was said is what came');
        $said = $came = [];
        foreach ($preview['exits'] as $exit) {
            $said[$exit['role']][$exit['level']] = $exit['lots'];
        }
        foreach ($system->working() as $order) {
            $came[$order->role->value][$order->level()] = ($came[$order->role->value][$order->level()] ?? 0) + $order->leaves();
        }
        self::assertEquals($said, $came);
    }

    public function testAPlanThatCoversThePositionCanBePutOnOneThatIsOpen(): void
    {
        $system = new TestSystem();
        $system->place('sell', 2);
        self::assertSame(2, $system->holding()->coverage()->unprotected());
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan(self::PLAN)]);
        $system->place('sell', 2);
        self::assertSame([1 => 1, 2 => 3], $this->lots($system));
        self::assertSame(0, $system->holding()->coverage()->unprotected());
    }

    /** @return array<int, int> portion → open lots */
    private function lots(TestSystem $system): array
    {
        $lots = [];
        foreach ($system->holding()->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $lots[$slot->portion->number] = ($lots[$slot->portion->number] ?? 0) + $slot->lots;
            }
        }

        return array_filter($lots);
    }
}
