<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** Plans that cover the position: every addition joins one set of exits. */
final class PositionPlanTest extends TestCase
{
    private const PLAN = '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":4}},{"rest":true,"target":{"ticks":12}}],"ratchets":[{"at":5,"lock":0}],"covers":"position","after_target":"keep-entry"';

    public function testAnAdditionMovesTheAnchorToTheAverageAndNeverLoosensTheStop(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan(self::PLAN));
        $first = $floor->average();
        self::assertSame([1 => $first - 6], $floor->stops());
        $floor->push(-3);
        $floor->place('buy', 1, plan: TestFloor::plan(self::PLAN));
        self::assertSame(1, count($floor->holding()->entries), 'one set of exits');
        $anchor = $floor->holding()->position->anchor();
        self::assertLessThan($first, $anchor);
        self::assertSame([1 => $first - 6, 2 => $first - 6], $floor->stops(), 'one stop, which does not go down with the average');
        self::assertSame([1 => $anchor + 4, 2 => $anchor + 12], $floor->targets(), 'targets follow the average');
    }

    public function testPortionsAreFilledAgainInOrderFromTheLotsNowOpen(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan(self::PLAN));
        $at = $floor->holding()->position->anchor();
        $floor->push($at + 4 - $floor->last());
        self::assertSame([2 => 1], array_filter($this->lots($floor)), 'the first portion is out at its target');
        $floor->place('buy', 1);
        self::assertSame([1 => 1, 2 => 1], $this->lots($floor), 'what was added without a plan joins, and fills the first portion again');
        self::assertSame(0, $floor->holding()->unprotected());
        foreach ($floor->stops() as $stop) {
            self::assertGreaterThanOrEqual($at - 6, $stop, 'no lot has a looser stop than it had');
        }
    }

    public function testLotsThatChangeTheirPortionTakeTheirStopWithThem(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 3, plan: TestFloor::plan('"stop":{"ticks":9},"portions":[{"lots":2,"target":{"ticks":4}},{"rest":true,"target":null,"stop":{"ticks":3}}],"covers":"position","after_target":"keep-entry"'));
        $at = $floor->holding()->position->anchor();
        $floor->push($at + 4 - $floor->last());
        self::assertSame([2 => -3], $floor->stops($at), 'the portion with the near stop is left');
        $floor->push(-4);
        $floor->place('buy', 1);
        self::assertSame([1 => 2], $this->lots($floor), 'its lot has gone to the first portion');
        self::assertGreaterThanOrEqual($at - 3, $floor->stops()[1], 'whose stop would be farther');
    }

    public function testASetThatIsBornOverOtherEntriesTakesThemInWithTheirTightestStop(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":3}'));
        $tight = array_values($floor->stops())[0];
        $floor->push(2);
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":20},"covers":"position"'));
        self::assertSame(3, $floor->holding()->set()?->exits->openLots());
        self::assertSame([1 => $tight], $floor->stops());
        self::assertSame(1, count($floor->working(Role::Stop)));
        self::assertSame(0, $floor->holding()->unprotected());
    }

    public function testTheFirstTargetCancelsWhatStillWorksOfTheOrdersThatJoined(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":20},"portions":[{"rest":true,"target":{"ticks":3}}],"covers":"position"'));
        $resting = $floor->place('buy', 1, 'limit', TestFloor::contract()->price($floor->last() - 8), TestFloor::plan(self::PLAN));
        $floor->push($floor->average() + 3 - $floor->last());
        self::assertSame(0, $floor->lots());
        self::assertSame('new', $floor->order($resting)->state->value, 'it had filled nothing, so it is an entry of its own');
    }

    public function testThePreviewSaysThatAnOrderJoinsAndWhatBecomesOfTheExits(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan(self::PLAN));
        $floor->push(-2);
        $preview = $floor->floor->desk->preview(1, ['account' => 1, 'contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'], $floor->now());
        self::assertStringContainsString('joins Short tide, which covers the position · 3 lots then risk', $preview['words']);
        $floor->place('buy', 1);
        self::assertSame(array_column($preview['split'], 'lots', 'portion'), $this->lots($floor), 'what was said is what came');
        $said = $came = [];
        foreach ($preview['exits'] as $exit) {
            $said[$exit['role']][$exit['level']] = $exit['lots'];
        }
        foreach ($floor->working() as $order) {
            $came[$order->role->value][$order->level()] = ($came[$order->role->value][$order->level()] ?? 0) + $order->leaves();
        }
        self::assertEquals($said, $came);
    }

    public function testAPlanThatCoversThePositionCanBePutOnOneThatIsOpen(): void
    {
        $floor = new TestFloor();
        $floor->place('sell', 2);
        self::assertSame(2, $floor->holding()->unprotected());
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan(self::PLAN)]);
        $floor->place('sell', 2);
        self::assertSame([1 => 1, 2 => 3], $this->lots($floor));
        self::assertSame(0, $floor->holding()->unprotected());
    }

    /** @return array<int, int> portion → open lots */
    private function lots(TestFloor $floor): array
    {
        $lots = [];
        foreach ($floor->holding()->entries as $entry) {
            foreach ($entry->exits->covers() as $cover) {
                $lots[$cover->portion->number] = ($lots[$cover->portion->number] ?? 0) + $cover->lots;
            }
        }

        return array_filter($lots);
    }
}
