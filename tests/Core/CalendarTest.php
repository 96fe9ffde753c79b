<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Contract\Session;
use Lotrik\Desk\Event\Order\DurationChanged;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Days on which a venue is shut or closes early: over weekends, midnight, both clock changes, and round the clock. */
final class CalendarTest extends TestCase
{
    private static function at(string $iso): int
    {
        return 1000 * (new \DateTimeImmutable($iso))->getTimestamp();
    }

    /** @param array<string, string|null> $special */
    private static function session(string $open, string $close, array $special, string $zone = 'Europe/Lisbon', array $days = [1, 2, 3, 4, 5]): Session
    {
        return Session::fromNode(Node::of(['zone' => $zone, 'days' => $days, 'open' => $open, 'close' => $close]))->under($special);
    }

    private static function words(Session $session, string $at): string
    {
        $hours = $session->at(self::at($at));

        return ($hours->open ? 'open until ' : 'shut until ').($hours->until === null ? 'ever' : gmdate('Y-m-d H:i', intdiv($hours->until, 1000)));
    }

    /** Christmas Day 2026 is a Friday: from Thursday noon to Monday morning. */
    public function testAHolidayAndTheDayBeforeItThatClosesEarly(): void
    {
        $session = self::session('08:00', '17:00', ['2026-12-24' => '12:30', '2026-12-25' => null]);
        self::assertSame('open until 2026-12-24 12:30', self::words($session, '2026-12-24T09:00:00Z'));
        self::assertSame('shut until 2026-12-28 08:00', self::words($session, '2026-12-24T12:30:00Z'));
        self::assertSame('shut until 2026-12-28 08:00', self::words($session, '2026-12-25T10:00:00Z'));
        self::assertSame('open until 2026-12-28 17:00', self::words($session, '2026-12-28T08:00:00Z'));
        self::assertSame(self::at('2026-12-24T12:30:00Z'), $session->closeAfter(self::at('2026-12-24T09:00:00Z')));
        self::assertSame(self::at('2026-12-28T17:00:00Z'), $session->closeAfter(self::at('2026-12-25T09:00:00Z')));
        // The trading day goes on until the next session opens.
        self::assertSame(self::at('2026-12-24T08:00:00Z'), $session->dayBegan(self::at('2026-12-27T09:00:00Z')));
        self::assertSame(['2026-12-24', null], [$session->dateOf(self::at('2026-12-24T09:00:00Z')), $session->dateOf(self::at('2026-12-25T09:00:00Z'))]);
    }

    /** A session from 18:00 to 17:00 belongs to the date on which it opens; an early close before its open is on the day after. */
    public function testASessionOverMidnight(): void
    {
        $session = self::session('18:00', '17:00', ['2026-11-25' => '13:00', '2026-11-26' => null], 'UTC');
        self::assertSame('open until 2026-11-26 13:00', self::words($session, '2026-11-25T23:00:00Z'));
        self::assertSame('shut until 2026-11-27 18:00', self::words($session, '2026-11-26T20:00:00Z'));
        self::assertSame('open until 2026-11-28 17:00', self::words($session, '2026-11-27T20:00:00Z'));
        self::assertSame('2026-11-25', $session->dateOf(self::at('2026-11-26T12:00:00Z')));
        // One that closes after its open closes on the same day.
        self::assertSame('open until 2026-11-25 22:00', self::words(self::session('18:00', '17:00', ['2026-11-25' => '22:00'], 'UTC'), '2026-11-25T19:00:00Z'));
    }

    /** Europe changes its clocks on 2027-03-28 and 2026-10-25: 13:00 there is another hour in UTC before and after. */
    #[DataProvider('changes')]
    public function testBothClockChanges(string $date, string $closesAt): void
    {
        $session = self::session('00:30', '23:30', [$date => '13:00'], 'Europe/Lisbon', [1, 2, 3, 4, 5, 6, 7]);
        self::assertSame("open until $closesAt", self::words($session, "{$date}T04:00:00Z"));
    }

