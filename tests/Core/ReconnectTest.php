<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Order\OrderCancelled;
use Lotrik\Desk\Event\Order\OrderReplaced;
use Lotrik\Desk\Event\Venue\StrayOrderFound;
use Lotrik\Desk\Event\Venue\VenueDiffers;
use Lotrik\Desk\Upkeep\Reconciliation;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Venue\VenueSnapshot;
use Lotrik\Venue\WorkingOrder;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The line to the venue was lost and is back: what works there against what the desk believes. */
final class ReconnectTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    private function atVenue(): VenueSnapshot
    {
        return $this->system->system->market(TestSystem::CODE)->venue->reconnect();
    }

    /** @param array<int, true> $underWay */
    private function reconnect(VenueSnapshot $venue, array $underWay = []): void
    {
        $this->system->system->desk->reconnected(TestSystem::CODE, $venue, $underWay, $this->system->now());
        $this->system->step(1);
    }

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    public function testWhatAgreesIsLeftAlone(): void
    {
        $this->system->place('buy', 3, plan: TestSystem::plan());
        $this->system->place('buy', 2, 'limit', self::price($this->system->last() - 12));
        $before = $this->system->system->desk->state->sequence;
        $this->system->system->desk->reconnected(TestSystem::CODE, $this->atVenue(), [], $this->system->now());
        self::assertSame($before, $this->system->system->desk->state->sequence);
    }

    /** The worst that can be lost: a position would stand there with a stop that only the desk believes in. */
    public function testAStopThatTheVenueLostIsSetAnew(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":9}'));
        [$stop] = array_values($this->system->working(Role::Stop));
        $this->system->system->market(TestSystem::CODE)->venue->cancel($stop->id, 'lost');
        $this->system->system->market(TestSystem::CODE)->venue->outcomes();
        $this->reconnect($this->atVenue());
        self::assertSame([OrderState::Cancelled, Reconciliation::LOST], [$stop->state, $stop->reason]);
        [$again] = array_values($this->system->working(Role::Stop));
        self::assertNotSame($stop->id, $again->id);
        self::assertSame([2, $stop->trigger, OrderState::New], [$again->quantity, $again->trigger, $again->state]);
        self::assertArrayHasKey($again->id, $this->atVenue()->working);
        self::assertSame(0, $this->system->holding()->coverage()->unprotected());
    }

    /** A change that was on its way when the line broke: the order is as the venue has it, and the plan goes on from there. */
    public function testLotsAndPricesAreThoseOfTheVenue(): void
    {
        $id = $this->system->place('buy', 4, 'limit', self::price($this->system->last() - 9));
        $this->system->system->market(TestSystem::CODE)->venue->replace($id, -1, $this->system->last() - 11, null);
        $this->system->system->market(TestSystem::CODE)->venue->outcomes();
        $this->reconnect($this->atVenue());
        $order = $this->system->order($id);
        self::assertSame(
            [3, $this->system->last() - 11, OrderState::New],
            [$order->quantity, $order->price, $order->state],
        );
        self::assertCount(1, $this->system->eventsOf(OrderReplaced::class));
    }

    /** For the desk it ended; at the venue it could still fill behind the trader's back. */
    public function testAnOrderThatTheDeskDoesNotWorkIsCancelledThere(): void
    {
        $venue = $this->system->system->market(TestSystem::CODE)->venue;
        $venue->submit(new WorkingOrder(77, 1, Side::Buy, OrderKind::Limit, 2, price: $this->system->last() - 9));
        $venue->outcomes();
        $this->reconnect($this->atVenue());
        self::assertCount(1, $this->system->eventsOf(StrayOrderFound::class));
        self::assertSame([], $this->atVenue()->working);
    }

    /** Without a price they cannot be booked; the trader is told, and nothing is made up. */
    public function testLotsThatFilledUnheardAreToldAndNotMadeUp(): void
    {
        $this->system->place('buy', 1);
        $id = $this->system->place('buy', 4, 'limit', self::price($this->system->last() - 9));
        $working = $this->atVenue()->working;
        [$working[$id]->filled, $working[$id]->lots] = [1, 3];
        $this->reconnect(new VenueSnapshot($working, [1 => 2]));
        self::assertSame(
            [[$id, 1, 0], [null, 2, 1]],
            array_map(
                static fn(VenueDiffers $event): array => [$event->order, $event->venue, $event->desk],
                $this->system->eventsOf(VenueDiffers::class),
            ),
        );
        self::assertSame(1, $this->system->lots());
        self::assertSame([3, 0], [$this->system->order($id)->leaves(), $this->system->order($id)->filled]);
    }

    /** What is on its way arrives yet: a start in the middle of it changes nothing. */
    public function testWhatIsUnderWayIsNotCompared(): void
    {
        $this->system = new TestSystem(delaySteps: 20);
        $id = $this->system->place('buy', 2, 'limit', self::price($this->system->last() - 9));
        $this->system->restart();
        self::assertSame(OrderState::PendingNew, $this->system->order($id)->state);
        $this->system->step(25);
        $this->system->restart();
        self::assertSame(OrderState::PendingNew, $this->system->order($id)->state, 'its report is on its way');
        $this->system->step(25);
        self::assertSame(OrderState::New, $this->system->order($id)->state);
        $this->system->handle('cancel', ['order' => $id]);
        $this->system->step(25);
        $this->system->restart();
        self::assertSame(OrderState::PendingCancel, $this->system->order($id)->state);
        $this->system->step(25);
        self::assertSame(
            [OrderState::Cancelled, 1],
            [$this->system->order($id)->state, count($this->system->eventsOf(OrderCancelled::class))],
        );
    }

    /** A cancel that never arrived is sent again. */
    public function testACancelThatGotLostIsSentAgain(): void
    {
        $this->system = new TestSystem(delaySteps: 20);
        $id = $this->system->place('buy', 2, 'limit', self::price($this->system->last() - 9));
        $this->system->step(50);
        $this->system->handle('cancel', ['order' => $id]);
        $this->system->loseTheLine();
        self::assertSame(OrderState::PendingCancel, $this->system->order($id)->state);
        $this->system->step(50);
        self::assertSame([OrderState::Cancelled, []], [$this->system->order($id)->state, $this->atVenue()->working]);
    }
}
