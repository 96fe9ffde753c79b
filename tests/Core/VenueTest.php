<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\Simulated\NoFeed;
use Lotrik\Venue\Simulated\SimulatedVenue;
use Lotrik\Venue\WorkingOrder;
use PHPUnit\Framework\TestCase;

/** What the venue keeps inside one sweep, before its next fill. */
final class VenueTest extends TestCase
{
    private SimulatedVenue $venue;

    private int $flow = -1;

    protected function setUp(): void
    {
        $this->venue = new SimulatedVenue(new NoFeed());
        for ($i = 0; $i < 10; $i++) {
            $this->flow(Side::Sell, 101 + $i, 5);
            $this->flow(Side::Buy, 99 - $i, 5);
        }
        $this->flow(Side::Buy, 101, 1);
        $this->venue->outcomes();
    }

    private function flow(Side $side, int $tick, int $lots): void
    {
        $this->venue->flow($this->flow--, $side, $tick, $lots);
    }

    /** @return list<string> "type order lots@price" of each report */
    private function reports(): array
    {
        return array_values(array_map(
            static fn(ExecutionReport $r): string => trim("{$r->type->name} {$r->order} ".($r->type === ExecType::Filled ? "$r->lots@$r->price" : ($r->type === ExecType::Reduced ? "-$r->lots" : ''))),
            array_filter($this->venue->outcomes(), static fn($o): bool => $o instanceof ExecutionReport),
        ));
    }

    private function long(int $lots): void
    {
        $this->venue->submit(new WorkingOrder(1, 1, Side::Buy, OrderKind::Market, $lots));
        $this->venue->outcomes();
    }

    /** Each report has an id of its own, and says what has filled in all and what is left, over a checkpoint too. */
    public function testReportsAreNumberedAndCount(): void
    {
        $this->venue->submit(new WorkingOrder(7, 1, Side::Buy, OrderKind::Limit, 12, price: 101));
        $packed = json_decode(json_encode($this->venue->pack(), JSON_THROW_ON_ERROR), true);
        $told = $this->venue->outcomes();
        $this->venue = SimulatedVenue::unpack($packed, new NoFeed());
        $this->flow(Side::Sell, 101, 3);
        $this->venue->replace(7, -2, null, null);
        $this->venue->submit(new WorkingOrder(8, 1, Side::Buy, OrderKind::Stop, 1, trigger: 90));
        $this->venue->cancel(7, 'test');
        $reports = array_filter([...$told, ...$this->venue->outcomes()], static fn($o): bool => $o instanceof ExecutionReport);
        self::assertSame(
            [
                ['Accepted', 7, 0, 12], ['Filled', 7, 4, 8], ['Filled', 7, 7, 5], ['Replaced', 7, 7, 3], ['Refused', 8, 0, 0],
                ['Cancelled', 7, 7, 0],
            ],
            array_values(array_map(static fn($r): array => [$r->type->name, $r->order, $r->cumulative, $r->left], $reports)),
        );
        $ids = array_map(static fn($r): string => $r->execution, $reports);
        self::assertSame($ids, array_unique($ids));
    }

