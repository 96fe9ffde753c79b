<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What a trader does by hand with exits that run by themselves, and with a plan for one order only. */
final class SteeringTest extends TestCase
{
    private const THREE = '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":5}},{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[{"at":4,"lock":0}]';

    /** Locked in by the ratchets, and another plan with a wider stop is put on: what is locked in stays so. */
    public function testAPlanPutOnLoosensNoStop(): void
    {
        foreach (['buy' => 1, 'sell' => -1] as $side => $sign) {
            $system = new TestSystem();
            $system->place($side, 4, plan: TestSystem::plan('"stop":{"ticks":7},"portions":[{"lots":2,"target":{"ticks":30}},{"rest":true,"target":null}],"ratchets":[{"at":5,"lock":2}]'));
            $at = $system->holding()->position->anchor();
            $system->push($sign * ($sign * ($at - $system->last()) + 6));
            self::assertSame([2 * $sign, 2 * $sign], array_values($system->stops($at)), "$side: locked");
            $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":12},"portions":[{"lots":1,"target":{"ticks":40}},{"rest":true,"target":null}]')]);
            self::assertSame([2 * $sign, 2 * $sign], array_values($system->stops($at)), "$side: as they stood");
            $system->restart();
            self::assertSame([2 * $sign, 2 * $sign], array_values($system->stops($at)), "$side: after a start");
            $whole = TestSystem::plan('"stop":{"ticks":3},"portions":[{"rest":true,"target":null}],"covers":"position"');
            $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => $whole]);
            self::assertSame([2 * $sign], array_values($system->stops($at)), "$side: under a plan for the whole position too");
        }
    }

    /** 12 and 2 ticks on four lots of 2.50 a tick are 140.00: that is said, and given up only where it is asked for. */
    public function testTheMoneyThatLooseningWouldGiveUpIsSaidAndItIsDoneOnlyWhereItIsAskedFor(): void
    {
        foreach (['buy' => 1, 'sell' => -1] as $side => $sign) {
            $system = new TestSystem();
            $system->place($side, 4, plan: TestSystem::plan('"stop":{"ticks":7},"portions":[{"rest":true,"target":null}],"ratchets":[{"at":5,"lock":2}]'));
            $at = $system->holding()->position->anchor();
            $system->push($sign * ($sign * ($at - $system->last()) + 6));
            $wide = ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":12},"portions":[{"rest":true,"target":null}]')];
            $kept = ['lots' => 4, 'money' => '140.00', 'currency' => 'EUR'];
            self::assertSame($kept, $system->handle('cover', $wide)->body['kept'], $side);
            self::assertSame([2 * $sign], array_values($system->stops($at)));
            self::assertSame($kept, $system->handle('cover', ['loosen' => '139.99'] + $wide)->body['kept'], 'more than was agreed to: asked anew');
            self::assertSame([2 * $sign], array_values($system->stops($at)));
            self::assertArrayNotHasKey('kept', $system->handle('cover', ['loosen' => '140.00'] + $wide)->body);
            self::assertSame([-12 * $sign], array_values($system->stops($at)), "$side: as it was asked for");
            $near = ['exit_plan' => TestSystem::plan('"stop":{"ticks":3},"portions":[{"rest":true,"target":null}]')] + $wide;
            self::assertArrayNotHasKey('kept', $system->handle('cover', $near)->body, 'a nearer stop keeps nothing back');
        }
    }

    public function testOnePortionIsClosedAtTheMarketAndTheOthersKeepTheirOrders(): void
    {
        $system = new TestSystem();
        $entry = $system->place('buy', 3, plan: TestSystem::plan(self::THREE));
        $before = [];
        foreach ($system->working() as $order) {
            $before[(int) $order->portion][] = $order->id;
        }
        $system->handle('close-part', ['contract' => TestSystem::CODE, 'entry' => $entry, 'portion' => 2]);
        self::assertSame(2, $system->lots());
        foreach ($system->working() as $order) {
            self::assertContains($order->id, $before[(int) $order->portion], 'nothing was cancelled and placed anew');
        }
        self::assertSame([1, 3], array_keys($system->stops()));
        self::assertSame(
            'nothing-to-close',
            $system->refusal('close-part', ['contract' => TestSystem::CODE, 'entry' => $entry, 'portion' => 2])->problem->value,
        );
        self::assertSame('not-found', $system->refusal('close-part', ['contract' => TestSystem::CODE, 'entry' => 77])->problem->value);
    }

    /** One command, also with a delay: a second close of the same entry would be refused while the first is on its way. */
    public function testSeveralPortionsAreClosedAndMovedByOneCommand(): void
    {
        $system = new TestSystem(3);
        $entry = $system->place('buy', 3, plan: TestSystem::plan(self::THREE));
        $system->step(10);
        $of = ['contract' => TestSystem::CODE, 'entry' => $entry];
        $system->handle('set-exit', $of + ['portions' => [1, 3], 'role' => 'stop', 'by' => 'ticks', 'value' => '4']);
        $system->step(10);
        $average = (int) $system->average();
        self::assertSame([1 => $average - 4, 2 => $average - 6, 3 => $average - 4], $system->stops());
        $system->handle('close-part', $of + ['portions' => [3, 2]]);
        $system->step(10);
        self::assertSame([1], array_keys($system->stops()));
        self::assertSame(1, $system->lots());
        self::assertSame('portions 2 and 3 of entry '.$entry.' have no open lots', $system->refusal('close-part', $of + ['portions' => [2, 3]])->getMessage());
        foreach ([[], [0], [1, 1], ['2'], [21], 'all'] as $wrong) {
            $refusal = $system->refusal('close-part', $of + ['portions' => $wrong]);
            self::assertStringStartsWith('/portions', (string) $refusal->pointer, json_encode($wrong, JSON_THROW_ON_ERROR));
        }
        self::assertSame('/portions', $system->refusal('close-part', $of + ['portion' => 1, 'portions' => [1]])->pointer);
        self::assertSame(1, $system->lots(), 'bad input changes nothing');
    }

    public function testOneEntryOfTwoIsClosedWhateverItsAge(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan(self::THREE));
        $second = $system->place('buy', 3, plan: TestSystem::plan('"stop":{"ticks":11}'));
        $system->handle('close-part', ['contract' => TestSystem::CODE, 'entry' => $second]);
        self::assertSame(1, $system->lots());
        self::assertSame(6, $system->average() - array_values($system->stops())[0], 'the older entry is untouched');
        self::assertSame(0, $system->holding()->coverage()->unprotected());
    }

    /** With a delay the target fills while the close is on its way: the venue lowers the close by the same lots. */
    public function testATargetThatFillsFirstLowersTheCloseOfItsPortion(): void
    {
        $system = new TestSystem(3);
        $entry = $system->place(
            'buy',
            2,
            plan: TestSystem::plan('"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":3}},{"rest":true,"target":null}]'),
        );
        $system->step(20);
        $target = $system->working(Role::Target)[0];
        $system->handle('close-part', ['contract' => TestSystem::CODE, 'entry' => $entry, 'portion' => 1]);
        $system->push((int) $target->price - $system->last());
        $system->step(30);
        self::assertSame(1, $system->lots(), 'the runner is still open');
        self::assertSame(OrderState::Filled, $target->state);
        self::assertSame(0, $system->holding()->coverage()->unprotected());
    }

    public function testBreakEvenPlusFeesPutsTheStopsWhereTheRoundTripIsPaid(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":6}'));
        $system->push($system->average() + 4 - $system->last());
        $system->handle('break-even', ['contract' => TestSystem::CODE, 'plus_fees' => true]);
        // 2 × 0.62 are 1.24, and a tick is 2.50: one tick covers them.
        self::assertSame([1 => 1], $system->stops($system->average()));
        self::assertSame('nothing-to-move', $system->refusal('break-even', ['contract' => TestSystem::CODE])->problem->value);
    }

    public function testAStopAndATargetForThePositionAsAPair(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2);
        $at = $system->average();
        $system->handle(
            'set-exit',
            [
                'contract' => TestSystem::CODE, 'stop' => TestSystem::contract()->price($at - 5),
                'target' => TestSystem::contract()->price($at + 8),
            ],
        );
        self::assertSame([[1 => -5], [1 => 8]], [$system->stops($at), $system->targets($at)]);
        self::assertSame(0, $system->holding()->coverage()->unprotected());
        $system->push($at + 8 - $system->last());
        self::assertSame([0, []], [$system->lots(), $system->working()], 'the one that fills takes the other with it');
        $system->place('buy', 1);
        $at = $system->average();
        $refused = $system->refusal(
            'set-exit',
            [
                'contract' => TestSystem::CODE, 'stop' => TestSystem::contract()->price($at - 5),
                'target' => TestSystem::contract()->price($at - 9),
            ],
        );
        self::assertSame(
            ['target-passed', '/target', []],
            [$refused->problem->value, $refused->pointer, $system->stops()],
            'where one is refused neither is set',
        );
    }

    public function testAChangedPlanIsForOneOrderOnly(): void
    {
        $system = new TestSystem();
        $plan = TestSystem::plan(self::THREE);
        $order = $system->place(
            'buy',
            3,
            plan: $plan,
            more: ['this_order' => ['stop' => 9, 'portions' => [['portion' => 1, 'target' => 7], ['portion' => 2, 'target' => null]]]],
        );
        $at = $system->average();
        self::assertSame([[1 => -9, 2 => -9, 3 => -9], [1 => 7]], [$system->stops($at), $system->targets($at)]);
        self::assertSame('Short tide, stop 9 instead of 6, target of portion 1 7 inst…', $system->order($order)->planName);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $system->place('buy', 1, plan: $plan);
        self::assertSame([1 => -6], $system->stops($system->average()));
    }

    public function testAChangeThatThePlanHasNoPlaceForIsRefused(): void
    {
        $system = new TestSystem();
        $order = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        foreach ([
            [
                ['exit_plan' => TestSystem::plan('"portions":[{"rest":true,"target":{"ticks":4}}]'), 'this_order' => ['stop' => 5]],
                '/this_order/stop',
            ],
            [
                ['exit_plan' => TestSystem::plan(), 'this_order' => ['portions' => [['portion' => 3, 'target' => 4]]]],
                '/this_order/portions',
            ],
            [['exit_plan' => TestSystem::plan(), 'this_order' => ['portions' => [['portion' => 1]]]], '/this_order/portions/0'],
            [['exit_plan' => TestSystem::plan(), 'this_order' => ['stop' => 0]], '/this_order/stop'],
            [['exit_plan' => TestSystem::plan(), 'this_order' => []], '/this_order'],
            [['this_order' => ['stop' => 5]], '/this_order'],
        ] as [$more, $pointer]) {
            self::assertSame($pointer, $system->refusal('place', $order + $more)->pointer, json_encode($more, JSON_THROW_ON_ERROR));
        }
        self::assertSame(0, $system->lots());
    }

    /** Rule 9: a stop-limit that has triggered and stands unfilled leaves its lots unprotected. */
    public function testAStopLimitThatTheMarketHasLeftBehindIsNoProtection(): void
    {
        $system = new TestSystem();
        $entry = $system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":4,"kind":"stop-limit","limit_ticks":0}'));
        self::assertSame(0, $system->holding()->coverage()->unprotected());
        // One sweep takes every bid down to far beyond the stop's limit before the stop has its turn.
        $stop = $system->working(Role::Stop)[0];
        $market = $system->system->market(TestSystem::CODE);
        $market->flow->aggress($market->venue, Side::Sell, (int) $stop->trigger - 3, 5000);
        $system->step(1);
        self::assertSame(2, $system->lots());
        self::assertTrue($stop->isLeftBehind());
        self::assertSame($system->lots(), $system->holding()->coverage()->unprotected());
        $system->handle('close-part', ['contract' => TestSystem::CODE, 'entry' => $entry]);
        self::assertSame([0, []], [$system->lots(), $system->working()], 'one press closes it at the market');
    }

    /** The alarm's key covers what is bare; a stop that has come nearer elsewhere does not go back for it. */
    public function testCoveringWhatIsUnprotectedLeavesTheOtherLotsAsTheyAre(): void
    {
        $system = new TestSystem();
        $system->place('buy', 3, plan: TestSystem::plan(self::THREE));
        $at = $system->average();
        $system->push($at + 4 - $system->last());
        $system->handle('cancel', ['order' => $system->working(Role::Stop)[1]->id, 'leave_unprotected' => true]);
        $kept = [$system->working(Role::Stop)[0]->id, $system->working(Role::Stop)[1]->id];
        self::assertSame(1, $system->holding()->coverage()->unprotected());
        $system->handle(
            'cover',
            ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":5}'), 'only' => 'unprotected'],
        );
        self::assertSame(0, $system->holding()->coverage()->unprotected());
        self::assertSame([$at, $at, $at - 5], array_map(static fn($o): ?int => $o->trigger, $system->working(Role::Stop)));
        self::assertSame($kept, array_map(static fn($o): int => $o->id, array_slice($system->working(Role::Stop), 0, 2)));
        self::assertSame([1], array_keys($system->targets()), 'the target of the lot that changed its plan is gone');
        self::assertSame(
            'nothing-to-cover',
            $system->refusal(
                'cover',
                ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan(), 'only' => 'unprotected'],
            )->problem->value,
        );
        self::assertSame(
            '/only',
            $system->refusal('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan(), 'only' => 'some'])->pointer,
        );
    }
}
