<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Event\Account\CloseNear;
use Lotrik\Desk\Event\Command\FlattenStarted;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The last minutes of a session: what is told, once each, and what flattens by itself. The test's clock stands at 09:30 UTC. */
final class LastMinutesTest extends TestCase
{
    private static function system(string $open = '08:00', string $close = '10:00', string $zone = 'UTC'): TestSystem
    {
        return new TestSystem(contract: Contract::fromArray(['session' => [
            'zone' => $zone, 'days' => [1, 2, 3, 4, 5], 'open' => $open, 'close' => $close,
        ]] + TestSystem::contract()->toArray()));
    }

    private static function pass(TestSystem $system, int $minutes): void
    {
        $system->wait($minutes * 60_000);
        $system->step(1);
    }

    /** @return list<int> */
    private static function told(TestSystem $system): array
    {
        return array_map(static fn(CloseNear $of): int => $of->minutes, $system->eventsOf(CloseNear::class));
    }

    public function testWhatIsLeftIsToldAtFifteenFiveAndOneMinuteAndOnceEach(): void
    {
        $system = self::system();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('buy', 1, 'limit', '405.00');
        self::pass($system, 14);
        self::assertSame([], self::told($system));
        self::pass($system, 1);
        self::assertSame([15], self::told($system));
        self::assertSame('long 2, 4 working orders: 1 ends with the day, 3 stay', $system->eventsOf(CloseNear::class)[0]->left);
        $system->restart();
        $system->step(3);
        self::assertSame([15], self::told($system), 'a restart tells nothing twice');
        self::pass($system, 10);
        self::pass($system, 4);
        self::assertSame([15, 5, 1], self::told($system));
        self::pass($system, 2);
        self::assertSame(2, $system->lots(), 'what is open stays open, its stops asleep');
        self::assertSame([15, 5, 1], self::told($system));
    }

    /** The stops of a plan outlive the session; one that was sent by hand for the day does not, and leaves the night to chance. */
    public function testAStopThatEndsWithTheDayIsNamedWithTheLotsThatLoseIt(): void
    {
        foreach (['day' => '; 2 lots lose their stop with it', 'gtc' => ''] as $tif => $said) {
            $system = self::system();
            $system->place('buy', 2);
            $system->place('sell', 2, 'stop', TestSystem::contract()->price($system->last() - 5), more: ['tif' => $tif]);
            self::pass($system, 15);
            self::assertStringEndsWith($said === '' ? '0 end with the day, 1 stays' : "1 ends with the day, 0 stay$said", $system->eventsOf(CloseNear::class)[0]->left);
            self::pass($system, 15);
            self::assertSame($tif === 'day' ? 2 : 0, $system->holding()->coverage()->unprotected());
        }
    }

