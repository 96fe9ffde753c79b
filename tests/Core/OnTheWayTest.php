<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** What is wished of an order that is on its way is remembered, said, and done when the answer is here. */
final class OnTheWayTest extends TestCase
{
    private const DELAY = 15;

    private static function price(int $tick): string
    {
        return TestFloor::contract()->price($tick);
    }

    public function testCancelAllTakesOrdersThatAreOnTheirWayAndSaysWhich(): void
    {
        $floor = new TestFloor(self::DELAY);
        $first = $floor->place('buy', 1, 'limit', self::price($floor->last() - 8));
        $floor->step(3 * self::DELAY);
        $second = $floor->place('buy', 1, 'limit', self::price($floor->last() - 9));
        $sells = $floor->place('sell', 1, 'limit', self::price($floor->last() + 9));
        $answer = $floor->take('cancel-many', ['contract' => TestFloor::CODE, 'sides' => ['buy']])->body;
        self::assertSame([[$first], [$second]], [$answer['cancelled'], $answer['waiting']]);
        self::assertTrue($floor->holding()->isCancelWished($floor->order($second)));
        $floor->step(6 * self::DELAY);
        self::assertSame(['cancelled', 'cancelled', 'new'], array_map(static fn(int $id): string => $floor->order($id)->state->value, [$first, $second, $sells]));
    }

    public function testOneOrderOnItsWayIsCancelledToo(): void
    {
        $floor = new TestFloor(self::DELAY);
        $order = $floor->place('buy', 1, 'limit', self::price($floor->last() - 8));
        $floor->take('cancel', ['order' => $order]);
        self::assertSame(OrderState::PendingNew, $floor->order($order)->state);
        $floor->step(3 * self::DELAY);
        self::assertSame(OrderState::PendingCancel, $floor->order($order)->state);
        $floor->step(2 * self::DELAY);
        self::assertSame(OrderState::Cancelled, $floor->order($order)->state);
    }

    public function testAChangeThatIsUnderWayIsFollowedByTheCancel(): void
    {
        $floor = new TestFloor(self::DELAY);
        $order = $floor->place('buy', 1, 'limit', self::price($floor->last() - 8));
        $floor->step(3 * self::DELAY);
        $floor->take('modify', ['order' => $order, 'price' => self::price($floor->last() - 6)]);
        self::assertSame(OrderState::PendingReplace, $floor->order($order)->state);
        $floor->take('cancel', ['order' => $order]);
        $floor->step(6 * self::DELAY);
        self::assertSame(OrderState::Cancelled, $floor->order($order)->state);
    }

    /** Pressed twice while the first close is on its way: half, and half of the rest, and not all. */
    public function testHalfOffTwiceIsNotAll(): void
    {
        $floor = new TestFloor(self::DELAY);
        $floor->place('buy', 4, plan: TestFloor::plan());
        $floor->step(8 * self::DELAY);
        $floor->take('half-off', ['contract' => TestFloor::CODE]);
        $floor->take('half-off', ['contract' => TestFloor::CODE]);
        self::assertSame('no-half', $floor->refusal('half-off', ['contract' => TestFloor::CODE])->problem);
        $floor->step(8 * self::DELAY);
        self::assertSame(1, $floor->lots());
    }

    /** An entry on its way that fills before its cancel could be sent stays filled, and is protected. */
    public function testAWishComesTooLateForAFill(): void
    {
        $floor = new TestFloor(self::DELAY);
        $order = $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->take('cancel', ['order' => $order]);
        $floor->step(8 * self::DELAY);
        self::assertSame([OrderState::Filled, 2, 0], [$floor->order($order)->state, $floor->lots(), $floor->holding()->unprotected()]);
    }

    private function bornStops(): TestFloor
    {
        $floor = new TestFloor(self::DELAY);
        $floor->place('buy', 3, plan: TestFloor::plan('"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}]'));
        for ($i = 0; $floor->lots() < 3 && $i < 10 * self::DELAY; $i++) {
            $floor->step(1);
        }
        self::assertSame([OrderState::PendingNew], array_values(array_unique(array_map(static fn($o): OrderState => $o->state, $floor->working(Role::Stop)), SORT_REGULAR)));

        return $floor;
    }

    public function testStopsOnTheirWayAreTightened(): void
    {
        $floor = $this->bornStops();
        $at = $floor->average();
        $answer = $floor->take('tighten', ['contract' => TestFloor::CODE, 'ticks' => 2])->body;
        self::assertCount(2, $answer['waiting']);
        $floor->step(8 * self::DELAY);
        self::assertSame([1 => -5, 2 => -5], $floor->stops($at));
        self::assertSame(['plan'], array_values(array_unique(array_map(static fn($e): string => $e->exits->covers()[0]->stopByHand ? 'hand' : 'plan', $floor->holding()->entries))), 'what tightens leaves the ratchets on');
    }

    public function testStopsOnTheirWayGoToBreakEven(): void
    {
        $floor = $this->bornStops();
        $at = $floor->average();
        $floor->push(4);
        $answer = $floor->take('break-even', ['contract' => TestFloor::CODE])->body;
        self::assertCount(2, $answer['waiting']);
        $floor->step(8 * self::DELAY);
        self::assertSame([1 => 0, 2 => 0], $floor->stops($at));
    }

    public function testAStopOnItsWayIsSetElsewhereAndLoosenedByHandItStaysThere(): void
    {
        $floor = $this->bornStops();
        $at = $floor->average();
        $answer = $floor->take('set-exit', ['contract' => TestFloor::CODE, 'stop' => self::price($at - 9), 'target' => self::price($at + 20)])->body;
        self::assertCount(2, $answer['waiting']);
        $floor->step(8 * self::DELAY);
        self::assertSame([[1 => -9, 2 => -9], [2 => 20, 1 => 9]], [$floor->stops($at), array_replace([2 => 0], $floor->targets($at))]);
        foreach ($floor->holding()->entries as $entry) {
            self::assertTrue($entry->exits->covers()[0]->stopByHand);
        }
    }

    public function testAStopOnItsWayIsTakenOffAsked(): void
    {
        $floor = $this->bornStops();
        $stop = $floor->working(Role::Stop)[0];
        self::assertSame('would-unprotect', $floor->refusal('cancel', ['order' => $stop->id])->problem);
        $floor->take('cancel', ['order' => $stop->id, 'leave_unprotected' => true]);
        $floor->step(8 * self::DELAY);
        self::assertSame([OrderState::Cancelled, 1], [$stop->state, $floor->holding()->unprotected()]);
    }

    /** A kill while it is remembered changes nothing. */
    public function testWhatWasWishedSurvivesAKill(): void
    {
        $floor = $this->bornStops();
        $entry = $floor->place('buy', 1, 'limit', self::price($floor->last() - 8));
        $floor->take('cancel-many', ['contract' => TestFloor::CODE]);
        $floor->take('tighten', ['contract' => TestFloor::CODE, 'ticks' => 2]);
        $at = $floor->average();
        $floor->restart();
        $floor->step(8 * self::DELAY);
        self::assertSame([OrderState::Cancelled, [1 => -5, 2 => -5]], [$floor->order($entry)->state, $floor->stops($at)]);
    }
}
