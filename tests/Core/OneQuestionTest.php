<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Order\OrderRejected;
use Lotrik\Document\Node;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/**
 * Whatever may raise what can be open or lost is asked the same question, however it is sent: what one command may not do, two may
 * not do either. A lot of dulse is 2.50 a tick, 0.62 a side and 205.00 of margin.
 */
final class OneQuestionTest extends TestCase
{
    private const STOP_8 = '"stop":{"ticks":8}';

    private const COVERS = '"stop":{"ticks":20},"covers":"position"';

    /** @param array<string, mixed> $each limits of each contract */
    private static function system(array $each = [], string $balance = '10000.00', int $delay = 0, array $more = []): TestSystem
    {
        $system = new TestSystem($delay, accounts: [Account::fromArray(['balance' => $balance] + TestSystem::account(1)->document)]);
        if ($each !== [] || $more !== []) {
            $system->limit(['each_contract' => $each] + $more);
        }

        return $system;
    }

    /** @param array<string, mixed> $body */
    private static function code(TestSystem $system, string $op, array $body): string
    {
        $before = [$system->lots(), count($system->working()), $system->system->desk->state->lastOrder];
        $code = $system->refusal($op, $body)->problem->value;
        self::assertSame($before, [$system->lots(), count($system->working()), $system->system->desk->state->lastOrder], 'nothing was done');

        return $code;
    }

    public function testRaisingAnOrderNeedsWhatPlacingItWouldNeed(): void
    {
        $system = self::system(balance: '500.00');
        $order = $system->place('buy', 1, 'limit', '400.00');
        self::assertSame('margin', self::code($system, 'modify', ['order' => $order, 'quantity' => 20]));
        self::assertSame(2, $system->handle('modify', ['order' => $order, 'quantity' => 2])->body === ['order' => $order] ? 2 : 0);

        $system = self::system(['stop_required' => true]);
        $order = $system->place('buy', 1, 'limit', '400.00', TestSystem::plan('"stop":{"ticks":7},"portions":[{"lots":1},{"rest":true}]'));
        self::assertSame(1, $system->order($order)->quantity);
        $naked = self::system();
        $order = $naked->place('buy', 1, 'limit', '400.00');
        $naked->limit(['each_contract' => ['trade_risk' => ['money' => '60.00']]]);
        self::assertSame([], array_filter($naked->working(), static fn($o): bool => $o->id === $order), 'what is without a limit now goes');

        // The preview of the change says the same.
        $system = self::system(balance: '500.00');
        $order = $system->place('buy', 1, 'limit', '400.00');
        $preview = $system->system->desk->queries->previewChange(1, ['account' => 1, 'order' => $order, 'quantity' => 20], null, $system->now());
        self::assertSame('margin', $preview['refusal']['code'] ?? null);
    }

    public function testAClosingStopByHandIsAskedAboutLikeAnyOther(): void
    {
        $stop = static fn(TestSystem $system): int => $system->place('sell', 5, 'stop', TestSystem::contract()->price($system->average() - 8));
        $system = self::system();
        $system->place('buy', 5);
        $order = $stop($system);
        self::assertSame('would-unprotect', self::code($system, 'modify', ['order' => $order, 'quantity' => 1]));
        self::assertSame('would-unprotect', self::code($system, 'modify', ['order' => $order, 'tif' => 'gtd', 'expires_at' => $system->in(1_000)]));
        $system->handle('modify', ['order' => $order, 'quantity' => 1, 'leave_unprotected' => true]);
        self::assertSame(4, $system->holding()->coverage()->unprotected());
        // More protection, or none that it had, is no question.
        $system->handle('modify', ['order' => $order, 'quantity' => 5]);
        self::assertSame(0, $system->holding()->coverage()->unprotected());

        $system = self::system(['stop_required' => true]);
        $system->place('buy', 5, plan: TestSystem::plan(self::STOP_8));
        foreach ($system->working(Role::Stop) as $exit) {
            self::assertSame('stop-required', self::code($system, 'cancel', ['order' => $exit->id, 'leave_unprotected' => true]));
        }

        // 5 lots at 8 ticks are 100.00 and 6.20 of fees; at 100 ticks 1,250.00.
        $system = self::system();
        $system->place('buy', 5);
        $order = $stop($system);
        $system->limit(['each_contract' => ['trade_risk' => ['money' => '120.00']]]);
        self::assertSame('trade-risk', self::code($system, 'modify', ['order' => $order, 'trigger' => '375.00']));
        $system->handle('modify', ['order' => $order, 'trigger' => TestSystem::contract()->price($system->average() - 9)]);
        self::assertSame('trade-risk', self::code($system, 'modify', ['order' => $order, 'quantity' => 1, 'leave_unprotected' => true]));
        self::assertSame('trade-risk', self::code($system, 'cancel', ['order' => $order, 'leave_unprotected' => true]), 'without it its risk has no limit');
        self::assertSame('trade-risk', self::code($system, 'cancel-many', ['contract' => TestSystem::CODE, 'exits' => true, 'leave_unprotected' => true]));
    }

