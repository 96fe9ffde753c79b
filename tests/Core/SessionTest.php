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
use Tests\Support\TestSystem;

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
        yield 'round the clock a day begins at midnight in the zone' => [
            ['zone' => 'Asia/Tokyo', 'days' => [1, 2, 3, 4, 5, 6, 7], 'open' => '00:00', 'close' => '24:00'], '2026-11-24 16:00',
            '2026-11-24 15:00',
        ];
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
        self::assertSame(
            0,
            Session::fromNode(Node::of([
                'zone' => 'UTC', 'days' => [], 'open' => '08:00', 'close' => '18:30',
            ]))->dayBegan(self::ms('2026-11-23 09:00')),
        );
    }

    public function testItSaysSoInWords(): void
    {
        $session = Session::fromNode(Node::of([
            'zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30',
        ]));
        self::assertSame(
            'open until 18:30, 2 h 5 min left',
            $session->at(self::ms('2026-11-23 16:25'))->words(self::ms('2026-11-23 16:25')),
        );
        self::assertSame(
            'shut, opens Mon 30 Nov 08:00 Europe/Lisbon',
            $session->at(self::ms('2026-11-27 20:00'))->words(self::ms('2026-11-27 20:00')),
        );
        self::assertSame('round the clock', Session::allDay()->at(0)->words(0));
    }

    public function testOutsideTheSessionStopsSleepEntriesAreRefusedAndFlattenWaitsForTheOpen(): void
    {
        $system = $this->system();
        $system->place('buy', 2, plan: TestSystem::plan());
        $day = $system->place('buy', 1, 'limit', TestSystem::contract()->price($system->last() - 6));
        $kept = $system->place('buy', 1, 'limit', TestSystem::contract()->price($system->last() - 7), more: ['tif' => 'gtc']);
        $stops = $system->stops();
        $this->shut($system);
        self::assertSame(
            [OrderState::Expired, OrderState::New],
            [$system->order($day)->state, $system->order($kept)->state],
            'a day order expires at the close',
        );
        self::assertStringContainsString('the session has ended', (string) $system->order($day)->reason);
        self::assertSame($stops, $system->stops(), 'exits live as long as their lots');
        $last = $system->last();
        $system->step(200);
        self::assertSame($last, $system->last(), 'the market stands still');
        $refused = $system->refusal(
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'closing' => 'through'],
        );
        self::assertSame('market-closed', $refused->problem->value);
        self::assertStringContainsString('opens Tue', $refused->getMessage());
        foreach (['half-off' => [], 'close-part' => ['entry' => array_key_first($system->holding()->entries)]] as $op => $body) {
            self::assertSame('market-closed', $system->refusal($op, ['contract' => TestSystem::CODE] + $body)->problem->value);
        }
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $system->step(10);
        self::assertSame(
            [2, 0, 2, 0],
            [
                $system->lots(), count($system->working(Role::Target)), count($system->working(Role::Stop)),
                count($system->working(Role::Close)),
            ],
            'entries and targets are gone, the stops stay, and nothing is sent to a market that is shut',
        );
        $this->open($system);
        self::assertSame([0, false], [$system->lots(), $system->holding()->isClosingDown()], 'it closes at the open');
    }

    public function testAStopThatIsMovedThroughTheMarketWaitsForTheSession(): void
    {
        $system = $this->system();
        $system->place('buy', 1, plan: TestSystem::plan());
        $this->shut($system);
        $stop = $system->working(Role::Stop)[0];
        self::assertSame(
            'market-closed',
            $system->refusal(
                'modify',
                ['order' => $stop->id, 'trigger' => TestSystem::contract()->price($system->last() + 5)],
            )->problem->value,
        );
        $system->handle('modify', ['order' => $stop->id, 'trigger' => TestSystem::contract()->price((int) $stop->trigger + 1)]);
        self::assertSame(
            [1, (int) $stop->trigger],
            [$system->lots(), $system->working(Role::Stop)[0]->trigger],
            'a tighter stop that is not passed is taken',
        );
    }

    public function testAnOrderThatIsHeldUntilTheOpenIsSentThen(): void
    {
        $system = $this->system();
        $this->shut($system);
        $order = $system->place('buy', 1, more: ['release_at' => '2026-11-23T20:00:00.000Z', 'tif' => 'gtc']);
        $system->wait(2 * 3_600_000);
        $system->step(1);
        self::assertSame(OrderState::Suspended, $system->order($order)->state, 'its time has come, the session has not');
        $this->open($system);
        self::assertSame(1, $system->lots());
    }

    /** The refusal outside the session recommends just this order. */
    public function testADayOrderThatWaitsForTheOpenWorksUntilThatSessionsClose(): void
    {
        $system = $this->system();
        $this->shut($system);
        $market = $system->place('buy', 1, more: ['release_at' => '2026-11-24T08:00:00.000Z']);
        $limit = $system->place(
            'buy',
            1,
            'limit',
            TestSystem::contract()->price($system->last() - 9),
            more: ['release_at' => '2026-11-23T20:00:00.000Z'],
        );
        $held = $system->place(
            'buy',
            1,
            'limit',
            TestSystem::contract()->price($system->last() - 9),
            more: ['condition' => [
                'contract' => TestSystem::CODE, 'last' => 'at-or-above', 'price' => TestSystem::contract()->price($system->last() + 200),
            ]],
        );
        $this->open($system);
        self::assertSame(
            [OrderState::Filled, OrderState::New, OrderState::Suspended],
            [$system->order($market)->state, $system->order($limit)->state, $system->order($held)->state],
        );
        $system->wait(self::ms('2026-11-24 18:30') - $system->now() - 20);
        $system->step(1);
        self::assertSame(OrderState::New, $system->order($limit)->state);
        $system->step(2);
        self::assertSame([OrderState::Expired, OrderState::Expired], [$system->order($limit)->state, $system->order($held)->state]);
    }

    public function testADayOrderWithAReleaseTomorrowOutlivesTheClose(): void
    {
        $system = $this->system();
        $order = $system->place('buy', 1, more: ['release_at' => '2026-11-24T09:00:00.000Z']);
        $this->shut($system);
        self::assertSame(OrderState::Suspended, $system->order($order)->state);
        $system->wait(self::ms('2026-11-24 09:00') - $system->now());
        $system->step(1);
        self::assertSame(1, $system->lots());
    }

    public function testNothingFillsWhileTheMarketIsShut(): void
    {
        $system = $this->system();
        $system->place('buy', 2);
        $this->shut($system);
        $bid = (int) $system->system->desk->quote(TestSystem::CODE)->bid;
        $system->push(-6);
        self::assertSame($bid, $system->system->desk->quote(TestSystem::CODE)->bid, 'nobody can push a market that is shut');
        // Their targets are where somebody bids.
        $system->handle('set-exit', ['contract' => TestSystem::CODE, 'role' => 'target', 'level' => TestSystem::contract()->price($bid)]);
        $system->handle('set-exit', ['contract' => TestSystem::CODE, 'role' => 'stop', 'level' => TestSystem::contract()->price($bid - 5)]);
        $system->step(50);
        self::assertSame([2, 1, 1], [$system->lots(), count($system->working(Role::Target)), count($system->working(Role::Stop))]);
        $system->restart();
        $system->step(5);
        self::assertSame(2, $system->lots());
        $target = $system->working(Role::Target)[0];
        // Moved away again it rests, and back again it waits.
        $system->handle('modify', ['order' => $target->id, 'price' => TestSystem::contract()->price($bid + 9)]);
        self::assertNotNull($system->system->market(TestSystem::CODE)->venue->book->order($target->id));
        $system->handle('set-exit', ['contract' => TestSystem::CODE, 'role' => 'target', 'level' => TestSystem::contract()->price($bid)]);
        self::assertNull($system->system->market(TestSystem::CODE)->venue->book->order($target->id), 'a crossed book is none');
        $this->open($system);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
    }

    public function testAPlanThatIsPutOnWhileShutActsAtTheOpen(): void
    {
        $system = $this->system();
        $system->place('buy', 2);
        $system->push(6);
        $this->shut($system);
        $system->handle(
            'cover',
            [
                'contract' => TestSystem::CODE,
                'exit_plan' => TestSystem::plan('"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":2}}]'),
            ],
        );
        $system->step(50);
        self::assertSame([2, 0], [$system->lots(), $system->holding()->coverage()->unprotected()]);
        $this->open($system);
        self::assertSame(0, $system->lots(), 'the market was beyond the target already');
    }

    /** Sent before the close, it reaches the venue after it. */
    public function testAnEntryThatIsLateIsRefusedAndACloseWaits(): void
    {
        $session = ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        $system = new TestSystem(
            10,
            contract: Contract::fromNode(Node::of(['session' => $session] + TestSystem::contract()->toArray())),
            at: self::ms('2026-11-23 18:00'),
        );
        $system->place('buy', 2);
        $system->step(30);
        $system->wait(self::ms('2026-11-23 18:30') - $system->now() - 50);
        $late = $system->place('buy', 1, more: ['tif' => 'gtc', 'closing' => 'through']);
        $close = $system->place('sell', 1, more: ['tif' => 'gtc']);
        $system->step(60);
        self::assertSame(
            [OrderState::Rejected, OrderState::New, 2],
            [$system->order($late)->state, $system->order($close)->state, $system->lots()],
        );
        self::assertStringContainsString('shut', (string) $system->order($late)->reason);
        $this->open($system);
        $system->step(30);
        self::assertSame(1, $system->lots());
    }

    private function system(): TestSystem
    {
        $session = ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        $system = new TestSystem(contract: Contract::fromNode(Node::of(['session' => $session] + TestSystem::contract()->toArray())));
        $system->wait(self::ms('2026-11-23 18:00') - $system->now());

        return $system;
    }

    private function shut(TestSystem $system): void
    {
        $system->wait(self::ms('2026-11-23 18:30') - $system->now());
        $system->step(1);
    }

    private function open(TestSystem $system): void
    {
        $system->wait(self::ms('2026-11-24 08:00') - $system->now());
        $system->step(1);
    }

    private static function ms(string $utc): int
    {
        return 1000 * (int) strtotime("$utc UTC");
    }
}
