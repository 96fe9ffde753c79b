<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\ReportOutOfPlace;
use Lotrik\Order\OrderState;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** A venue may say what an order's state does not allow: late, twice, in another order. The desk goes on; a fill always counts. */
final class OutOfPlaceTest extends TestCase
{
    public function testWhatComesTooLateOrTwiceIsKeptAndChangesNothing(): void
    {
        $system = new TestSystem();
        $order = $system->place('buy', 2, 'limit', TestSystem::contract()->price($system->last() - 9));
        $say = static fn(ExecType $type, int $id) => $system->system->desk->report(
            TestSystem::CODE,
            [new ExecutionReport($type, $id, 5, 700)],
            $system->now(),
        );
        $say(ExecType::Accepted, $order);
        $say(ExecType::Refused, $order);
        self::assertSame([OrderState::New, 2], [$system->order($order)->state, $system->order($order)->quantity]);
        $system->handle('cancel', ['order' => $order]);
        foreach ([
            ExecType::Accepted, ExecType::Replaced, ExecType::Reduced, ExecType::Triggered, ExecType::Cancelled, ExecType::ReplaceRefused,
            ExecType::Refused,
        ] as $type) {
            $say($type, $order);
            self::assertSame([OrderState::Cancelled, 2], [$system->order($order)->state, $system->order($order)->quantity], $type->name);
        }
        $say(ExecType::Cancelled, 999_999);
        $system->step(1);
        self::assertCount(10, $system->eventsOf(ReportOutOfPlace::class));
    }

    /** The lots are there, whatever the desk believed of the order: they count, and get their exits. */
    public function testALateFillCounts(): void
    {
        $system = new TestSystem();
        $price = $system->last() - 9;
        $order = $system->place('buy', 2, 'limit', TestSystem::contract()->price($price), TestSystem::plan('"stop":{"ticks":30}'));
        $system->handle('cancel', ['order' => $order]);
        $system->system->desk->report(
            TestSystem::CODE,
            [new ExecutionReport(ExecType::Filled, $order, 2, $price, print: 1)],
            $system->now(),
        );
        $system->system->desk->react(TestSystem::CODE, $system->now());
        self::assertSame(2, $system->lots());
        self::assertSame(
            [[2], 0],
            [
                array_map(static fn($o): int => $o->quantity, $system->working(\Lotrik\Order\Role::Stop)),
                $system->holding()->coverage()->unprotected(),
            ],
        );
    }
}
