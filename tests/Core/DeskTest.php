<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\EventCodec;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** Commands: what is taken, what is refused and why, flatten, reverse, cancel. */
final class DeskTest extends TestCase
{
    /** @return iterable<array{array<string, mixed>, string, string|null}> */
    public static function badOrders(): iterable
    {
        yield [['price' => '412.30', 'kind' => 'limit'], 'price-off-grid', '/price'];
        yield [['quantity' => 0], 'invalid', '/quantity'];
        yield [['quantity' => -2], 'invalid', '/quantity'];
        yield [['quantity' => 1.5], 'invalid', '/quantity'];
        yield [['quantity' => 5_000_000], 'invalid', '/quantity'];
        yield [['quantity' => 21], 'order-limit', '/quantity'];
        yield [['contract' => 'XXXZ9'], 'unknown-contract', '/contract'];
        yield [['side' => 'long'], 'invalid', '/side'];
        yield [['kind' => 'iceberg'], 'invalid', '/kind'];
        yield [['kind' => 'limit'], 'invalid', '/price'];
        yield [['price' => '412.50'], 'invalid', '/price'];
        yield [['kind' => 'stop', 'trigger' => '350.00'], 'stop-passed', '/trigger'];
        yield [['exit_plan' => ['name' => 'x']], 'invalid', '/exit_plan'];
        yield [['exit_plan' => ['name' => 'x', 'stop' => ['ticks' => 7], 'ratchets' => [['at' => 7, 'lock' => 0], ['at' => 5, 'lock' => 0]]]], 'invalid', '/exit_plan/ratchets/1/at'];
        yield [['exit_plan' => ['name' => 'x', 'stop' => ['money' => '1.00']]], 'plan-does-not-fit', '/exit_plan'];
        yield [['closing' => 'close'], 'nothing-to-close', '/closing'];
        yield [['colour' => 'red'], 'invalid', '/colour'];
        yield [['client_id' => ''], 'invalid', '/client_id'];
    }

    /** @param array<string, mixed> $fields */
    #[DataProvider('badOrders')]
    public function testABadOrderIsRefusedAndChangesNothing(array $fields, string $problem, ?string $pointer): void
    {
        $floor = new TestFloor();
        $refusal = $floor->refusal('place', $fields + ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        self::assertSame([$problem, $pointer], [$refusal->problem, $refusal->pointer], $refusal->getMessage());
        self::assertSame([], $floor->working());
        self::assertSame('refused', EventCodec::type($floor->events[count($floor->events) - 1]->event));
    }

    public function testTheSameClientIdGivesTheSameOrderAndAnotherBodyIsRefused(): void
    {
        $floor = new TestFloor();
        $body = ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'client_id' => 'once'];
        $first = $floor->take('place', $body);
        $again = $floor->take('place', $body);
        self::assertSame([$first->body, true, 1], [$again->body, $again->repeated, $floor->lots()]);
        self::assertSame('client-id-reused', $floor->refusal('place', ['quantity' => 2] + $body)->problem);
    }

    public function testARefusedCommandDoesNotUseItsClientIdUp(): void
    {
        $floor = new TestFloor();
        $body = ['contract' => TestFloor::CODE, 'side' => 'buy', 'kind' => 'market', 'client_id' => 'once'];
        $floor->refusal('place', $body + ['quantity' => 0]);
        $floor->take('place', $body + ['quantity' => 1]);
        self::assertSame(1, $floor->lots());
    }

