<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Exits at work: born with the fill, ratcheted, shrunk and gone with the position. */
final class ExitsAtTheDeskTest extends TestCase
{
    public function testExitsAreBornForTheLotsFilledAndSplitOverThePortions(): void
    {
        $system = new TestSystem();
        $system->place('buy', 3, plan: TestSystem::plan());
        $at = $system->average();
        self::assertSame([1 => -7, 2 => -7], $system->stops($at));
        self::assertSame([1 => 9], $system->targets($at));
        self::assertSame([1, 2], array_map(static fn($o): int => $o->leaves(), $system->working(Role::Stop)));
    }

    public function testTheStopGoesToBreakEvenAndTrails(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $at = $system->average();
        $system->push($at + 4 - $system->last());
        self::assertSame([1 => -7, 2 => -7], $system->stops($at));
        $system->push(1);
        self::assertSame([1 => 0, 2 => 0], $system->stops($at));
        $system->push(-3);
        self::assertSame([1 => 0, 2 => 0], $system->stops($at), 'it never retreats');
        $system->push(5);
        self::assertSame([1 => 2, 2 => 2], $system->stops($at));
        $system->push(4);
        self::assertSame([2 => 5], $system->stops($at), 'the first portion is out at its target');
        self::assertSame(1, $system->lots());
        $system->push(1);
        self::assertSame([2 => 5], $system->stops($at), 'the trail moves in jumps of two');
        $system->push(1);
        self::assertSame([2 => 7], $system->stops($at));
    }

    /** Common practice, no source: stop 10, target 10, at +8 lock 0, at +9 lock 4: reaching +9 and falling back closes with 4 a lot. */
    public function testTheWorkedExampleOfALongThatFallsBack(): void
    {
        $system = new TestSystem();
        $system->place(
            'buy',
            1,
            plan: TestSystem::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":10}}],"ratchets":[{"at":8,"lock":0},{"at":9,"lock":4}]'),
        );
        $at = $system->average();
        $system->push($at + 9 - $system->last());
        self::assertSame([1 => 4], $system->stops($at));
        $system->push(-8);
        self::assertSame(0, $system->lots());
        $slippage = 0;
        foreach ($system->events as $recorded) {
            if ($recorded->event instanceof \Lotrik\Desk\Event\Fill\OrderFilled) {
                $slippage += $recorded->event->slippageTicks;
            }
        }
        self::assertSame(4 - $slippage, $system->holding()->position->realised->toInt());
    }

    /** Common practice, no source: tick 0.25, short from 3307.25, target 12, stop 10: target 3304.25, stop 3309.75. */
    public function testTheWorkedExampleOfAShort(): void
    {
        $contract = Contract::fromJson('{"code":"DULZ6","tick_size":"0.25","tick_value":"12.50","currency":"EUR"}');
        $preview = (new TestSystem(contract: $contract))->system->desk->queries->preview(1, [
            'contract' => 'DULZ6', 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => '3307.25',
            'exit_plan' => TestSystem::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":12}}]'),
        ]);
        self::assertSame(
            [['portion' => 1, 'lots' => 1, 'target' => '3304.25', 'stop' => '3309.75', 'target_ticks' => 12, 'stop_ticks' => 10]],
            $preview['split'],
        );
        self::assertSame([
            ['role' => 'stop', 'level' => 13239, 'lots' => 1, 'money' => '-125.00'],
            ['role' => 'target', 'level' => 13217, 'lots' => 1, 'money' => '150.00'],
        ], $preview['exits']);
    }

    /** Common practice, no source: tick 0.01 worth 10.00; two lots with a 20-tick stop risk 400.00. */
    public function testTheWorkedExampleOfTheRisk(): void
    {
        $contract = Contract::fromJson('{"code":"DULZ6","tick_size":"0.01","tick_value":"10.00","currency":"EUR"}');
        self::assertSame(['100.00', '40.00'], [$contract->money(10)->exact(), $contract->money(4)->exact()]);
        $preview = (new TestSystem(contract: $contract))->system->desk->queries->preview(1, [
            'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market',
            'exit_plan' => TestSystem::plan('"stop":{"ticks":20}'),
        ]);
        self::assertSame('400.00', $preview['risk']);
    }

