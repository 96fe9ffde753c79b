<?php

declare(strict_types=1);

namespace Tests\Feature;

use Opis\JsonSchema\Validator;
use Tests\Support\Trader;

/** Limits over HTTP: tightened at once, loosened with the next day, over a kill, and never somebody else's. */
final class LimitsTest extends DeskCase
{
    private const LEAST = ['format' => 'lotrik.limits/1', 'daily_loss' => '400.00'];

    private function address(): string
    {
        return "accounts/{$this->trader->account}/limits";
    }

    public function testTheyTightenAtOnceLoosenWithTheDayAndOutliveAKill(): void
    {
        $before = $this->trader->call('GET', $this->address());
        self::assertSame(['lotrik.limits/1', '500.00', null], [$before->body['now']['format'], $before->body['now']['daily_loss'], $before->body['next']]);
        $set = $this->trader->call('PUT', $this->address(), ['daily_loss' => '800.00', 'each_contract' => ['order_lots' => 2]] + self::LEAST);
        self::assertSame(200, $set->status, json_encode($set->body, JSON_THROW_ON_ERROR));
        self::assertSame(['500.00', 2, '800.00'], [$set->body['now']['daily_loss'], $set->body['now']['each_contract']['order_lots'], $set->body['next']['daily_loss']]);
        self::assertSame($set->body['day_ends'], $set->body['from']);
        $this->desk->killEngine();
        $after = $this->trader->call('GET', $this->address());
        self::assertSame([$set->body['now'], $set->body['next'], $set->body['from']], [$after->body['now'], $after->body['next'], $after->body['from']]);
        $order = ['client_id' => Trader::id(), 'account' => $this->trader->account];
        $refused = $this->trader->call('POST', 'orders', ['quantity' => 3] + $order + self::order());
        self::assertSame([422, 'order-limit', '/quantity'], [$refused->status, $refused->body['code'], $refused->body['pointer']]);
        self::assertSame(201, $this->trader->call('POST', 'orders', ['quantity' => 2] + $order + self::order())->status);
        $account = array_column($this->trader->call('GET', 'accounts')->body['items'], null, 'id')[$this->trader->account];
        self::assertSame([2, '500.00'], [$account['order_limit'], $account['daily_loss_limit']], 'the list of accounts shows what is in force');
        $words = array_column($this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'], 'words');
        self::assertNotSame([], preg_grep('/^Limits set; what they loosen counts from \d{4}-/', $words));
    }

    public function testWhatIsUsedUpIsTold(): void
    {
        $this->trader->call('PUT', $this->address(), ['drawdown' => ['open' => '90.00']] + self::LEAST);
        $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $this->trader->account, 'quantity' => 10] + self::order());
        $this->trader->push(self::CODE, -2);
        $limits = $this->trader->call('GET', $this->address())->body;
        $uses = array_column($limits['uses'], null, 'limit');
        self::assertSame(['the daily loss limit', 'the drawdown limit'], array_keys($uses));
        self::assertSame($uses['the daily loss limit']['used'], $uses['the drawdown limit']['used'], 'the day had not been up');
        self::assertSame('90.00', $uses['the drawdown limit']['of']);
        self::assertGreaterThan($uses['the daily loss limit']['percent'], $uses['the drawdown limit']['percent']);
        $this->trader->push(self::CODE, -2);
        $risk = $this->trader->call('GET', "accounts/{$this->trader->account}/risk")->body;
        self::assertSame('the drawdown limit', $risk['barred_for']);
        self::assertNotNull($risk['barred_until']);
        $refused = $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $this->trader->account] + self::order());
        self::assertStringContainsString('the drawdown limit was reached', $refused->body['detail']);
    }

    public function testBadInputChangesNothingAndNamesItsPlace(): void
    {
        $before = $this->trader->call('GET', $this->address())->body;
        foreach ([
            [['daily_loss' => '0'], '/daily_loss'], [['daily_loss' => '-3'], '/daily_loss'], [['daily_loss' => '3.001'], '/daily_loss'],
            [['day' => ['zone' => 'Kestrel Bay', 'rolls' => '00:00']], '/day/zone'], [['contracts' => ['NONE' => []]], '/contracts/NONE'],
            [['each_contract' => ['order_lots' => 9, 'position_lots' => 3]], '/each_contract/order_lots'], [['more' => 1], '/more'],
            [['no_entries' => [['from' => '10:00', 'until' => '10:05']]], '/no_entries/0'],
        ] as [$fields, $pointer]) {
            $reply = $this->trader->call('PUT', $this->address(), $fields + self::LEAST);
            self::assertSame([422, 'invalid', $pointer], [$reply->status, $reply->body['code'], $reply->body['pointer'] ?? null]);
        }
        self::assertSame($before, $this->trader->call('GET', $this->address())->body);
        $other = $this->desk->trader();
        foreach (['GET', 'PUT'] as $method) {
            self::assertSame(404, $other->call($method, $this->address(), $method === 'GET' ? null : self::LEAST)->status, "$method of another's");
        }
    }

    /** The schema beside the document takes what the reader takes; what it cannot say, it says that it cannot. */
    public function testTheSchemaAgreesWithTheReader(): void
    {
        $schema = json_encode($this->trader->call('GET', 'limits/schema')->body, JSON_THROW_ON_ERROR);
        $valid = static fn(array $document): bool => (new Validator())->validate(json_decode(json_encode($document, JSON_THROW_ON_ERROR)), $schema)->isValid();
        $now = $this->trader->call('GET', $this->address())->body['now'];
        self::assertTrue($valid(['contracts' => (object) $now['contracts']] + $now), 'what was exported is taken again');
        self::assertSame(200, $this->trader->call('PUT', $this->address(), $now)->status);
        self::assertTrue($valid(self::LEAST));
        foreach ([
            ['format' => 'lotrik.limits/2'], ['daily_loss' => 400], ['daily_loss' => '-1'], ['orders_a_minute' => 0], ['losses_in_a_row' => 1.5],
            ['pause' => ['loss' => '1.00']], ['no_entries' => [['days' => [8], 'from' => '10:00', 'until' => '10:05']]], ['unknown' => 1],
            ['each_contract' => ['stop_required' => 'yes']],
        ] as $fields) {
            self::assertFalse($valid($fields + self::LEAST), json_encode($fields, JSON_THROW_ON_ERROR));
            self::assertSame(422, $this->trader->call('PUT', $this->address(), $fields + self::LEAST)->status);
        }
    }

    public function testTheSizeOfAnOrderIsSaidInWhatItMayLose(): void
    {
        $ask = fn(array $fields): \Tests\Support\Reply => $this->trader->call('POST', 'orders/size', $fields + [
            'account' => $this->trader->account, 'contract' => self::CODE, 'side' => 'buy', 'kind' => 'market', 'exit_plan' => 1,
        ]);
        $size = $ask(['risk' => ['money' => '150.00']]);
        self::assertSame([200, 8, '149.92', 'EUR'], [$size->status, $size->body['lots'], $size->body['risk'], $size->body['currency']]);
        $bad = $ask(['risk' => ['money' => 150]]);
        self::assertSame([422, '/risk/money'], [$bad->status, $bad->body['pointer'] ?? null]);
        self::assertSame(422, $ask(['risk' => null])->status);
        self::assertSame(404, $this->desk->trader()->call('POST', 'orders/size', [
            'account' => $this->trader->account, 'contract' => self::CODE, 'side' => 'buy', 'kind' => 'market', 'risk' => ['money' => '1.00'],
        ])->status);
    }
}