    public function testWhatATradeMayRiskIsNotWalkedAround(): void
    {
        // 2 lots at 8 ticks: 40.00 and 2.48 of fees.
        $system = self::system(['trade_risk' => ['money' => '60.00']]);
        $system->place('buy', 2, plan: TestSystem::plan(self::STOP_8));
        $wide = TestSystem::plan('"stop":{"ticks":30}');
        self::assertSame('trade-risk', self::code($system, 'cover', ['contract' => TestSystem::CODE, 'exit_plan' => $wide, 'loosen' => '1000.00']));
        self::assertSame('trade-risk', self::code($system, 'cover', ['contract' => TestSystem::CODE, 'exit_plan' => null, 'leave_unprotected' => true]));
        $stop = $system->working(Role::Stop)[0];
        self::assertSame('trade-risk', self::code($system, 'cancel', ['order' => $stop->id, 'leave_unprotected' => true]));
        self::assertSame('trade-risk', self::code($system, 'modify', ['order' => $stop->id, 'trigger' => TestSystem::contract()->price($system->average() - 30)]));
        // Tighter is never a question, and neither is the same plan once more.
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":6}')]);
        self::assertSame([1 => -6], $system->stops($system->average()));

        // Filled for two of three, then raised again and again: the lots that are open count.
        $system = self::system(['trade_risk' => ['money' => '60.00']]);
        $bid = (int) $system->system->desk->quote(TestSystem::CODE)->bid;
        $order = $system->place('buy', 2, 'limit', TestSystem::contract()->price($bid), TestSystem::plan(self::STOP_8));
        self::assertSame('trade-risk', self::code($system, 'modify', ['order' => $order, 'quantity' => 3]));

        // Each is 50.00 and 1.24; both are one set under a plan that covers the position.
        $system = self::system(['trade_risk' => ['money' => '60.00']]);
        $system->place('buy', 1, 'limit', '405.00', TestSystem::plan(self::COVERS));
        self::assertSame('trade-risk', self::code($system, 'place', [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '405.50', 'exit_plan' => TestSystem::plan(self::COVERS),
        ]));
        $system->place('buy', 1, 'limit', '405.50', TestSystem::plan(self::STOP_8));
    }

    public function testOfAPairTheLargerCountsAndUntiedBoth(): void
    {
        $order = static fn(string $side, int $lots, string $kind, string $level): array => [
            'contract' => TestSystem::CODE, 'side' => $side, 'quantity' => $lots, 'kind' => $kind, $kind === 'stop' ? 'trigger' : 'price' => $level,
        ];
        $system = self::system(['position_lots' => 4]);
        $pair = $system->handle('place-pair', ['orders' => [$order('buy', 3, 'limit', '405.00'), $order('buy', 3, 'stop', '418.00')]])->body['orders'];
        self::assertSame('position-limit', self::code($system, 'untie', ['order' => $pair[0]]));
        self::assertSame('position-limit', self::code($system, 'place-pair', ['orders' => [$order('buy', 2, 'limit', '406.00'), $order('buy', 1, 'limit', '407.00')]]));
        $system->place('buy', 1, 'limit', '404.00');
        self::assertSame('position-limit', self::code($system, 'place', $order('buy', 1, 'limit', '403.00')));

        // Two orders of a minute's three are left for a pair, and one is not enough.
        $system = self::system(more: ['orders_a_minute' => 3]);
        $system->handle('place-pair', ['orders' => [$order('buy', 1, 'limit', '405.00'), $order('buy', 1, 'stop', '418.00')]]);
        self::assertSame('too-many-entries', self::code($system, 'place-pair', ['orders' => [$order('buy', 1, 'limit', '405.00'), $order('buy', 1, 'stop', '418.00')]]));
        $system->place('buy', 1, 'limit', '404.00');
        self::assertSame('too-many-entries', self::code($system, 'place', $order('buy', 1, 'limit', '403.00')));
    }

