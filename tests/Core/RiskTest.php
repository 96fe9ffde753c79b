<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Order\OrderState;
use Lotrik\Order\Side;
use Lotrik\Position\PnlLine;
use Lotrik\Position\Position;
use Lotrik\Risk\AccountRisk;
use Lotrik\Risk\OpenRisk;
use Lotrik\Risk\ProtectedLots;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

final class RiskTest extends TestCase
{
    /** A position in a currency that cannot be counted would be in no limit, and ended the engine at its first fill. */
    public function testAContractInACurrencyWithoutARateIsRefusedWhateverWayItIsEntered(): void
    {
        $yuzu = \Lotrik\Contract\Contract::fromJson('{"code":"YUZX6","tick_size":"1","tick_value":"500","currency":"JPY"}');
        $system = new TestSystem(others: [[$yuzu, 2400]]);
        $order = ['contract' => 'YUZX6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        $refused = $system->refusal('place', $order);
        self::assertSame('no-rate', $refused->problem->value);
        self::assertStringContainsString('no rate from it to EUR', $refused->getMessage());
        self::assertSame(
            'no-rate',
            $system->refusal(
                'place-pair',
                ['orders' => [$order, ['side' => 'sell', 'kind' => 'limit', 'price' => '2500'] + $order]],
            )->problem->value,
        );
        self::assertSame('no-rate', $system->system->desk->queries->preview(1, $order + ['account' => 1], $system->now())['refusal']['code']);
    }

    /** The last trade is old, and everybody asks far below it: the loss is there. A bid that is missing for a moment is none. */
    public function testTheLossLimitMarksAtTheLastTradeClampedIntoTheQuote(): void
    {
        foreach ([[13, true], [null, false]] as [$asked, $barred]) {
            $system = new TestSystem();
            $system->place('buy', 20);
            $venue = $system->system->market(TestSystem::CODE)->venue;
            $last = $system->last();
            foreach ([\Lotrik\Order\Side::Buy, \Lotrik\Order\Side::Sell] as $side) {
                foreach ($venue->book->levels($side) as $level) {
                    for ($order = $level->first; $order !== null; $order = $next) {
                        $next = $order->behind;
                        $venue->cancelFlow($order->id);
                    }
                }
            }
            if ($asked !== null) {
                $venue->flow(-9_000_001, \Lotrik\Order\Side::Sell, $last - $asked, 500);
            }
            $system->system->desk->quoted(TestSystem::CODE, $venue->book->bestBid(), $venue->book->bestAsk());
            $system->system->desk->react(TestSystem::CODE, $system->now());
            self::assertSame([$last, $barred], [$system->last(), $system->system->desk->state->isBarred(1, $system->now())]);
        }
    }

    private static function long(int $lots, int $tick): Position
    {
        $position = new Position();
        $position->fill(Side::Buy, $lots, $tick);

        return $position;
    }

    public function testTheLossAtTheStopWithTheFeesOfTheRoundTrip(): void
    {
        $risk = OpenRisk::of(self::long(2, 822), TestSystem::contract(), [new ProtectedLots(2, 815)], 825);
        self::assertSame(['37.48', '0.00', 0], [$risk->risk->exact(), $risk->lockedIn->exact(), $risk->unprotected]);
        self::assertSame('51.24', $risk->fromHere->exact(), 'ten ticks on two lots, and the fees to get out');
    }

    public function testWhatIsLockedInIsNotNettedAgainstTheRiskOfOtherLots(): void
    {
        $risk = OpenRisk::of(self::long(2, 822), TestSystem::contract(), [new ProtectedLots(1, 830), new ProtectedLots(1, 818)], 832);
        self::assertSame(['11.24', '18.76'], [$risk->risk->exact(), $risk->lockedIn->exact()], 'after the fees of both sides');
    }

    public function testAtBreakEvenTheFeesAreStillAtRisk(): void
    {
        $risk = OpenRisk::of(self::long(1, 822), TestSystem::contract(), [new ProtectedLots(1, 822)], 823);
        self::assertSame(['1.24', '0.00'], [$risk->risk->exact(), $risk->lockedIn->exact()]);
    }

    public function testUnprotectedLotsAreCountedNotSummed(): void
    {
        $risk = OpenRisk::of(self::long(3, 822), TestSystem::contract(), [new ProtectedLots(1, 815)], 822);
        self::assertSame([2, '18.74'], [$risk->unprotected, $risk->risk->exact()]);
    }

    public function testAShortIsTheMirror(): void
    {
        $position = new Position();
        $position->fill(Side::Sell, 2, 822);
        $risk = OpenRisk::of($position, TestSystem::contract(), [new ProtectedLots(2, 829)], 820);
        self::assertSame(['37.48', '46.24'], [$risk->risk->exact(), $risk->fromHere->exact()]);
    }

    public function testALossEatsTheLossRoomAndAGainMakesItLarger(): void
    {
        $system = new TestSystem();
        $account = TestSystem::account(1);
        $risk = static fn(): AccountRisk => AccountFigures::risk($account, $system->system->desk, 1_793_611_800_000);
        self::assertSame(['500.00', 'the daily loss limit'], [$risk()->lossRoom->left->exact(), $risk()->lossRoom->limit]);
        $system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":40}'));
        $at = $system->average();
        $system->push($at - 10 - $system->last());
        $now = $risk();
        self::assertTrue($now->net->isNegative());
        self::assertSame($now->realised->minus($now->fees)->plus($now->open)->exact(), $now->net->exact());
        self::assertSame($now->net->plus($account->limits->dailyLoss)->exact(), $now->lossRoom->left->exact());
        self::assertSame(['1.24', '202.48'], [$now->fees->exact(), $now->risk->exact()]);
        $system->push(20);
        self::assertTrue($risk()->net->isPositive());
        self::assertSame($risk()->net->plus($account->limits->dailyLoss)->exact(), $risk()->lossRoom->left->exact());
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame([[], '2.48', '0.00'], [$risk()->byContract, $risk()->fees->exact(), $risk()->open->exact()]);
    }

    public function testThePnlLineIsTheOpenResultAtEveryRung(): void
    {
        $position = self::long(2, 822);
        $line = PnlLine::of($position, TestSystem::contract());
        foreach ([800, 822, 823, 900] as $tick) {
            self::assertSame(
                TestSystem::contract()->money($position->openTicks($tick))->exact(),
                sprintf('%d.%02d', intdiv($line->at($tick), 100), abs($line->at($tick)) % 100),
            );
        }
    }

    public function testALineWithAThirdOfATickIsRoundedAgainstTheTrader(): void
    {
        $position = self::long(1, 822);
        $position->fill(Side::Buy, 2, 823);
        $line = PnlLine::of($position, TestSystem::contract());
        self::assertSame([4, 75000], [$line->scale, $line->slope]);
        self::assertSame(-2468 * 25000, $line->base);
    }

    /** A trading system whose contract makes 50.00 a tick: two lots lose the limit of 500.00 in five ticks. */
    private static function dear(int $delaySteps = 0): TestSystem
    {
        return new TestSystem(
            $delaySteps,
            contract: Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"50.00","currency":"EUR","fee_per_side":"0.62"}'),
        );
    }

