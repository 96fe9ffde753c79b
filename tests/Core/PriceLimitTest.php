<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Contract\PriceLimits;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Venue\Simulated\NoFeed;
use Lotrik\Venue\Simulated\SimulatedVenue;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\WorkingOrder;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The daily price limit: 15 ticks from the settlement of the day before. Common practice, no source. */
final class PriceLimitTest extends TestCase
{
    private const LOW = TestSystem::START - 15;

    private const HIGH = TestSystem::START + 15;

    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem(contract: Contract::fromArray(['price_limit_ticks' => 15] + TestSystem::contract()->toArray()));
        $this->system->push(TestSystem::START - $this->system->last());
        $this->system->nextDay();
    }

    public function testThereIsNoneBeforeThereIsASettlement(): void
    {
        $first = new TestSystem();
        $before = $first->last();
        $first->push(40);
        self::assertSame($before + 40, $first->last());
        self::assertNull(PriceLimits::around(null, 15));
        self::assertNull(PriceLimits::around(825, null));
        self::assertSame([1, 18], [PriceLimits::around(3, 15)?->low, PriceLimits::around(3, 15)->high]);
    }

    public function testNothingTradesBeyondIt(): void
    {
        $this->system->push(40);
        self::assertSame(self::HIGH, $this->system->last());
        $this->system->push(-60);
        self::assertSame(self::LOW, $this->system->last());
        $this->system->step(200);
        foreach ($this->system->system->desk->quote(TestSystem::CODE)->prints->all() as [, $tick]) {
            self::assertTrue($tick >= self::LOW && $tick <= self::HIGH, "traded at $tick");
        }
    }

    public function testAnEntryBeyondItIsRefusedWithTheLimits(): void
    {
        $refusal = $this->system->refusal(
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '404.50'],
        );
        self::assertSame('beyond-price-limit', $refusal->problem->value);
        self::assertSame(
            '404.50 is beyond the price limits of the day: DULZ6 trades from 405.00 to 420.00 until the next settlement',
            $refusal->getMessage(),
        );
        self::assertSame('/price', $refusal->pointer);
        $order = $this->system->place('buy', 1, 'limit', '405.00');
        self::assertSame('beyond-price-limit', $this->system->refusal('modify', ['order' => $order, 'price' => '404.50'])->problem->value);
        self::assertSame(
            '/trigger',
            $this->system->refusal(
                'place',
                ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop', 'trigger' => '420.50'],
            )->pointer,
        );
    }

    public function testATargetBeyondItRestsUntilAnotherDayAllowsIt(): void
    {
        $this->system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":14},"portions":[{"rest":true,"target":{"ticks":14}}]'));
        $this->system->push(-10);
        $this->system->nextDay();
        $this->system->push(15);
        self::assertSame(1, $this->system->holding()->position->lots, 'it stands beyond where the day may trade');
        $this->system->nextDay();
        $this->system->push(10);
        self::assertSame(0, $this->system->holding()->position->lots);
    }

    /** What is placed, changed or set is within the day's limits: entries, closes, targets and triggers, also before the first settlement. */
    public function testNothingIsPutBeyondIt(): void
    {
        $code = TestSystem::CODE;
        $beyond = fn(string $op, array $body): string => $this->system->refusal($op, $body + ['contract' => $code])->problem->value;
        $plan = static fn(int $stop, int $target): array => TestSystem::plan("\"stop\":{\"ticks\":$stop},\"portions\":[{\"rest\":true,\"target\":{\"ticks\":$target}}]");
        $buy = ['side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        self::assertSame('beyond-price-limit', $beyond('place', $buy + ['exit_plan' => $plan(40, 5)]));
        self::assertSame('beyond-price-limit', $beyond('place', $buy + ['exit_plan' => $plan(5, 40)]));
        $this->system->place('buy', 2, plan: $plan(5, 5));
        self::assertSame('beyond-price-limit', $beyond('place', ['side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => '10000000.00', 'tif' => 'gtc']));
        self::assertSame('beyond-price-limit', $beyond('set-exit', ['role' => 'target', 'level' => '10000000.00']));
        self::assertSame('beyond-price-limit', $beyond('set-exit', ['role' => 'stop', 'level' => '300.00']));
        self::assertSame('beyond-price-limit', $beyond('cover', ['exit_plan' => $plan(40, 5)]));
        $target = $this->system->working(Role::Target)[0];
        self::assertSame('beyond-price-limit', $this->system->refusal('modify', ['order' => $target->id, 'price' => '10000000.00'])->problem->value);
        $first = new TestSystem(contract: Contract::fromArray(['price_limit_ticks' => 15] + TestSystem::contract()->toArray()));
        self::assertSame('beyond-price-limit', $first->refusal('place', [
            'contract' => $code, 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => '10000000.00',
        ])->problem->value);
    }

    public function testAStopThatTheLimitHoldsUpWaitsAndGoesOutWhenSomebodyBuys(): void
    {
        $this->system->place('buy', 3, plan: TestSystem::plan('"stop":{"ticks":13}'));
        $entry = $this->system->last();
        $venue = $this->system->system->market(TestSystem::CODE)->venue;
        // The market falls to its limit at a stroke, and nobody is left who would buy there.
        foreach ($venue->book->levels(Side::Buy) as $level) {
            for ($bid = $level->first; $bid !== null; $bid = $behind) {
                $behind = $bid->behind;
                $venue->cancelFlow($bid->id);
            }
        }
        $venue->flow(-9_000_001, Side::Buy, self::LOW, 1);
        $venue->flow(-9_000_002, Side::Sell, self::LOW, 1);
        // Any action of the venue's brings what it did to the desk.
        $this->system->handle(
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => '420.00'],
            2,
        );
        self::assertSame(3, $this->system->holding()->position->lots);
        $stop = $this->system->working()[0];
        self::assertTrue($stop->triggered, "the stop of a long from $entry");
        self::assertSame(3, $stop->leaves());
        $venue->flow(-9_000_003, Side::Buy, self::LOW, 2);
        $this->system->step(1);
        self::assertSame(1, $this->system->holding()->position->lots, 'what came was sold to; the rest keeps working');
        self::assertSame(OrderState::PartiallyFilled, $this->system->order($stop->id)->state);
    }

    public function testAFlattenThatTheLimitHoldsUpSaysSoByStayingAndIsDoneWhenSomebodyBuys(): void
    {
        $this->system->place('buy', 3, plan: TestSystem::plan('"stop":{"ticks":14}'));
        $venue = $this->system->system->market(TestSystem::CODE)->venue;
        foreach ($venue->book->levels(Side::Buy) as $level) {
            for ($bid = $level->first; $bid !== null; $bid = $behind) {
                $behind = $bid->behind;
                $venue->cancelFlow($bid->id);
            }
        }
        $this->system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertTrue($this->system->holding()->isClosingDown());
        self::assertSame(3, $this->system->holding()->position->lots);
        self::assertCount(1, $this->system->working(Role::Stop), 'the stop stays until the close has filled');
        $this->system->handle('flatten', ['contract' => TestSystem::CODE]);
        $venue->flow(-9_000_001, Side::Buy, self::LOW, 5);
        $this->system->step(1);
        self::assertSame([0, [], false], [$this->system->lots(), $this->system->working(), $this->system->holding()->isClosingDown()]);
    }

    public function testFillOrKillCountsOnlyWhatMayTradeToday(): void
    {
        $venue = new SimulatedVenue(new NoFeed());
        foreach ([[-1, 830, 5], [-2, 840, 5], [-3, 850, 5]] as [$id, $tick, $lots]) {
            $venue->flow($id, Side::Sell, $tick, $lots);
        }
        $venue->limitTo(PriceLimits::around(825, 15));
        $order = static fn(int $id, int $lots): WorkingOrder => new WorkingOrder(
            $id, 1, Side::Buy, OrderKind::Limit, $lots, 860, null, false, false, null, null, null, TimeInForce::FillOrKill,
        );
        $venue->submit($order(1, 11));
        self::assertSame(0, $venue->position(1), 'ten lots stand within the limit of 840, and no more');
        $venue->submit($order(2, 10));
        self::assertSame(10, $venue->position(1));
    }

    public function testAMarketOrderTakesWhatIsWithinTheLimitsAndTheRestGoesOnWhenTheyMove(): void
    {
        $venue = new SimulatedVenue(new NoFeed());
        $venue->flow(-1, Side::Sell, 840, 2);
        $venue->flow(-2, Side::Sell, 841, 9);
        $venue->limitTo(PriceLimits::around(825, 15));
        $venue->submit(new WorkingOrder(1, 1, Side::Buy, OrderKind::Market, 6, null, null, false, false, null, null, null));
        self::assertSame(2, $venue->position(1));
        $venue->outcomes();
        $venue->limitTo(PriceLimits::around(840, 15));
        self::assertSame(6, $venue->position(1));
        $prints = array_values(array_filter($venue->outcomes(), static fn($o): bool => $o instanceof TradePrint));
        self::assertSame([[841, 4]], array_map(static fn(TradePrint $p): array => [$p->tick, $p->lots], $prints));
        $venue->limitTo(null);
        $venue->flow(-3, Side::Buy, 2000, 1);
        self::assertSame(841, $venue->last()?->tick, 'without limits any price is taken, and the best one first');
    }

    public function testAnOrderOfTheFlowBeyondTheLimitsComesToRestAtThem(): void
    {
        $venue = new SimulatedVenue(new NoFeed());
        $venue->limitTo(PriceLimits::around(825, 15));
        $venue->flow(-1, Side::Sell, 900, 3);
        $venue->flow(-2, Side::Buy, 700, 4);
        self::assertSame([840, 810], [$venue->book->bestAsk(), $venue->book->bestBid()]);
        self::assertSame([840, 810, 826], array_map($venue->nearestAllowed(...), [900, 1, 826]));
    }

    public function testTheLimitsOutliveARestart(): void
    {
        $this->system->restart();
        $this->system->push(40);
        self::assertSame(self::HIGH, $this->system->last());
    }
}
