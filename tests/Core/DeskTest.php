<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\EventCodec;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

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
        yield [
            ['exit_plan' => ['name' => 'x', 'stop' => ['ticks' => 7], 'ratchets' => [['at' => 7, 'lock' => 0], ['at' => 5, 'lock' => 0]]]],
            'invalid', '/exit_plan/ratchets/1/at',
        ];
        yield [['exit_plan' => ['name' => 'x', 'stop' => ['money' => '1.00']]], 'plan-does-not-fit', '/exit_plan'];
        yield [['closing' => 'close'], 'nothing-to-close', '/closing'];
        yield [['colour' => 'red'], 'invalid', '/colour'];
        yield [['client_id' => ''], 'invalid', '/client_id'];
    }

    /** @param array<string, mixed> $fields */
    #[DataProvider('badOrders')]
    public function testABadOrderIsRefusedAndChangesNothing(array $fields, string $problem, ?string $pointer): void
    {
        $system = new TestSystem();
        $refusal = $system->refusal(
            'place',
            $fields + ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'],
        );
        self::assertSame([$problem, $pointer], [$refusal->problem->value, $refusal->pointer], $refusal->getMessage());
        self::assertSame([], $system->working());
        self::assertSame('refused', EventCodec::type($system->events[count($system->events) - 1]->event));
    }

    public function testTheSameClientIdGivesTheSameOrderAndAnotherBodyIsRefused(): void
    {
        $system = new TestSystem();
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'client_id' => 'once'];
        $first = $system->handle('place', $body);
        $again = $system->handle('place', $body);
        self::assertSame([$first->body, true, 1], [$again->body, $again->repeated, $system->lots()]);
        self::assertSame('client-id-reused', $system->refusal('place', ['quantity' => 2] + $body)->problem->value);
    }

    public function testARefusedCommandDoesNotUseItsClientIdUp(): void
    {
        $system = new TestSystem();
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'kind' => 'market', 'client_id' => 'once'];
        $system->refusal('place', $body + ['quantity' => 0]);
        $system->handle('place', $body + ['quantity' => 1]);
        self::assertSame(1, $system->lots());
    }

    public function testPositionLimitCountsWorkingEntries(): void
    {
        $system = new TestSystem();
        $system->place('buy', 20);
        $system->place('buy', 15, 'limit', '400.00');
        $refusal = $system->refusal('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 6, 'kind' => 'market']);
        self::assertSame('position-limit', $refusal->problem->value);
        self::assertStringContainsString('6 lots asked, 5 left of the position limit of 40: 20 open, 15 working', $refusal->getMessage());
        $system->place('sell', 20);
        self::assertSame(0, $system->lots(), 'a close is never refused for size');
    }

    public function testPreviewSaysWhatWouldHappenAndSendsNothing(): void
    {
        $system = new TestSystem();
        $preview = $system->system->desk->queries->preview(
            1,
            [
                'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'stop', 'trigger' => '414.50',
                'exit_plan' => TestSystem::plan(),
            ],
        );
        self::assertSame('Buy 2 stop 414.50 · Short tide · risk 35.00 + 2.48 fees', $preview['words']);
        self::assertSame(
            ['2 lots: 1 at +9, 1 runs', '35.00', '22.50', '410.00', '2.48', null],
            [$preview['split_words'], $preview['risk'], $preview['reward'], $preview['margin'], $preview['fees'], $preview['refusal']],
        );
        $system->place('buy', 3, plan: TestSystem::plan());
        $closing = $system->system->desk->queries->preview(
            1,
            ['contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => 2, 'kind' => 'market'],
        );
        self::assertSame('Sell 2 market · closes 2 of 3', $closing['words']);
        $through = $system->system->desk->queries->preview(
            1,
            ['contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => 4, 'kind' => 'market', 'closing' => 'through'],
        );
        self::assertSame('Sell 4 market · closes 3, opens short 1 · no exit plan · no stop: unlimited risk', $through['words']);
    }

    public function testFlattenTakesEverythingOffAndIsSafePressedTwice(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('buy', 2, 'limit', '400.00', TestSystem::plan());
        $system->place('sell', 1, 'limit', '430.00');
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame(0, $system->lots());
        self::assertFalse($system->holding()->isClosingDown());
    }

    public function testACloseSentWhileFlatteningDoesNotStandInItsWay(): void
    {
        $system = new TestSystem(delaySteps: 2);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->step(12);
        self::assertSame(2, $system->lots());
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $hand = $system->place('sell', 1, 'limit', TestSystem::contract()->price($system->last() + 20));
        for ($i = 0; $i < 40 && $system->holding()->isClosingDown(); $i++) {
            $system->step(5);
        }
        self::assertSame(0, $system->lots());
        self::assertSame(OrderState::Cancelled, $system->order($hand)->state);
    }

    public function testWhileFlatteningTheStopsStayUntilTheCloseHasFilled(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->step(20);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $system->step(4);
        self::assertTrue($system->holding()->isClosingDown());
        self::assertCount(2, $system->working(Role::Stop));
        self::assertSame(
            'flattening',
            $system->refusal(
                'place',
                ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'],
            )->problem->value,
        );
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $system->step(30);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        $sent = count(array_filter($system->words(), static fn(string $w): bool => str_ends_with($w, 'sent: flatten')));
        self::assertSame(1, $sent, 'pressed twice, one close');
    }

    public function testReverseEntersTheOtherSideOnlyOnceFlat(): void
    {
        $system = new TestSystem();
        self::assertSame('flat', $system->refusal('reverse', ['contract' => TestSystem::CODE])->problem->value);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->handle('reverse', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":5}')]);
        self::assertSame(-2, $system->lots());
        self::assertSame([1 => 5], $system->stops($system->average()));
    }

    public function testAReverseThatWouldBeRefusedDoesNothing(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        self::assertSame(
            'plan-does-not-fit',
            $system->refusal(
                'reverse',
                ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"money":"1.00"}')],
            )->problem->value,
        );
        self::assertSame(2, $system->lots());
        self::assertCount(2, $system->stops());
    }

    public function testStopsGoToBreakEvenOnlyWhereThatTightensAndIsNotPassed(): void
    {
        $system = new TestSystem();
        self::assertSame('flat', $system->refusal('break-even', ['contract' => TestSystem::CODE])->problem->value);
        $system->place(
            'buy',
            2,
            plan: TestSystem::plan('"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":20}},{"rest":true,"target":null}],"ratchets":[{"at":9,"lock":4}]'),
        );
        $at = $system->average();
        $system->push($at - 2 - $system->last());
        self::assertSame('stop-passed', $system->refusal('break-even', ['contract' => TestSystem::CODE])->problem->value);
        $system->push(5);
        $system->handle('break-even', ['contract' => TestSystem::CODE]);
        self::assertSame([1 => 0, 2 => 0], $system->stops($at));
        self::assertSame('nothing-to-move', $system->refusal('break-even', ['contract' => TestSystem::CODE])->problem->value);
        $system->push(6);
        self::assertSame([1 => 4, 2 => 4], $system->stops($at), 'the ratchets stay on');
    }

    public function testHalfOffClosesHalfRoundedDownAndItsExitsGoWithIt(): void
    {
        $system = new TestSystem();
        $system->place('buy', 3, plan: TestSystem::plan());
        $system->handle('half-off', ['contract' => TestSystem::CODE]);
        self::assertSame([2, 2], [$system->lots(), array_sum(array_map(static fn($o): int => $o->leaves(), $system->working(Role::Stop)))]);
        $system->handle('half-off', ['contract' => TestSystem::CODE]);
        self::assertSame('no-half', $system->refusal('half-off', ['contract' => TestSystem::CODE])->problem->value);
    }

    public function testCancelAllTakesEntriesAndHandMadeOrdersAndKeepsTheStops(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('buy', 1, 'limit', '400.00');
        $system->place('sell', 1, 'limit', '430.00');
        $sells = $system->handle('cancel-many', ['contract' => TestSystem::CODE, 'sides' => ['sell']])->body;
        self::assertSame([1, 2], [count($sells['cancelled']), $sells['stops_kept']]);
        self::assertCount(1, $system->handle('cancel-many', ['contract' => TestSystem::CODE])->body['cancelled']);
        self::assertSame([Role::Stop, Role::Target, Role::Stop], array_map(static fn($o): Role => $o->role, $system->working()));
        $refusal = $system->refusal('cancel-many', ['contract' => TestSystem::CODE, 'exits' => true]);
        self::assertSame(['would-unprotect', ['unprotected' => 2]], [$refusal->problem->value, $refusal->facts]);
        $system->handle('cancel-many', ['contract' => TestSystem::CODE, 'exits' => true, 'leave_unprotected' => true]);
        self::assertSame([2, []], [$system->holding()->coverage()->unprotected(), $system->working()]);
    }

    public function testModifyChangesPriceAndLotsAndRefusesWhatMakesNoSense(): void
    {
        $system = new TestSystem();
        $id = $system->place('buy', 2, 'limit', '400.00');
        $system->handle('modify', ['order' => $id, 'price' => '401.00', 'quantity' => 3]);
        self::assertSame(
            [802, 3, OrderState::New],
            [$system->order($id)->price, $system->order($id)->quantity, $system->order($id)->state],
        );
        self::assertSame('price-off-grid', $system->refusal('modify', ['order' => $id, 'price' => '401.10'])->problem->value);
        self::assertSame('order-limit', $system->refusal('modify', ['order' => $id, 'quantity' => 30])->problem->value);
        self::assertSame('nothing-to-change', $system->refusal('modify', ['order' => $id])->problem->value);
        $stop = $system->place('buy', 1, 'stop', '430.00');
        self::assertSame('stop-passed', $system->refusal('modify', ['order' => $stop, 'trigger' => '400.00'])->problem->value);
        $system->handle('cancel', ['order' => $id]);
        self::assertSame('order-final', $system->refusal('modify', ['order' => $id, 'price' => '400.00'])->problem->value);
        self::assertSame('not-found', $system->refusal('cancel', ['order' => 99])->problem->value);
    }

    public function testALimitMovedToTheAskFills(): void
    {
        $system = new TestSystem();
        $id = $system->place('buy', 1, 'limit', '400.00');
        $system->handle(
            'modify',
            ['order' => $id, 'price' => TestSystem::contract()->price((int) $system->system->desk->quote(TestSystem::CODE)->ask)],
        );
        self::assertSame([OrderState::Filled, 1], [$system->order($id)->state, $system->lots()]);
    }

    public function testTheLotsOfAnExitFollowItsPortion(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        self::assertSame(
            'exit-lots',
            $system->refusal('modify', ['order' => $system->working(Role::Stop)[0]->id, 'quantity' => 5])->problem->value,
        );
    }

    public function testAveragesAndResultsAreExact(): void
    {
        $position = new \Lotrik\Position\Position();
        $position->fill(\Lotrik\Order\Side::Buy, 1, 825);
        $position->fill(\Lotrik\Order\Side::Buy, 2, 826);
        self::assertSame('412.83333333', TestSystem::contract()->averagePrice($position->average));
        $position->fill(\Lotrik\Order\Side::Sell, 1, 828);
        self::assertSame('7/3', (string) $position->realised);
        $position->fill(\Lotrik\Order\Side::Sell, 3, 828);
        self::assertSame(['7', -1, '828'], [(string) $position->realised, $position->lots, (string) $position->average]);
    }
}
