<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigDecimal;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Order\Side;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Balance, margin and buying power: what a new entry needs, what paper losses take away, and that nothing else adds to it. */
final class FundsTest extends TestCase
{
    /** A lot takes 2,000.00 by day and 4,500.00 in the last quarter of an hour; the account has 10,000.00. */
    private static function system(string $close = '24:00'): TestSystem
    {
        return new TestSystem(contract: Contract::fromArray([
            'day_margin' => '2000.00', 'initial_margin' => '4500.00', 'session' => ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5, 6, 7], 'open' => '00:00', 'close' => $close],
        ] + TestSystem::contract()->toArray()));
    }

    private static function refusal(TestSystem $system, int $lots, string $side = 'buy'): string
    {
        $refusal = $system->refusal('place', ['contract' => TestSystem::CODE, 'side' => $side, 'quantity' => $lots, 'kind' => 'market']);
        self::assertSame(['margin', '/quantity'], [$refusal->problem->value, $refusal->pointer]);

        return $refusal->getMessage();
    }

    private static function left(TestSystem $system): string
    {
        return $system->system->desk->queries->funds($system->system->desk->state->accounts[1], $system->now())->left->exact();
    }

    /** @return iterable<string, array{int, int, int, int}> position, lots to buy, lots to sell, the most that may be open */
    public static function worst(): iterable
    {
        yield 'flat' => [0, 0, 0, 0];
        yield 'flat, both sides: one of them fills' => [0, 3, 2, 3];
        yield 'long, more to buy' => [2, 3, 0, 5];
        yield 'long, what rests to sell counts whole: the position may have closed by then' => [2, 0, 5, 5];
        yield 'long, fewer to sell than are open' => [4, 0, 3, 4];
        yield 'short, both' => [-2, 6, 1, 6];
    }

    #[DataProvider('worst')]
    public function testTheWorstOfBothSidesCounts(int $position, int $buys, int $sells, int $most): void
    {
        $reach = new Reach($position);
        $reach->enters(Side::Buy, $buys, null, null);
        $reach->enters(Side::Sell, $sells, null, null);
        self::assertSame($most, $reach->most());
    }

    /** A market order finds the position that is there, but for the lots that may close before it arrives; of two that are tied one fills. */
    public function testAMarketOrderCountsWithoutTheLotsThatItIsSureToClose(): void
    {
        foreach ([[0, 3], [1, 4], [2, 5], [3, 6], [9, 6]] as [$closing, $most]) {
            $reach = new Reach(3);
            $reach->closes(1001, $closing);
            $reach->closes(1003, 3);
            $reach->enters(Side::Sell, 6, null, 1002);
            self::assertSame($most, $reach->on(Side::Sell), "$closing may close");
            self::assertSame(3, $reach->on(Side::Buy));
        }
        $reach = new Reach(0);
        $reach->enters(Side::Buy, 2, 7, null);
        $reach->enters(Side::Buy, 5, 7, null);
        $reach->enters(Side::Sell, 4, 7, null);
        $reach->enters(Side::Buy, 1, null, null);
        self::assertSame([6, 4], [$reach->on(Side::Buy), $reach->on(Side::Sell)]);
    }

    public function testAnEntryNeedsMarginForAllThatMayComeToBeOpen(): void
    {
        $system = self::system();
        self::assertSame('10000.00', self::left($system));
        self::assertStringContainsString('6 lots would take 12000.00 EUR of margin, and the buying power is 10000.00; 5 lots would be accepted', self::refusal($system, 6));
        $system->place('buy', 3, 'limit', '400.00');
        self::assertSame('4000.00', self::left($system), 'what works counts as if it had filled');
        $system->place('sell', 3, 'limit', '425.00');
        self::assertSame('4000.00', self::left($system), 'only one of the sides can come to be open');
        self::assertStringContainsString('3 lots would take 6000.00 EUR', self::refusal($system, 3));
        $system->place('buy', 2);
        self::assertStringContainsString('even one lot is too much', self::refusal($system, 1));
        // On the other side there is room: it closes first.
        $system->place('sell', 2);
        self::assertSame(0, $system->lots());
    }

    public function testPaperLossesTakeAwayAndPaperGainsAddNothing(): void
    {
        $system = self::system();
        $system->place('buy', 2);
        $system->push(6);
        $up = $system->system->desk->queries->funds($system->system->desk->state->accounts[1], $system->now());
        self::assertTrue($up->open->isPositive());
        self::assertSame($up->balance->minus($up->margin)->exact(), $up->left->exact(), 'nothing is added');
        $system->push(-12);
        $open = $system->system->desk->queries->funds($system->system->desk->state->accounts[1], $system->now());
        self::assertTrue($open->open->isNegative());
        self::assertSame($open->balance->plus($open->open)->minus($open->margin)->exact(), $open->left->exact());
    }

    /** What has closed stays in the balance, over the day and over a restart. */
    public function testWhatWasMadeStaysInTheBalance(): void
    {
        $system = self::system();
        $system->place('buy', 2);
        $system->push(8);
        $system->place('sell', 2);
        $now = self::left($system);
        self::assertNotSame('10000.00', $now);
        $system->nextDay();
        $system->restart();
        self::assertSame($now, self::left($system));
    }

    /** In the last quarter of an hour the initial margin is needed: what is open stays, more is refused, what closes is taken. */
    public function testShortlyBeforeTheCloseTheInitialMarginIsNeeded(): void
    {
        // The test's clock stands at 09:30 UTC.
        $system = self::system('10:00');
        $system->place('buy', 2);
        $system->wait(16 * 60_000);
        self::assertStringContainsString('1 lot would take 4500.00 EUR of margin', self::refusal($system, 1));
        self::assertSame(2, $system->lots());
        $system->place('sell', 2);
        self::assertSame(0, $system->lots());
    }

    /** Random days against sums that know nothing of positions: what was sold less what was bought, less 0.62 for each lot and side. */
    public function testTheBalanceIsWhatTheFillsSayToTheLastDecimal(): void
    {
        for ($seed = 1; $seed <= 12; $seed++) {
            mt_srand($seed);
            $system = new TestSystem(seed: $seed, accounts: [Account::fromArray(['balance' => '900000.00', 'daily_loss_limit' => '800000.00'] + TestSystem::account(1)->document)]);
            for ($i = 0; $i < 40; $i++) {
                $side = mt_rand(0, 1) === 0 ? 'buy' : 'sell';
                mt_rand(0, 2) === 0 ? $system->push(mt_rand(-3, 3)) : $system->place($side, mt_rand(1, 4), more: ['closing' => 'through']);
            }
            if ($system->lots() !== 0) {
                $system->handle('flatten', ['contract' => TestSystem::CODE]);
            }
            $cash = BigDecimal::of('900000.00');
            foreach ($system->eventsOf(OrderFilled::class) as $fill) {
                $sign = $system->order($fill->order)->side->sign();
                $cash = $cash->minus(BigDecimal::of('2.50')->multipliedBy($sign * $fill->quantity * $fill->price))
                    ->minus(BigDecimal::of('0.62')->multipliedBy($fill->quantity));
            }
            $funds = $system->system->desk->queries->funds($system->system->desk->state->accounts[1], $system->now());
            self::assertSame(0, $system->lots());
            self::assertSame((string) $cash->toScale(2), $funds->balance->exact(), "seed $seed");
        }
    }
}