    public function testAnActionKeyIsCheckedWhole(): void
    {
        $step = static fn(string $price): array => ['do' => 'order', 'order' => ['side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => $price]];
        $system = self::system(more: ['orders_a_minute' => 2]);
        self::assertSame('too-many-entries', self::code($system, 'steps', [
            'contract' => TestSystem::CODE, 'name' => 'Key', 'steps' => [$step('405.00'), $step('404.00'), $step('403.00')],
        ]));
        $system->handle('steps', ['contract' => TestSystem::CODE, 'name' => 'Key', 'steps' => [$step('405.00'), $step('404.00')]]);
        self::assertCount(2, $system->working());
        $system = self::system(balance: '500.00');
        self::assertSame('margin', self::code($system, 'steps', [
            'contract' => TestSystem::CODE, 'name' => 'Key', 'steps' => [$step('405.00'), $step('404.00'), $step('403.00')],
        ]));
    }

    /** The stop fills while the order is on its way: then all of it opens. */
    public function testAMarketOrderThroughFlatCountsWhatMayHaveClosedByThen(): void
    {
        $system = self::system(['position_lots' => 3], delay: 5);
        $system->place('buy', 3, plan: TestSystem::plan('"stop":{"ticks":3}'));
        $system->step(40);
        self::assertSame(3, $system->lots());
        self::assertSame('position-limit', self::code($system, 'place', [
            'contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => 6, 'kind' => 'market', 'closing' => 'through',
        ]));
        $system->place('sell', 3, more: ['closing' => 'through']);
        $system->push(-5);
        $system->step(40);
        self::assertGreaterThanOrEqual(-3, $system->lots());
    }

    /** What closes is sent after a market order through flat and arrives after it: it takes nothing that the order is sure to find. */
    public function testACloseThatIsSentBehindAMarketOrderThroughFlatRaisesNothing(): void
    {
        $system = self::system(['position_lots' => 5], delay: 5);
        $system->place('buy', 3);
        $system->step(40);
        $system->place('sell', 4, 'limit', '425.00', more: ['closing' => 'through']);
        $system->step(40);
        $system->place('sell', 4, more: ['closing' => 'through']);
        $holding = $system->system->desk->state->holding(1, TestSystem::CODE);
        self::assertSame(5, Reach::of($holding)->on(Side::Sell), 'four that rest, and one beyond flat');
        $system->place('sell', 3);
        self::assertSame(5, Reach::of($holding)->on(Side::Sell));
        $system->step(40);
        self::assertSame(-1, $system->lots());
    }

    public function testWhatMakesNothingWorseAlwaysPasses(): void
    {
        $system = self::system();
        $order = $system->place('buy', 10, 'limit', '400.00', TestSystem::plan('"stop":{"ticks":20}'));
        $far = $system->place('buy', 1, 'stop', '425.00', TestSystem::plan(self::STOP_8));
        $system->handle('modify', ['order' => $order, 'quantity' => 9]);
        // Loosened limits come with the day; tighter ones come at once, and what they would refuse is taken back: so the market moves instead.
        $system->limit(['each_contract' => ['band_ticks' => 40]]);
        $system->push(-30);
        $system->handle('modify', ['order' => $far, 'trigger' => '424.00']);
        self::assertSame(TestSystem::contract()->ticks('424.00'), $system->order($far)->trigger);
        self::assertSame('price-band', self::code($system, 'modify', ['order' => $far, 'trigger' => '424.50']));
    }

    public function testALimitThatTightensTakesBackOrLowersWhatItWouldRefuse(): void
    {
        $plan = TestSystem::plan(self::STOP_8);
        $system = self::system();
        $order = $system->place('buy', 10, 'limit', '400.00', $plan);
        $system->limit(['each_contract' => ['order_lots' => 1]]);
        self::assertSame(1, $system->order($order)->leaves(), 'lots are the cause: it is lowered');
        self::assertStringContainsString('order limit of 1', implode("\n", $system->words()));

        $system = self::system();
        $orders = [$system->place('buy', 1, 'limit', '400.00', $plan), $system->place('buy', 1, 'limit', '399.00', $plan), $system->place('sell', 1, 'limit', '425.00', $plan)];
        $system->limit(['each_contract' => ['working_orders' => 1]]);
        self::assertSame([$orders[0]], array_column($system->working(), 'id'), 'the newest go');

        // 8 ticks of a lot are 21.24 with fees: ten lots risk 212.40, and nine 191.16.
        $system = self::system();
        $order = $system->place('buy', 10, 'limit', '400.00', $plan);
        $system->limit(['each_contract' => ['trade_risk' => ['money' => '200.00']]]);
        self::assertSame(9, $system->order($order)->leaves());
        $system->limit(['each_contract' => ['trade_risk' => ['money' => '20.00']]]);
        self::assertSame([], $system->working());
    }

    public function testAnOrderThatIsHeldIsJudgedWhenItIsReleasedAndSaidWhenItIsPlaced(): void
    {
        // The test's clock stands at 09:30 UTC on 2 November 2026, a Monday.
        $windows = ['no_entries' => [['days' => [1], 'from' => '10:00', 'until' => '11:00']]];
        $system = self::system(more: $windows);
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        $inside = $body + ['release_at' => '2026-11-02T10:30:00.000Z'];
        $after = $body + ['release_at' => '2026-11-02T11:30:00.000Z'];
        $preview = $system->system->desk->queries->preview(1, $inside + ['account' => 1], $system->now());
        self::assertStringContainsString('no-entry window', $preview['words']);
        self::assertNull($preview['refusal']);
        self::assertStringNotContainsString('no-entry', $system->system->desk->queries->preview(1, $after + ['account' => 1], $system->now())['words']);
        $early = (int) $system->handle('place', $inside)->body['order'];
        $late = (int) $system->handle('place', $after)->body['order'];
        $system->wait(65 * 60_000 + 10);
        $system->step(3);
        self::assertSame('rejected', $system->order($early)->state->value);
        self::assertStringContainsString('no-entry window', (string) $system->order($early)->reason);
        self::assertSame('suspended', $system->order($late)->state->value, 'a window that is over by then does not touch it');
        // Placed within the window it is the same order.
        $again = (int) $system->handle('place', $after)->body['order'];
        $system->wait(60 * 60_000);
        $system->step(3);
        self::assertSame(['filled', 'filled'], [$system->order($late)->state->value, $system->order($again)->state->value]);
    }

    public function testAResetOrANewAccountLiftsNoPauseAndNoStreak(): void
    {
        $system = self::system(more: ['losses_in_a_row' => 2, 'pause' => ['loss' => '10.00', 'minutes' => 30]]);
        $lose = static function (int $account) use ($system): void {
            $system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market'], $account);
            $system->push(-3);
            $system->handle('flatten', ['contract' => TestSystem::CODE], $account);
        };
        $lose(1);
        $change = static fn(callable $do): int => (int) $system->system->changeAccounts($do, $system->now());
        $account = $system->system->desk->state->accounts[1];
        $reset = $change(static fn(Accounts $accounts): int => $accounts->reset($account, Node::of(['balance' => '5000.00'])));
        $buy = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        $refused = static function (int $account) use ($system, $buy): string {
            try {
                $system->handle('place', $buy, $account);
            } catch (Refusal $refusal) {
                return $refusal->problem->value;
            }

            return '';
        };
        self::assertSame('entries-stopped', $refused($reset), 'the pause goes on');
        $system->wait(31 * 60_000);
        $lose($reset);
        $system->wait(31 * 60_000);
        self::assertSame('entries-stopped', $refused($reset), 'the second loss in a row, counted from before');
        $new = $change(static fn(Accounts $accounts): int => $accounts->open(1, Node::of([
            'name' => 'Another', 'currency' => 'EUR', 'balance' => '5000.00', 'rates' => [],
        ]), ['order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00']));
        self::assertSame('entries-stopped', $refused($new));
        $system->nextDay();
        self::assertSame(['', ''], [$refused($reset), $refused($new)]);
        $system->restart();
    }

    public function testABarredTraderOpensNoOtherAccountToGoOn(): void
    {
        $system = self::system();
        $system->place('buy', 20);
        $system->push(-11);
        self::assertSame(0, $system->lots());
        $new = (int) $system->system->changeAccounts(static fn(Accounts $accounts): int => $accounts->open(1, Node::of([
            'name' => 'Another', 'currency' => 'USD', 'balance' => '5000.00', 'rates' => ['EUR' => '1.09'],
        ]), ['order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00']), $system->now());
        try {
            $system->handle('place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'], $new);
            self::fail('it goes on');
        } catch (Refusal $refusal) {
            self::assertSame('barred', $refusal->problem->value);
        }
        self::assertFalse($system->system->desk->state->isBarred($new, $system->now() + 86_400_000));
    }

    /** What was taken over is lifted for the account that took it over, and what an account has done itself is not. */
    public function testWhatIsLiftedHoldsBackNoMoreAndOverAKill(): void
    {
        $system = self::system(more: ['losses_in_a_row' => 1, 'daily_loss' => '200.00', 'pause' => ['loss' => '10.00', 'minutes' => 30]]);
        $change = static fn(callable $do): mixed => $system->system->changeAccounts($do, $system->now());
        $lift = static function (int $account) use ($system, $change): string {
            $of = $system->system->desk->state->accounts[$account];
            $uses = $system->system->desk->lossWatch()->uses($of, $system->now());
            try {
                $change(static fn(Accounts $accounts) => $accounts->lift($of, $uses, 'Owner'));
            } catch (Refusal $refusal) {
                return $refusal->problem->value;
            }

            return '';
        };
        $buy = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'];
        self::assertSame('nothing-to-change', $lift(1));
        $lose = static function (int $lots) use ($system, $buy): void {
            $system->handle('place', ['quantity' => $lots] + $buy);
            $system->push(-4);
            $system->handle('flatten', ['contract' => TestSystem::CODE]);
        };
        $lose(2);
        self::assertSame('entries-stopped', $system->refusal('place', $buy)->problem->value);
        self::assertSame('', $lift(1));
        $system->step(1);
        $system->restart();
        $lose(20);
        self::assertStringContainsString('Lifted by Owner: the stop of new entries (1 losing trade, and the limit is 1), 1 losing trade', implode("\n", $system->words()));
        self::assertTrue($system->system->desk->state->isBarred(1, $system->now()));
        self::assertSame('barred', $lift(1), 'it would be barred again at once');
        $new = (int) $change(static fn(Accounts $accounts): int => $accounts->open(1, Node::of([
            'name' => 'Another', 'currency' => 'EUR', 'balance' => '5000.00', 'rates' => [],
        ]), ['order_limit' => 20, 'position_limit' => 40]));
        self::assertTrue($system->system->desk->state->isBarred($new, $system->now()));
        self::assertSame('', $lift($new));
        $system->handle('place', $buy, $new);
        self::assertTrue($system->system->desk->state->isBarred(1, $system->now()), 'the other one stays barred');
        $system->step(1);
        $system->restart();
        self::assertFalse($system->system->desk->state->isBarred($new, $system->now()));
    }

    /** Cut to the lots that stay within the band, where the trader chose so: by a venue that fills it, nothing is worse than the band. */
    public function testAMarketOrderIsCutToTheBandWhereTheTraderChoseSo(): void
    {
        $system = self::system(['band_ticks' => 2, 'order_lots' => 1_000, 'position_lots' => 1_000], balance: '1000000.00');
        $system->nextDay();
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 900, 'kind' => 'market', 'over_band' => 'cut'];
        // What closes is never cut.
        $system->place('buy', 3);
        $close = $system->system->desk->queries->preview(1, ['account' => 1, 'side' => 'sell'] + $body, $system->now());
        self::assertSame([3, 0, null], [$close['closes'], $close['opens'], $close['refusal']]);
        $ask = (int) $system->system->desk->quote(TestSystem::CODE)->ask;
        $preview = $system->system->desk->queries->preview(1, ['account' => 1] + $body, $system->now());
        self::assertNull($preview['refusal']);
        self::assertMatchesRegularExpression('/^Buy (\d+) market · cut from 900 to stay within the price band of 2 ticks/', $preview['words']);
        $id = $system->system->desk->state->lastOrder + 1;
        $system->handle('place', $body);
        self::assertSame("Buy {$system->order($id)->quantity} market", implode(' ', array_slice(explode(' ', $preview['words']), 0, 3)));
        $system->step(40);
        $fills = $system->eventsOf(OrderFilled::class);
        self::assertNotSame([], $fills);
        self::assertLessThanOrEqual($ask + 2, max(array_map(static fn(OrderFilled $of): int => $of->price, $fills)));
        // What stays within the band is sent whole.
        $small = $system->system->desk->queries->preview(1, ['account' => 1, 'quantity' => 1] + $body, $system->now());
        self::assertStringStartsWith('Buy 1 market ·', $small['words']);
        self::assertStringNotContainsString('cut', $small['words']);
        self::assertStringContainsString('only a market order that is sent now', $system->refusal('place', ['kind' => 'limit', 'price' => '400.00'] + $body)->getMessage());
        self::assertStringContainsString('only a market order that is sent now', $system->refusal('place', ['release_at' => '2026-11-05T10:00:00Z'] + $body)->getMessage());
    }

