<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** What a trader does by hand with exits that run by themselves, and with a plan for one order only. */
final class SteeringTest extends TestCase
{
    private const THREE = '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":5}},{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[{"at":4,"lock":0}]';

    public function testOnePortionIsClosedAtTheMarketAndTheOthersKeepTheirOrders(): void
    {
        $floor = new TestFloor();
        $entry = $floor->place('buy', 3, plan: TestFloor::plan(self::THREE));
        $before = [];
        foreach ($floor->working() as $order) {
            $before[(int) $order->portion][] = $order->id;
        }
        $floor->take('close-part', ['contract' => TestFloor::CODE, 'entry' => $entry, 'portion' => 2]);
        self::assertSame(2, $floor->lots());
        foreach ($floor->working() as $order) {
            self::assertContains($order->id, $before[(int) $order->portion], 'nothing was cancelled and placed anew');
        }
        self::assertSame([1, 3], array_keys($floor->stops()));
        self::assertSame('nothing-to-close', $floor->refusal('close-part', ['contract' => TestFloor::CODE, 'entry' => $entry, 'portion' => 2])->problem);
        self::assertSame('not-found', $floor->refusal('close-part', ['contract' => TestFloor::CODE, 'entry' => 77])->problem);
    }

    public function testOneEntryOfTwoIsClosedWhateverItsAge(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan(self::THREE));
        $second = $floor->place('buy', 3, plan: TestFloor::plan('"stop":{"ticks":11}'));
        $floor->take('close-part', ['contract' => TestFloor::CODE, 'entry' => $second]);
        self::assertSame(1, $floor->lots());
        self::assertSame(6, $floor->average() - array_values($floor->stops())[0], 'the older entry is untouched');
        self::assertSame(0, $floor->holding()->unprotected());
    }

    /** With a delay the target fills while the close is on its way: the venue lowers the close by the same lots. */
    public function testATargetThatFillsFirstLowersTheCloseOfItsPortion(): void
    {
        $floor = new TestFloor(3);
        $entry = $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":3}},{"rest":true,"target":null}]'));
        $floor->step(20);
        $target = $floor->working(Role::Target)[0];
        $floor->take('close-part', ['contract' => TestFloor::CODE, 'entry' => $entry, 'portion' => 1]);
        $floor->push((int) $target->price - $floor->last());
        $floor->step(30);
        self::assertSame(1, $floor->lots(), 'the runner is still open');
        self::assertSame(OrderState::Filled, $target->state);
        self::assertSame(0, $floor->holding()->unprotected());
    }

    public function testBreakEvenPlusFeesPutsTheStopsWhereTheRoundTripIsPaid(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":6}'));
        $floor->push($floor->average() + 4 - $floor->last());
        $floor->take('break-even', ['contract' => TestFloor::CODE, 'plus_fees' => true]);
        // 2 × 0.62 are 1.24, and a tick is 2.50: one tick covers them.
        self::assertSame([1 => 1], $floor->stops($floor->average()));
        self::assertSame('nothing-to-move', $floor->refusal('break-even', ['contract' => TestFloor::CODE])->problem);
    }

    public function testAStopAndATargetForThePositionAsAPair(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2);
        $at = $floor->average();
        $floor->take('set-exit', ['contract' => TestFloor::CODE, 'stop' => TestFloor::contract()->price($at - 5), 'target' => TestFloor::contract()->price($at + 8)]);
        self::assertSame([[1 => -5], [1 => 8]], [$floor->stops($at), $floor->targets($at)]);
        self::assertSame(0, $floor->holding()->unprotected());
        $floor->push($at + 8 - $floor->last());
        self::assertSame([0, []], [$floor->lots(), $floor->working()], 'the one that fills takes the other with it');
        $floor->place('buy', 1);
        $at = $floor->average();
        $refused = $floor->refusal('set-exit', ['contract' => TestFloor::CODE, 'stop' => TestFloor::contract()->price($at - 5), 'target' => TestFloor::contract()->price($at - 9)]);
        self::assertSame(['target-passed', '/target', []], [$refused->problem, $refused->pointer, $floor->stops()], 'where one is refused neither is set');
    }

    public function testAChangedPlanIsForOneOrderOnly(): void
    {
        $floor = new TestFloor();
        $plan = TestFloor::plan(self::THREE);
        $order = $floor->place('buy', 3, plan: $plan, more: ['this_order' => ['stop' => 9, 'portions' => [['portion' => 1, 'target' => 7], ['portion' => 2, 'target' => null]]]]);
        $at = $floor->average();
        self::assertSame([[1 => -9, 2 => -9, 3 => -9], [1 => 7]], [$floor->stops($at), $floor->targets($at)]);
        self::assertSame('Short tide, stop 9 instead of 6, target of portion 1 7 inst…', $floor->order($order)->planName);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $floor->place('buy', 1, plan: $plan);
        self::assertSame([1 => -6], $floor->stops($floor->average()));
    }

    public function testAChangeThatThePlanHasNoPlaceForIsRefused(): void
    {
        $floor = new TestFloor();
        $order = ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        foreach ([
            [['exit_plan' => TestFloor::plan('"portions":[{"rest":true,"target":{"ticks":4}}]'), 'this_order' => ['stop' => 5]], '/this_order/stop'],
            [['exit_plan' => TestFloor::plan(), 'this_order' => ['portions' => [['portion' => 3, 'target' => 4]]]], '/this_order/portions'],
            [['exit_plan' => TestFloor::plan(), 'this_order' => ['portions' => [['portion' => 1]]]], '/this_order/portions/0'],
            [['exit_plan' => TestFloor::plan(), 'this_order' => ['stop' => 0]], '/this_order/stop'],
            [['exit_plan' => TestFloor::plan(), 'this_order' => []], '/this_order'],
            [['this_order' => ['stop' => 5]], '/this_order'],
        ] as [$more, $pointer]) {
            self::assertSame($pointer, $floor->refusal('place', $order + $more)->pointer, json_encode($more, JSON_THROW_ON_ERROR));
        }
        self::assertSame(0, $floor->lots());
    }

    /** Rule 9: a stop-limit that has triggered and stands unfilled leaves its lots unprotected. */
    public function testAStopLimitThatTheMarketHasLeftBehindIsNoProtection(): void
    {
        $floor = new TestFloor();
        $entry = $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":4,"kind":"stop-limit","limit_ticks":0}'));
        self::assertSame(0, $floor->holding()->unprotected());
        // One sweep takes every bid down to far beyond the stop's limit before the stop has its turn.
        $stop = $floor->working(Role::Stop)[0];
        $market = $floor->floor->market(TestFloor::CODE);
        $market->flow->aggress($market->venue, Side::Sell, (int) $stop->trigger - 3, 5000);
        $floor->step(1);
        self::assertSame(2, $floor->lots());
        self::assertTrue($stop->isLeftBehind());
        self::assertSame($floor->lots(), $floor->holding()->unprotected());
        $floor->take('close-part', ['contract' => TestFloor::CODE, 'entry' => $entry]);
        self::assertSame([0, []], [$floor->lots(), $floor->working()], 'one press closes it at the market');
    }

    /** The alarm's key covers what is bare; a stop that has come nearer elsewhere does not go back for it. */
    public function testCoveringWhatIsUnprotectedLeavesTheOtherLotsAsTheyAre(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 3, plan: TestFloor::plan(self::THREE));
        $at = $floor->average();
        $floor->push($at + 4 - $floor->last());
        $floor->take('cancel', ['order' => $floor->working(Role::Stop)[1]->id, 'leave_unprotected' => true]);
        $kept = [$floor->working(Role::Stop)[0]->id, $floor->working(Role::Stop)[1]->id];
        self::assertSame(1, $floor->holding()->unprotected());
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":5}'), 'only' => 'unprotected']);
        self::assertSame(0, $floor->holding()->unprotected());
        self::assertSame([$at, $at, $at - 5], array_map(static fn($o): ?int => $o->trigger, $floor->working(Role::Stop)));
        self::assertSame($kept, array_map(static fn($o): int => $o->id, array_slice($floor->working(Role::Stop), 0, 2)));
        self::assertSame([1], array_keys($floor->targets()), 'the target of the lot that changed its plan is gone');
        self::assertSame('nothing-to-cover', $floor->refusal('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan(), 'only' => 'unprotected'])->problem);
        self::assertSame('/only', $floor->refusal('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan(), 'only' => 'some'])->pointer);
    }
}
