<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Venue\ReportOutOfPlace;
use Lotrik\Desk\Event\Venue\VenueDiffers;
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
            [new ExecutionReport($type, $id, $type->name.$id, 0, 5, 5, 700)],
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

    /** Reports of the venue as they were, said again: the same execution id is the same event. */
    public function testAReportThatComesAgainChangesNothing(): void
    {
        $system = new TestSystem();
        $tick = $system->last() - 9;
        $order = $system->place('buy', 6, 'limit', TestSystem::contract()->price($tick));
        $said = [
            new ExecutionReport(ExecType::Filled, $order, 'a', 2, 4, 2, $tick, print: 1),
            new ExecutionReport(ExecType::Reduced, $order, 'b', 2, 3, 1, $tick, because: 'the venue took one off'),
            new ExecutionReport(ExecType::Replaced, $order, 'c', 2, 3, 3, $tick + 1),
            new ExecutionReport(ExecType::Replaced, $order, 'd', 2, 3, 3, $tick + 2),
        ];
        foreach ([...$said, ...$said, $said[2], $said[0]] as $report) {
            $system->system->desk->report(TestSystem::CODE, [$report], $system->now());
        }
        $system->step(1);
        self::assertSame(
            [2, 2, 5, $tick + 2],
            [$system->lots(), $system->order($order)->filled, $system->order($order)->quantity, $system->order($order)->price],
        );
        self::assertCount(6, $system->eventsOf(ReportOutOfPlace::class));
        $system->restart();
        $system->system->desk->report(TestSystem::CODE, $said, $system->now());
        self::assertSame(2, $system->lots(), 'a start forgets no execution');
    }

    /** Two fills in another order than they happened: both count, and that one was missing is told. */
    public function testFillsInAnotherOrderCountOnceEach(): void
    {
        $system = new TestSystem();
        $tick = $system->last() - 9;
        $order = $system->place('buy', 6, 'limit', TestSystem::contract()->price($tick));
        $system->system->desk->report(TestSystem::CODE, [
            new ExecutionReport(ExecType::Filled, $order, 'second', 5, 1, 3, $tick, print: 2),
            new ExecutionReport(ExecType::Filled, $order, 'first', 2, 4, 2, $tick, print: 1),
        ], $system->now());
        $system->step(1);
        self::assertSame([5, 5], [$system->lots(), $system->order($order)->filled]);
        self::assertSame(
            [[5, 3]],
            array_map(static fn(VenueDiffers $event): array => [$event->venue, $event->desk], $system->eventsOf(VenueDiffers::class)),
        );
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
            [new ExecutionReport(ExecType::Filled, $order, 'late', 2, 0, 2, $price, print: 1)],
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