    /** @return \Generator<string, array{string, string}> */
    public static function changes(): \Generator
    {
        yield 'before spring' => ['2027-03-27', '2027-03-27 13:00'];
        yield 'spring' => ['2027-03-28', '2027-03-28 12:00'];
        yield 'before autumn' => ['2026-10-24', '2026-10-24 12:00'];
        yield 'autumn' => ['2026-10-25', '2026-10-25 13:00'];
    }

    public function testRoundTheClockOneDayGoesOverIntoTheNextButForThese(): void
    {
        $all = [1, 2, 3, 4, 5, 6, 7];
        $session = self::session('00:00', '24:00', ['2026-12-24' => '13:00', '2026-12-25' => null, '2026-12-31' => '20:00'], 'UTC', $all);
        self::assertSame('open until 2026-12-24 13:00', self::words($session, '2026-11-30T00:00:00Z'));
        self::assertSame('shut until 2026-12-26 00:00', self::words($session, '2026-12-24T13:00:00Z'), 'two days in one');
        self::assertSame('open until 2026-12-31 20:00', self::words($session, '2026-12-26T00:00:00Z'));
        self::assertSame('shut until 2027-01-01 00:00', self::words($session, '2026-12-31T23:59:00Z'));
        self::assertSame('open until ever', self::words($session, '2027-01-01T00:00:00Z'));
        self::assertSame('open until ever', self::words(self::session('00:00', '24:00', [], 'UTC', $all), '2027-01-01T00:00:00Z'));
        self::assertSame(self::at('2026-12-26T00:00:00Z'), $session->dayBegan(self::at('2026-12-26T05:00:00Z')));
        self::assertSame(self::at('2026-12-24T00:00:00Z'), $session->dayBegan(self::at('2026-12-25T05:00:00Z')));
    }

    /** Day by day through a year, what a moment is told agrees with what the dates say. */
    public function testEachMomentOfAYearAgreesWithItsDates(): void
    {
        $special = ['2026-12-24' => '12:00', '2026-12-25' => null, '2027-01-01' => null, '2027-03-26' => null, '2027-03-29' => '15:30'];
        $session = self::session('08:00', '17:30', $special);
        $zone = new \DateTimeZone('Europe/Lisbon');
        for ($at = self::at('2026-11-01T00:00:00Z'); $at < self::at('2027-11-01T00:00:00Z'); $at += 1_700_000) {
            $local = (new \DateTimeImmutable('@'.intdiv($at, 1000)))->setTimezone($zone);
            $date = $local->format('Y-m-d');
            $close = array_key_exists($date, $special) ? $special[$date] : '17:30';
            $open = $close !== null && (int) $local->format('N') <= 5 && $local->format('H:i') >= '08:00' && $local->format('H:i') < $close;
            self::assertSame($open, $session->at($at)->open, $local->format('c'));
        }
    }

    public function testWhatNamesAContractCountsBeforeWhatNamesItsRootAndThatBeforeAll(): void
    {
        $calendar = Calendar::fromArray(['format' => 'lotrik.calendar/1', 'days' => [
            ['date' => '2026-12-24', 'close' => '13:00'], ['date' => '2026-12-24', 'close' => '12:00', 'contracts' => ['DUL']],
            ['date' => '2026-12-24', 'contracts' => ['DULH7']], ['date' => '2026-12-26', 'contracts' => ['FRX']],
        ]]);
        self::assertSame(['2026-12-24' => '13:00'], $calendar->of('TIDZ6', 'TID'));
        self::assertSame(['2026-12-24' => '12:00'], $calendar->of('DULZ6', 'DUL'));
        self::assertSame(['2026-12-24' => null], $calendar->of('DULH7', 'DUL'));
        $shorter = $calendar->closing('DULZ6', '2026-12-24', '10:15', 'Short');
        self::assertSame(['2026-12-24' => '10:15'], $shorter->of('DULZ6', 'DUL'));
        self::assertSame($calendar->toArray(), $shorter->closing('DULZ6', '2026-12-24', null, '')->toArray());
        self::assertEquals($shorter, Calendar::fromArray($shorter->toArray()));
    }

