<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Account\DayBegun;
use Lotrik\Desk\Event\Account\EntriesStopped;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Money;
use Lotrik\Risk\DepthWalk;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Figures against what comes of them: what may still be lost can be lost and no more, a percentage is one of what the account is worth now. */
final class TrueFiguresTest extends TestCase
{
    private static function room(TestSystem $system, int $account = 1): string
    {
        $room = AccountFigures::risk($system->system->desk->state->accounts[$account], $system->system->desk, $system->now())->lossRoom;

        return "{$room->left->exact()} to {$room->limit}";
    }

    /** A lot is 2.50 a tick: whatever the room says, one tick less than it does not bar, and the tick that reaches it does. */
    public function testWhatTheLossRoomSaysCanBeLostAndNoMore(): void
    {
        foreach ([
            [['daily_loss' => '60.00'], 'the daily loss limit', [3, -3]],
            [['drawdown' => ['open' => '70.00']], 'the drawdown limit', [9]],
            [['keep_profit' => ['percent' => '60', 'from' => '20.00']], 'the profit to keep', [12]],
        ] as [$limits, $limit, $pushes]) {
            $system = new TestSystem();
            $system->limit($limits);
            $system->place('buy', 4);
            foreach ($pushes as $ticks) {
                $system->push($ticks);
            }
            $room = AccountFigures::risk($system->system->desk->state->accounts[1], $system->system->desk, $system->now())->lossRoom;
            self::assertSame($limit, $room->limit);
            // Four lots lose 10.00 a tick of the last trade.
            $ticks = $room->left->wholeTimes(Money::of('10.00', $room->left->currency), 1_000);
            $isWhole = $room->left->compareTo(Money::of(10 * $ticks, $room->left->currency)) === 0;
            $last = $system->last();
            $system->push(-($isWhole ? $ticks - 1 : $ticks));
            self::assertSame($last - ($isWhole ? $ticks - 1 : $ticks), $system->last());
            self::assertSame([], $system->eventsOf(AccountBarred::class), "$limit: {$room->left->exact()}");
            $system->push(-1);
            self::assertCount(1, $system->eventsOf(AccountBarred::class), "$limit: {$room->left->exact()}");
            self::assertStringStartsWith('0.00 to', self::room($system), 'never below 0');
        }
    }

    public function testAPercentageIsOneOfWhatTheAccountIsWorthNow(): void
    {
        $system = new TestSystem(accounts: [Account::fromArray(['balance' => '2500.00', 'daily_loss_limit' => '2400.00'] + TestSystem::account(1)->document)]);
        $system->place('buy', 10);
        $system->push(-20);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $worth = Balance::of($system->system->desk->state->accounts[1], $system->system->desk->state);
        self::assertLessThan(2050.0, (float) $worth->exact());
        // A stop of 7 ticks is 17.50 and 1.24 a lot: 10 % of 2,500.00 would pay for thirteen, of some 1,980.00 for ten.
        $size = $system->system->desk->queries->size(1, [
            'account' => 1, 'contract' => TestSystem::CODE, 'side' => 'buy', 'kind' => 'market', 'exit_plan' => TestSystem::plan(), 'risk' => ['percent' => '10'],
        ], $system->now());
        self::assertSame([10, $worth->times(\Brick\Math\BigDecimal::of('0.1'))->exact()], [$size['lots'], $size['most']]);
        $system->limit(['daily_loss' => '2400.00', 'each_contract' => ['trade_risk' => ['percent' => '10']]]);
        self::assertSame('trade-risk', $system->refusal('place', [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 11, 'kind' => 'market', 'exit_plan' => TestSystem::plan(),
        ])->problem->value);
        self::assertSame('margin', $system->refusal('place', [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 10, 'kind' => 'market', 'exit_plan' => TestSystem::plan(),
        ])->problem->value, 'the next rule is asked');
    }

    public function testASizeThatTheOrderLimitCutsSaysSo(): void
    {
        $system = new TestSystem();
        $size = static fn(string $money): array => $system->system->desk->queries->size(1, [
            'account' => 1, 'contract' => TestSystem::CODE, 'side' => 'buy', 'kind' => 'market', 'exit_plan' => TestSystem::plan(), 'risk' => ['money' => $money],
        ], $system->now());
        // 18.74 a lot.
        self::assertSame([20, '20 lots risk 374.80 of 375.00 EUR'], [$size('375.00')['lots'], $size('375.00')['words']]);
        self::assertSame('20 lots risk 374.80 of 900.00 EUR, cut to the order limit of 20', $size('900.00')['words']);
        self::assertSame('1 lot risks 18.74 of 20.00 EUR', $size('20.00')['words']);
    }

