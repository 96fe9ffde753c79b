<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigDecimal;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Account\EntriesStopped;
use Lotrik\Desk\Event\Account\LimitNeared;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Account\TradeEnded;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What limits hold back, what they take back, and when they tighten and loosen. One tick of a lot is 2.50, a side's fee 0.62. */
final class LimitsInForceTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /** @param array<string, mixed> $body */
    private function refusal(array $body = []): Refusal
    {
        return $this->system->refusal('place', $body + ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
    }

    /** @return list<int> lots of the entries that work */
    private function entries(): array
    {
        return array_values(array_map(
            static fn($order): int => $order->leaves(),
            array_filter($this->system->holding()->working, static fn($order): bool => ! $order->role->isExit()),
        ));
    }

    private function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    /** Loses so many ticks with one lot, from flat to flat. */
    private function lose(int $ticks): void
    {
        $this->system->place('buy', 1);
        $this->system->push(-$ticks);
        $this->system->place('sell', 1);
        self::assertSame(0, $this->system->lots());
        $this->system->push($ticks);
    }

    public function testWhatTightensCountsAtOnceAndWhatLoosensFromTheNextDay(): void
    {
        $this->system->limit(['daily_loss' => '300.00', 'each_contract' => ['order_lots' => 2, 'position_lots' => 40]]);
        self::assertSame('order-limit', $this->refusal(['quantity' => 3])->problem->value);
        $this->system->limit(['daily_loss' => '900.00', 'each_contract' => ['order_lots' => 5, 'position_lots' => 6]]);
        $limits = $this->system->system->desk->state->accounts[1]->limits;
        self::assertSame(['300.00', 2, 6], [$limits->dailyLoss->exact(), $limits->each->orderLots, $limits->each->positionLots]);
        self::assertSame('order-limit', $this->refusal(['quantity' => 3])->problem->value, 'not before the next day');
        // Over a restart, too.
        $this->system->restart();
        self::assertSame('order-limit', $this->refusal(['quantity' => 3])->problem->value);
        $this->system->nextDay();
        $limits = $this->system->system->desk->state->accounts[1]->limits;
        self::assertSame(['900.00', 5, 6], [$limits->dailyLoss->exact(), $limits->each->orderLots, $limits->each->positionLots]);
        $this->system->place('buy', 4);
        self::assertSame('position-limit', $this->refusal(['quantity' => 3])->problem->value);
        self::assertCount(3, $this->system->eventsOf(LimitsSet::class), 'two of the trader, one of the day');
        self::assertNull($this->system->system->desk->state->bookOf(1)->limitsNext);
    }

    /** Two lots, 7 ticks of 2.50 and 1.24 of fees each: 37.48. At 60.00 there are 22.52 more, 4 ticks of both lots, or 9 of one. */
    public function testAStopGoesNoFartherByHandThanATradeMayRisk(): void
    {
        $this->system->limit(['each_contract' => ['trade_risk' => ['money' => '60.00']]]);
        $this->system->place('buy', 2, plan: TestSystem::plan());
        $anchor = $this->system->holding()->position->anchor();
        $stops = array_values($this->system->working(Role::Stop));
        $to = fn(int $ticks): string => $this->price($anchor - $ticks);
        $refusal = $this->system->refusal('modify', ['order' => $stops[0]->id, 'trigger' => $to(17)]);
        self::assertSame('trade-risk', $refusal->problem->value);
        self::assertSame(
            "its entry would risk 62.48 with fees, and a trade may risk 60.00 EUR; {$to(16)} would be accepted",
            $refusal->getMessage(),
        );
        $refusal = $this->system->refusal('set-exit', ['contract' => TestSystem::CODE, 'stop' => $to(12)]);
        self::assertStringContainsString("would risk 62.48 with fees, and a trade may risk 60.00 EUR; {$to(11)} would be accepted", $refusal->getMessage());
        $this->system->handle('modify', ['order' => $stops[0]->id, 'trigger' => $to(16)]);
        self::assertStringContainsString(
            'it cannot be moved further away',
            $this->system->refusal('modify', ['order' => $stops[1]->id, 'trigger' => $to(8)])->getMessage(),
        );
        // What tightens is taken, also where the entry still risks more than a trade may by now.
        $this->system->limit(['each_contract' => ['trade_risk' => ['money' => '5.00']]]);
        $this->system->handle('modify', ['order' => $stops[0]->id, 'trigger' => $to(15)]);
        self::assertSame($anchor - 15, $this->system->order($stops[0]->id)->trigger);
    }

    public function testTheSameAgainIsNothingNewAndAnotherWishTakesThePlaceOfWhatWasToCome(): void
    {
        $this->system->limit(['each_contract' => ['order_lots' => 2, 'position_lots' => 40]]);
        $this->system->limit(['each_contract' => ['order_lots' => 2, 'position_lots' => 40]]);
        self::assertCount(1, $this->system->eventsOf(LimitsSet::class));
        $this->system->limit(['each_contract' => ['order_lots' => 9, 'position_lots' => 40]]);
        $this->system->limit(['each_contract' => ['order_lots' => 3, 'position_lots' => 40]]);
        $this->system->nextDay();
        self::assertSame(3, $this->system->system->desk->state->accounts[1]->limits->each->orderLots);
    }

    public function testTighteningTakesBackWhatWouldLeadOverThePositionTheNewestFirst(): void
    {
        $this->system->place('buy', 2);
        $this->system->place('buy', 3, 'limit', $this->price(815));
        $this->system->place('buy', 4, 'limit', $this->price(814));
        $this->system->place('sell', 9, 'limit', $this->price(839), more: ['closing' => 'through']);
        $this->system->limit(['each_contract' => ['position_lots' => 5]]);
        self::assertSame([3, 5], $this->entries(), '2 are open and 3 work; 4 more to buy were too many, and of 9 to sell 4');
        self::assertStringContainsString('by your limits: 4 lots asked, 0 left of the position limit of 5', (string) $this->system->order(1003)->reason);
    }

    public function testADailyLossThatIsTightenedBelowWhatIsLostFlattensAtOnce(): void
    {
        $this->system->place('buy', 10);
        $this->system->push(-4);
        self::assertSame(10, $this->system->lots());
        $this->system->limit(['daily_loss' => '90.00']);
        self::assertSame(0, $this->system->lots());
        self::assertStringContainsString('the daily loss limit was reached', $this->refusal()->getMessage());
    }

    /** The best of the day counts with what is open; a fall from it bars, before anything is lost. */
    public function testADrawdownFromTheBestOfTheDayBars(): void
    {
        $this->system->limit(['drawdown' => ['open' => '100.00']]);
        $this->system->place('buy', 10);
        $this->system->push(8);
        $this->system->push(-3);
        self::assertSame(10, $this->system->lots());
        // A kill in between forgets no best.
        $this->system->restart();
        $this->system->push(-2);
        self::assertSame(0, $this->system->lots());
        $barred = $this->system->eventsOf(AccountBarred::class)[0];
        self::assertSame('the drawdown limit', $barred->limit);
        self::assertMatchesRegularExpression('/from \+\d+\.\d\d to \+\d+\.\d\d EUR, and the drawdown limit is 100\.00/', $barred->because);
        self::assertStringContainsString('the drawdown limit was reached', $this->refusal()->getMessage());
    }

    /** What was only on paper raises no bar here; what was made and closed does. */
    public function testADrawdownFromWhatHadClosed(): void
    {
        $this->system->limit(['drawdown' => ['closed' => '100.00']]);
        $this->system->place('buy', 10);
        $this->system->push(8);
        $this->system->push(-7);
        self::assertSame(10, $this->system->lots(), '175.00 of paper profit are gone, none of it had closed');
        $this->system->push(6);
        $this->system->place('sell', 10);
        $this->system->place('buy', 10);
        $this->system->push(-5);
        self::assertSame(0, $this->system->lots());
        self::assertSame('the drawdown limit from closed profit', $this->system->eventsOf(AccountBarred::class)[0]->limit);
    }

    public function testOnceADayHasBeenWellUpAShareOfItIsKept(): void
    {
        $this->system->limit(['keep_profit' => ['percent' => '60', 'from' => '150.00']]);
        $this->system->place('buy', 10);
        $this->system->push(4);
        $this->system->push(-5);
        self::assertSame(10, $this->system->lots(), '100.00 were not enough to begin with');
        $this->system->push(10);
        $this->system->push(-2);
        self::assertSame(10, $this->system->lots());
        $this->system->push(-3);
        self::assertSame(0, $this->system->lots());
        self::assertSame('the profit to keep', $this->system->eventsOf(AccountBarred::class)[0]->limit);
    }

    public function testHalfThreeQuartersAndNineTenthsAreToldOnceADay(): void
    {
        $this->system->place('buy', 10);
        foreach ([-9, -3, 4, -4, -4, -2, 3, -3] as $ticks) {
            $this->system->push($ticks);
        }
        $told = fn(): array => array_map(static fn(LimitNeared $of): int => $of->percent, $this->system->eventsOf(LimitNeared::class));
        self::assertSame([50, 75, 90], $told());
        $this->system->restart();
        self::assertSame([50, 75, 90], $told());
        $this->system->nextDay();
        self::assertSame([50, 75, 90], $told(), 'what is open counts from the mark at the roll');
        $this->system->push(-11);
        self::assertSame([50, 75, 90, 50], $told(), 'and what it loses from there is told anew');
    }

    public function testAfterSoManyLossesInARowNothingIsEnteredUntilTheNextDay(): void
    {
        $this->system->limit(['losses_in_a_row' => 2]);
        $this->lose(2);
        $this->system->place('buy', 1);
        $this->system->push(3);
        $this->system->place('sell', 1);
        self::assertFalse($this->system->eventsOf(TradeEnded::class)[1]->isLoss, 'a gain begins anew');
        $this->lose(2);
        $this->system->place('buy', 1, 'limit', $this->price(815));
        $this->lose(2);
        self::assertSame([], $this->entries(), 'what still worked is taken back');
        $refusal = $this->refusal();
        self::assertSame('entries-stopped', $refusal->problem->value);
        self::assertStringContainsString('2 losing trades in a row, and the limit is 2', $refusal->getMessage());
        $this->system->restart();
        self::assertSame('entries-stopped', $this->refusal()->problem->value);
        $this->system->nextDay();
        $this->system->place('buy', 1);
        self::assertSame(1, $this->system->lots());
    }

    /** A fill that goes through flat ends one trade and begins another; what is scaled out of is one trade. */
    public function testATradeGoesFromFlatToFlat(): void
    {
        $this->system->place('buy', 3);
        $this->system->push(-2);
        $this->system->place('sell', 1);
        $this->system->place('sell', 4, more: ['closing' => 'through']);
        $this->system->place('buy', 2);
        $ended = $this->system->eventsOf(TradeEnded::class);
        self::assertCount(2, $ended);
        // By hand from the fills: what was sold less what was bought, up to each flat, and 0.62 for each lot and side.
        $nets = [];
        $lots = 0;
        $net = BigDecimal::zero();
        foreach ($this->system->eventsOf(OrderFilled::class) as $fill) {
            $sign = $this->system->order($fill->order)->side->sign();
            foreach (array_fill(0, $fill->quantity, $sign) as $one) {
                $lots += $one;
                $net = $net->minus(BigDecimal::of('2.50')->multipliedBy($one * $fill->price))->minus('0.62');
                if ($lots === 0) {
                    $nets[] = (string) $net->toScale(2);
                    $net = BigDecimal::zero();
                }
            }
        }
        self::assertSame($nets, array_map(static fn(TradeEnded $of): string => $of->net, $ended));
        self::assertSame([true, true], array_map(static fn(TradeEnded $of): bool => $of->isLoss, $ended));
    }

    public function testALargeLossPausesForAWhile(): void
    {
        $this->system->limit(['pause' => ['loss' => '15.00', 'minutes' => 15]]);
        $this->lose(2);
        self::assertSame([], $this->system->eventsOf(EntriesStopped::class), '6.24 and the spread are less');
        $this->lose(7);
        $refusal = $this->refusal();
        self::assertSame('entries-stopped', $refusal->problem->value);
        self::assertStringContainsString('you pause for 15 minutes', $refusal->getMessage());
        $this->system->wait(15 * 60_000);
        $this->system->place('buy', 1);
        self::assertSame(1, $this->system->lots());
    }

    public function testInATimeWithoutEntriesOrdersThatOnlyReduceAreTaken(): void
    {
        // The test's clock stands at 09:30 UTC on a Monday.
        $this->system->limit(['no_entries' => [['days' => [1], 'from' => '09:31', 'until' => '09:36', 'zone' => 'UTC']]]);
        $this->system->place('buy', 2, plan: TestSystem::plan());
        $this->system->place('buy', 1, 'limit', $this->price(815));
        $this->system->wait(60_000);
        $this->system->step(1);
        self::assertSame([], $this->entries(), 'what worked when it began is taken back');
        $refusal = $this->refusal();
        self::assertSame('entries-stopped', $refusal->problem->value);
        self::assertStringContainsString('09:31 to 09:36 UTC is a no-entry window', $refusal->getMessage());
        self::assertSame('entries-stopped', $this->refusal(['closing' => 'through', 'side' => 'sell', 'quantity' => 3])->problem->value);
        self::assertNotSame([], $this->system->holding()->working, 'exits stay');
        $this->system->place('sell', 1);
        $this->system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame(0, $this->system->lots());
        $this->system->wait(5 * 60_000);
        $this->system->place('buy', 1);
        self::assertSame(1, $this->system->lots());
    }

    /** A held order that becomes due in such a time is not sent. */
    public function testAHeldOrderIsCheckedAnewWhenItIsDue(): void
    {
        $this->system->limit(['no_entries' => [['days' => [1], 'from' => '09:31', 'until' => '09:36', 'zone' => 'UTC']]]);
        $id = $this->system->place('buy', 1, 'limit', $this->price(815), more: ['release_at' => $this->system->in(90_000)]);
        $this->system->wait(90_000);
        $this->system->step(1);
        self::assertTrue($this->system->order($id)->state->isFinal());
    }

    public function testSoManyWorkInAContractAndNoMore(): void
    {
        $this->system->limit(['each_contract' => ['working_orders' => 2]]);
        $this->system->place('buy', 1, 'limit', $this->price(815));
        $pair = [];
        foreach ([['buy', 814], ['sell', 836]] as [$side, $tick]) {
            $pair[] = ['contract' => TestSystem::CODE, 'side' => $side, 'quantity' => 1, 'kind' => 'limit', 'price' => $this->price($tick)];
        }
        self::assertSame('working-orders-limit', $this->system->refusal('place-pair', ['orders' => $pair])->problem->value, 'two at once are one too many');
        $this->system->place('buy', 1, 'limit', $this->price(814));
        $refusal = $this->refusal(['kind' => 'limit', 'price' => $this->price(813)]);
        self::assertStringContainsString('1 more would make 3 entries working in DULZ6, over the limit of 2', $refusal->getMessage());
    }

    /** Only what could fill worse than the market is a slip; how far below it a buyer waits is nobody's concern. */
    public function testAPriceBandCatchesWhatWouldFillMuchWorse(): void
    {
        $this->system->limit(['each_contract' => ['band_ticks' => 5]]);
        $quote = $this->system->system->desk->quote(TestSystem::CODE);
        [$bid, $ask] = [(int) $quote->bid, (int) $quote->ask];
        $this->system->place('buy', 1, 'limit', $this->price($bid - 14));
        $this->system->place('sell', 1, 'stop', $this->price($bid - 5));
        $refusal = $this->refusal(['kind' => 'limit', 'price' => $this->price($ask + 6)]);
        self::assertSame(['price-band', '/price'], [$refusal->problem->value, $refusal->pointer]);
        self::assertStringContainsString('6 ticks worse', $refusal->getMessage());
        self::assertStringContainsString($this->price($ask + 5).' would be accepted', $refusal->getMessage());
        self::assertSame('/trigger', $this->refusal(['side' => 'sell', 'kind' => 'stop', 'trigger' => $this->price($bid - 6)])->pointer);
        $id = $this->system->place('buy', 1, 'stop', $this->price($ask + 3));
        self::assertSame('price-band', $this->system->refusal('modify', ['order' => $id, 'trigger' => $this->price($ask + 6)])->problem->value);
        self::assertSame($ask + 3, $this->system->order($id)->trigger);
    }

    public function testATradeRisksNoMoreThanItMay(): void
    {
        $this->system->limit(['each_contract' => ['trade_risk' => ['money' => '60.00']]]);
        // 7 ticks are 17.50 and 1.24 for the fees: 18.74 a lot.
        $refusal = $this->refusal(['quantity' => 4, 'exit_plan' => TestSystem::plan()]);
        self::assertSame('trade-risk', $refusal->problem->value);
        self::assertStringContainsString('4 lots risk 74.96 with fees, and a trade may risk 60.00 EUR; 3 lots would be accepted', $refusal->getMessage());
        self::assertStringContainsString('its risk has no limit', $this->refusal()->getMessage());
        $id = $this->system->place('buy', 3, 'limit', $this->price(815), TestSystem::plan());
        self::assertSame('trade-risk', $this->system->refusal('modify', ['order' => $id, 'quantity' => 4])->problem->value);
        $this->system->handle('modify', ['order' => $id, 'quantity' => 2]);
        self::assertSame(2, $this->system->order($id)->quantity);
    }

    /** In percent it is of the account's balance, 10000.00 here. */
    public function testOfTwoWaysToSayWhatATradeMayRiskTheLesserHolds(): void
    {
        $this->system->limit(['each_contract' => ['trade_risk' => ['money' => '60.00', 'percent' => '0.3']]]);
        self::assertStringContainsString('may risk 30.00 EUR; 1 lot would be accepted', $this->refusal(['quantity' => 2, 'exit_plan' => TestSystem::plan()])->getMessage());
    }

    public function testWhereEachLotHasAStopNoneIsEnteredWithoutAndNoneIsTakenOff(): void
    {
        $this->system->place('buy', 1, 'limit', $this->price(815));
        $this->system->limit(['each_contract' => ['stop_required' => true]]);
        self::assertSame([], $this->entries(), 'one without a stop is taken back');
        self::assertSame('stop-required', $this->refusal()->problem->value);
        self::assertSame('stop-required', $this->refusal(['exit_plan' => TestSystem::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":9}}]')])->problem->value);
        $this->system->place('buy', 2, plan: TestSystem::plan());
        $stops = fn(): array => array_values(array_filter($this->system->holding()->working, static fn($order): bool => $order->role === Role::Stop));
        $stop = $stops()[0];
        self::assertSame('stop-required', $this->system->refusal('cancel', ['order' => $stop->id, 'leave_unprotected' => true])->problem->value);
        self::assertSame('stop-required', $this->system->refusal('cancel-many', ['contract' => TestSystem::CODE, 'exits' => true, 'leave_unprotected' => true])->problem->value);
        self::assertSame('stop-required', $this->system->refusal('cover', ['contract' => TestSystem::CODE, 'exit_plan' => null, 'leave_unprotected' => true])->problem->value);
        self::assertCount(2, $stops());
        $this->system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame(0, $this->system->lots());
    }

    public function testNoMoreEntriesInAMinuteThanTheTraderAllows(): void
    {
        $this->system->limit(['orders_a_minute' => 2]);
        $this->system->place('buy', 1);
        $this->system->place('buy', 1);
        $refusal = $this->refusal();
        self::assertSame('too-many-entries', $refusal->problem->value);
        self::assertStringContainsString('2 entries were sent in the last minute, 1 more is asked, and the limit is 2', $refusal->getMessage());
        $this->system->place('sell', 2);
        self::assertSame(0, $this->system->lots(), 'what closes is never held back');
        $this->system->wait(60_000);
        $this->system->place('buy', 1);
        self::assertSame(1, $this->system->lots());
    }

    /** The other account knows nothing of it. */
    public function testLimitsAreOfOneAccount(): void
    {
        $this->system->limit(['each_contract' => ['order_lots' => 1]]);
        $this->system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 5, 'kind' => 'market'], 2);
        self::assertSame('order-limit', $this->refusal(['quantity' => 5])->problem->value);
    }

    /** An entry that is still on its way when limits tighten is taken back once the venue answers, over a kill too. */
    public function testAnEntryOnItsWayIsTakenBackOnceItIsThere(): void
    {
        foreach ([false, true] as $killed) {
            $this->system = new TestSystem(5);
            $this->system->place('buy', 4, 'limit', $this->price(815));
            $this->system->limit(['each_contract' => ['position_lots' => 2]]);
            self::assertSame([4], $this->entries(), 'nothing is known of it yet');
            if ($killed) {
                $this->system->restart();
            }
            $this->system->step(30);
            self::assertSame([], $this->entries());
            self::assertSame('position-limit', $this->refusal(['quantity' => 3])->problem->value);
        }
    }
}
