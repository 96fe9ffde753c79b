<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\ReportOutOfPlace;
use Lotrik\Order\OrderState;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** A venue may say what an order's state does not allow: late, twice, in another order. The desk goes on; a fill always counts. */
final class OutOfPlaceTest extends TestCase
{
    public function testWhatComesTooLateOrTwiceIsKeptAndChangesNothing(): void
    {
        $floor = new TestFloor();
        $order = $floor->place('buy', 2, 'limit', TestFloor::contract()->price($floor->last() - 9));
        $say = static fn(ExecType $type, int $id) => $floor->floor->desk->report(TestFloor::CODE, [new ExecutionReport($type, $id, 5, 700)], $floor->now());
        $say(ExecType::Accepted, $order);
        $say(ExecType::Refused, $order);
        self::assertSame([OrderState::New, 2], [$floor->order($order)->state, $floor->order($order)->quantity]);
        $floor->take('cancel', ['order' => $order]);
        foreach ([ExecType::Accepted, ExecType::Replaced, ExecType::Reduced, ExecType::Triggered, ExecType::Cancelled, ExecType::ReplaceRefused, ExecType::Refused] as $type) {
            $say($type, $order);
            self::assertSame([OrderState::Cancelled, 2], [$floor->order($order)->state, $floor->order($order)->quantity], $type->name);
        }
        $say(ExecType::Cancelled, 999_999);
        $floor->step(1);
        self::assertCount(10, $floor->eventsOf(ReportOutOfPlace::class));
    }

    /** The lots are there, whatever the desk believed of the order: they count, and get their exits. */
    public function testALateFillCounts(): void
    {
        $floor = new TestFloor();
        $price = $floor->last() - 9;
        $order = $floor->place('buy', 2, 'limit', TestFloor::contract()->price($price), TestFloor::plan('"stop":{"ticks":30}'));
        $floor->take('cancel', ['order' => $order]);
        $floor->floor->desk->report(TestFloor::CODE, [new ExecutionReport(ExecType::Filled, $order, 2, $price, print: 1)], $floor->now());
        $floor->floor->desk->react(TestFloor::CODE, $floor->now());
        self::assertSame(2, $floor->lots());
        self::assertSame([[2], 0], [array_map(static fn($o): int => $o->quantity, $floor->working(\Lotrik\Order\Role::Stop)), $floor->holding()->unprotected()]);
    }
}
