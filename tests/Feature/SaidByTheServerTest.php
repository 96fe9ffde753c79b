<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\Reply;
use Tests\Support\TestSystem;
use Tests\Support\Trader;

/** What the page shows and does not work out itself. */
final class SaidByTheServerTest extends DeskCase
{
    /** @param array<string, mixed> $asked */
    private function cost(int $order, array $asked): Reply
    {
        return $this->trader->call('POST', "orders/$order/preview", $asked);
    }

    public function testWhatAChangeWouldCostIsSaidBeforeItIsSent(): void
    {
        $far = self::price($this->last() - 12);
        $order = $this->trader->place(['quantity' => 3, 'price' => $far] + self::order(kind: 'limit'))->body['id'];
        $ahead = $this->trader->call('GET', "orders/$order")->body['ahead'];
        foreach ([
            [['quantity' => 2], "keeps its place, $ahead ahead", false], [['quantity' => 4], "loses its place, $ahead ahead", false],
            [['price' => self::price($this->last() - 13)], "loses its place, $ahead ahead", false],
            [['price' => self::price($this->last() + 9)], 'trades at once, the market is at ', true],
        ] as [$asked, $words, $wouldTrade]) {
            $cost = $this->cost($order, $asked);
            self::assertSame([200, $wouldTrade, null], [$cost->status, $cost->body['would_trade'], $cost->body['refusal']]);
            self::assertStringStartsWith($words, $cost->body['words']);
        }
        self::assertSame('order-limit', $this->cost($order, ['quantity' => 900])->body['refusal']['code']);
        self::assertSame([422, '/price'], [($odd = $this->cost($order, ['price' => '412.30']))->status, $odd->body['pointer']]);
        self::assertSame($far, $this->trader->working()[0]['price'], 'nothing was changed');
        self::assertSame(404, $this->desk->trader()->call('POST', "orders/$order/preview", ['quantity' => 2])->status);
    }

    /** The same command twice says the same twice, and nobody else's order is told of. */
    public function testAChangeThatIsNotToTradeIsRefusedOverHttpHoweverOftenItComes(): void
    {
        $far = self::price($this->last() - 12);
        $order = $this->trader->place(['quantity' => 2, 'price' => $far] + self::order(kind: 'limit'))->body['id'];
        $asked = ['client_id' => 'once', 'price' => self::price($this->last() + 9), 'refuse_if' => ['would_trade']];
        foreach (['first', 'again'] as $time) {
            $refused = $this->trader->call('PATCH', "orders/$order", $asked);
            self::assertSame([409, 'would-trade', '/refuse_if'], [$refused->status, $refused->code(), $refused->body['pointer']], $time);
        }
        self::assertSame(404, $this->desk->trader()->call('PATCH', "orders/$order", ['client_id' => 'theirs'] + $asked)->status);
        self::assertSame(422, $this->trader->call('PATCH', "orders/$order", ['client_id' => 'odd', 'refuse_if' => 'would_trade'] + $asked)->status);
        self::assertSame([$far], array_column($this->trader->working(), 'price'), 'nothing was changed');
        // Two closes as a pair, each said to close: both are taken, neither can open.
        $this->trader->place(['quantity' => 1, 'kind' => 'market'] + self::order());
        $close = ['contract' => 'DULZ6', 'side' => 'sell', 'quantity' => 1, 'closing' => 'close'];
        $pair = $this->trader->call('POST', 'orders/pair', ['client_id' => 'pair', 'account' => $this->trader->account, 'orders' => [
            ['kind' => 'limit', 'price' => self::price($this->last() + 8)] + $close,
            ['kind' => 'stop', 'trigger' => self::price($this->last() - 8)] + $close,
        ]]);
        self::assertSame([201, ['close', 'close']], [$pair->status, array_column($pair->body['orders'] ?? [], 'role')], json_encode($pair->body, JSON_THROW_ON_ERROR));
    }

