<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Command\StepsDone;
use Lotrik\Desk\Event\Command\StepsStopped;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Refusal\RefusalCode;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** An action key of several steps: checked whole, then taken one after the other, each when the one before has come through. */
final class StepsTest extends TestCase
{
    /**
     * @param list<array<string, mixed>> $steps
     *
     * @return array<string, mixed>
     */
    private static function key(array $steps, string $name = 'Fade'): array
    {
        return ['contract' => TestSystem::CODE, 'name' => $name, 'steps' => $steps];
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function order(TestSystem $system, string $side, int $lots, int $off, array $more = []): array
    {
        return ['do' => 'order', 'order' => $more + [
            'side' => $side, 'quantity' => $lots, 'kind' => 'limit', 'price' => TestSystem::contract()->price($system->last() + $off),
        ]];
    }

    /** @return list<string> */
    private static function stopped(TestSystem $system): array
    {
        return array_map(static fn(StepsStopped $e): string => "{$e->number}: {$e->because}", $system->eventsOf(StepsStopped::class));
    }

    private static function price(TestSystem $system, int $off): string
    {
        return TestSystem::contract()->price($system->last() + $off);
    }

    public function testWhatComesAfterACancelWaitsUntilTheCancelHasComeThrough(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $old = $system->place('buy', 2, 'limit', self::price($system, -4));
        $system->step(10);
        $system->handle('steps', self::key([['do' => 'cancel-all'], self::order($system, 'sell', 2, 5)]));
        $system->step(4);
        self::assertSame([$old], array_map(static fn($o): int => $o->id, $system->working()), 'the cancel is on its way, the order is not');
        $system->step(10);
        self::assertSame(OrderState::Cancelled, $system->order($old)->state);
        self::assertSame(['sell 2'], array_map(static fn($o): string => "{$o->side->value} {$o->quantity}", $system->working()));
        self::assertSame('by hand', $system->working()[0]->why);
        self::assertCount(1, $system->eventsOf(StepsDone::class));
        self::assertContains('Fade, step 1 of 2: cancel all', $system->words());
        self::assertContains('Fade, step 2 of 2: order', $system->words());
    }

    /** The old order fills while its cancel is on the way: the new one on top would be twice the lots that were meant. */
    public function testACancelThatComesTooLateStopsWhatWasToFollow(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $system->place('buy', 2, 'limit', self::price($system, -1));
        $system->step(10);
        $system->handle('steps', self::key([['do' => 'cancel-all'], self::order($system, 'buy', 2, -3)]));
        $system->push(-2);
        $system->step(20);
        self::assertSame(2, $system->lots());
        self::assertSame(['2: 2 filled before the cancel came through'], self::stopped($system));
        self::assertSame([], $system->working(Role::Entry));
    }

    public function testWhatComesAfterAFlattenWaitsUntilItIsFlat(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->step(20);
        $system->handle('steps', self::key([['do' => 'flatten'], self::order($system, 'sell', 1, 4)]));
        $system->step(8);
        self::assertCount(0, $system->working(Role::Entry));
        for ($i = 0; $i < 40 && $system->working(Role::Entry) === []; $i++) {
            $system->step(1);
        }
        self::assertSame([0, false], [$system->lots(), $system->holding()->isClosingDown()]);
        self::assertSame(1, $system->working(Role::Entry)[0]->quantity);
    }

    /** A flatten of what is only held is done at once: what comes after it does not wait for somebody else's trade. */
    public function testWhatComesAfterAFlattenThatIsDoneAtOnceFollowsAtOnce(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, 'limit', self::price($system, -4), more: ['release_at' => $system->in(60_000)]);
        $system->handle('steps', self::key([['do' => 'flatten'], self::order($system, 'sell', 1, 4)]));
        self::assertSame([1], array_map(static fn($o): int => $o->quantity, $system->working()));
        self::assertCount(1, $system->eventsOf(StepsDone::class));
    }

