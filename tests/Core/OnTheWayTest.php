<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What is wished of an order that is on its way is remembered, said, and done when the answer is here. */
final class OnTheWayTest extends TestCase
{
    private const DELAY = 15;

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    public function testCancelAllTakesOrdersThatAreOnTheirWayAndSaysWhich(): void
    {
        $system = new TestSystem(self::DELAY);
        $first = $system->place('buy', 1, 'limit', self::price($system->last() - 8));
        $system->step(3 * self::DELAY);
        $second = $system->place('buy', 1, 'limit', self::price($system->last() - 9));
        $sells = $system->place('sell', 1, 'limit', self::price($system->last() + 9));
        $answer = $system->handle('cancel-many', ['contract' => TestSystem::CODE, 'sides' => ['buy']])->body;
        self::assertSame([[$first], [$second]], [$answer['cancelled'], $answer['waiting']]);
        self::assertTrue($system->holding()->isCancelWished($system->order($second)));
        $system->step(6 * self::DELAY);
        self::assertSame(
            ['cancelled', 'cancelled', 'new'],
            array_map(static fn(int $id): string => $system->order($id)->state->value, [$first, $second, $sells]),
        );
    }

    public function testOneOrderOnItsWayIsCancelledToo(): void
    {
        $system = new TestSystem(self::DELAY);
        $order = $system->place('buy', 1, 'limit', self::price($system->last() - 8));
        $system->handle('cancel', ['order' => $order]);
        self::assertSame(OrderState::PendingNew, $system->order($order)->state);
        $system->step(3 * self::DELAY);
        self::assertSame(OrderState::PendingCancel, $system->order($order)->state);
        $system->step(2 * self::DELAY);
        self::assertSame(OrderState::Cancelled, $system->order($order)->state);
    }

    public function testAChangeThatIsUnderWayIsFollowedByTheCancel(): void
    {
        $system = new TestSystem(self::DELAY);
        $order = $system->place('buy', 1, 'limit', self::price($system->last() - 8));
        $system->step(3 * self::DELAY);
        $system->handle('modify', ['order' => $order, 'price' => self::price($system->last() - 6)]);
        self::assertSame(OrderState::PendingReplace, $system->order($order)->state);
        $system->handle('cancel', ['order' => $order]);
        $system->step(6 * self::DELAY);
        self::assertSame(OrderState::Cancelled, $system->order($order)->state);
    }

    /** Pressed twice while the first close is on its way: half, and half of the rest, and not all. */
    public function testHalfOffTwiceIsNotAll(): void
    {
        $system = new TestSystem(self::DELAY);
        $system->place('buy', 4, plan: TestSystem::plan());
        $system->step(8 * self::DELAY);
        $system->handle('half-off', ['contract' => TestSystem::CODE]);
        $system->handle('half-off', ['contract' => TestSystem::CODE]);
        self::assertSame('no-half', $system->refusal('half-off', ['contract' => TestSystem::CODE])->problem->value);
        $system->step(8 * self::DELAY);
        self::assertSame(1, $system->lots());
    }

    /** An entry on its way that fills before its cancel could be sent stays filled, and is protected. */
    public function testAWishComesTooLateForAFill(): void
    {
        $system = new TestSystem(self::DELAY);
        $order = $system->place('buy', 2, plan: TestSystem::plan());
        $system->handle('cancel', ['order' => $order]);
        $system->step(8 * self::DELAY);
        self::assertSame(
            [OrderState::Filled, 2, 0],
            [$system->order($order)->state, $system->lots(), $system->holding()->coverage()->unprotected()],
        );
    }

    private function bornStops(): TestSystem
    {
        $system = new TestSystem(self::DELAY);
        $system->place(
            'buy',
            3,
            plan: TestSystem::plan('"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}]'),
        );
        for ($i = 0; $system->lots() < 3 && $i < 10 * self::DELAY; $i++) {
            $system->step(1);
        }
        self::assertSame(
            [OrderState::PendingNew],
            array_values(array_unique(array_map(static fn($o): OrderState => $o->state, $system->working(Role::Stop)), SORT_REGULAR)),
        );

        return $system;
    }

    public function testStopsOnTheirWayAreTightened(): void
    {
        $system = $this->bornStops();
        $at = $system->average();
        $answer = $system->handle('tighten', ['contract' => TestSystem::CODE, 'ticks' => 2])->body;
        self::assertCount(2, $answer['waiting']);
        $system->step(8 * self::DELAY);
        self::assertSame([1 => -5, 2 => -5], $system->stops($at));
        self::assertSame(
            ['plan'],
            array_values(array_unique(array_map(
                static fn($e): string => $e->exits->slots()[0]->stopByHand ? 'hand' : 'plan',
                $system->holding()->entries,
            ))),
            'what tightens leaves the ratchets on',
        );
    }

    public function testStopsOnTheirWayGoToBreakEven(): void
    {
        $system = $this->bornStops();
        $at = $system->average();
        $system->push(4);
        $answer = $system->handle('break-even', ['contract' => TestSystem::CODE])->body;
        self::assertCount(2, $answer['waiting']);
        $system->step(8 * self::DELAY);
        self::assertSame([1 => 0, 2 => 0], $system->stops($at));
    }

    public function testAStopOnItsWayIsSetElsewhereAndLoosenedByHandItStaysThere(): void
    {
        $system = $this->bornStops();
        $at = $system->average();
        $answer = $system->handle(
            'set-exit',
            ['contract' => TestSystem::CODE, 'stop' => self::price($at - 9), 'target' => self::price($at + 20)],
        )->body;
        self::assertCount(2, $answer['waiting']);
        $system->step(8 * self::DELAY);
        self::assertSame([[1 => -9, 2 => -9], [2 => 20, 1 => 9]], [$system->stops($at), array_replace([2 => 0], $system->targets($at))]);
        foreach ($system->holding()->entries as $entry) {
            self::assertTrue($entry->exits->slots()[0]->stopByHand);
        }
    }

    public function testAStopOnItsWayIsTakenOffAsked(): void
    {
        $system = $this->bornStops();
        $stop = $system->working(Role::Stop)[0];
        self::assertSame('would-unprotect', $system->refusal('cancel', ['order' => $stop->id])->problem->value);
        $system->handle('cancel', ['order' => $stop->id, 'leave_unprotected' => true]);
        $system->step(8 * self::DELAY);
        self::assertSame([OrderState::Cancelled, 1], [$stop->state, $system->holding()->coverage()->unprotected()]);
    }

    /** A kill while it is remembered changes nothing. */
    public function testWhatWasWishedSurvivesAKill(): void
    {
        $system = $this->bornStops();
        $entry = $system->place('buy', 1, 'limit', self::price($system->last() - 8));
        $system->handle('cancel-many', ['contract' => TestSystem::CODE]);
        $system->handle('tighten', ['contract' => TestSystem::CODE, 'ticks' => 2]);
        $at = $system->average();
        $system->restart();
        $system->step(8 * self::DELAY);
        self::assertSame([OrderState::Cancelled, [1 => -5, 2 => -5]], [$system->order($entry)->state, $system->stops($at)]);
    }
}
