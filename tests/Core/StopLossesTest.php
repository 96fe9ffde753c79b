<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\AtRisk\StopLosses;
use Lotrik\Risk\DepthWalk;
use Lotrik\Risk\StopLoss;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What stops lose where they fill: at the trigger, walked down a stated book, and after a gap. Worked by hand. */
final class StopLossesTest extends TestCase
{
    public function testLotsAreTakenDownTheBookFromTheTriggerOn(): void
    {
        $bids = [[830, 9], [828, 4], [827, 3], [825, 10]];
        $walk = new DepthWalk($bids);
        // What stands above the trigger has gone by then: 4 at 828, 3 at 827 and 1 at 825.
        self::assertSame([4 * 828 + 3 * 827 + 825, 0], $walk->take(8, 829, -1));
        // The next stop finds only what that one has left: 9 at 825, and nothing for the other 3.
        self::assertSame([12 * 825, 3], $walk->take(12, 826, -1));
        self::assertSame([2 * 826, 2], (new DepthWalk([]))->take(2, 826, -1));
        // A stop that buys goes up through the asks.
        self::assertSame([833 + 2 * 834, 0], (new DepthWalk([[831, 5], [833, 1], [834, 5]]))->take(3, 832, 1));
    }

    /** Two lots long, their stops 7 ticks below; a tick of a lot is 2.50 and a side's fee 0.62. */
    public function testEachStopIsToldWithItsSlippageAndItsGap(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $holding = $system->holding();
        $average = $holding->position->anchor();
        $stop = $average - 7;
        $losses = StopLosses::of(ProtectedPosition::of($holding, TestSystem::contract()), $average - 1, new DepthWalk([[$stop - 1, 1], [$stop - 4, 5]]), 10);
        self::assertCount(2, $losses);
        self::assertSame('15.62', $losses[0]->fromHere->exact(), '6 ticks from where the market stands, and one side\'s fee');
        self::assertSame('18.74', $losses[0]->fromEntry->exact(), '7 ticks and the fees of both ways');
        self::assertSame(['2.50', '10.00'], array_map(static fn(StopLoss $of): string => $of->slippage->exact(), $losses), 'one tick, and four');
        self::assertSame(['25.00', '25.00'], array_map(static fn(StopLoss $of): string => $of->gap->exact(), $losses));
        // On the profit side a stop loses nothing from the entry: it locks in.
        $system->push(12);
        $locked = StopLosses::of(ProtectedPosition::of($system->holding(), TestSystem::contract()), $system->last(), new DepthWalk([]), 0);
        self::assertTrue($locked[0]->fromEntry->isNegative());
    }

    public function testLotsWithoutAStopAreInNone(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2);
        self::assertSame([], StopLosses::of(ProtectedPosition::of($system->holding(), TestSystem::contract()), $system->last(), new DepthWalk([]), 0));
    }
}
