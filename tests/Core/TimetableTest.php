<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Orders that end or are released at a time, in the order of their times, and never looked at before. */
final class TimetableTest extends TestCase
{
    private function price(TestSystem $system, int $below): string
    {
        return TestSystem::contract()->price($system->last() - $below);
    }

    public function testTheyEndInTheOrderOfTheirTimes(): void
    {
        $system = new TestSystem();
        $late = $system->place('buy', 1, 'limit', $this->price($system, 9), more: ['tif' => 'gtd', 'expires_at' => $system->in(300)]);
        $early = $system->place('buy', 1, 'limit', $this->price($system, 9), more: ['tif' => 'gtd', 'expires_at' => $system->in(100)]);
        $cancelled = $system->place('buy', 1, 'limit', $this->price($system, 9), more: ['tif' => 'gtc', 'cancel_at' => $system->in(200)]);
        $states = static fn(): array => array_map(
            static fn(int $id): OrderState => $system->order($id)->state,
            [$early, $cancelled, $late],
        );
        $system->step(9);
        self::assertSame([OrderState::New, OrderState::New, OrderState::New], $states());
        $system->step(10);
        self::assertSame([OrderState::Expired, OrderState::New, OrderState::New], $states());
        $system->step(10);
        self::assertSame([OrderState::Expired, OrderState::Cancelled, OrderState::New], $states());
        $system->step(10);
        self::assertSame([OrderState::Expired, OrderState::Cancelled, OrderState::Expired], $states());
    }

    public function testTheFirstOfAnOrdersTimesCounts(): void
    {
        $system = new TestSystem();
        $order = $system->place(
            'buy',
            1,
            'limit',
            $this->price($system, 9),
            more: ['tif' => 'gtd', 'expires_at' => $system->in(300), 'cancel_at' => $system->in(100)],
        );
        $system->step(15);
        self::assertSame(OrderState::Cancelled, $system->order($order)->state);
    }

    public function testANewDateCounts(): void
    {
        $system = new TestSystem();
        $order = $system->place('buy', 1, 'limit', $this->price($system, 9), more: ['tif' => 'gtd', 'expires_at' => $system->in(100)]);
        $system->handle('modify', ['order' => $order, 'tif' => 'gtd', 'expires_at' => $system->in(400)]);
        $system->step(20);
        self::assertSame(OrderState::New, $system->order($order)->state);
        $system->restart();
        $system->step(30);
        self::assertSame(OrderState::Expired, $system->order($order)->state);
    }

    /** Due while a change of it is under way: it ends when the answer is here. */
    public function testDueWhileAnAnswerIsUnderWay(): void
    {
        $system = new TestSystem(20);
        $order = $system->place('buy', 1, 'limit', $this->price($system, 9), more: ['tif' => 'gtd', 'expires_at' => $system->in(700)]);
        $system->step(60);
        $system->handle('modify', ['order' => $order, 'price' => $this->price($system, 8)]);
        $system->step(20);
        self::assertSame(OrderState::PendingReplace, $system->order($order)->state);
        $system->step(100);
        self::assertSame([OrderState::Expired, 'its date has come'], [$system->order($order)->state, $system->order($order)->reason]);
    }

    /** With a time and a condition both must hold; when the time is over the condition is looked at by each print. */
    public function testATimeAndAConditionTogether(): void
    {
        $system = new TestSystem();
        $level = $system->last() + 3;
        $order = $system->place(
            'buy',
            1,
            more: [
                'release_at' => $system->in(200),
                'condition' => ['contract' => TestSystem::CODE, 'last' => 'at-or-above', 'price' => TestSystem::contract()->price($level)],
            ],
        );
        $system->push(3);
        self::assertSame(OrderState::Suspended, $system->order($order)->state, 'the price holds, the time does not');
        $system->push(-5);
        $system->step(30);
        $system->push(-3);
        self::assertSame(OrderState::Suspended, $system->order($order)->state, 'the time holds, the price does not');
        $system->push(9);
        self::assertSame(OrderState::Filled, $system->order($order)->state);
    }

    /** Its parent filled long ago, and has been forgotten among many finished orders: that it filled is not. */
    public function testAnOrderThatWaitsForAParentAndATimeOutlivesItsParent(): void
    {
        $system = new TestSystem();
        $parent = $system->place('buy', 1);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $parent = $system->place('buy', 1, 'limit', $this->price($system, 4));
        $child = $system->place('buy', 1, more: ['after' => $parent, 'release_at' => $system->in(400)]);
        $system->push(-5);
        self::assertSame([OrderState::Filled, OrderState::Suspended], [$system->order($parent)->state, $system->order($child)->state]);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame(OrderState::Cancelled, $system->order($child)->state, 'a flatten takes it as well');
        $parent = $system->place('buy', 1, 'limit', $this->price($system, 3));
        $child = $system->place('buy', 1, more: ['after' => $parent, 'release_at' => $system->in(60_000)]);
        $system->push(-5);
        for ($i = 0; $i < 2100; $i++) {
            $system->handle('cancel', ['order' => $system->place('buy', 1, 'limit', $this->price($system, 4))]);
        }
        self::assertArrayNotHasKey($child + 1, $system->system->desk->state->orders, 'old finished orders are forgotten');
        $system->wait(60_000);
        $system->step(1);
        self::assertSame(OrderState::Filled, $system->order($child)->state);
    }

    public function testAThousandDayOrdersCostAPrintNothing(): void
    {
        $orders = [];
        for ($i = 0; $i < 1000; $i++) {
            $orders[] = $order = new \Lotrik\Desk\Order\DeskOrder(
                new \Lotrik\Desk\Event\Order\OrderPlaced(
                    5000 + $i, 1, 'DULZ6', null, \Lotrik\Order\Side::Buy, \Lotrik\Order\OrderKind::Limit, 1, 700, null,
                    \Lotrik\Order\TimeInForce::Day, \Lotrik\Order\Role::Entry, \Lotrik\Desk\Event\Order\Purpose::Hand, '', dayEnds: 1_000_000,
                ),
                0,
            );
            $order->workAgain();
        }
        $timetable = new \Lotrik\Desk\Upkeep\Timetable(new \Lotrik\Desk\DeskState());
        array_map($timetable->changed(...), $orders);
        self::assertSame([], $timetable->due(999_999));
        self::assertCount(1000, $timetable->due(1_000_000));
        self::assertSame([], $timetable->due(2_000_000), 'each of them once');
    }
}
