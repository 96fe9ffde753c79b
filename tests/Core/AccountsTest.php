<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Event\Account\AccountClosed;
use Lotrik\Desk\Event\Account\RatesSet;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Practice accounts are opened with a stated balance, closed and reset when flat, and read for ever after. */
final class AccountsTest extends TestCase
{
    private const LIMITS = ['order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00'];

    /** @param array<string, mixed> $body */
    private static function open(TestSystem $system, array $body = []): int
    {
        $body += ['name' => 'Second', 'currency' => 'EUR', 'balance' => '10000', 'rates' => ['USD' => '0.92']];

        return self::change($system, static fn(Accounts $accounts): int => $accounts->open(1, Node::of($body), self::LIMITS));
    }

    /**
     * @template Result
     *
     * @param callable(Accounts): Result $change
     *
     * @return Result
     */
    private static function change(TestSystem $system, callable $change): mixed
    {
        return $system->system->desk->changeAccounts($change, $system->now());
    }

    private static function refusal(callable $act): Refusal
    {
        try {
            $act();
        } catch (Refusal $refusal) {
            return $refusal;
        }

        throw new \RuntimeException('it was not refused');
    }

    public function testAnAccountIsOpenedOnceByItsNameWithItsOwnMoney(): void
    {
        $system = new TestSystem();
        $id = self::open($system);
        $account = $system->system->desk->state->accounts[$id];
        self::assertSame([1, 'Second', '10000.00'], [$account->owner, $account->name, $account->opening->exact()]);
        $again = self::refusal(static fn() => self::open($system));
        self::assertSame(['account-name-taken', '/name'], [$again->problem->value, $again->pointer]);
        $system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'], $id);
        self::assertSame(1, $system->holding($id)->position->lots);
        self::assertSame(0, $system->holding()->position->lots, 'the first account has nothing of it');
    }