    public function testTheDailyLossLimitFlattensEverythingAndBarsUntilTheNextDay(): void
    {
        $system = self::dear();
        $system->place('buy', 2);
        $far = $system->place('buy', 1, 'limit', '300.00');
        $at = $system->average();
        $system->push($at - 4 - $system->last());
        self::assertSame([2, OrderState::New], [$system->lots(), $system->order($far)->state], '400.00 and the fees are not yet 500.00');
        $system->push(-1);
        self::assertSame([0, OrderState::Cancelled], [$system->lots(), $system->order($far)->state]);
        self::assertStringContainsString('Barred from new entries until 2026-11-03 00:00:00 UTC', implode("\n", $system->words()));
        foreach (['buy', 'sell'] as $side) {
            self::assertSame(
                'barred',
                $system->refusal(
                    'place',
                    ['contract' => TestSystem::CODE, 'side' => $side, 'quantity' => 1, 'kind' => 'market'],
                )->problem->value,
            );
        }
        self::assertFalse($system->system->desk->state->isBarred(1, $system->now() + 86_400_000), 'the next day is another');
    }

    /**
     * What no mark moves is added up once a fill: after any history of partial closes the account is barred at the
     * very mark at which a sum from scratch reaches the limit, and not one tick before.
     */
    public function testAfterManyPartialClosesTheLimitIsReachedAtTheSameMarkAsASumFromScratch(): void
    {
        foreach (range(1, 12) as $seed) {
            $system = self::dear();
            $dice = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
            $barred = static fn(): bool => $system->system->desk->state->isBarred(1, $system->now());
            for ($i = 0; $i < 9 && ! $barred(); $i++) {
                $system->push($dice->getInt(-1, 1));
                if ($barred()) {
                    break;
                }
                $system->place($dice->getInt(0, 2) > 0 ? 'buy' : 'sell', $dice->getInt(1, 3), more: ['closing' => 'through']);
            }
            if ($system->lots() === 0 && ! $barred()) {
                $system->place('buy', 2);
            }
            for ($i = 0; $i < 60 && ! $barred(); $i++) {
                self::assertGreaterThan(-500, $this->fromScratch($system), "seed $seed: not barred with more than the limit lost");
                $system->push($system->lots() >= 0 ? -1 : 1);
            }
            self::assertTrue($barred(), "seed $seed");
        }
    }

    /** The day's result in money: every fill marked at the last trade, within the quote, less fees. */
    private function fromScratch(TestSystem $system): float
    {
        $quote = $system->system->desk->quote(TestSystem::CODE);
        $mark = max((int) $quote->bid, min((int) $quote->ask, (int) $quote->last));
        $net = 0.0;
        foreach ($system->events as $recorded) {
            if ($recorded->event instanceof OrderFilled && $recorded->account === 1) {
                $sign = $system->order($recorded->event->order)->side->sign();
                $net += 50.0 * $sign * $recorded->event->quantity * ($mark - $recorded->event->price) - 0.62 * $recorded->event->quantity;
            }
        }

        return $net;
    }

    public function testARealisedLossBarsTooAndOnlyOnce(): void
    {
        $system = self::dear();
        $system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":5}'));
        $at = $system->average();
        $system->push($at - 6 - $system->last());
        self::assertSame(0, $system->lots());
        $system->push(-3);
        $system->push(5);
        self::assertCount(1, array_filter($system->events, static fn($recorded): bool => $recorded->event instanceof AccountBarred));
        self::assertSame([], $system->working());
    }

    public function testABarredAccountIsFlattenedOverADelayAndAnotherIsNotBarred(): void
    {
        $system = self::dear(5);
        $system->place('buy', 2);
        $system->step(20);
        $system->push(-8);
        $system->step(1);
        self::assertTrue($system->system->desk->state->isBarred(1, $system->now()));
        self::assertSame(2, $system->lots(), 'the close is still under way');
        $system->step(40);
        self::assertSame(0, $system->lots());
        $other = $system->handle(
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00'],
            account: 2,
        );
        self::assertGreaterThan(0, $other->body['order']);
    }
}
