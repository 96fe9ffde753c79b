<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** Orders that end or are released at a time, in the order of their times, and never looked at before. */
final class TimetableTest extends TestCase
{
    private function price(TestFloor $floor, int $below): string
    {
        return TestFloor::contract()->price($floor->last() - $below);
    }

    public function testTheyEndInTheOrderOfTheirTimes(): void
    {
        $floor = new TestFloor();
        $late = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtd', 'expires_at' => $floor->in(300)]);
        $early = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtd', 'expires_at' => $floor->in(100)]);
        $cancelled = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtc', 'cancel_at' => $floor->in(200)]);
        $states = static fn(): array => array_map(static fn(int $id): OrderState => $floor->order($id)->state, [$early, $cancelled, $late]);
        $floor->step(9);
        self::assertSame([OrderState::New, OrderState::New, OrderState::New], $states());
        $floor->step(10);
        self::assertSame([OrderState::Expired, OrderState::New, OrderState::New], $states());
        $floor->step(10);
        self::assertSame([OrderState::Expired, OrderState::Cancelled, OrderState::New], $states());
        $floor->step(10);
        self::assertSame([OrderState::Expired, OrderState::Cancelled, OrderState::Expired], $states());
    }

    public function testTheFirstOfAnOrdersTimesCounts(): void
    {
        $floor = new TestFloor();
        $order = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtd', 'expires_at' => $floor->in(300), 'cancel_at' => $floor->in(100)]);
        $floor->step(15);
        self::assertSame(OrderState::Cancelled, $floor->order($order)->state);
    }

    public function testANewDateCounts(): void
    {
        $floor = new TestFloor();
        $order = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtd', 'expires_at' => $floor->in(100)]);
        $floor->take('modify', ['order' => $order, 'tif' => 'gtd', 'expires_at' => $floor->in(400)]);
        $floor->step(20);
        self::assertSame(OrderState::New, $floor->order($order)->state);
        $floor->restart();
        $floor->step(30);
        self::assertSame(OrderState::Expired, $floor->order($order)->state);
    }

    /** Due while a change of it is under way: it ends when the answer is here. */
    public function testDueWhileAnAnswerIsUnderWay(): void
    {
        $floor = new TestFloor(20);
        $order = $floor->place('buy', 1, 'limit', $this->price($floor, 9), more: ['tif' => 'gtd', 'expires_at' => $floor->in(700)]);
        $floor->step(60);
        $floor->take('modify', ['order' => $order, 'price' => $this->price($floor, 8)]);
        $floor->step(20);
        self::assertSame(OrderState::PendingReplace, $floor->order($order)->state);
        $floor->step(100);
        self::assertSame([OrderState::Expired, 'its date has come'], [$floor->order($order)->state, $floor->order($order)->reason]);
    }

    /** With a time and a condition both must hold; when the time is over the condition is looked at by each print. */
    public function testATimeAndAConditionTogether(): void
    {
        $floor = new TestFloor();
        $level = $floor->last() + 3;
        $order = $floor->place('buy', 1, more: ['release_at' => $floor->in(200), 'condition' => ['contract' => TestFloor::CODE, 'last' => 'at-or-above', 'price' => TestFloor::contract()->price($level)]]);
        $floor->push(3);
        self::assertSame(OrderState::Suspended, $floor->order($order)->state, 'the price holds, the time does not');
        $floor->push(-5);
        $floor->step(30);
        $floor->push(-3);
        self::assertSame(OrderState::Suspended, $floor->order($order)->state, 'the time holds, the price does not');
        $floor->push(9);
        self::assertSame(OrderState::Filled, $floor->order($order)->state);
    }

    /** Its parent filled long ago, and has been forgotten among many finished orders: that it filled is not. */
    public function testAnOrderThatWaitsForAParentAndATimeOutlivesItsParent(): void
    {
        $floor = new TestFloor();
        $parent = $floor->place('buy', 1);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $parent = $floor->place('buy', 1, 'limit', $this->price($floor, 4));
        $child = $floor->place('buy', 1, more: ['after' => $parent, 'release_at' => $floor->in(400)]);
        $floor->push(-5);
        self::assertSame([OrderState::Filled, OrderState::Suspended], [$floor->order($parent)->state, $floor->order($child)->state]);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        self::assertSame(OrderState::Cancelled, $floor->order($child)->state, 'a flatten takes it as well');
        $parent = $floor->place('buy', 1, 'limit', $this->price($floor, 3));
        $child = $floor->place('buy', 1, more: ['after' => $parent, 'release_at' => $floor->in(60_000)]);
        $floor->push(-5);
        for ($i = 0; $i < 2100; $i++) {
            $floor->take('cancel', ['order' => $floor->place('buy', 1, 'limit', $this->price($floor, 4))]);
        }
        self::assertArrayNotHasKey($child + 1, $floor->floor->desk->state->orders, 'old finished orders are forgotten');
        $floor->wait(60_000);
        $floor->step(1);
        self::assertSame(OrderState::Filled, $floor->order($child)->state);
    }

    public function testAThousandDayOrdersCostAPrintNothing(): void
    {
        $orders = [];
        for ($i = 0; $i < 1000; $i++) {
            $orders[] = $order = new \Lotrik\Desk\DeskOrder(new \Lotrik\Desk\Event\OrderPlaced(5000 + $i, 1, 'DULZ6', null, \Lotrik\Order\Side::Buy, \Lotrik\Order\OrderKind::Limit, 1, 700, null, \Lotrik\Order\TimeInForce::Day, \Lotrik\Order\Role::Entry, \Lotrik\Desk\Event\Purpose::Hand, '', dayEnds: 1_000_000), 0);
            $order->settleState();
        }
        $timetable = new \Lotrik\Desk\Timetable(new \Lotrik\Desk\DeskState());
        array_map($timetable->changed(...), $orders);
        self::assertSame([], $timetable->due(999_999));
        self::assertCount(1000, $timetable->due(1_000_000));
        self::assertSame([], $timetable->due(2_000_000), 'each of them once');
    }
}