    /** A gain in one contract does not pay for the loss of another: 5,000.00 of balance, 1,000.00 lost here, 3,000.00 won there. */
    public function testAGainElsewhereDoesNotPayForALoss(): void
    {
        $freight = Contract::fromJson('{"code":"FRXZ6","tick_size":"1","tick_value":"10.00","currency":"EUR","day_margin":"100.00"}');
        $system = new TestSystem(others: [[$freight, 2_000]], accounts: [Account::fromArray(
            ['balance' => '5000.00', 'daily_loss_limit' => '4000.00'] + TestSystem::account(1)->document,
        )]);
        $system->place('buy', 10);
        $system->handle('place', ['contract' => 'FRXZ6', 'side' => 'buy', 'quantity' => 10, 'kind' => 'market']);
        $system->push(-40);
        $system->push(30, 'FRXZ6');
        $funds = $system->system->desk->queries->funds($system->system->desk->state->accounts[1], $system->now());
        $lost = $system->holding()->position->openTicks($system->last());
        $contract = TestSystem::contract();
        self::assertTrue($funds->open->isPositive());
        self::assertSame(
            $funds->balance->plus($contract->money($lost))->minus($funds->margin)->exact(),
            $funds->left->exact(),
        );
    }

    /** Where the first stop has taken all that rests, the second is counted no better than where it ran out. */
    public function testTheSecondStopIsCountedWhereTheDepthRanOut(): void
    {
        $walk = new DepthWalk([[818, 2], [815, 1]]);
        self::assertSame([818 * 2 + 815 + 815, 1], $walk->take(4, 818, -1));
        self::assertSame([815 * 2, 2], $walk->take(2, 817, -1), 'not at its trigger');
        self::assertSame([810, 1], $walk->take(1, 810, -1), 'nor better than its own');
        $buys = new DepthWalk([[830, 1]]);
        self::assertSame([830 + 830, 1], $buys->take(2, 828, 1));
        self::assertSame([830, 1], $buys->take(1, 829, 1));
    }

    public function testANewAccountMayLoseTwoPercentOfItsBalanceWhereNothingElseIsSaid(): void
    {
        $system = new TestSystem();
        $open = static fn(array $body): string => $system->system->desk->state->accounts[(int) $system->system->changeAccounts(
            static fn(Accounts $accounts): int => $accounts->open(1, Node::of($body), ['order_limit' => 20, 'position_limit' => 40]),
            $system->now(),
        )]->limits->dailyLoss->exact();
        self::assertSame('5000', $open(['name' => 'Yen', 'currency' => 'JPY', 'balance' => '250000', 'rates' => []]));
        self::assertSame('60.01', $open(['name' => 'Euro', 'currency' => 'EUR', 'balance' => '3000.99', 'rates' => []]));
        self::assertSame('0.01', $open(['name' => 'Little', 'currency' => 'EUR', 'balance' => '0.10', 'rates' => []]));
        self::assertSame('75.00', $open(['name' => 'Said', 'currency' => 'EUR', 'balance' => '3000.00', 'rates' => [], 'daily_loss' => '75.00']));
    }

