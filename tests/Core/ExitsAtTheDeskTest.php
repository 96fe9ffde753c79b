<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** Exits at work: born with the fill, ratcheted, shrunk and gone with the position. */
final class ExitsAtTheDeskTest extends TestCase
{
    public function testExitsAreBornForTheLotsFilledAndSplitOverThePortions(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 3, plan: TestFloor::plan());
        $at = $floor->average();
        self::assertSame([1 => -7, 2 => -7], $floor->stops($at));
        self::assertSame([1 => 9], $floor->targets($at));
        self::assertSame([1, 2], array_map(static fn($o): int => $o->leaves(), $floor->working(Role::Stop)));
    }

    public function testTheStopGoesToBreakEvenAndTrails(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $at = $floor->average();
        $floor->push($at + 4 - $floor->last());
        self::assertSame([1 => -7, 2 => -7], $floor->stops($at));
        $floor->push(1);
        self::assertSame([1 => 0, 2 => 0], $floor->stops($at));
        $floor->push(-3);
        self::assertSame([1 => 0, 2 => 0], $floor->stops($at), 'it never retreats');
        $floor->push(5);
        self::assertSame([1 => 2, 2 => 2], $floor->stops($at));
        $floor->push(4);
        self::assertSame([2 => 5], $floor->stops($at), 'the first portion is out at its target');
        self::assertSame(1, $floor->lots());
        $floor->push(1);
        self::assertSame([2 => 5], $floor->stops($at), 'the trail moves in jumps of two');
        $floor->push(1);
        self::assertSame([2 => 7], $floor->stops($at));
    }

    /** Common practice, no source: stop 10, target 10, at +8 lock 0, at +9 lock 4: reaching +9 and falling back closes with 4 a lot. */
    public function testTheWorkedExampleOfALongThatFallsBack(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":10}}],"ratchets":[{"at":8,"lock":0},{"at":9,"lock":4}]'));
        $at = $floor->average();
        $floor->push($at + 9 - $floor->last());
        self::assertSame([1 => 4], $floor->stops($at));
        $floor->push(-8);
        self::assertSame(0, $floor->lots());
        $slippage = 0;
        foreach ($floor->events as $recorded) {
            if ($recorded->event instanceof \Lotrik\Desk\Event\OrderFilled) {
                $slippage += $recorded->event->slippageTicks;
            }
        }
        self::assertSame(4 - $slippage, $floor->holding()->position->realised->toInt());
    }

    /** Common practice, no source: tick 0.25, short from 3307.25, target 12, stop 10: target 3304.25, stop 3309.75. */
    public function testTheWorkedExampleOfAShort(): void
    {
        $contract = Contract::fromJson('{"code":"DULZ6","tick_size":"0.25","tick_value":"12.50","currency":"EUR"}');
        $preview = (new TestFloor(contract: $contract))->floor->desk->preview(1, [
            'contract' => 'DULZ6', 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => '3307.25',
            'exit_plan' => TestFloor::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":12}}]'),
        ]);
        self::assertSame([['portion' => 1, 'lots' => 1, 'target' => '3304.25', 'stop' => '3309.75', 'target_ticks' => 12, 'stop_ticks' => 10]], $preview['split']);
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
        $preview = (new TestFloor(contract: $contract))->floor->desk->preview(1, [
            'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => TestFloor::plan('"stop":{"ticks":20}'),
        ]);
        self::assertSame('400.00', $preview['risk']);
    }

    public function testExitsFollowTheAnchorOfFurtherFillsUntilARatchetHasMovedThem(): void
    {
        $floor = new TestFloor();
        $book = $floor->floor->market(TestFloor::CODE)->venue->book;
        $ask = (int) $book->bestAsk();
        $lots = (int) $book->level(\Lotrik\Order\Side::Sell, $ask)?->lots;
        $floor->place('buy', min(20, $lots + 3), plan: TestFloor::plan('"stop":{"ticks":7}'));
        $average = $floor->holding()->position->average;
        self::assertFalse($average->isEqualTo($ask), 'it filled at two prices');
        self::assertSame([1 => $average->toScale(0, \Brick\Math\RoundingMode::CEILING)->toInt() - 7], $floor->stops());
    }

    public function testLotsClosedByHandComeOffTheOldestEntryPortionByPortion(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->place('buy', 2, plan: TestFloor::plan());
        $first = min(array_keys($floor->holding()->entries));
        $floor->place('sell', 1);
        self::assertSame([0, 1], array_map(static fn($c): int => $c->lots, $floor->holding()->entries[$first]->exits->covers()));
        self::assertSame([1, 1, 1], array_map(static fn($o): int => $o->leaves(), $floor->working(Role::Stop)));
        self::assertCount(1, $floor->working(Role::Target));
        $floor->place('sell', 1);
        self::assertArrayNotHasKey($first, $floor->holding()->entries);
    }

    public function testACloseIsNeverForMoreThanThePosition(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $id = $floor->place('sell', 5);
        self::assertSame([2, OrderState::Filled, 0], [$floor->order($id)->quantity, $floor->order($id)->state, $floor->lots()]);
        self::assertSame([], $floor->working());
    }

    public function testThroughReversesWithTheOldExitsGoneFirst(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->place('sell', 3, plan: TestFloor::plan(), more: ['closing' => 'through']);
        self::assertSame(-1, $floor->lots());
        self::assertSame([1 => 7], $floor->stops($floor->average()));
        $words = implode("\n", $floor->words());
        self::assertLessThan(strrpos($words, 'stop of portion 1) sent'), strpos($words, 'was cancelled: the position that it closes is gone'));
    }

    public function testThePreviewPutsExitsOfOneLevelTogether(): void
    {
        $preview = (new TestFloor())->floor->desk->preview(1, [
            'contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'limit', 'price' => '400.00', 'exit_plan' => TestFloor::plan(),
        ]);
        self::assertSame([
            ['role' => 'stop', 'level' => 793, 'lots' => 3, 'money' => '-52.50'],
            ['role' => 'target', 'level' => 809, 'lots' => 1, 'money' => '22.50'],
        ], $preview['exits']);
    }

    public function testAStopAndATargetSetByHandArePairedAndCoverAllLots(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 3);
        $at = $floor->average();
        $floor->setExit('stop', $at - 6);
        $floor->setExit('target', $at + 4);
        self::assertSame([[1 => -6], [1 => 4]], [$floor->stops($at), $floor->targets($at)]);
        self::assertSame([0, 3], [$floor->holding()->unprotected(), $floor->working(Role::Target)[0]->leaves()]);
        $floor->push($at + 4 - $floor->last());
        $floor->push(1);
        self::assertSame([0, []], [$floor->lots(), $floor->working()], 'the target took the stop with it');
    }

    public function testAnExitSetByHandGoesToTheLotsThatHaveNoneAndElseMovesAll(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $at = $floor->average();
        $floor->setExit('target', $at + 12);
        self::assertSame([1 => 9, 2 => 12], $floor->targets($at), 'the runner got it');
        $floor->setExit('stop', $at - 4);
        self::assertSame([1 => -4, 2 => -4], $floor->stops($at));
        $floor->push($at + 5 - $floor->last());
        self::assertSame([1 => 0, 2 => 0], $floor->stops($at), 'a tightened stop keeps its ratchets');
    }

    public function testAnExitSetByHandOnTheWrongSideOfTheMarketIsRefused(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1);
        $at = $floor->average();
        self::assertSame('stop-passed', $floor->refusal('set-exit', ['contract' => TestFloor::CODE, 'role' => 'stop', 'level' => TestFloor::contract()->price($at + 5)])->problem);
        self::assertSame('target-passed', $floor->refusal('set-exit', ['contract' => TestFloor::CODE, 'role' => 'target', 'level' => TestFloor::contract()->price($at - 5)])->problem);
        self::assertSame([], $floor->working());
    }

    public function testAPlanWithoutAStopOnPurposeIsToldFromLotsWithNoPlan(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":9}}]'));
        self::assertSame([2, 2], [$floor->holding()->unprotected(), $floor->holding()->unstoppedByPlan()]);
        $floor->place('buy', 1);
        self::assertSame([3, 2], [$floor->holding()->unprotected(), $floor->holding()->unstoppedByPlan()]);
    }

    public function testAStopRemembersWhereItHasStood(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan());
        $at = $floor->average();
        $floor->push($at + 5 - $floor->last());
        $floor->push(2);
        self::assertSame([-7, 0, 2], array_map(static fn(array $stood): int => $stood[1] - $at, $floor->working(Role::Stop)[0]->path));
    }

    public function testCancellingATargetLeavesItsStop(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->take('cancel', ['order' => $floor->working(Role::Target)[0]->id]);
        self::assertSame([], $floor->targets());
        self::assertCount(2, $floor->stops());
        $floor->push(1);
        self::assertSame([], $floor->targets(), 'it does not come back');
    }

    public function testTakingAStopOffAsksFirstAndLeavesUnprotectedLots(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $stop = $floor->working(Role::Stop)[0]->id;
        $refusal = $floor->refusal('cancel', ['order' => $stop]);
        self::assertSame(['would-unprotect', ['unprotected' => 1]], [$refusal->problem, $refusal->facts]);
        self::assertSame(0, $floor->holding()->unprotected());
        $floor->take('cancel', ['order' => $stop, 'leave_unprotected' => true]);
        self::assertSame(1, $floor->holding()->unprotected());
    }

    public function testAHandMoveThatTightensLeavesTheRatchetsOn(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0}]'));
        $at = $floor->average();
        $floor->take('modify', ['order' => $floor->working(Role::Stop)[0]->id, 'trigger' => TestFloor::contract()->price($at - 3)]);
        self::assertSame([1 => -3], $floor->stops($at));
        $floor->push($at + 5 - $floor->last());
        self::assertSame([1 => 0], $floor->stops($at));
    }

    public function testARatchetNeverLoosensAStopThatWasTightenedByHand(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0},{"at":8,"lock":1}]'));
        $at = $floor->average();
        $floor->push($at + 6 - $floor->last());
        $floor->take('modify', ['order' => $floor->working(Role::Stop)[0]->id, 'trigger' => TestFloor::contract()->price($at + 3)]);
        $floor->push(2);
        self::assertSame([1 => 3], $floor->stops($at));
    }

    public function testThePrintThatFillsTheEntryDoesNotCountForTheBestPrice(): void
    {
        $exits = new \Lotrik\ExitPlan\EntryExits(\Lotrik\Order\Side::Buy, \Lotrik\ExitPlan\ExitPlan::fromArray(TestFloor::plan())->resolve(new \Lotrik\ExitPlan\Basis(TestFloor::contract(), 825, 1)));
        $exits->fill(1, 825, 7);
        $exits->observe(835, 7);
        self::assertSame([0, []], [$exits->bestProfit(0), $exits->dueMoves()]);
        $exits->observe(830, 8);
        self::assertSame(5, $exits->bestProfit(0));
    }

    public function testAHandMoveThatLoosensTakesThePortionOffItsRatchetsUntilItIsHandedBack(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":0}]'));
        $at = $floor->average();
        $stop = $floor->working(Role::Stop)[0]->id;
        $floor->take('modify', ['order' => $stop, 'trigger' => TestFloor::contract()->price($at - 9)]);
        $floor->push($at + 6 - $floor->last());
        self::assertSame([1 => -9], $floor->stops($at));
        $floor->take('modify', ['order' => $stop, 'steering' => 'plan']);
        self::assertSame([1 => 0], $floor->stops($at));
    }

    public function testAStopLimitMovedByHandKeepsItsLimitsDistance(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":7,"kind":"stop-limit","limit_ticks":3}'));
        $at = $floor->average();
        $stop = $floor->working(Role::Stop)[0];
        self::assertSame([$at - 7, $at - 10], [$stop->trigger, $stop->price]);
        $floor->take('modify', ['order' => $stop->id, 'trigger' => TestFloor::contract()->price($at - 4)]);
        self::assertSame([$at - 4, $at - 7], [$stop->trigger, $stop->price]);
        $floor->take('modify', ['order' => $stop->id, 'trigger' => TestFloor::contract()->price($at - 5), 'price' => TestFloor::contract()->price($at - 6)]);
        self::assertSame([$at - 5, $at - 6], [$stop->trigger, $stop->price]);
        self::assertStringContainsString('a limit at or below the trigger', $floor->refusal('modify', ['order' => $stop->id, 'price' => TestFloor::contract()->price($at - 4)])->getMessage());
        self::assertSame([$at - 5, $at - 6], [$stop->trigger, $stop->price]);
    }

    public function testAStopMovedThroughTheMarketClosesItsPortion(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->take('modify', ['order' => $floor->working(Role::Stop)[1]->id, 'trigger' => TestFloor::contract()->price($floor->last() + 4)]);
        self::assertSame(1, $floor->lots());
        self::assertCount(1, $floor->stops());
    }

    public function testAStopFillCancelsWhatStillWorksOfItsEntry(): void
    {
        $floor = new TestFloor();
        $bid = (int) $floor->floor->desk->quote(TestFloor::CODE)->bid;
        $entry = $floor->place('buy', 20, 'limit', TestFloor::contract()->price($bid - 3), TestFloor::plan('"stop":{"ticks":2}'));
        $ahead = (int) $floor->floor->market(TestFloor::CODE)->venue->book->ahead($entry);
        $floor->floor->market(TestFloor::CODE)->venue->flow(-5_000_001, \Lotrik\Order\Side::Sell, $bid - 3, 0 + $this->above($floor, $bid - 3) + $ahead + 4);
        $floor->step(1);
        self::assertSame(4, $floor->order($entry)->filled);
        $floor->push($bid - 6 - $floor->last());
        self::assertSame(0, $floor->lots());
        self::assertTrue($floor->order($entry)->state->isFinal());
    }

    /** Lots bid above a price. */
    private function above(TestFloor $floor, int $tick): int
    {
        return array_sum(array_map(static fn($l): int => $l->tick > $tick ? $l->lots : 0, $floor->floor->market(TestFloor::CODE)->venue->book->levels(\Lotrik\Order\Side::Buy)));
    }

    public function testKeepEntryGoesOnAfterTheFirstTarget(): void
    {
        foreach (['keep-entry' => false, 'cancel-entry' => true] as $after => $ends) {
            $exits = new \Lotrik\Desk\Entry(1, new \Lotrik\ExitPlan\EntryExits(\Lotrik\Order\Side::Buy, \Lotrik\ExitPlan\ExitPlan::fromArray(TestFloor::plan('"stop":{"ticks":7},"after_target":"'.$after.'"'))->resolve(new \Lotrik\ExitPlan\Basis(TestFloor::contract(), 825, 1))), null);
            $exits->endsWith(Role::Target);
            self::assertSame($ends ? [1] : [], $exits->ended);
            $exits->endsWith(Role::Stop);
            self::assertSame([1], $exits->ended, 'a stop fill cancels what still works of its entry, whatever the plan says of targets');
        }
    }

    public function testAnExitPassedAtBirthClosesAtTheMarketAndTheJournalSaysWhy(): void
    {
        $floor = new TestFloor();
        $price = $floor->last() - 2;
        $floor->place('buy', 1, 'limit', TestFloor::contract()->price($price), TestFloor::plan('"stop":{"ticks":2}'));
        $this->sweepTo($floor, $price - 6);
        self::assertSame(0, $floor->lots());
        self::assertStringContainsString('already passed by the market: closes now', implode("\n", $floor->words()));
    }

    private function sweepTo(TestFloor $floor, int $tick): void
    {
        $lots = array_sum(array_map(static fn($l): int => $l->tick >= $tick ? $l->lots : 0, $floor->floor->market(TestFloor::CODE)->venue->book->levels(\Lotrik\Order\Side::Buy)));
        $floor->floor->market(TestFloor::CODE)->venue->flow(-6_000_001, \Lotrik\Order\Side::Sell, $tick, $lots);
        $floor->step(1);
    }

    public function testAPlanPutOnAnOpenPositionIsMeasuredFromItsAverageAndCountsProfitFromNow(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2);
        $at = $floor->average();
        self::assertSame(2, $floor->holding()->unprotected());
        $floor->push($at + 6 - $floor->last());
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan()]);
        self::assertSame([[1 => -7, 2 => -7], [1 => 9], 0], [$floor->stops($at), $floor->targets($at), $floor->holding()->unprotected()], 'best profit counts from now');
        $floor->push(1);
        self::assertSame([1 => 2, 2 => 2], $floor->stops($at));
    }

    public function testASwappedPlanReplacesTheOldExits(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $at = $floor->average();
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":12}')]);
        self::assertSame([[1 => -12], [], 0], [$floor->stops($at), $floor->targets($at), $floor->holding()->unprotected()]);
        self::assertSame(2, $floor->working(Role::Stop)[0]->leaves());
        $floor->place('sell', 1);
        self::assertSame(1, $floor->working(Role::Stop)[0]->leaves());
    }

    public function testTakingThePlanOffNamesTheLotsFirst(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $refusal = $floor->refusal('cover', ['contract' => TestFloor::CODE, 'exit_plan' => null]);
        self::assertSame(['would-unprotect', ['unprotected' => 2]], [$refusal->problem, $refusal->facts]);
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => null, 'leave_unprotected' => true]);
        self::assertSame([2, []], [$floor->holding()->unprotected(), $floor->working()]);
    }

    public function testAPlanWhoseStopIsPassedIsRefusedWithThePriceUnlessToldToCloseNow(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2);
        $at = $floor->average();
        $floor->push($at - 5 - $floor->last());
        $refusal = $floor->refusal('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":4}')]);
        self::assertSame('stop-passed', $refusal->problem);
        self::assertStringContainsString(TestFloor::contract()->price($at - 4), $refusal->getMessage());
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":4}'), 'close_now' => true]);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        self::assertSame('flat', $floor->refusal('cover', ['contract' => TestFloor::CODE, 'exit_plan' => null])->problem);
    }

    public function testWithADelayTheVenueStillKeepsTheExitsFromFlipping(): void
    {
        $floor = new TestFloor(delaySteps: 5);
        $floor->place('buy', 2, plan: TestFloor::plan());
        self::assertSame(0, $floor->lots(), 'nothing has come back yet');
        $floor->step(25);
        self::assertSame(2, $floor->lots());
        self::assertCount(2, $floor->stops());
        $floor->push(-20);
        $floor->step(25);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
    }
}