    public function testAnOrderThatWouldBeRefusedRefusesAllAndNothingIsDone(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, 'limit', self::price($system, -4));
        $refusal = $system->refusal('steps', self::key([['do' => 'cancel-all'], self::order($system, 'buy', 21, -3)]));
        self::assertSame(RefusalCode::OrderLimit, $refusal->problem);
        self::assertCount(1, $system->working());
    }

    /** Each is below the position limit of 40, together they are over it; what goes before them makes room. */
    public function testOrdersOfEarlierStepsCountForTheLimitsOfLaterOnes(): void
    {
        $system = new TestSystem();
        $three = [self::order($system, 'buy', 20, -3), self::order($system, 'buy', 20, -4), self::order($system, 'buy', 1, -5)];
        self::assertSame(RefusalCode::PositionLimit, $system->refusal('steps', self::key($three))->problem);
        self::assertSame([], $system->working());
        $system->place('buy', 20, 'limit', self::price($system, -6));
        $system->place('buy', 20, 'limit', self::price($system, -7));
        $system->handle('steps', self::key([['do' => 'cancel-buys'], self::order($system, 'buy', 20, -3)]));
        self::assertCount(1, $system->working());
    }

    /** The panic key while a step is still to come: it means everything. */
    public function testAFlattenInBetweenDropsWhatWasToCome(): void
    {
        foreach (['flatten', 'cancel-many', 'flatten-account'] as $op) {
            $system = new TestSystem(delaySteps: 3);
            $system->place('buy', 2, 'limit', self::price($system, -4));
            $system->step(10);
            $system->handle('steps', self::key([['do' => 'cancel-all'], self::order($system, 'buy', 2, 2)]));
            $system->handle($op, $op === 'flatten-account' ? [] : ['contract' => TestSystem::CODE]);
            $system->step(60);
            self::assertSame([0, []], [$system->lots(), $system->working()], $op);
            self::assertSame(['2: you flattened, closed or cancelled meanwhile'], self::stopped($system), $op);
        }
    }

    public function testAKillInBetweenDropsWhatWasToCome(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $system->place('buy', 2, 'limit', self::price($system, -4));
        $system->step(10);
        $system->handle('steps', ['client_id' => 'k'] + self::key([['do' => 'cancel-all'], self::order($system, 'buy', 2, 2)]));
        $system->step(2);
        $system->restart();
        $system->step(60);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        self::assertSame(['2: the line to the venue was lost'], self::stopped($system));
    }

    public function testWhatWouldOpenTooLongAfterThePressIsDropped(): void
    {
        $system = new TestSystem(delaySteps: 110);
        $system->place('buy', 2, 'limit', self::price($system, -4));
        $system->step(230);
        $system->handle('steps', self::key([['do' => 'cancel-all'], self::order($system, 'buy', 2, -2)]));
        $system->step(500);
        self::assertSame([], $system->working());
        self::assertSame(['2: it would have come too long after the press'], self::stopped($system));
    }

    public function testASecondPressWhileOneIsUnderWayIsRefusedAndTheSameIdDoesNothingMore(): void
    {
        $system = new TestSystem(delaySteps: 3);
        $system->place('buy', 2, 'limit', self::price($system, -4));
        $system->step(10);
        $press = ['client_id' => 'p'] + self::key([['do' => 'cancel-all'], self::order($system, 'sell', 2, 5)]);
        $system->handle('steps', $press);
        self::assertTrue($system->handle('steps', $press)->repeated);
        self::assertSame(RefusalCode::StepsUnderWay, $system->refusal('steps', self::key([['do' => 'flatten']]))->problem);
        $system->step(30);
        self::assertTrue($system->handle('steps', $press)->repeated);
        self::assertCount(1, $system->working());
        $system->handle('steps', self::key([['do' => 'cancel-sells']]));
        $system->step(30);
        self::assertSame([], $system->working());
    }

    /** "Tidy up" on a flat contract still cancels; that there is no stop to move is said, and holds nothing up. */
    public function testAStepThatHasNothingToDoStopsTheRestAndNotWhatWentBefore(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, 'limit', self::price($system, -4));
        $system->handle('steps', self::key([['do' => 'cancel-all'], ['do' => 'break-even']], 'Tidy up'));
        self::assertSame([], $system->working());
        self::assertStringContainsString('is flat', self::stopped($system)[0]);
    }

    public function testAReverseAndAnOrderAfterItAreTakenInTurn(): void
    {
        $system = new TestSystem(delaySteps: 2);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->step(20);
        $system->handle('steps', self::key([
            ['do' => 'reverse', 'exit_plan' => TestSystem::plan()], ['do' => 'closer', 'ticks' => 2], self::order($system, 'sell', 1, 6),
        ]));
        for ($i = 0; $i < 80 && $system->eventsOf(StepsDone::class) === []; $i++) {
            $system->step(1);
        }
        self::assertSame(-2, $system->lots());
        self::assertSame([5, 5], array_values($system->stops($system->average())), 'seven ticks, two closer');
        self::assertCount(1, $system->working(Role::Entry));
    }

    /** A reversal that would be refused refuses all too: nothing is cancelled for it. */
    public function testAReversalIsCheckedWithTheRest(): void
    {
        $system = new TestSystem();
        $order = $system->place('buy', 2, 'limit', self::price($system, -4));
        $flat = $system->refusal('steps', self::key([['do' => 'cancel-all'], ['do' => 'reverse', 'exit_plan' => null]]));
        self::assertSame(RefusalCode::Flat, $flat->problem);
        $system->place('buy', 1);
        $bad = TestSystem::plan('"stop":{"money":"1.00"},"portions":[{"rest":true,"target":null}]');
        $refusal = $system->refusal('steps', self::key([['do' => 'cancel-all'], ['do' => 'reverse', 'exit_plan' => $bad]]));
        self::assertSame(RefusalCode::PlanDoesNotFit, $refusal->problem);
        $unreadable = $system->refusal('steps', self::key([['do' => 'cancel-all'], ['do' => 'reverse', 'exit_plan' => ['name' => 'x']]]));
        self::assertStringStartsWith('/steps/1/exit_plan', (string) $unreadable->pointer);
        self::assertContains($order, array_map(static fn($o): int => $o->id, $system->working()));
        self::assertSame(1, $system->lots());
    }

    public function testASteplessOrUnreadableKeyNamesWhatIsWrong(): void
    {
        $system = new TestSystem();
        foreach ([
            '/steps' => [], '/steps/0/do' => [['do' => 'dance']], '/steps/0/ticks' => [['do' => 'closer']],
            '/steps/0/order/side' => [['do' => 'order', 'order' => ['quantity' => 1, 'kind' => 'market']]],
            '/steps/0/order/account' => [self::order($system, 'buy', 1, -2, ['account' => 1])],
        ] as $pointer => $steps) {
            self::assertSame($pointer, $system->refusal('steps', self::key($steps))->pointer);
        }
        self::assertSame([], $system->working());
    }
}