    /** The initial margin counts from 15 minutes before the close: said at 30, with the lots that are too many, to whom it concerns. */
    public function testLotsTooManyForTheInitialMarginAreToldBeforeItCounts(): void
    {
        $contract = Contract::fromArray(['session' => ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '10:05']]
            + ['initial_margin' => '9000.00', 'maintenance_margin' => '8000.00', 'day_margin' => '500.00'] + TestSystem::contract()->toArray());
        $system = new TestSystem(contract: $contract);
        $balance = (int) $system->system->desk->state->accounts[1]->opening->amount()->toInt();
        $fit = intdiv($balance, 9000);
        $system->place('buy', $fit + 2, plan: TestSystem::plan());
        self::pass($system, 4);
        self::assertSame([], self::told($system));
        self::pass($system, 1);
        self::assertSame([30], self::told($system));
        $told = $system->eventsOf(CloseNear::class)[0]->left;
        self::assertStringContainsString('the initial margin counts from 15 minutes before the close, and ', $told);
        self::assertMatchesRegularExpression('/, and [23] lots are too many for it$/', $told);
        $system->restart();
        $system->step(2);
        self::assertSame([30], self::told($system), 'once');
        $enough = new TestSystem(contract: $contract);
        $enough->place('buy', 1, plan: TestSystem::plan());
        self::pass($enough, 10);
        self::assertSame([], self::told($enough), 'whose lots fit is told nothing of it');
        self::pass($enough, 10);
        self::assertSame([15], self::told($enough));
        self::assertStringNotContainsString('margin', $enough->eventsOf(CloseNear::class)[0]->left);
    }

    public function testWhatFlattensByItselfIsSaidAQuarterOfAnHourAhead(): void
    {
        $system = self::system();
        $system->limit(['flatten_before_close' => 10]);
        $system->place('buy', 2, plan: TestSystem::plan());
        self::pass($system, 4);
        self::assertSame([], self::told($system));
        self::pass($system, 1);
        self::assertSame([25], self::told($system));
        $words = array_map(static fn(CloseNear $of): string => $of->left, $system->eventsOf(CloseNear::class));
        self::assertStringEndsWith('; it is flattened 10 minutes before the close, per your limits', $words[0]);
        self::pass($system, 10);
        self::assertSame([25, 15], self::told($system));
        self::pass($system, 5);
        self::assertSame(0, $system->lots());
    }

    public function testWhoHasNothingThereIsToldNothing(): void
    {
        $system = self::system();
        self::pass($system, 20);
        self::assertSame([], self::told($system));
    }

    /** An entry sent in the last minutes is told of when it is there: at the next of the three moments. */
    public function testWhatComesLateIsToldAtTheNextMoment(): void
    {
        $system = self::system();
        self::pass($system, 20);
        $system->place('buy', 1);
        self::pass($system, 5);
        self::assertSame([5], self::told($system));
    }

    public function testTheContractIsFlatSoManyMinutesBeforeTheCloseWhereTheTraderWantsIt(): void
    {
        $system = self::system();
        $system->limit(['flatten_before_close' => 10]);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->place('buy', 1, 'limit', '405.00');
        self::pass($system, 19);
        self::assertSame(2, $system->lots());
        self::pass($system, 1);
        self::assertSame([0, []], [$system->lots(), $system->holding()->working]);
        self::assertCount(1, $system->eventsOf(FlattenStarted::class));
        $refusal = $system->refusal('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        self::assertSame('entries-stopped', $refusal->problem->value);
        self::assertStringContainsString('DULZ6 is flat 10 minutes before its close', $refusal->getMessage());
        $system->restart();
        $system->step(2);
        self::assertCount(1, $system->eventsOf(FlattenStarted::class), 'done is done');
    }

    /** Killed at that very minute, the engine does it when it is back. */
    public function testAKillInBetweenForgetsNothing(): void
    {
        $system = self::system();
        $system->limit(['flatten_before_close' => 10]);
        $system->place('buy', 2);
        $system->wait(22 * 60_000);
        $system->restart();
        $system->step(2);
        self::assertSame(0, $system->lots());
    }

    /** Set within those minutes it counts at once. */
    public function testALimitThatIsSetLateFlattensAtOnce(): void
    {
        $system = self::system();
        $system->place('buy', 2);
        self::pass($system, 22);
        self::assertSame(2, $system->lots());
        $system->limit(['flatten_before_close' => 10]);
        $system->step(1);
        self::assertSame(0, $system->lots());
    }

    public function testTheHoursAreSaidInAFewWords(): void
    {
        $session = TestSystem::contract()->session;
        self::assertSame('round the clock', $session->at(0)->brief(0));
        $hours = self::system()->system->desk->state->contracts[TestSystem::CODE]->session;
        $at = static fn(string $time): int => 1000 * (new \DateTimeImmutable("2026-11-02T$time:00Z"))->getTimestamp();
        self::assertSame('closes in 1 h 30 min', $hours->at($at('08:30'))->brief($at('08:30')));
        self::assertSame('closes in 1 min', $hours->at($at('09:59') + 59_000)->brief($at('09:59') + 59_000), 'a second before it');
        self::assertSame('opens Tue 08:00', $hours->at($at('10:00'))->brief($at('10:00')));
    }

    /** A session over midnight, in a zone of its own: 09:30 UTC is 18:30 in Tokyo. */
    public function testASessionOverMidnightEndsAtItsOwnTime(): void
    {
        $system = self::system('15:00', '02:00', 'Asia/Tokyo');
        $system->place('buy', 1);
        self::pass($system, 7 * 60 + 14);
        self::assertSame([], self::told($system));
        self::pass($system, 1);
        self::assertSame([15], self::told($system), '01:45 there, 16:45 UTC');
    }
}
