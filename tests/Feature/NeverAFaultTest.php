<?php

declare(strict_types=1);

namespace Tests\Feature;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Trader;

/** Bodies with one or two fields turned into something else: always an answer of the description, never a 5xx. */
final class NeverAFaultTest extends DeskCase
{
    private const ROUNDS = 600;

    /** @return list<mixed> */
    private static function oddities(): array
    {
        return [
            null, true, false, 0, -1, 1.5, 1e300, PHP_INT_MAX, '', ' ', 'x', '412.50', '-412.50', '1e3', "\u{202e}", str_repeat('9', 400),
            [], ['a'], ['ticks' => 5], [[[]]], ['name' => 'x', 'stop' => ['ticks' => -5]], ['name' => ['x'], 'stop' => 'y'],
        ];
    }

    /** @return list<array{string, string, array<string, mixed>}> method, path, a body that would be taken */
    private function calls(): array
    {
        $account = $this->trader->account;
        $plan = [
            'name' => 'x', 'stop' => ['ticks' => 5],
            'portions' => [['lots' => 1, 'target' => ['ticks' => 4]], ['rest' => true, 'target' => null]],
            'ratchets' => [['at' => 3, 'lock' => 0]], 'watch' => 'last', 'covers' => 'entry', 'after_target' => 'keep-entry',
        ];
        $order = [
            'account' => $account, 'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00',
            'tif' => 'day', 'exit_plan' => $plan, 'closing' => 'through', 'tag' => 'odd',
            'this_order' => ['stop' => 4, 'portions' => [['portion' => 1, 'target' => null]]],
        ];
        $sample = [
            'account' => $account, 'document' => ['stop' => ['atr' => '1', 'bar' => '1m', 'length' => 2]] + $plan, 'contract' => self::CODE,
            'side' => 'sell', 'quantity' => 2, 'price' => '412.50',
        ];
        $tape = "time,contract,price,size,aggressor\n2026-11-02T09:30:00.000Z,DULZ6,412.50,1,buy\n";
        $id = $this->trader->place(['price' => '301.00'] + self::order(kind: 'limit'))->body['id'];

        return [
            ['POST', 'orders', $order], ['POST', 'orders/preview', $order],
            ['PATCH', "orders/$id", ['quantity' => 2, 'price' => '302.00', 'tif' => 'day', 'steering' => 'plan']],
            ['DELETE', "orders/$id", ['leave_unprotected' => false]],
            ['POST', 'contracts/'.self::CODE.'/flatten', ['account' => $account]],
            ['POST', 'contracts/'.self::CODE.'/reverse', ['account' => $account, 'exit_plan' => $plan]],
            [
                'POST', 'contracts/'.self::CODE.'/cancel',
                ['account' => $account, 'sides' => ['buy'], 'exits' => false, 'leave_unprotected' => false],
            ],
            [
                'POST', 'contracts/'.self::CODE.'/exit-plan',
                ['account' => $account, 'exit_plan' => $plan, 'close_now' => true, 'leave_unprotected' => true],
            ],
            ['POST', 'contracts/'.self::CODE.'/exit', ['account' => $account, 'stop' => '1.00', 'target' => '900.00']],
            ['POST', 'contracts/'.self::CODE.'/close', ['account' => $account, 'entry' => 1, 'portion' => 1]],
            ['POST', 'contracts/'.self::CODE.'/break-even', ['account' => $account, 'plus_fees' => true]],
            ['POST', 'exit-plans', ['document' => $plan]], ['PUT', 'exit-plans/1', ['version' => 1, 'document' => $plan]],
            ['POST', 'exit-plans/order', ['ids' => [4, 3, 2, 1]]],
            ['POST', 'levels', ['contract' => self::CODE, 'low' => '410.00', 'high' => '411.00', 'name' => 'x', 'tone' => 'sand']],
            ['POST', 'outside-fills', ['account' => $account, 'csv' => "time,contract,side,quantity,price\n"]],
            ['POST', 'exit-plans/study', $sample + ['best' => 20]],
            ['POST', 'exit-plans/distance', ['distance' => ['ticks' => 7], 'as' => ['money' => '1.00']] + array_diff_key($sample, ['document' => 0])],
            ['POST', 'rehearsals', $sample + ['line' => [0, 3, -2]]], ['POST', 'rehearsals', $sample + ['tape' => $tape]],
            ['POST', "accounts/$account/cancel", ['exits' => true]],
            ['POST', 'practice/'.self::CODE, ['mood' => 'steady', 'paused' => true, 'speed' => 1, 'steps' => 1, 'push_ticks' => 0]],
            ['POST', 'stream-ticket', ['account' => $account]],
        ];
    }

    public function testOddFieldsAreAnsweredInWords(): void
    {
        $seed = (int) (getenv('LOTRIK_SEED') ?: 1);
        $dice = new Randomizer(new Mt19937($seed));
        $calls = $this->calls();
        $oddities = self::oddities();
        $refused = 0;
        for ($i = 0; $i < self::ROUNDS; $i++) {
            [$method, $path, $body] = $calls[$dice->getInt(0, count($calls) - 1)];
            for ($n = $dice->getInt(1, 2); $n > 0; $n--) {
                self::spoil($body, $dice, $oddities[$dice->getInt(0, count($oddities) - 1)]);
            }
            $reply = $this->trader->call($method, $path, $body + ['client_id' => Trader::id()]);
            self::assertLessThan(500, $reply->status, "seed $seed, round $i: $method $path ".json_encode($body));
            $refused += $reply->status >= 400 ? 1 : 0;
        }
        self::assertGreaterThan(self::ROUNDS / 2, $refused);
        self::assertSame(200, $this->trader->call('GET', 'accounts')->status);
    }

    /** @param array<array-key, mixed> $body one field of it, perhaps deep inside, becomes something else */
    private static function spoil(array &$body, Randomizer $dice, mixed $value): void
    {
        $keys = array_keys($body);
        if ($keys === []) {
            $body['odd'] = $value;

            return;
        }
        $key = $keys[$dice->getInt(0, count($keys) - 1)];
        if (is_array($body[$key]) && $dice->getInt(0, 1) === 0) {
            self::spoil($body[$key], $dice, $value);
        } else {
            $body[$key] = $value;
        }
    }
}