    public function testExitsFollowTheAnchorOfFurtherFillsUntilARatchetHasMovedThem(): void
    {
        $system = new TestSystem();
        $book = $system->system->market(TestSystem::CODE)->venue->book;
        $ask = (int) $book->bestAsk();
        $lots = (int) $book->level(\Lotrik\Order\Side::Sell, $ask)?->lots;
        $system->place('buy', min(20, $lots + 3), plan: TestSystem::plan('"stop":{"ticks":7}'));
        $average = $system->holding()->position->average;
        self::assertFalse($average->isEqualTo($ask), 'it filled at two prices');
        self::assertSame([1 => $average->toScale(0, \Brick\Math\RoundingMode::CEILING)->toInt() - 7], $system->stops());
    }

    public function testLotsClosedByHandComeOffTheOldestEntryPortionByPortion(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('buy', 2, plan: TestSystem::plan());
        $first = min(array_keys($system->holding()->entries));
        $system->place('sell', 1);
        self::assertSame([0, 1], array_map(static fn($c): int => $c->lots, $system->holding()->entries[$first]->exits->slots()));
        self::assertSame([1, 1, 1], array_map(static fn($o): int => $o->leaves(), $system->working(Role::Stop)));
        self::assertCount(1, $system->working(Role::Target));
        $system->place('sell', 1);
        self::assertArrayNotHasKey($first, $system->holding()->entries);
    }

    public function testACloseIsNeverForMoreThanThePosition(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $id = $system->place('sell', 5);
        self::assertSame([2, OrderState::Filled, 0], [$system->order($id)->quantity, $system->order($id)->state, $system->lots()]);
        self::assertSame([], $system->working());
    }

    public function testThroughReversesWithTheOldExitsGoneFirst(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('sell', 3, plan: TestSystem::plan(), more: ['closing' => 'through']);
        self::assertSame(-1, $system->lots());
        self::assertSame([1 => 7], $system->stops($system->average()));
        $words = implode("\n", $system->words());
        self::assertLessThan(
            strrpos($words, 'stop of portion 1) sent'),
            strpos($words, 'was cancelled: the position that it closes is gone'),
        );
    }

    public function testThePreviewPutsExitsOfOneLevelTogether(): void
    {
        $preview = (new TestSystem())->system->desk->queries->preview(1, [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'limit', 'price' => '400.00',
            'exit_plan' => TestSystem::plan(),
        ]);
        self::assertSame([
            ['role' => 'stop', 'level' => 793, 'lots' => 3, 'money' => '-52.50'],
            ['role' => 'target', 'level' => 809, 'lots' => 1, 'money' => '22.50'],
        ], $preview['exits']);
    }

    public function testAStopAndATargetSetByHandArePairedAndCoverAllLots(): void
    {
        $system = new TestSystem();
        $system->place('buy', 3);
        $at = $system->average();
        $system->setExit('stop', $at - 6);
        $system->setExit('target', $at + 4);
        self::assertSame([[1 => -6], [1 => 4]], [$system->stops($at), $system->targets($at)]);
        self::assertSame([0, 3], [$system->holding()->coverage()->unprotected(), $system->working(Role::Target)[0]->leaves()]);
        $system->push($at + 4 - $system->last());
        $system->push(1);
        self::assertSame([0, []], [$system->lots(), $system->working()], 'the target took the stop with it');
    }

    public function testAnExitSetByHandGoesToTheLotsThatHaveNoneAndElseMovesAll(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $at = $system->average();
        $system->setExit('target', $at + 12);
        self::assertSame([1 => 9, 2 => 12], $system->targets($at), 'the runner got it');
        $system->setExit('stop', $at - 4);
        self::assertSame([1 => -4, 2 => -4], $system->stops($at));
        $system->push($at + 5 - $system->last());
        self::assertSame([1 => 0, 2 => 0], $system->stops($at), 'a tightened stop keeps its ratchets');
    }

