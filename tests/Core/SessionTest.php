<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Contract\Session;
use Lotrik\Document\Node;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** Trading hours: when a contract trades, and what is refused, waits or goes on outside them. */
final class SessionTest extends TestCase
{
    /** @return iterable<string, array{array<string, mixed>, string, bool, string}> session, UTC, open, until in UTC */
    public static function moments(): iterable
    {
        $day = ['zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        yield 'a morning' => [$day, '2026-11-23 09:00', true, '2026-11-23 18:30'];
        yield 'the close itself' => [$day, '2026-11-23 18:30', false, '2026-11-24 08:00'];
        yield 'a Friday evening' => [$day, '2026-11-27 20:00', false, '2026-11-30 08:00'];
        yield 'summer time is an hour earlier in UTC' => [$day, '2026-07-01 07:30', true, '2026-07-01 17:30'];
        yield 'over the change to winter time' => [$day, '2026-10-24 12:00', false, '2026-10-26 08:00'];
        $night = ['zone' => 'UTC', 'days' => [7, 1, 2, 3, 4], 'open' => '22:00', 'close' => '21:00'];
        yield 'a night belongs to the day that it begins on' => [$night, '2026-11-24 03:00', true, '2026-11-24 21:00'];
        yield 'between two nights' => [$night, '2026-11-24 21:30', false, '2026-11-24 22:00'];
        yield 'a Saturday' => [$night, '2026-11-28 12:00', false, '2026-11-29 22:00'];
    }

    #[DataProvider('moments')]
    public function testItKnowsUntilWhenItIsOpenOrShut(array $session, string $at, bool $open, string $until): void
    {
        $hours = Session::fromNode(Node::of($session))->at(self::ms($at));
        self::assertSame([$open, self::ms($until)], [$hours->open, $hours->until]);
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> session, UTC, when the trading day began in UTC */
    public static function days(): iterable
    {
        $day = ['zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        yield 'a morning' => [$day, '2026-11-23 09:00', '2026-11-23 08:00'];
        yield 'the open itself' => [$day, '2026-11-23 08:00', '2026-11-23 08:00'];
        yield 'before the open it is still the day before' => [$day, '2026-11-24 07:59', '2026-11-23 08:00'];
        yield 'a Sunday belongs to Friday' => [$day, '2026-11-29 12:00', '2026-11-27 08:00'];
        yield 'summer time is an hour earlier in UTC' => [$day, '2026-07-01 07:30', '2026-07-01 07:00'];
        $night = ['zone' => 'UTC', 'days' => [7, 1, 2, 3, 4], 'open' => '22:00', 'close' => '21:00'];
        yield 'a night belongs to the evening that it began on' => [$night, '2026-11-24 03:00', '2026-11-23 22:00'];
        yield 'round the clock a day begins at midnight in the zone' => [['zone' => 'Asia/Tokyo', 'days' => [1, 2, 3, 4, 5, 6, 7], 'open' => '00:00', 'close' => '24:00'], '2026-11-24 16:00', '2026-11-24 15:00'];
    }

    /** @param array<string, mixed> $session */
    #[DataProvider('days')]
    public function testItKnowsWhenTheTradingDayBegan(array $session, string $at, string $began): void
    {
        $hours = Session::fromNode(Node::of($session));
        self::assertSame(self::ms($began), $hours->dayBegan(self::ms($at)));
        // Asked again, out of order, it does not give what it remembers of another day.
        self::assertLessThan(self::ms($began), $hours->dayBegan(self::ms($at) - 8 * 86_400_000));
        self::assertSame(self::ms($began), $hours->dayBegan(self::ms($at)));
    }

    public function testASessionWithoutDaysNeverBegins(): void
    {
        self::assertSame(0, Session::fromNode(Node::of(['zone' => 'UTC', 'days' => [], 'open' => '08:00', 'close' => '18:30']))->dayBegan(self::ms('2026-11-23 09:00')));
    }

    public function testItSaysSoInWords(): void
    {
        $session = Session::fromNode(Node::of(['zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30']));
        self::assertSame('open until 18:30, 2 h 5 min left', $session->at(self::ms('2026-11-23 16:25'))->words(self::ms('2026-11-23 16:25')));
        self::assertSame('shut, opens Mon 30 Nov 08:00 Europe/Lisbon', $session->at(self::ms('2026-11-27 20:00'))->words(self::ms('2026-11-27 20:00')));
        self::assertSame('round the clock', Session::allDay()->at(0)->words(0));
    }

    public function testOutsideTheSessionStopsSleepEntriesAreRefusedAndFlattenWaitsForTheOpen(): void
    {
        $floor = $this->floor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $day = $floor->place('buy', 1, 'limit', TestFloor::contract()->price($floor->last() - 6));
        $kept = $floor->place('buy', 1, 'limit', TestFloor::contract()->price($floor->last() - 7), more: ['tif' => 'gtc']);
        $stops = $floor->stops();
        $this->shut($floor);
        self::assertSame([OrderState::Expired, OrderState::New], [$floor->order($day)->state, $floor->order($kept)->state], 'a day order expires at the close');
        self::assertStringContainsString('the session has ended', (string) $floor->order($day)->reason);
        self::assertSame($stops, $floor->stops(), 'exits live as long as their lots');
        $last = $floor->last();
        $floor->step(200);
        self::assertSame($last, $floor->last(), 'the market stands still');
        $refused = $floor->refusal('place', ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'closing' => 'through']);
        self::assertSame('market-closed', $refused->problem);
        self::assertStringContainsString('opens Tue', $refused->getMessage());
        foreach (['half-off' => [], 'close-part' => ['entry' => array_key_first($floor->holding()->entries)]] as $op => $body) {
            self::assertSame('market-closed', $floor->refusal($op, ['contract' => TestFloor::CODE] + $body)->problem);
        }
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $floor->step(10);
        self::assertSame([2, 0, 2, 0], [$floor->lots(), count($floor->working(Role::Target)), count($floor->working(Role::Stop)), count($floor->working(Role::Close))], 'entries and targets are gone, the stops stay, and nothing is sent to a market that is shut');
        $this->open($floor);
        self::assertSame([0, false], [$floor->lots(), $floor->holding()->isClosingDown()], 'it closes at the open');
    }

    public function testAStopThatIsMovedThroughTheMarketWaitsForTheSession(): void
    {
        $floor = $this->floor();
        $floor->place('buy', 1, plan: TestFloor::plan());
        $this->shut($floor);
        $stop = $floor->working(Role::Stop)[0];
        self::assertSame('market-closed', $floor->refusal('modify', ['order' => $stop->id, 'trigger' => TestFloor::contract()->price($floor->last() + 5)])->problem);
        $floor->take('modify', ['order' => $stop->id, 'trigger' => TestFloor::contract()->price((int) $stop->trigger + 1)]);
        self::assertSame([1, (int) $stop->trigger], [$floor->lots(), $floor->working(Role::Stop)[0]->trigger], 'a tighter stop that is not passed is taken');
    }

    public function testAnOrderThatIsHeldUntilTheOpenIsSentThen(): void
    {
        $floor = $this->floor();
        $this->shut($floor);
        $order = $floor->place('buy', 1, more: ['release_at' => '2026-11-23T20:00:00.000Z', 'tif' => 'gtc']);
        $floor->wait(2 * 3_600_000);
        $floor->step(1);
        self::assertSame(OrderState::Suspended, $floor->order($order)->state, 'its time has come, the session has not');
        $this->open($floor);
        self::assertSame(1, $floor->lots());
    }

    /** The refusal outside the session recommends just this order. */
    public function testADayOrderThatWaitsForTheOpenWorksUntilThatSessionsClose(): void
    {
        $floor = $this->floor();
        $this->shut($floor);
        $market = $floor->place('buy', 1, more: ['release_at' => '2026-11-24T08:00:00.000Z']);
        $limit = $floor->place('buy', 1, 'limit', TestFloor::contract()->price($floor->last() - 9), more: ['release_at' => '2026-11-23T20:00:00.000Z']);
        $held = $floor->place('buy', 1, 'limit', TestFloor::contract()->price($floor->last() - 9), more: ['condition' => ['contract' => TestFloor::CODE, 'last' => 'at-or-above', 'price' => TestFloor::contract()->price($floor->last() + 200)]]);
        $this->open($floor);
        self::assertSame([OrderState::Filled, OrderState::New, OrderState::Suspended], [$floor->order($market)->state, $floor->order($limit)->state, $floor->order($held)->state]);
        $floor->wait(self::ms('2026-11-24 18:30') - $floor->now() - 20);
        $floor->step(1);
        self::assertSame(OrderState::New, $floor->order($limit)->state);
        $floor->step(2);
        self::assertSame([OrderState::Expired, OrderState::Expired], [$floor->order($limit)->state, $floor->order($held)->state]);
    }

    public function testADayOrderWithAReleaseTomorrowOutlivesTheClose(): void
    {
        $floor = $this->floor();
        $order = $floor->place('buy', 1, more: ['release_at' => '2026-11-24T09:00:00.000Z']);
        $this->shut($floor);
        self::assertSame(OrderState::Suspended, $floor->order($order)->state);
        $floor->wait(self::ms('2026-11-24 09:00') - $floor->now());
        $floor->step(1);
        self::assertSame(1, $floor->lots());
    }

    public function testNothingFillsWhileTheMarketIsShut(): void
    {
        $floor = $this->floor();
        $floor->place('buy', 2);
        $this->shut($floor);
        $bid = (int) $floor->floor->desk->quote(TestFloor::CODE)->bid;
        $floor->push(-6);
        self::assertSame($bid, $floor->floor->desk->quote(TestFloor::CODE)->bid, 'nobody can push a market that is shut');
        // Their targets are where somebody bids.
        $floor->take('set-exit', ['contract' => TestFloor::CODE, 'role' => 'target', 'level' => TestFloor::contract()->price($bid)]);
        $floor->take('set-exit', ['contract' => TestFloor::CODE, 'role' => 'stop', 'level' => TestFloor::contract()->price($bid - 5)]);
        $floor->step(50);
        self::assertSame([2, 1, 1], [$floor->lots(), count($floor->working(Role::Target)), count($floor->working(Role::Stop))]);
        $floor->restart();
        $floor->step(5);
        self::assertSame(2, $floor->lots());
        $target = $floor->working(Role::Target)[0];
        // Moved away again it rests, and back again it waits.
        $floor->take('modify', ['order' => $target->id, 'price' => TestFloor::contract()->price($bid + 9)]);
        self::assertNotNull($floor->floor->market(TestFloor::CODE)->venue->book->order($target->id));
        $floor->take('set-exit', ['contract' => TestFloor::CODE, 'role' => 'target', 'level' => TestFloor::contract()->price($bid)]);
        self::assertNull($floor->floor->market(TestFloor::CODE)->venue->book->order($target->id), 'a crossed book is none');
        $this->open($floor);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
    }

    public function testAPlanThatIsPutOnWhileShutActsAtTheOpen(): void
    {
        $floor = $this->floor();
        $floor->place('buy', 2);
        $floor->push(6);
        $this->shut($floor);
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":2}}]')]);
        $floor->step(50);
        self::assertSame([2, 0], [$floor->lots(), $floor->holding()->unprotected()]);
        $this->open($floor);
        self::assertSame(0, $floor->lots(), 'the market was beyond the target already');
    }

    /** Sent before the close, it reaches the venue after it. */
    public function testAnEntryThatIsLateIsRefusedAndACloseWaits(): void
    {
        $session = ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        $floor = new TestFloor(10, contract: Contract::fromNode(Node::of(['session' => $session] + TestFloor::contract()->toArray())), at: self::ms('2026-11-23 18:00'));
        $floor->place('buy', 2);
        $floor->step(30);
        $floor->wait(self::ms('2026-11-23 18:30') - $floor->now() - 50);
        $late = $floor->place('buy', 1, more: ['tif' => 'gtc', 'closing' => 'through']);
        $close = $floor->place('sell', 1, more: ['tif' => 'gtc']);
        $floor->step(60);
        self::assertSame([OrderState::Rejected, OrderState::New, 2], [$floor->order($late)->state, $floor->order($close)->state, $floor->lots()]);
        self::assertStringContainsString('shut', (string) $floor->order($late)->reason);
        $this->open($floor);
        $floor->step(30);
        self::assertSame(1, $floor->lots());
    }

    private function floor(): TestFloor
    {
        $session = ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        $floor = new TestFloor(contract: Contract::fromNode(Node::of(['session' => $session] + TestFloor::contract()->toArray())));
        $floor->wait(self::ms('2026-11-23 18:00') - $floor->now());

        return $floor;
    }

    private function shut(TestFloor $floor): void
    {
        $floor->wait(self::ms('2026-11-23 18:30') - $floor->now());
        $floor->step(1);
    }

    private function open(TestFloor $floor): void
    {
        $floor->wait(self::ms('2026-11-24 08:00') - $floor->now());
        $floor->step(1);
    }

    private static function ms(string $utc): int
    {
        return 1000 * (int) strtotime("$utc UTC");
    }
}
