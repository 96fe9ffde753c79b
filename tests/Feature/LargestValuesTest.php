<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/**
 * The largest values together, through every call that takes a number: each is taken or refused in words, the engine is the same one
 * afterwards, and it comes back from a kill.
 */
final class LargestValuesTest extends TestCase
{
    private const CODES = ['DULZ6', 'HBNZ6', 'YUZF7', 'TIDZ6'];

    private const LOTS = [1, 1_000_000, 2_147_483_648, PHP_INT_MAX];

    private const PRICES = ['10000000', '1002000.00', '999999999', '15625000.000000', '-999999999', '0', '999999999999999.999999999'];

    private const AMOUNTS = ['999999999999.00', '999999999999999.999999999', '0.000000001', '1'];

    private const COUNTS = [1, 100_000, 1_000_000_000, PHP_INT_MAX];

    public function testNoneOfThemEndsTheEngine(): void
    {
        $desk = RunningDesk::start('--seed', '1', '--paused', '--clock', RunningDesk::CLOCK);
        try {
            $trader = $desk->trader();
            $pid = $desk->enginePid();
            $rich = $trader->call('POST', 'accounts', [
                'name' => 'Rich', 'currency' => 'EUR', 'balance' => '999999999999.00', 'rates' => ['USD' => '0.000001', 'JPY' => '1000000', 'GBP' => '1'],
            ])->body['id'];
            $refused = $calls = 0;
            foreach ([$trader->account, $rich] as $account) {
                $trader->place(['account' => $account, 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'] + ['client_id' => Trader::id()]);
                foreach ($this->calls($trader, (int) $account) as [$method, $path, $body]) {
                    $reply = $trader->call($method, $path, $body + ['client_id' => Trader::id()]);
                    self::assertNotContains($reply->status, [0, 500, 502], "$method $path ".json_encode($body).' '.json_encode($reply->body));
                    $refused += $reply->status >= 400 ? 1 : 0;
                    if (++$calls % 50 === 0) {
                        self::assertSame($pid, $desk->enginePid(), "before $method $path ".json_encode($body));
                    }
                }
                $trader->steps('DULZ6', 60);
            }
            self::assertGreaterThan(300, $calls);
            self::assertLessThan($calls, $refused, 'some of it is taken');
            self::assertSame($pid, $desk->enginePid());
            $has = static fn(): array => [
                $trader->position('DULZ6')['quantity'], count($trader->call('GET', "orders?state=working&account=$rich")->body['items']),
            ];
            $before = $has();
            $desk->killEngine();
            self::assertSame($before, $has());
        } finally {
            $desk->stop();
        }
    }

    /** @return iterable<array{string, string, array<string, mixed>}> */
    private function calls(Trader $trader, int $account): iterable
    {
        $plans = [['name' => 'x', 'stop' => ['ticks' => 100_000]]];
        foreach (self::AMOUNTS as $amount) {
            foreach (['points', 'money', 'order_money', 'percent', 'account_percent'] as $unit) {
                $plans[] = ['name' => 'x', 'stop' => [$unit => $amount], 'portions' => [['rest' => true, 'target' => [$unit => $amount]]]];
            }
            $plans[] = ['name' => 'x', 'stop' => ['atr' => $amount, 'bar' => '1m', 'length' => 1]];
        }
        foreach (self::CODES as $i => $code) {
            foreach (self::PRICES as $j => $price) {
                $lots = self::LOTS[($i + $j) % 4];
                foreach ($j % 2 === 0 ? ['limit' => 'price', 'mit' => 'trigger'] : ['stop' => 'trigger'] as $kind => $field) {
                    $order = [
                        'contract' => $code, 'side' => ($i + $j) % 2 === 0 ? 'buy' : 'sell', 'quantity' => $lots, 'kind' => $kind, $field => $price,
                        'tif' => 'gtc', 'exit_plan' => $plans[($i * 7 + $j) % count($plans)],
                    ];
                    yield ['POST', 'orders/preview', ['account' => $account] + $order];
                    yield ['POST', 'orders', ['account' => $account, 'quantity' => 1] + $order];
                    yield ['POST', "accounts/$account/what-if", ['orders' => [$order, ['quantity' => 1] + $order]]];
                }
                yield ['POST', 'orders/pair', ['account' => $account, 'orders' => [$order, ['side' => 'buy', 'kind' => 'limit', 'price' => $price, 'trigger' => null] + $order]]];
            }
            foreach (array_slice($plans, $i % 2 === 0 ? 0 : 12) as $plan) {
                $order = ['account' => $account, 'contract' => $code, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => $plan];
                yield ['POST', 'orders/preview', $order];
                yield ['POST', 'orders/size', array_diff_key($order, ['quantity' => 1]) + ['risk' => ['money' => '999999999999.00']]];
                yield ['POST', 'exit-plans/noise', ['account' => $account, 'contract' => $code, 'document' => $plan, 'quantity' => 1_000_000, 'minutes' => PHP_INT_MAX]];
            }
        }
        foreach (self::COUNTS as $count) {
            foreach (['stop', 'target'] as $role) {
                foreach (['ticks', 'money'] as $by) {
                    yield ['POST', 'contracts/DULZ6/exit', ['account' => $account, 'role' => $role, 'by' => $by, 'value' => (string) $count]];
                }
                yield ['POST', 'contracts/DULZ6/exit', ['account' => $account, $role => "$count.00"]];
            }
            yield ['POST', 'contracts/DULZ6/tighten', ['account' => $account, 'ticks' => $count]];
            yield ['GET', "accounts/$account/open-risk?gap=$count", []];
            yield ['POST', 'levels/watch', ['within' => $count]];
            yield ['POST', 'levels', ['contract' => 'DULZ6', 'low' => '0.50', 'high' => "$count.00", 'name' => 'x', 'tone' => 'sand']];
            yield ['POST', 'contracts/DULZ6/exit-plan', ['account' => $account, 'exit_plan' => ['name' => 'x', 'stop' => ['ticks' => min($count, 100_000)]]]];
        }
        foreach ($trader->call('GET', "orders?state=working&account=$account")->body['items'] as $order) {
            foreach (self::PRICES as $price) {
                yield ['PATCH', "orders/{$order['id']}", ['price' => $price, 'quantity' => 1_000_000]];
                yield ['PATCH', "orders/{$order['id']}", ['trigger' => $price]];
            }
        }
        foreach (['0.000001', '1000000', '0.000000000001', '9999999'] as $rate) {
            yield ['PUT', "accounts/$account/rates", ['rates' => ['USD' => $rate, 'JPY' => $rate, 'GBP' => $rate]]];
            yield ['GET', "accounts/$account/risk", []];
            yield ['GET', "accounts/$account/day", []];
        }
        yield ['PUT', "accounts/$account/limits", ['format' => 'lotrik.limits/1', 'daily_loss' => '0.01', 'each_contract' => ['order_lots' => PHP_INT_MAX]]];
        yield ['PUT', "accounts/$account/limits", [
            'format' => 'lotrik.limits/1', 'daily_loss' => '999999999999.00', 'each_contract' => [
                'order_lots' => 1_000_000, 'position_lots' => 1_000_000, 'trade_risk' => ['money' => '0.01', 'percent' => '100'], 'band_ticks' => 1_000_000,
            ],
        ]];
        yield ['POST', 'orders', ['account' => $account, 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1_000_000, 'kind' => 'market', 'exit_plan' => 1]];
    }
}