    /** The desk's clock stands at 09:30 when these tests begin. */
    public function testATimeOfDayIsTheNextSuchMoment(): void
    {
        $order = ['price' => self::price($this->last() - 12)] + self::order(kind: 'limit');
        $sent = $this->trader->place(['release_at' => '23:59', 'cancel_at' => '00:10:30'] + $order)->body;
        self::assertSame(['T23:59:00.000Z', 'T00:10:30.000Z'], [substr($sent['release_at'], 10), substr($sent['cancel_at'], 10)]);
        self::assertSame(690, strtotime($sent['cancel_at']) - strtotime($sent['release_at']), 'the one that comes after it');
        $preview = $this->trader->call('POST', 'orders/preview', ['cancel_at' => '23:59', 'account' => $this->trader->account] + $order)->body;
        self::assertMatchesRegularExpression('/ · cancelled at \d{4}-\d\d-\d\d 23:59:00 UTC$/', $preview['words']);
        self::assertSame($this->last() - 12, $preview['tick']);
        $bad = $this->trader->place(['cancel_at' => '24:01'] + $order);
        self::assertSame([422, '/cancel_at'], [$bad->status, $bad->body['pointer']]);
    }

    /** Each counts from its own fills; what a close at the position's average has moved between them stands beside. */
    public function testTheEntriesAddUpToThePosition(): void
    {
        $sum = static fn(array $position): float => round(
            array_sum(array_map(floatval(...), array_column($position['results']['entries'], 'open'))) + (float) ($position['results']['beside'] ?? 0),
            6,
        );
        $first = $this->trader->place(['quantity' => 2] + self::order())->body['id'];
        $this->trader->push(self::CODE, 4);
        $second = $this->trader->place(['quantity' => 2, 'exit_plan' => TestSystem::plan('"stop":{"ticks":20}')] + self::order())->body['id'];
        $position = $this->trader->position(self::CODE);
        self::assertSame([$first, $second], array_column($position['results']['entries'], 'entry'));
        self::assertSame([(float) $position['open_money'], null], [$sum($position), $position['results']['beside']]);
        self::assertNotSame($position['entries'][0]['average_words'], $position['entries'][1]['average_words']);
        $this->trader->call('POST', 'contracts/'.self::CODE.'/close', [
            'client_id' => Trader::id(), 'account' => $this->trader->account, 'entry' => $first,
        ]);
        $position = $this->trader->position(self::CODE);
        self::assertSame([$second], array_column($position['results']['entries'], 'entry'));
        self::assertSame((float) $position['open_money'], $sum($position));
        self::assertNotNull($position['results']['beside']);
        self::assertSame([['entry' => $second, 'portion' => 1]], $position['next']['close']);
        $stop = array_values(array_filter($this->trader->working(), static fn(array $o): bool => $o['role'] === 'stop'))[0];
        self::assertStringContainsString((string) $position['entries'][0]['average_words'], (string) $stop['counts_from'], 'the stop says what it counts from');
    }

    public function testExitsAreTypedAtAPosition(): void
    {
        $entry = $this->trader->place(['quantity' => 2, 'exit_plan' => null] + self::order())->body['id'];
        $average = (float) $this->trader->position(self::CODE)['average_price'];
        $set = $this->trader->call('POST', 'contracts/'.self::CODE.'/exit', [
            'client_id' => Trader::id(), 'account' => $this->trader->account, 'role' => 'stop', 'by' => 'money', 'value' => '40.00',
            'entry' => $entry, 'portion' => 1,
        ]);
        self::assertSame(200, $set->status, (string) json_encode($set->body));
        self::assertSame([$average - 4.0], array_map(floatval(...), array_column($this->trader->working(), 'trigger')), '40.00 are eight ticks of 2.50 on two lots');
        self::assertSame([2, 0], [$this->trader->position(self::CODE)['protected'], $this->trader->position(self::CODE)['bare']]);
    }

    public function testWhoAsksGetsARefusalThatTheBrowserTakesForNoFault(): void
    {
        $address = $this->desk->url().'/api/orders/preview';
        $ask = function (string $header) use ($address): array {
            $curl = curl_init($address);
            curl_setopt_array($curl, [
                CURLOPT_RETURNTRANSFER => true, CURLOPT_HEADER => true, CURLOPT_POSTFIELDS => '{"account":'.$this->trader->account.'}',
                CURLOPT_HTTPHEADER => ['Content-Type: application/json', 'Authorization: Bearer '.$this->trader->token, ...($header === '' ? [] : [$header])],
            ]);
            $answer = (string) curl_exec($curl);

            return [curl_getinfo($curl, CURLINFO_RESPONSE_CODE), preg_match('/^Problem-Status: (\d+)/mi', $answer, $found) === 1 ? $found[1] : null];
        };
        self::assertSame([422, null], $ask(''));
        self::assertSame([200, '422'], $ask('Quiet-Problems: 1'));
    }
}