    public function testOnlyAFlatAccountIsClosedAndThenItIsOnlyRead(): void
    {
        $system = new TestSystem();
        $id = self::open($system);
        $account = $system->system->desk->state->accounts[$id];
        $close = static fn() => self::change($system, static fn(Accounts $accounts) => $accounts->close($account));
        $order = (int) $system->handle('place', [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => TestSystem::plan('"stop":{"ticks":6}'),
        ], $id)->body['order'];
        self::assertGreaterThan(0, $order);
        $refused = self::refusal($close);
        self::assertSame('account-in-use', $refused->problem->value);
        self::assertStringContainsString('2 lots open and 1 order working', $refused->getMessage());
        $reset = self::refusal(static fn() => self::change($system, static fn(Accounts $accounts) => $accounts->reset($account, Node::of(['balance' => '1.00']))));
        self::assertSame('account-in-use', $reset->problem->value);
        $system->handle('flatten', ['contract' => TestSystem::CODE], $id);
        $close();
        $system->step(0);
        self::assertCount(1, $system->eventsOf(AccountClosed::class));
        $placed = self::refusal(static fn() => $system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'], $id));
        self::assertSame('account-closed', $placed->problem->value);
        $preview = $system->system->desk->queries->preview($id, ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'], $system->now());
        self::assertSame('account-closed', $preview['refusal']['code']);
        self::assertSame('account-closed', self::refusal($close)->problem->value, 'a second press closes nothing twice');
        self::assertSame('account-closed', self::refusal(static fn() => self::change($system, static fn(Accounts $accounts) => $accounts->reset($account, Node::of(['balance' => '1.00']))))->problem->value);
    }

    /** With a delay: what is on its way to the venue, or waits at the desk, could still trade. */
    public function testWhatIsUnderWayOrHeldKeepsAnAccountOpen(): void
    {
        $system = new TestSystem(3);
        $id = self::open($system);
        $account = $system->system->desk->state->accounts[$id];
        $close = static fn() => self::change($system, static fn(Accounts $accounts) => $accounts->close($account));
        $order = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market'];
        $system->handle('place', $order, $id);
        self::assertSame('account-in-use', self::refusal($close)->problem->value, 'an entry on its way');
        $system->step(10);
        $system->handle('flatten', ['contract' => TestSystem::CODE], $id);
        self::assertSame('account-in-use', self::refusal($close)->problem->value, 'a flatten on its way');
        $system->step(20);
        self::assertSame(0, $system->holding($id)->position->lots);
        $held = (int) $system->handle('place', ['release_at' => $system->in(60_000)] + $order, $id)->body['order'];
        $system->step(10);
        self::assertStringContainsString('1 order working', self::refusal($close)->getMessage(), 'an order that waits for its time');
        $system->handle('cancel', ['order' => $held], $id);
        $system->step(10);
        $close();
        self::assertTrue($system->system->desk->state->isClosed($id));
    }

    public function testAResetGoesOnUnderTheSameNameWithTheStatedBalanceAndNothingOfTheDay(): void
    {
        $system = new TestSystem();
        $id = self::open($system);
        $system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market'], $id);
        $system->push(-3);
        $system->handle('flatten', ['contract' => TestSystem::CODE], $id);
        $account = $system->system->desk->state->accounts[$id];
        $next = self::change($system, static fn(Accounts $accounts): int => $accounts->reset($account, Node::of(['balance' => '2500.5'])));
        $after = $system->system->desk->state->accounts[$next];
        self::assertSame(['Second', '2500.50', $account->limits->each->orderLots], [$after->name, $after->opening->exact(), $after->limits->each->orderLots]);
        self::assertTrue($system->system->desk->state->isClosed($id));
        self::assertFalse($system->system->desk->state->isClosed($next));
        self::assertSame('0.00', AccountFigures::risk($after, $system->system->desk, $system->now())->net->exact());
        self::assertNotSame('0.00', AccountFigures::risk($account, $system->system->desk, $system->now())->net->exact());
        self::assertSame($next + 1, self::open($system, ['name' => 'Third']));
    }

    public function testARateCanBeChangedButNotTakenAway(): void
    {
        $system = new TestSystem();
        $id = self::open($system);
        $set = static fn(mixed $rates) => self::change($system, static fn(Accounts $accounts) => $accounts->setRates($system->system->desk->state->accounts[$id], Node::of(['rates' => $rates])));
        $set(['USD' => '0.95', 'GBP' => '1.17']);
        $set(['USD' => '0.95', 'GBP' => '1.17']);
        $system->step(0);
        self::assertCount(1, $system->eventsOf(RatesSet::class), 'the same again is nothing new');
        self::assertSame(['USD' => '0.95', 'GBP' => '1.17'], $system->system->desk->state->accounts[$id]->document['rates']);
        self::assertSame('/rates/USD', self::refusal(static fn() => $set(['GBP' => '1.17']))->pointer);
        $all = ['USD' => '0.95', 'GBP' => '1.17'];
        foreach (['JPY' => '0', 'CHF' => '-1', 'SEK' => '1,2', 'NOK' => 0.5, 'EUR' => '1', 'XXL' => '1', 'DKK' => ''] as $code => $rate) {
            self::assertSame("/rates/$code", self::refusal(static fn() => $set([$code => $rate] + $all))->pointer, $code);
        }
        self::assertSame('/rates', self::refusal(static fn() => $set('USD'))->pointer);
        self::assertSame($all, $system->system->desk->state->accounts[$id]->document['rates'], 'bad input changes nothing');
    }

    public function testAmountsAndNamesThatAreNoneAreNamed(): void
    {
        $system = new TestSystem();
        foreach ([
            '/balance' => [['balance' => '0'], ['balance' => '0.00'], ['balance' => '-5'], ['balance' => '1.005'], ['balance' => '1e3'], ['balance' => '1234567890123'], ['balance' => ' 5'], ['balance' => "5\n"], ['currency' => 'JPY', 'balance' => '100.5', 'rates' => []]],
            '/currency' => [['currency' => 'eur'], ['currency' => 'EURO'], ['currency' => 'XYQ']],
            '/name' => [['name' => ''], ['name' => '   '], ['name' => str_repeat('a', 41)], ['name' => "two\nlines"]],
            '/limit' => [['limit' => 1]],
        ] as $pointer => $bodies) {
            foreach ($bodies as $body) {
                self::assertSame($pointer, self::refusal(static fn() => self::open($system, $body))->pointer, json_encode($body, JSON_THROW_ON_ERROR));
            }
        }
        self::assertCount(1, array_filter($system->system->desk->state->accounts, static fn($account): bool => $account->owner === 1));
    }

    /** A reset would be a way around the limit that was met: not before the next trading day. */
    public function testABarredAccountIsResetWithItsNextDay(): void
    {
        $system = new TestSystem();
        $account = $system->system->desk->state->accounts[1];
        $system->place('buy', 20);
        $system->push(-13);
        self::assertSame(0, $system->lots());
        $reset = static fn(): int => self::change($system, static fn(Accounts $accounts): int => $accounts->reset($account, Node::of(['balance' => '5000.00'])));
        $refusal = self::refusal($reset);
        self::assertSame('barred', $refusal->problem->value);
        self::assertStringContainsString('the daily loss limit of Test was reached: it can be reset from', $refusal->getMessage());
        $system->nextDay();
        self::assertSame('5000.00', $system->system->desk->state->accounts[$reset()]->opening->exact());
    }
}