    public function testPositionLimitCountsWorkingEntries(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 20);
        $floor->place('buy', 15, 'limit', '400.00');
        $refusal = $floor->refusal('place', ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 6, 'kind' => 'market']);
        self::assertSame('position-limit', $refusal->problem);
        self::assertStringContainsString('at most 5 more', $refusal->getMessage());
        $floor->place('sell', 20);
        self::assertSame(0, $floor->lots(), 'a close is never refused for size');
    }

    public function testPreviewSaysWhatWouldHappenAndSendsNothing(): void
    {
        $floor = new TestFloor();
        $preview = $floor->floor->desk->preview(1, ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'stop', 'trigger' => '414.50', 'exit_plan' => TestFloor::plan()]);
        self::assertSame('Buy 2 stop 414.50 · Short tide · risk 35.00 + 2.48 fees', $preview['words']);
        self::assertSame(['2 lots: 1 at +9, 1 runs', '35.00', '22.50', '410.00', '2.48', null], [$preview['split_words'], $preview['risk'], $preview['reward'], $preview['margin'], $preview['fees'], $preview['refusal']]);
        $floor->place('buy', 3, plan: TestFloor::plan());
        $closing = $floor->floor->desk->preview(1, ['contract' => TestFloor::CODE, 'side' => 'sell', 'quantity' => 2, 'kind' => 'market']);
        self::assertSame('Sell 2 market · closes 2 of 3', $closing['words']);
        $through = $floor->floor->desk->preview(1, ['contract' => TestFloor::CODE, 'side' => 'sell', 'quantity' => 4, 'kind' => 'market', 'closing' => 'through']);
        self::assertSame('Sell 4 market · closes 3, opens short 1 · no exit plan · risk no limit', $through['words']);
    }

    public function testFlattenTakesEverythingOffAndIsSafePressedTwice(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->place('buy', 2, 'limit', '400.00', TestFloor::plan());
        $floor->place('sell', 1, 'limit', '430.00');
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        self::assertSame(0, $floor->lots());
        self::assertFalse($floor->holding()->isClosingDown());
    }

    public function testACloseSentWhileFlatteningDoesNotStandInItsWay(): void
    {
        $floor = new TestFloor(delaySteps: 2);
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->step(12);
        self::assertSame(2, $floor->lots());
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $hand = $floor->place('sell', 1, 'stop', TestFloor::contract()->price($floor->last() - 2));
        for ($i = 0; $i < 40 && $floor->holding()->isClosingDown(); $i++) {
            $floor->step(5);
        }
        self::assertSame(0, $floor->lots());
        self::assertSame(OrderState::Cancelled, $floor->order($hand)->state);
    }

    public function testWhileFlatteningTheStopsStayUntilTheCloseHasFilled(): void
    {
        $floor = new TestFloor(delaySteps: 3);
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->step(20);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $floor->step(4);
        self::assertTrue($floor->holding()->isClosingDown());
        self::assertCount(2, $floor->working(Role::Stop));
        self::assertSame('flattening', $floor->refusal('place', ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->problem);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $floor->step(30);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        $sent = count(array_filter($floor->words(), static fn(string $w): bool => str_ends_with($w, 'sent: flatten')));
        self::assertSame(1, $sent, 'pressed twice, one close');
    }

    public function testReverseEntersTheOtherSideOnlyOnceFlat(): void
    {
        $floor = new TestFloor();
        self::assertSame('flat', $floor->refusal('reverse', ['contract' => TestFloor::CODE])->problem);
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->take('reverse', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":5}')]);
        self::assertSame(-2, $floor->lots());
        self::assertSame([1 => 5], $floor->stops($floor->average()));
    }

    public function testAReverseThatWouldBeRefusedDoesNothing(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        self::assertSame('plan-does-not-fit', $floor->refusal('reverse', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"money":"1.00"}')])->problem);
        self::assertSame(2, $floor->lots());
        self::assertCount(2, $floor->stops());
    }

    public function testStopsGoToBreakEvenOnlyWhereThatTightensAndIsNotPassed(): void
    {
        $floor = new TestFloor();
        self::assertSame('flat', $floor->refusal('break-even', ['contract' => TestFloor::CODE])->problem);
        $floor->place('buy', 2, plan: TestFloor::plan('"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":20}},{"rest":true,"target":null}],"ratchets":[{"at":9,"lock":4}]'));
        $at = $floor->average();
        $floor->push($at - 2 - $floor->last());
        self::assertSame('stop-passed', $floor->refusal('break-even', ['contract' => TestFloor::CODE])->problem);
        $floor->push(5);
        $floor->take('break-even', ['contract' => TestFloor::CODE]);
        self::assertSame([1 => 0, 2 => 0], $floor->stops($at));
        self::assertSame('nothing-to-move', $floor->refusal('break-even', ['contract' => TestFloor::CODE])->problem);
        $floor->push(6);
        self::assertSame([1 => 4, 2 => 4], $floor->stops($at), 'the ratchets stay on');
    }

    public function testHalfOffClosesHalfRoundedDownAndItsExitsGoWithIt(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 3, plan: TestFloor::plan());
        $floor->take('half-off', ['contract' => TestFloor::CODE]);
        self::assertSame([2, 2], [$floor->lots(), array_sum(array_map(static fn($o): int => $o->leaves(), $floor->working(Role::Stop)))]);
        $floor->take('half-off', ['contract' => TestFloor::CODE]);
        self::assertSame('no-half', $floor->refusal('half-off', ['contract' => TestFloor::CODE])->problem);
    }

    public function testCancelAllTakesEntriesAndHandMadeOrdersAndKeepsTheStops(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->place('buy', 1, 'limit', '400.00');
        $floor->place('sell', 1, 'limit', '430.00');
        $sells = $floor->take('cancel-many', ['contract' => TestFloor::CODE, 'sides' => ['sell']])->body;
        self::assertSame([1, 2], [count($sells['cancelled']), $sells['stops_kept']]);
        self::assertCount(1, $floor->take('cancel-many', ['contract' => TestFloor::CODE])->body['cancelled']);
        self::assertSame([Role::Stop, Role::Target, Role::Stop], array_map(static fn($o): Role => $o->role, $floor->working()));
        $refusal = $floor->refusal('cancel-many', ['contract' => TestFloor::CODE, 'exits' => true]);
        self::assertSame(['would-unprotect', ['unprotected' => 2]], [$refusal->problem, $refusal->facts]);
        $floor->take('cancel-many', ['contract' => TestFloor::CODE, 'exits' => true, 'leave_unprotected' => true]);
        self::assertSame([2, []], [$floor->holding()->unprotected(), $floor->working()]);
    }

    public function testModifyChangesPriceAndLotsAndRefusesWhatMakesNoSense(): void
    {
        $floor = new TestFloor();
        $id = $floor->place('buy', 2, 'limit', '400.00');
        $floor->take('modify', ['order' => $id, 'price' => '401.00', 'quantity' => 3]);
        self::assertSame([802, 3, OrderState::New], [$floor->order($id)->price, $floor->order($id)->quantity, $floor->order($id)->state]);
        self::assertSame('price-off-grid', $floor->refusal('modify', ['order' => $id, 'price' => '401.10'])->problem);
        self::assertSame('order-limit', $floor->refusal('modify', ['order' => $id, 'quantity' => 30])->problem);
        self::assertSame('nothing-to-change', $floor->refusal('modify', ['order' => $id])->problem);
        $stop = $floor->place('buy', 1, 'stop', '430.00');
        self::assertSame('stop-passed', $floor->refusal('modify', ['order' => $stop, 'trigger' => '400.00'])->problem);
        $floor->take('cancel', ['order' => $id]);
        self::assertSame('order-final', $floor->refusal('modify', ['order' => $id, 'price' => '400.00'])->problem);
        self::assertSame('not-found', $floor->refusal('cancel', ['order' => 99])->problem);
    }

    public function testALimitMovedToTheAskFills(): void
    {
        $floor = new TestFloor();
        $id = $floor->place('buy', 1, 'limit', '400.00');
        $floor->take('modify', ['order' => $id, 'price' => TestFloor::contract()->price((int) $floor->floor->desk->quote(TestFloor::CODE)->ask)]);
        self::assertSame([OrderState::Filled, 1], [$floor->order($id)->state, $floor->lots()]);
    }

    public function testTheLotsOfAnExitFollowItsPortion(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        self::assertSame('exit-lots', $floor->refusal('modify', ['order' => $floor->working(Role::Stop)[0]->id, 'quantity' => 5])->problem);
    }

    public function testAveragesAndResultsAreExact(): void
    {
        $position = new \Lotrik\Position\Position();
        $position->fill(\Lotrik\Order\Side::Buy, 1, 825);
        $position->fill(\Lotrik\Order\Side::Buy, 2, 826);
        self::assertSame('412.83333333', TestFloor::contract()->averagePrice($position->average));
        $position->fill(\Lotrik\Order\Side::Sell, 1, 828);
        self::assertSame('7/3', (string) $position->realised);
        $position->fill(\Lotrik\Order\Side::Sell, 3, 828);
        self::assertSame(['7', -1, '828'], [(string) $position->realised, $position->lots, (string) $position->average]);
    }
}