    public function testAnExitSetByHandOnTheWrongSideOfTheMarketIsRefused(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1);
        $at = $system->average();
        self::assertSame(
            'stop-passed',
            $system->refusal(
                'set-exit',
                ['contract' => TestSystem::CODE, 'role' => 'stop', 'level' => TestSystem::contract()->price($at + 5)],
            )->problem->value,
        );
        self::assertSame(
            'target-passed',
            $system->refusal(
                'set-exit',
                ['contract' => TestSystem::CODE, 'role' => 'target', 'level' => TestSystem::contract()->price($at - 5)],
            )->problem->value,
        );
        self::assertSame([], $system->working());
    }

    public function testAPlanWithoutAStopOnPurposeIsToldFromLotsWithNoPlan(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":9}}]'));
        self::assertSame([2, 2], [$system->holding()->coverage()->unprotected(), $system->holding()->coverage()->unstoppedByPlan()]);
        $system->place('buy', 1);
        self::assertSame([3, 2], [$system->holding()->coverage()->unprotected(), $system->holding()->coverage()->unstoppedByPlan()]);
    }

    public function testAStopRemembersWhereItHasStood(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan());
        $at = $system->average();
        $system->push($at + 5 - $system->last());
        $system->push(2);
        self::assertSame([-7, 0, 2], array_map(static fn(array $stood): int => $stood[1] - $at, $system->working(Role::Stop)[0]->path));
    }

    public function testCancellingATargetLeavesItsStop(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->handle('cancel', ['order' => $system->working(Role::Target)[0]->id]);
        self::assertSame([], $system->targets());
        self::assertCount(2, $system->stops());
        $system->push(1);
        self::assertSame([], $system->targets(), 'it does not come back');
    }

    public function testTakingAStopOffAsksFirstAndLeavesUnprotectedLots(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $stop = $system->working(Role::Stop)[0]->id;
        $refusal = $system->refusal('cancel', ['order' => $stop]);
        self::assertSame(['would-unprotect', ['unprotected' => 1]], [$refusal->problem->value, $refusal->facts]);
        self::assertSame(0, $system->holding()->coverage()->unprotected());
        $system->handle('cancel', ['order' => $stop, 'leave_unprotected' => true]);
        self::assertSame(1, $system->holding()->coverage()->unprotected());
    }

    public function testAHandMoveThatTightensLeavesTheRatchetsOn(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0}]'));
        $at = $system->average();
        $system->handle('modify', ['order' => $system->working(Role::Stop)[0]->id, 'trigger' => TestSystem::contract()->price($at - 3)]);
        self::assertSame([1 => -3], $system->stops($at));
        $system->push($at + 5 - $system->last());
        self::assertSame([1 => 0], $system->stops($at));
    }

    public function testARatchetNeverLoosensAStopThatWasTightenedByHand(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0},{"at":8,"lock":1}]'));
        $at = $system->average();
        $system->push($at + 6 - $system->last());
        $system->handle('modify', ['order' => $system->working(Role::Stop)[0]->id, 'trigger' => TestSystem::contract()->price($at + 3)]);
        $system->push(2);
        self::assertSame([1 => 3], $system->stops($at));
    }

    public function testThePrintThatFillsTheEntryDoesNotCountForTheBestPrice(): void
    {
        $exits = new \Lotrik\ExitPlan\Open\EntryExits(
            \Lotrik\Order\Side::Buy,
            \Lotrik\ExitPlan\ExitPlan::fromArray(TestSystem::plan())->resolve(new \Lotrik\ExitPlan\InTicks\Basis(
                TestSystem::contract(),
                825,
                1,
            )),
        );
        $exits->fill(1, 825, 7);
        $exits->observe(835, 7);
        self::assertSame([0, []], [$exits->bestProfit(0), $exits->dueMoves()]);
        $exits->observe(830, 8);
        self::assertSame(5, $exits->bestProfit(0));
    }

    public function testAHandMoveThatLoosensTakesThePortionOffItsRatchetsUntilItIsHandedBack(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0}]'));
        $at = $system->average();
        $stop = $system->working(Role::Stop)[0]->id;
        $system->handle('modify', ['order' => $stop, 'trigger' => TestSystem::contract()->price($at - 9)]);
        $system->push($at + 6 - $system->last());
        self::assertSame([1 => -9], $system->stops($at));
        $system->handle('modify', ['order' => $stop, 'steering' => 'plan']);
        self::assertSame([1 => 0], $system->stops($at));
    }

    public function testAStopLimitMovedByHandKeepsItsLimitsDistance(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":7,"kind":"stop-limit","limit_ticks":3}'));
        $at = $system->average();
        $stop = $system->working(Role::Stop)[0];
        self::assertSame([$at - 7, $at - 10], [$stop->trigger, $stop->price]);
        $system->handle('modify', ['order' => $stop->id, 'trigger' => TestSystem::contract()->price($at - 4)]);
        self::assertSame([$at - 4, $at - 7], [$stop->trigger, $stop->price]);
        $system->handle(
            'modify',
            ['order' => $stop->id, 'trigger' => TestSystem::contract()->price($at - 5), 'price' => TestSystem::contract()->price($at - 6)],
        );
        self::assertSame([$at - 5, $at - 6], [$stop->trigger, $stop->price]);
        self::assertStringContainsString(
            'a limit at or below the trigger',
            $system->refusal('modify', ['order' => $stop->id, 'price' => TestSystem::contract()->price($at - 4)])->getMessage(),
        );
        self::assertSame([$at - 5, $at - 6], [$stop->trigger, $stop->price]);
    }

    public function testAStopMovedThroughTheMarketClosesItsPortion(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->handle(
            'modify',
            ['order' => $system->working(Role::Stop)[1]->id, 'trigger' => TestSystem::contract()->price($system->last() + 4)],
        );
        self::assertSame(1, $system->lots());
        self::assertCount(1, $system->stops());
    }

    public function testAStopFillCancelsWhatStillWorksOfItsEntry(): void
    {
        $system = new TestSystem();
        $bid = (int) $system->system->desk->quote(TestSystem::CODE)->bid;
        $entry = $system->place('buy', 20, 'limit', TestSystem::contract()->price($bid - 3), TestSystem::plan('"stop":{"ticks":2}'));
        $ahead = (int) $system->system->market(TestSystem::CODE)->venue->book->ahead($entry);
        $system->system->market(TestSystem::CODE)->venue->flow(
            -5_000_001,
            \Lotrik\Order\Side::Sell,
            $bid - 3,
            0 + $this->above($system, $bid - 3) + $ahead + 4,
        );
        $system->step(1);
        self::assertSame(4, $system->order($entry)->filled);
        $system->push($bid - 6 - $system->last());
        self::assertSame(0, $system->lots());
        self::assertTrue($system->order($entry)->state->isFinal());
    }

    /** Lots bid above a price. */
    private function above(TestSystem $system, int $tick): int
    {
        return array_sum(array_map(
            static fn($l): int => $l->tick > $tick ? $l->lots : 0,
            $system->system->market(TestSystem::CODE)->venue->book->levels(\Lotrik\Order\Side::Buy),
        ));
    }

    public function testKeepEntryGoesOnAfterTheFirstTarget(): void
    {
        foreach (['keep-entry' => false, 'cancel-entry' => true] as $after => $ends) {
            $exits = new \Lotrik\Desk\Position\Entry(
                1,
                new \Lotrik\ExitPlan\Open\EntryExits(
                    \Lotrik\Order\Side::Buy,
                    \Lotrik\ExitPlan\ExitPlan::fromArray(TestSystem::plan('"stop":{"ticks":7},"after_target":"'.$after.'"'))->resolve(new \Lotrik\ExitPlan\InTicks\Basis(
                        TestSystem::contract(),
                        825,
                        1,
                    )),
                ),
                null,
            );
            $exits->endsWith(Role::Target);
            self::assertSame($ends ? [1] : [], $exits->ended);
            $exits->endsWith(Role::Stop);
            self::assertSame([1], $exits->ended, 'a stop fill cancels what still works of its entry, whatever the plan says of targets');
        }
    }

    public function testAnExitPassedAtBirthClosesAtTheMarketAndTheJournalSaysWhy(): void
    {
        $system = new TestSystem();
        $price = $system->last() - 2;
        $system->place('buy', 1, 'limit', TestSystem::contract()->price($price), TestSystem::plan('"stop":{"ticks":2}'));
        $this->sweepTo($system, $price - 6);
        self::assertSame(0, $system->lots());
        self::assertStringContainsString('already passed by the market: closes now', implode("\n", $system->words()));
    }

    private function sweepTo(TestSystem $system, int $tick): void
    {
        $lots = array_sum(array_map(
            static fn($l): int => $l->tick >= $tick ? $l->lots : 0,
            $system->system->market(TestSystem::CODE)->venue->book->levels(\Lotrik\Order\Side::Buy),
        ));
        $system->system->market(TestSystem::CODE)->venue->flow(-6_000_001, \Lotrik\Order\Side::Sell, $tick, $lots);
        $system->step(1);
    }

    public function testAPlanPutOnAnOpenPositionIsMeasuredFromItsAverageAndCountsProfitFromNow(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2);
        $at = $system->average();
        self::assertSame(2, $system->holding()->coverage()->unprotected());
        $system->push($at + 6 - $system->last());
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan()]);
        self::assertSame(
            [[1 => -7, 2 => -7], [1 => 9], 0],
            [$system->stops($at), $system->targets($at), $system->holding()->coverage()->unprotected()],
            'best profit counts from now',
        );
        $system->push(1);
        self::assertSame([1 => 2, 2 => 2], $system->stops($at));
    }

    public function testASwappedPlanReplacesTheOldExits(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $at = $system->average();
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":12}')]);
        // Its stop is wider than the one that the lots had, which stays: a plan that is put on loosens none.
        self::assertSame([[1 => -7], [], 0], [$system->stops($at), $system->targets($at), $system->holding()->coverage()->unprotected()]);
        self::assertSame(2, $system->working(Role::Stop)[0]->leaves());
        $system->place('sell', 1);
        self::assertSame(1, $system->working(Role::Stop)[0]->leaves());
    }

    public function testTakingThePlanOffNamesTheLotsFirst(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $refusal = $system->refusal('cover', ['contract' => TestSystem::CODE, 'exit_plan' => null]);
        self::assertSame(['would-unprotect', ['unprotected' => 2]], [$refusal->problem->value, $refusal->facts]);
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => null, 'leave_unprotected' => true]);
        self::assertSame([2, []], [$system->holding()->coverage()->unprotected(), $system->working()]);
    }

    public function testAPlanWhoseStopIsPassedIsRefusedWithThePriceUnlessToldToCloseNow(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2);
        $at = $system->average();
        $system->push($at - 5 - $system->last());
        $refusal = $system->refusal('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":4}')]);
        self::assertSame('stop-passed', $refusal->problem->value);
        self::assertStringContainsString(TestSystem::contract()->price($at - 4), $refusal->getMessage());
        $system->handle(
            'cover',
            ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":4}'), 'close_now' => true],
        );
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        self::assertSame('flat', $system->refusal('cover', ['contract' => TestSystem::CODE, 'exit_plan' => null])->problem->value);
    }

    public function testWithADelayTheVenueStillKeepsTheExitsFromFlipping(): void
    {
        $system = new TestSystem(delaySteps: 5);
        $system->place('buy', 2, plan: TestSystem::plan());
        self::assertSame(0, $system->lots(), 'nothing has come back yet');
        $system->step(25);
        self::assertSame(2, $system->lots());
        self::assertCount(2, $system->stops());
        $system->push(-20);
        $system->step(25);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
    }
}