    public function testACloseOutsideTheHoursIsRefused(): void
    {
        $session = ['zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];
        $dulse = Contract::fromArray(['session' => $session] + TestSystem::contract()->toArray());
        $night = Contract::fromArray(['code' => 'TIDZ6', 'session' => ['open' => '18:00', 'close' => '17:00'] + $session] + TestSystem::contract()->toArray());
        $calendar = static fn(string $close, ?string $of = null): Calendar => Calendar::fromArray([
            'format' => 'lotrik.calendar/1', 'days' => [['date' => '2026-12-24', 'close' => $close] + ($of === null ? [] : ['contracts' => [$of]])],
        ]);
        $listed = ['DULZ6' => $dulse, 'TIDZ6' => $night];
        foreach ([['13:00', null], ['08:01', 'DUL'], ['18:29', 'DULZ6'], ['23:00', 'TID'], ['02:00', 'TID']] as [$close, $of]) {
            $calendar($close, $of)->mustFit($listed);
        }
        foreach ([['07:00', null], ['08:00', 'DUL'], ['18:30', 'DULZ6'], ['21:00', 'DULZ6'], ['17:30', 'TID']] as [$close, $of]) {
            try {
                $calendar($close, $of)->mustFit($listed);
                self::fail("$close was taken");
            } catch (InvalidDocument $fault) {
                self::assertStringContainsString("a close at $close on 2026-12-24, expected a time within the session of", $fault->getMessage());
            }
        }
    }

    /** Half off again and again, and never flat: what has closed since the last flat, or the last pause, counts. */
    public function testATraderWhoNeverGoesFlatIsPausedToo(): void
    {
        $system = new TestSystem();
        $system->limit(['pause' => ['loss' => '30.00', 'minutes' => 10]]);
        $system->place('buy', 8);
        $system->push(-6);
        $system->place('sell', 1);
        self::assertSame([], $system->eventsOf(EntriesStopped::class), '15.00 and fees');
        $system->place('sell', 1);
        self::assertCount(1, $system->eventsOf(EntriesStopped::class));
        self::assertSame('entries-stopped', $system->refusal('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->problem->value);
        $system->restart();
        $system->wait(11 * 60_000);
        $system->place('sell', 1);
        self::assertCount(1, $system->eventsOf(EntriesStopped::class), 'counted from the pause on');
        $system->place('sell', 1);
        self::assertCount(2, $system->eventsOf(EntriesStopped::class));
        $system->wait(11 * 60_000);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertCount(3, $system->eventsOf(EntriesStopped::class), 'four lots more, of the same trade');
        $system->wait(11 * 60_000);
        $system->place('buy', 1);
        $system->place('sell', 1);
        self::assertCount(3, $system->eventsOf(EntriesStopped::class));
    }

    /** What lots had won at the roll belongs to the day before, whether they close or stay; the position's own average stays. */
    public function testLotsThatAreCarriedOverCountFromTheMarkAtTheRoll(): void
    {
        $system = new TestSystem();
        $account = $system->system->desk->state->accounts[1];
        $net = static fn(): string => AccountFigures::risk($account, $system->system->desk, $system->now())->net->exact();
        $system->place('buy', 4);
        $system->push(10);
        $mark = $system->last();
        $before = $net();
        $system->nextDay();
        self::assertCount(1, $system->eventsOf(DayBegun::class));
        self::assertSame($mark, $system->last());
        self::assertSame('0.00', $net(), 'nothing has happened yet today');
        $system->push(-3);
        self::assertSame('-30.00', $net());
        // Two of them close: the day lost three ticks a lot with them, and their fees.
        $system->place('sell', 2);
        $sold = $system->eventsOf(\Lotrik\Desk\Event\Fill\OrderFilled::class);
        $cash = array_sum(array_map(static fn($fill): int => $fill->quantity * ($fill->price - $mark), array_slice($sold, -1)));
        self::assertSame(
            $account->rates->toBase(TestSystem::contract()->money($cash + 2 * ($system->last() - $mark))->minus(TestSystem::contract()->fees(2)))->exact(),
            $net(),
        );
        $now = $net();
        $system->restart();
        self::assertSame($now, $net(), 'over a kill');
        // Both days together are what the account has made and what is open.
        $tally = $system->system->desk->state->bookOf(1)->day;
        $day = $account->limits->day->begins($system->now());
        $yesterday = $account->limits->day->begins($day - 1);
        self::assertSame(10 * 4, $tally->openAtEnd($yesterday)[TestSystem::CODE]->rational()->minus($mark * 4)->plus($system->holding()->position->average->multipliedBy(4))->plus(40)->toInt());
        self::assertSame($before, Money::of('0', $account->rates->base)->plus(
            $account->rates->toBase(TestSystem::contract()->money($tally->openAtEnd($yesterday)[TestSystem::CODE])),
        )->minus(TestSystem::contract()->fees(4))->exact());
        // A day's loss counts from there too: 500.00 are 200 ticks of one lot.
        self::assertStringStartsWith(Money::of('500.00', $account->rates->base)->plus(Money::of($now, $account->rates->base))->exact(), self::room($system));
    }

    /** A market order that closes is drawn as if it had filled: what is open after it is what what-if shows. */
    public function testAMarkStaysOneForLimitsAndFigures(): void
    {
        $system = new TestSystem();
        $system->place('buy', 4);
        $quote = $system->system->desk->quote(TestSystem::CODE);
        $quote->bid = null;
        $risk = AccountFigures::risk($system->system->desk->state->accounts[1], $system->system->desk, $system->now());
        self::assertSame(
            $system->system->desk->lossWatch()->uses($system->system->desk->state->accounts[1], $system->now())[0]->used->negated()->exact(),
            $risk->net->exact(),
            'the day that is shown is the day that the limit sees',
        );
    }
}
