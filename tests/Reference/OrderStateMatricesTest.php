<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\TimeInForce;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/**
 * The order state change matrices, row by row, for the kinds and durations that are built: after each message the
 * state, OrderQty, CumQty and LeavesQty. With a delay between desk and venue, so that the pending states are seen.
 *
 * Source: FIX 4.4, volume 4, appendix D (groups A to F), and FIX 5.0 SP2 ContingencyType (1385); the rows are written
 * down from memory, the letters name the group that a row belongs to.
 */
final class OrderStateMatricesTest extends TestCase
{
    /** Steps of 10 ms between desk and venue, each way. */
    private const DELAY = 3;

    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem(self::DELAY);
        $this->system->step(20);
    }

    private function arrive(): void
    {
        $this->system->step(2 * self::DELAY + 1);
    }

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    /** @param array{string, int, int, int} $row state, quantity, filled, leaves */
    private function row(int $order, array $row, string $what): void
    {
        $of = $this->system->order($order);
        self::assertSame($row, [$of->state->value, $of->quantity, $of->filled, $of->leaves()], $what);
    }

    private function far(string $kind = 'limit', int $lots = 4): int
    {
        return $this->system->place('buy', $lots, $kind, self::price($this->system->last() - 9));
    }

    /** Group A, vanilla: pending new, new, filled. */
    public function testAFilledOrder(): void
    {
        $id = $this->system->place('buy', 2);
        $this->row($id, ['pending-new', 2, 0, 2], 'sent');
        $this->arrive();
        $this->row($id, ['filled', 2, 2, 0], 'filled');
    }

    /** Group A: new, partially filled, filled. */
    public function testAnOrderFilledInParts(): void
    {
        $ask = (int) $this->system->system->market(TestSystem::CODE)->venue->book->bestAsk();
        $there = (int) $this->system->system->market(TestSystem::CODE)->venue->book->level(\Lotrik\Order\Side::Sell, $ask)?->lots;
        $lots = $there + 3;
        $id = $this->system->place('buy', $lots, 'limit', self::price($ask));
        $this->arrive();
        $this->row($id, ['partially-filled', $lots, $there, 3], 'what was there');
        $this->system->push(-2);
        $this->arrive();
        $this->row($id, ['filled', $lots, $lots, 0], 'the rest');
    }

    /** Group A: rejected. */
    public function testARejectedOrder(): void
    {
        $trigger = $this->system->last() + 3;
        $id = $this->system->place('buy', 2, 'stop', self::price($trigger));
        $this->system->push(4);
        $this->arrive();
        $this->row($id, ['rejected', 2, 0, 0], 'its trigger was passed on the way');
    }

    /** Group B: cancel request for an order with nothing filled. */
    public function testACancelOfAnUnfilledOrder(): void
    {
        $id = $this->far();
        $this->arrive();
        $this->row($id, ['new', 4, 0, 4], 'working');
        $this->system->handle('cancel', ['order' => $id]);
        $this->row($id, ['pending-cancel', 4, 0, 4], 'asked for');
        $this->arrive();
        $this->row($id, ['cancelled', 4, 0, 0], 'done');
    }

    /** Group B: fills while the cancel is pending; what is left is cancelled, or nothing is and the order is filled. */
    public function testFillsThatCrossACancel(): void
    {
        $id = $this->far();
        $this->arrive();
        $this->system->handle('cancel', ['order' => $id]);
        $this->system->push(-10);
        $this->row($id, ['pending-cancel', 4, 0, 4], 'the fill is still on its way');
        $this->arrive();
        $this->row($id, ['filled', 4, 4, 0], 'the fill came first');
    }

    /** Group C: replace to raise the quantity. */
    public function testAReplaceThatRaisesTheQuantity(): void
    {
        $id = $this->far();
        $this->arrive();
        $this->system->handle('modify', ['order' => $id, 'quantity' => 6]);
        $this->row($id, ['pending-replace', 4, 0, 4], 'asked for');
        $this->arrive();
        $this->row($id, ['new', 6, 0, 6], 'done');
    }

    /** Group C: a fill crosses the raise: both count. */
    public function testARaiseThatAFillCrosses(): void
    {
        $id = $this->far();
        $this->arrive();
        $this->system->handle('modify', ['order' => $id, 'quantity' => 6]);
        $this->system->push(-10);
        $this->arrive();
        $this->arrive();
        $of = $this->system->order($id);
        self::assertSame($of->quantity, $of->filled + $of->leaves());
        self::assertGreaterThanOrEqual(4, $of->filled);
    }

    /** Group D: replace of the price alone; quantity and what has filled stay. */
    public function testAReplaceOfThePrice(): void
    {
        $id = $this->far();
        $this->arrive();
        $this->system->handle('modify', ['order' => $id, 'price' => self::price($this->system->last() - 12)]);
        $this->row($id, ['pending-replace', 4, 0, 4], 'asked for');
        $this->arrive();
        $this->row($id, ['new', 4, 0, 4], 'done');
    }

    /** Group E: replace to lower the quantity; below what has filled is refused. */
    public function testAReplaceThatLowersTheQuantity(): void
    {
        $ask = (int) $this->system->system->market(TestSystem::CODE)->venue->book->bestAsk();
        $there = (int) $this->system->system->market(TestSystem::CODE)->venue->book->level(\Lotrik\Order\Side::Sell, $ask)?->lots;
        $id = $this->system->place('buy', $there + 3, 'limit', self::price($ask));
        $this->arrive();
        $this->row($id, ['partially-filled', $there + 3, $there, 3], 'part filled');
        self::assertSame('below-filled', $this->system->refusal('modify', ['order' => $id, 'quantity' => $there])->problem->value);
        $this->system->handle('modify', ['order' => $id, 'quantity' => $there + 2]);
        $this->arrive();
        $this->row($id, ['partially-filled', $there + 2, $there, 2], 'lowered');
    }

    /** Group F: fill or kill that cannot be filled; immediate or cancel that fills in part, in whole, not at all. */
    public function testImmediateOrders(): void
    {
        $book = $this->system->system->market(TestSystem::CODE)->venue->book;
        $ask = (int) $book->bestAsk();
        $there = (int) $book->level(\Lotrik\Order\Side::Sell, $ask)?->lots;
        $kill = $this->system->place('buy', $there + 1, 'limit', self::price($ask), more: ['tif' => 'fok']);
        $this->arrive();
        $this->row($kill, ['rejected', $there + 1, 0, 0], 'fill or kill, killed');
        $none = $this->system->place('buy', 2, 'limit', self::price($ask - 5), more: ['tif' => 'ioc']);
        $this->arrive();
        $this->row($none, ['cancelled', 2, 0, 0], 'nothing there');
        $part = $this->system->place('buy', $there + 2, 'limit', self::price($ask), more: ['tif' => 'ioc']);
        $this->arrive();
        $this->row($part, ['cancelled', $there + 2, $there, 0], 'in part');
    }

    /** Suspended (OrdStatus 9) until the release time, then new; expired (OrdStatus C) when its date has come. */
    public function testHeldAndExpiredOrders(): void
    {
        $id = $this->system->place(
            'buy',
            2,
            'limit',
            self::price($this->system->last() - 9),
            more: ['release_at' => $this->system->in(300), 'tif' => 'gtd', 'expires_at' => $this->system->in(900)],
        );
        $this->row($id, ['suspended', 2, 0, 2], 'held');
        $this->system->step(35);
        $this->arrive();
        $this->row($id, ['new', 2, 0, 2], 'released');
        $this->system->step(60);
        $this->arrive();
        $this->row($id, ['expired', 2, 0, 0], 'its date has come');
    }

    /** No final state is ever left, whatever comes; the kinds and durations have their FIX codes. */
    public function testFinalStatesAreFinal(): void
    {
        foreach (OrderState::cases() as $from) {
            foreach (OrderState::cases() as $to) {
                if ($from->isFinal()) {
                    self::assertFalse($from->canBecome($to), "{$from->value} to {$to->value}");
                }
            }
        }
        // OrdType (40): 1 Market, 2 Limit, 3 Stop, 4 Stop Limit, J Market If Touched.
        self::assertSame(['market', 'limit', 'stop', 'stop-limit', 'mit'], array_column(OrderKind::cases(), 'value'));
        // TimeInForce (59): 0 Day, 1 GTC, 6 GTD, 3 IOC, 4 FOK.
        self::assertSame(['day', 'gtc', 'gtd', 'ioc', 'fok'], array_column(TimeInForce::cases(), 'value'));
    }
}