    /** The preview shows the sweep, and the band refuses it. */
    public function testThePriceBandSeesAMarketOrder(): void
    {
        $system = self::system(['band_ticks' => 2, 'order_lots' => 1_000, 'position_lots' => 1_000], balance: '1000000.00');
        $system->nextDay();
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 900, 'kind' => 'market'];
        $preview = $system->system->desk->queries->preview(1, $body + ['account' => 1], $system->now());
        self::assertSame('price-band', $preview['refusal']['code'] ?? null, (string) json_encode($preview));
        self::assertSame('price-band', self::code($system, 'place', $body));
        self::assertSame(1, preg_match('/; (\d+) lots, or a limit at [\d.]+, would be accepted$/', $system->refusal('place', $body)->getMessage(), $fit));
        self::assertSame('price-band', self::code($system, 'place', ['quantity' => (int) $fit[1] + 1] + $body));
        $ask = (int) $system->system->desk->quote(TestSystem::CODE)->ask;
        $order = $system->place('buy', (int) $fit[1]);
        self::assertSame((int) $fit[1], $system->order($order)->filled);
        foreach ($system->eventsOf(OrderFilled::class) as $fill) {
            self::assertLessThanOrEqual($ask + 2, $fill->price);
        }
    }

    public function testABandOfOneTickIsSaidSo(): void
    {
        $system = self::system(['band_ticks' => 1, 'order_lots' => 1_000, 'position_lots' => 1_000], balance: '1000000.00');
        $system->nextDay();
        $body = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 900, 'kind' => 'market'];
        self::assertStringContainsString('the price band is 1 tick; ', $system->refusal('place', $body)->getMessage());
        $cut = $system->system->desk->queries->preview(1, ['account' => 1, 'over_band' => 'cut'] + $body, $system->now());
        self::assertStringContainsString('the price band of 1 tick ·', $cut['words']);
    }

    /** A child that is sent after its parent has filled closes what the parent opened. */
    public function testAChildTakesItsRoleWhenItIsReleased(): void
    {
        $system = self::system();
        $parent = $system->place('buy', 2, 'limit', '400.00');
        $child = $system->place('sell', 3, 'stop', '395.00', more: ['after' => $parent]);
        self::assertSame(Role::Entry, $system->order($child)->role);
        $system->push(-30);
        self::assertSame(2, $system->lots());
        $system->step(1);
        self::assertSame([Role::Close, 2], [$system->order($child)->role, $system->order($child)->leaves()]);
        $system->push(-25);
        self::assertSame(0, $system->lots(), 'it closed, and opened nothing');
        $system->restart();
    }

    /** Where each lot must have a stop, one that was sent by hand outlives its date; elsewhere it ends as it was asked to. */
    public function testAClosingStopThatIsNeededOutlivesItsDate(): void
    {
        foreach ([[true, 'gtc'], [false, null]] as [$required, $tif]) {
            $system = self::system();
            $system->place('buy', 2);
            $stop = static fn(int $beyond, array $more): int => $system->place(
                'sell', 1, 'stop', TestSystem::contract()->price($system->average() - $beyond), more: $more,
            );
            $orders = [
                $stop(9, ['tif' => 'gtd', 'expires_at' => $system->in(1_000)]), $stop(8, ['cancel_at' => $system->in(1_000)]),
            ];
            $system->limit(['each_contract' => ['stop_required' => $required]]);
            $system->wait(2_000);
            $system->step(2);
            self::assertSame($required ? [$tif, $tif] : [], array_map(static fn($order): string => $order->tif->value, $system->working()));
            self::assertSame($required ? 0 : 2, $system->holding()->coverage()->unprotected());
            $system->wait(2_000);
            $system->step(2);
            self::assertSame($required, $system->order($orders[1])->state === OrderState::New, 'it is not looked at again and again');
            $system->handle('flatten', ['contract' => TestSystem::CODE]);
            self::assertSame([0, []], [$system->lots(), $system->working()]);
            $system->restart();
        }
    }

    /** What stands behind an order of one's own is not sure to fill: filled or killed means all of it. */
    public function testFillOrKillCountsNothingBehindAnOrderOfItsOwn(): void
    {
        $system = self::system(['order_lots' => 1_000, 'position_lots' => 1_000], balance: '1000000.00');
        $system->nextDay();
        $system->place('buy', 3, plan: TestSystem::plan('"stop":{"ticks":30},"portions":[{"rest":true,"target":{"ticks":2}}]'));
        $target = $system->working(Role::Target)[0];
        // Behind the target there is more: to fill it the order would have to go through it.
        $facing = array_sum(array_map(
            static fn(array $level): int => $level[0] <= (int) $target->price + 2 ? $level[1] : 0,
            $system->system->market(TestSystem::CODE)->venue->facing(Side::Buy, 1),
        ));
        $fok = [
            'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => $facing, 'kind' => 'limit', 'tif' => 'fok',
            'price' => TestSystem::contract()->price((int) $target->price + 2),
        ];
        $order = $system->order((int) $system->handle('place', $fok)->body['order']);
        self::assertSame([OrderState::Rejected, 0], [$order->state, $order->filled]);
        self::assertStringContainsString('fill or kill: the book has only', (string) $order->reason);
        preg_match('/only (\\d+) of/', (string) $order->reason, $found);
        self::assertLessThan($facing, (int) $found[1]);
        $order = $system->order((int) $system->handle('place', ['quantity' => (int) $found[1]] + $fok)->body['order']);
        self::assertSame([OrderState::Filled, (int) $found[1]], [$order->state, $order->filled]);
    }

    public function testADayMarginOfNothingLeavesTheInitialOne(): void
    {
        $contract = Contract::fromArray([
            'day_margin' => '0.00', 'initial_margin' => '4500.00', 'session' => ['zone' => 'UTC', 'days' => [1, 2, 3, 4, 5, 6, 7], 'open' => '00:00', 'close' => '10:00'],
        ] + TestSystem::contract()->toArray());
        $system = new TestSystem(contract: $contract, accounts: [Account::fromArray(['balance' => '5000.00'] + TestSystem::account(1)->document)]);
        $system->place('buy', 1);
        $system->wait(16 * 60_000);
        self::assertSame('margin', self::code($system, 'place', ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']));
    }

    /** However many orders an account has at the venue, what closes finds room. */
    public function testTheVenueKeepsRoomForWhatCloses(): void
    {
        // 20 in all: 18 that may open, 20 with what protects, two more for what closes at the market.
        $system = new TestSystem(maxOrders: 20);
        for ($i = 0; $i < 17; $i++) {
            $system->place('buy', 1, plan: TestSystem::plan(self::STOP_8));
        }
        for ($i = 0; $i < 3; $i++) {
            $system->place('buy', 1, 'limit', '400.00');
        }
        self::assertCount(2, $system->eventsOf(OrderRejected::class), '17 stops and one entry: that is where entries end');
        $system->place('buy', 1, 'limit', '400.00');
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        // Nothing but stops, as many as there may be: their flatten is the first that would find no room.
        $full = new TestSystem(maxOrders: 10);
        for ($i = 0; $i < 9; $i++) {
            $full->place('buy', 1, plan: TestSystem::plan(self::STOP_8));
        }
        $full->place('buy', 1, plan: TestSystem::plan(self::STOP_8));
        self::assertSame(9, $full->lots());
        $full->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertSame(0, $full->lots());
    }
}