    /** Outside the session nothing matches, whoever sends it. */
    public function testAShutVenueMatchesNothing(): void
    {
        $this->long(2);
        $this->venue->shut();
        $this->flow(Side::Sell, 95, 40);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 2, price: 99, reduceOnly: true, exit: true));
        $this->venue->submit(new WorkingOrder(3, 2, Side::Buy, OrderKind::Market, 1));
        self::assertSame(['Accepted 2', 'Refused 3'], $this->reports());
        self::assertSame([99, 101], [$this->venue->book->bestBid(), $this->venue->book->bestAsk()]);
        $this->venue->open();
        self::assertSame(['Filled 2 2@99'], $this->reports());
    }

    /** What waited for the open and finds nobody there rests where it is to be seen. */
    public function testALimitThatWaitedForTheOpenRestsWhereNobodyIsThereAnyMore(): void
    {
        $this->long(2);
        $this->venue->shut();
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 2, price: 99, reduceOnly: true, exit: true));
        foreach ($this->venue->book->levels(Side::Buy) as $level) {
            for ($order = $level->first; $order !== null; $order = $next) {
                $next = $order->behind;
                $this->venue->cancelFlow($order->id);
            }
        }
        self::assertNull($this->venue->book->order(2));
        $this->venue->open();
        self::assertSame(99, $this->venue->book->order(2)?->tick);
    }

    /** A stop that the market had passed when it came to a shut venue closes at the open; one that was moved away again does not. */
    public function testAStopThatWasPassedWhileShutClosesAtTheOpen(): void
    {
        $this->long(2);
        $this->venue->shut();
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Stop, 1, trigger: 103, reduceOnly: true, exit: true));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Stop, 1, trigger: 103, reduceOnly: true, exit: true));
        $this->venue->replace(3, 0, null, 90);
        self::assertSame(['Accepted 2', 'Accepted 3', 'Replaced 3'], $this->reports());
        $this->venue->open();
        self::assertSame(['Triggered 2', 'Filled 2 1@99'], $this->reports());
    }

    public function testTheTriggersTradeComesFirstAndTheStopFillsAtTheMarket(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Stop, 3, trigger: 103));
        $this->flow(Side::Buy, 103, 15);
        self::assertSame(['Accepted 2', 'Triggered 2', 'Filled 2 3@104'], $this->reports());
    }

    public function testAPassedEntryStopIsRefusedAndAPassedExitClosesAtTheMarket(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Stop, 1, trigger: 101));
        self::assertSame(['Refused 2'], $this->reports());
        $this->long(2);
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Stop, 2, trigger: 101, reduceOnly: true, exit: true, pair: 1));
        self::assertSame(['Accepted 3', 'Triggered 3', 'Filled 3 2@99'], $this->reports());
    }

    public function testChangingOnlyTheLotsOfAStopDoesNotSetItOffWhereTheQuoteAloneHasPassedIt(): void
    {
        $this->long(3);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Stop, 2, trigger: 98, reduceOnly: true, exit: true, pair: 1));
        // The bids above the trigger are pulled and an ask comes in below it: the quote has passed the stop, no trade has.
        for ($tick = 99; $tick >= 95; $tick--) {
            $first = $this->venue->book->level(Side::Buy, $tick)?->first;
            self::assertNotNull($first);
            $this->venue->cancelFlow($first->id);
        }
        $this->flow(Side::Sell, 97, 5);
        $this->reports();
        $this->venue->replace(2, 1, null, null);
        self::assertSame(['Replaced 2'], $this->reports());
        $this->venue->replace(2, 0, null, 99);
        self::assertSame(['Replaced 2', 'Triggered 2', 'Filled 2 3@94'], $this->reports());
    }

    /** FIX 5.0 SP2, ContingencyType (1385) 3, One Updates the Other, absolute: a fill of one lowers the other by as many lots; from memory. */
    public function testAFillOfOneOfAPairLowersTheOtherByTheSameLots(): void
    {
        $this->long(3);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 3, price: 103, reduceOnly: true, exit: true, pair: 1));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Stop, 3, trigger: 95, reduceOnly: true, exit: true, pair: 1));
        $this->reports();
        $this->flow(Side::Buy, 103, 13);
        self::assertSame(['Filled 2 2@103', 'Reduced 3 -2'], $this->reports());
        self::assertSame(1, $this->venue->position(1));
    }

    public function testThePairHoldsWhereThePositionIsLargerThanAllItsPairs(): void
    {
        $this->long(5);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 2, price: 103, reduceOnly: true, exit: true, pair: 1));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Stop, 2, trigger: 95, reduceOnly: true, exit: true, pair: 1));
        $this->reports();
        $this->flow(Side::Buy, 103, 100);
        self::assertSame(['Filled 2 2@103', 'Cancelled 3'], $this->reports());
    }

    /** FIX 5.0 SP2, ContingencyType (1385) 1, One Cancels the Other; from memory. */
    public function testTheFirstFillOfAnOcoCancelsTheOtherWithinTheSweep(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 2, price: 102, oco: 9));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Limit, 2, price: 103, oco: 9));
        $this->reports();
        $this->flow(Side::Buy, 104, 100);
        self::assertSame(['Filled 2 2@102', 'Cancelled 3'], $this->reports());
    }

    public function testATriggerCancelsTheOtherOfAnOcoBeforeTheNextFillOfTheSweep(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Stop, 1, trigger: 102, oco: 9));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Limit, 2, price: 103, oco: 9));
        $this->reports();
        $this->flow(Side::Buy, 103, 40);
        self::assertSame(['Triggered 2', 'Cancelled 3', 'Filled 2 1@104'], $this->reports());
    }

    public function testReduceOnlyNeverFlipsAndShrinksWithThePosition(): void
    {
        $this->long(3);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Stop, 1, trigger: 95, reduceOnly: true, exit: true, pair: 10));
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Stop, 2, trigger: 95, reduceOnly: true, exit: true, pair: 20));
        $this->venue->submit(new WorkingOrder(4, 1, Side::Sell, OrderKind::Limit, 3, price: 110, reduceOnly: true));
        $this->reports();
        $this->venue->submit(new WorkingOrder(5, 1, Side::Sell, OrderKind::Market, 2, reduceOnly: true));
        self::assertSame(['Accepted 5', 'Filled 5 2@99', 'Reduced 4 -2', 'Cancelled 2', 'Reduced 3 -1'], $this->reports());
        $this->flow(Side::Sell, 95, 60);
        self::assertSame(['Triggered 3', 'Filled 3 1@94', 'Cancelled 4'], $this->reports());
        self::assertSame(0, $this->venue->position(1));
    }

    public function testAReversalIsTwoFillsWithTheOldExitsGoneInBetween(): void
    {
        $this->long(2);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Stop, 2, trigger: 90, reduceOnly: true, exit: true, pair: 1));
        $this->reports();
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Market, 3));
        self::assertSame(['Accepted 3', 'Filled 3 2@99', 'Cancelled 2', 'Filled 3 1@99'], $this->reports());
    }

    public function testOrdersOfOneAccountNeverTrade(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Limit, 2, price: 100));
        $this->reports();
        $this->venue->submit(new WorkingOrder(3, 1, Side::Sell, OrderKind::Limit, 1, price: 100));
        self::assertSame(['Accepted 3', 'Cancelled 2'], $this->reports());
    }

    public function testAnEntryGivesWayToAnExitOfTheSameAccount(): void
    {
        $this->long(2);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Limit, 2, price: 100, reduceOnly: true, exit: true, pair: 1));
        $this->reports();
        $this->venue->submit(new WorkingOrder(3, 1, Side::Buy, OrderKind::Limit, 4, price: 100));
        self::assertSame(['Accepted 3', 'Cancelled 3'], $this->reports());
    }

    public function testWhatAMarketOrderCannotFillKeepsWorking(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Market, 60));
        $filled = $this->venue->position(1);
        self::assertLessThan(60, $filled);
        $this->venue->outcomes();
        $this->flow(Side::Sell, 120, 100);
        self::assertSame(60, $this->venue->position(1));
        self::assertSame(['Filled 2 '.(60 - $filled).'@120'], $this->reports());
    }

    public function testARaisedOrderLosesItsPlaceAndALoweredOneKeepsIt(): void
    {
        $this->venue->submit(new WorkingOrder(2, 1, Side::Buy, OrderKind::Limit, 4, price: 100));
        $this->flow(Side::Buy, 100, 5);
        $this->venue->replace(2, -1, null, null);
        self::assertSame(0, $this->venue->book->ahead(2));
        $this->venue->replace(2, 1, null, null);
        self::assertSame(5, $this->venue->book->ahead(2));
    }

    public function testAMarketThatWasPackedGoesOnTheSame(): void
    {
        $this->long(2);
        $this->venue->submit(new WorkingOrder(2, 1, Side::Sell, OrderKind::Stop, 2, trigger: 95, reduceOnly: true, exit: true, pair: 1));
        $this->venue->submit(new WorkingOrder(3, 2, Side::Buy, OrderKind::Limit, 2, price: 97));
        $packed = json_decode(json_encode($this->venue->pack(), JSON_THROW_ON_ERROR), true);
        $again = SimulatedVenue::unpack($packed, new NoFeed());
        foreach ([$this->venue, $again] as $venue) {
            $venue->outcomes();
            $venue->flow(-900, Side::Sell, 93, 70);
        }
        self::assertEquals($this->venue->outcomes(), $again->outcomes());
        self::assertSame($this->venue->pack(), $again->pack());
    }
}
