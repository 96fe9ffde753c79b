<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Event\AccountBarred;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Order\OrderState;
use Lotrik\Order\Side;
use Lotrik\Position\PnlLine;
use Lotrik\Position\Position;
use Lotrik\Risk\AccountRisk;
use Lotrik\Risk\OpenRisk;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

final class RiskTest extends TestCase
{
    /** A position in a currency that cannot be counted would be in no limit, and ended the engine at its first fill. */
    public function testAContractInACurrencyWithoutARateIsRefusedWhateverWayItIsEntered(): void
    {
        $yuzu = \Lotrik\Contract\Contract::fromJson('{"code":"YUZX6","tick_size":"1","tick_value":"500","currency":"JPY"}');
        $floor = new TestFloor(others: [[$yuzu, 2400]]);
        $order = ['contract' => 'YUZX6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        $refused = $floor->refusal('place', $order);
        self::assertSame('no-rate', $refused->problem);
        self::assertStringContainsString('no rate from it to EUR', $refused->getMessage());
        self::assertSame('no-rate', $floor->refusal('place-pair', ['orders' => [$order, ['side' => 'sell', 'kind' => 'limit', 'price' => '2500'] + $order]])->problem);
        self::assertSame('no-rate', $floor->floor->desk->preview(1, $order + ['account' => 1], $floor->now())['refusal']['code']);
    }

    /** The last trade is old, and everybody asks far below it: the loss is there. A bid that is missing for a moment is none. */
    public function testTheLossLimitMarksAtTheLastTradeClampedIntoTheQuote(): void
    {
        foreach ([[13, true], [null, false]] as [$asked, $barred]) {
            $floor = new TestFloor();
            $floor->place('buy', 20);
            $venue = $floor->floor->market(TestFloor::CODE)->venue;
            $last = $floor->last();
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
            $floor->floor->desk->quoted(TestFloor::CODE, $venue->book->bestBid(), $venue->book->bestAsk());
            $floor->floor->desk->react(TestFloor::CODE, $floor->now());
            self::assertSame([$last, $barred], [$floor->last(), $floor->floor->desk->state->isBarred(1, $floor->now())]);
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
        $risk = OpenRisk::of(self::long(2, 822), TestFloor::contract(), [['lots' => 2, 'stop' => 815]], 825);
        self::assertSame(['37.48', '0.00', 0], [$risk->risk->exact(), $risk->lockedIn->exact(), $risk->unprotected]);
        self::assertSame('51.24', $risk->fromHere->exact(), 'ten ticks on two lots, and the fees to get out');
    }

    public function testWhatIsLockedInIsNotNettedAgainstTheRiskOfOtherLots(): void
    {
        $risk = OpenRisk::of(self::long(2, 822), TestFloor::contract(), [['lots' => 1, 'stop' => 830], ['lots' => 1, 'stop' => 818]], 832);
        self::assertSame(['11.24', '20.00'], [$risk->risk->exact(), $risk->lockedIn->exact()]);
    }

    public function testAtBreakEvenTheFeesAreStillAtRisk(): void
    {
        $risk = OpenRisk::of(self::long(1, 822), TestFloor::contract(), [['lots' => 1, 'stop' => 822]], 823);
        self::assertSame(['1.24', '0.00'], [$risk->risk->exact(), $risk->lockedIn->exact()]);
    }

    public function testUnprotectedLotsAreCountedNotSummed(): void
    {
        $risk = OpenRisk::of(self::long(3, 822), TestFloor::contract(), [['lots' => 1, 'stop' => 815]], 822);
        self::assertSame([2, '18.74'], [$risk->unprotected, $risk->risk->exact()]);
    }

    public function testAShortIsTheMirror(): void
    {
        $position = new Position();
        $position->fill(Side::Sell, 2, 822);
        $risk = OpenRisk::of($position, TestFloor::contract(), [['lots' => 2, 'stop' => 829]], 820);
        self::assertSame(['37.48', '46.24'], [$risk->risk->exact(), $risk->fromHere->exact()]);
    }

    public function testALossEatsTheLossRoomAndAGainDoesNotAddToIt(): void
    {
        $floor = new TestFloor();
        $account = TestFloor::account(1);
        $risk = static fn(): AccountRisk => AccountRisk::of($account, $floor->floor->desk, 1_793_611_800_000);
        self::assertSame('500.00', $risk()->lossRoom->exact());
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":40}'));
        $at = $floor->average();
        $floor->push($at - 10 - $floor->last());
        $now = $risk();
        self::assertTrue($now->net->isNegative());
        self::assertSame($now->realised->minus($now->fees)->plus($now->open)->exact(), $now->net->exact());
        self::assertSame($now->net->plus($account->dailyLossLimit)->exact(), $now->lossRoom->exact());
        self::assertSame(['1.24', '202.48'], [$now->fees->exact(), $now->risk->exact()]);
        $floor->push(20);
        self::assertTrue($risk()->net->isPositive());
        self::assertSame('500.00', $risk()->lossRoom->exact());
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        self::assertSame([[], '2.48', '0.00'], [$risk()->byContract, $risk()->fees->exact(), $risk()->open->exact()]);
    }

    public function testThePnlLineIsTheOpenResultAtEveryRung(): void
    {
        $position = self::long(2, 822);
        $line = PnlLine::of($position, TestFloor::contract());
        foreach ([800, 822, 823, 900] as $tick) {
            self::assertSame(TestFloor::contract()->money($position->openTicks($tick))->exact(), sprintf('%d.%02d', intdiv($line->at($tick), 100), abs($line->at($tick)) % 100));
        }
    }

    public function testALineWithAThirdOfATickIsRoundedAgainstTheTrader(): void
    {
        $position = self::long(1, 822);
        $position->fill(Side::Buy, 2, 823);
        $line = PnlLine::of($position, TestFloor::contract());
        self::assertSame([4, 75000], [$line->scale, $line->slope]);
        self::assertSame(-2468 * 25000, $line->base);
    }

    /** A floor whose contract makes 50.00 a tick: two lots lose the limit of 500.00 in five ticks. */
    private static function dear(int $delaySteps = 0): TestFloor
    {
        return new TestFloor($delaySteps, contract: Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"50.00","currency":"EUR","fee_per_side":"0.62"}'));
    }

    public function testTheDailyLossLimitFlattensEverythingAndBarsUntilTheNextDay(): void
    {
        $floor = self::dear();
        $floor->place('buy', 2);
        $far = $floor->place('buy', 1, 'limit', '300.00');
        $at = $floor->average();
        $floor->push($at - 4 - $floor->last());
        self::assertSame([2, OrderState::New], [$floor->lots(), $floor->order($far)->state], '400.00 and the fees are not yet 500.00');
        $floor->push(-1);
        self::assertSame([0, OrderState::Cancelled], [$floor->lots(), $floor->order($far)->state]);
        self::assertStringContainsString('Barred from new entries until 2026-11-03 00:00:00 UTC', implode("\n", $floor->words()));
        foreach (['buy', 'sell'] as $side) {
            self::assertSame('barred', $floor->refusal('place', ['contract' => TestFloor::CODE, 'side' => $side, 'quantity' => 1, 'kind' => 'market'])->problem);
        }
        self::assertFalse($floor->floor->desk->state->isBarred(1, $floor->now() + 86_400_000), 'the next day is another');
    }

    /**
     * What no mark moves is added up once a fill: after any history of partial closes the account is barred at the
     * very mark at which a sum from scratch reaches the limit, and not one tick before.
     */
    public function testAfterManyPartialClosesTheLimitIsReachedAtTheSameMarkAsASumFromScratch(): void
    {
        foreach (range(1, 12) as $seed) {
            $floor = self::dear();
            $dice = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
            $barred = static fn(): bool => $floor->floor->desk->state->isBarred(1, $floor->now());
            for ($i = 0; $i < 9 && ! $barred(); $i++) {
                $floor->push($dice->getInt(-1, 1));
                if ($barred()) {
                    break;
                }
                $floor->place($dice->getInt(0, 2) > 0 ? 'buy' : 'sell', $dice->getInt(1, 3), more: ['closing' => 'through']);
            }
            if ($floor->lots() === 0 && ! $barred()) {
                $floor->place('buy', 2);
            }
            for ($i = 0; $i < 60 && ! $barred(); $i++) {
                self::assertGreaterThan(-500, $this->fromScratch($floor), "seed $seed: not barred with more than the limit lost");
                $floor->push($floor->lots() >= 0 ? -1 : 1);
            }
            self::assertTrue($barred(), "seed $seed");
        }
    }

    /** The day's result in money: every fill marked at the last trade, within the quote, less fees. */
    private function fromScratch(TestFloor $floor): float
    {
        $quote = $floor->floor->desk->quote(TestFloor::CODE);
        $mark = max((int) $quote->bid, min((int) $quote->ask, (int) $quote->last));
        $net = 0.0;
        foreach ($floor->events as $recorded) {
            if ($recorded->event instanceof OrderFilled && $recorded->account === 1) {
                $sign = $floor->order($recorded->event->order)->side->sign();
                $net += 50.0 * $sign * $recorded->event->quantity * ($mark - $recorded->event->price) - 0.62 * $recorded->event->quantity;
            }
        }

        return $net;
    }

    public function testARealisedLossBarsTooAndOnlyOnce(): void
    {
        $floor = self::dear();
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":5}'));
        $at = $floor->average();
        $floor->push($at - 6 - $floor->last());
        self::assertSame(0, $floor->lots());
        $floor->push(-3);
        $floor->push(5);
        self::assertCount(1, array_filter($floor->events, static fn($recorded): bool => $recorded->event instanceof AccountBarred));
        self::assertSame([], $floor->working());
    }

    public function testABarredAccountIsFlattenedOverADelayAndAnotherIsNotBarred(): void
    {
        $floor = self::dear(5);
        $floor->place('buy', 2);
        $floor->step(20);
        $floor->push(-8);
        $floor->step(1);
        self::assertTrue($floor->floor->desk->state->isBarred(1, $floor->now()));
        self::assertSame(2, $floor->lots(), 'the close is still under way');
        $floor->step(40);
        self::assertSame(0, $floor->lots());
        $other = $floor->take('place', ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00'], account: 2);
        self::assertGreaterThan(0, $other->body['order']);
    }
}