    /** A year of short practice sessions leaves no more in it than the last one of each contract, and what it gives is always read again. */
    public function testPracticeDoesNotFillIt(): void
    {
        $days = [];
        for ($i = 0; $i < 1_000; $i++) {
            $days[] = ['date' => gmdate('Y-m-d', 1_800_000_000 + 86_400 * $i), 'close' => '12:00'];
        }
        $calendar = Calendar::fromArray(['format' => 'lotrik.calendar/1', 'days' => $days]);
        for ($i = 0; $i < 300; $i++) {
            $calendar = $calendar->closing($i % 2 === 0 ? 'DULZ6' : 'FRXZ6', gmdate('Y-m-d', 1_800_000_000 + 86_400 * $i), '10:00', 'Short practice session');
        }
        self::assertCount(1_002, $calendar->toArray()['days']);
        self::assertEquals($calendar, Calendar::fromArray($calendar->toArray()));
    }

    /** @param array<string, mixed> $document */
    #[DataProvider('unreadable')]
    public function testWhatMakesNoSenseIsNamedByItsPlace(array $document, string $place): void
    {
        try {
            Calendar::fromArray($document + ['format' => 'lotrik.calendar/1', 'days' => []]);
            self::fail('it was taken');
        } catch (InvalidDocument $fault) {
            self::assertStringStartsWith("$place: found", $fault->getMessage());
        }
    }

    /** @return \Generator<string, array{array<string, mixed>, string}> */
    public static function unreadable(): \Generator
    {
        yield 'another format' => [['format' => 'lotrik.calendar/2'], '/format'];
        yield 'no list' => [['days' => 7], '/days'];
        yield 'no date' => [['days' => [['date' => '2026-02-30']]], '/days/0/date'];
        yield 'no time' => [['days' => [['date' => '2026-02-03', 'close' => '25:00']]], '/days/0/close'];
        yield 'a date twice' => [['days' => [['date' => '2026-02-03'], ['date' => '2026-02-03', 'close' => '12:00']]], '/days/1/date'];
        yield 'a contract twice' => [['days' => [['date' => '2026-02-03', 'contracts' => ['DUL', 'DUL']]]], '/days/0/date'];
        yield 'no contract' => [['days' => [['date' => '2026-02-03', 'contracts' => ['dul']]]], '/days/0/contracts/0'];
        yield 'something else' => [['days' => [['date' => '2026-02-03', 'opens' => '09:00']]], '/days/0/opens'];
    }

    /** Set in the middle of a position: shut at once, the stops asleep, the day order gone, the next session as it says; over a restart. */
    public function testACalendarThatShutsTheMarketNowDoesSoAndOrdersEndWithIt(): void
    {
        $system = new TestSystem(contract: Contract::fromArray(['session' => [
            'zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '17:00',
        ]] + TestSystem::contract()->toArray()));
        $system->place('buy', 2, plan: TestSystem::plan());
        $day = $system->place('buy', 1, 'limit', '405.00');
        $date = gmdate('Y-m-d', intdiv($system->now(), 1000));
        $set = static fn(?string $close): mixed => $system->system->setCalendar(Calendar::fromArray([
            'format' => 'lotrik.calendar/1', 'days' => [['date' => $date, 'close' => $close]],
        ]), $system->now());
        $set('12:00');
        $system->step(1);
        self::assertSame(self::at("{$date}T12:00:00Z"), $system->system->desk->state->orders[$day]->dayEnds);
        self::assertCount(1, array_filter($system->eventsOf(DurationChanged::class), static fn(DurationChanged $of): bool => $of->order === $day));
        $system->restart();
        self::assertSame(self::at("{$date}T12:00:00Z"), $system->system->desk->state->contracts[TestSystem::CODE]->session->at($system->now())->until);
        $set('09:00');
        $system->step(2);
        self::assertFalse($system->system->market(TestSystem::CODE)->venue->isOpen());
        self::assertSame(2, $system->lots(), 'what is open stays open');
        self::assertArrayNotHasKey($day, $system->holding()->working, 'the day order went with the session');
        self::assertSame('market-closed', $system->refusal('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->problem->value);
        $system->system->setCalendar(Calendar::none(), $system->now());
        $system->step(2);
        self::assertTrue($system->system->market(TestSystem::CODE)->venue->isOpen(), 'and opens again where that is taken back');
    }
}
