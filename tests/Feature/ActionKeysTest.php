<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\Reply;
use Tests\Support\Trader;

/** Action keys over HTTP and the real engine: what their orders would be, and their steps as one command. */
final class ActionKeysTest extends DeskCase
{
    /** @param array<string, mixed> $body */
    private function steps(array $body, string $what = 'steps'): Reply
    {
        return $this->trader->call('POST', 'contracts/'.self::CODE."/$what", $body + ['account' => $this->trader->account]);
    }

    /** @return array<string, mixed> */
    private static function step(string $from, int $offset = 0, string|int $lots = 'chosen', string $kind = 'limit'): array
    {
        return ['do' => 'order', 'side' => 'buy', 'kind' => $kind, 'from' => $from, 'offset' => $offset, 'lots' => $lots, 'plan' => 'none'];
    }

    public function testWhatTheirOrdersWouldBeIsCountedFromTheMarketAndThePosition(): void
    {
        $this->trader->place(['quantity' => 5, 'exit_plan' => null] + self::order());
        $book = $this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=1')->body;
        $ticks = static fn(string $price): int => (int) round((float) $price * 2);
        [$bid, $ask] = [$ticks($book['bids'][0][0]), $ticks($book['asks'][0][0])];
        $average = $ticks($this->trader->position(self::CODE)['average_price']);
        $answer = $this->steps(['lots' => 3, 'pointed' => 800, 'steps' => [
            self::step('bid', -2), self::step('ask', 4, 7, 'stop'), self::step('mid'), self::step('average', 1, 'half'),
            self::step('pointed', 0, 'position'), ['kind' => 'market', 'from' => null] + self::step('bid'),
        ]], 'steps/preview');
        self::assertSame(200, $answer->status, (string) json_encode($answer->body));
        self::assertSame(
            [[3, $bid - 2], [7, $ask + 4], [3, intdiv($bid + $ask, 2)], [2, $average + 1], [5, 800], [3, null]],
            array_map(static fn(array $step): array => [$step['quantity'], $step['tick']], $answer->body['steps']),
        );
        self::assertSame('buy 7 stop '.$answer->body['steps'][1]['trigger'], $answer->body['steps'][1]['words']);
    }

    public function testWhatIsNotThereIsNamed(): void
    {
        $answer = $this->steps(['lots' => 3, 'steps' => [self::step('pointed'), self::step('bid', 0, 'half'), self::step('average')]], 'steps/preview');
        self::assertSame(['point at a rung', 'no position to halve', 'no average'], array_column($answer->body['steps'], 'missing'));
        $wrong = $this->steps(['lots' => 3, 'steps' => [['from' => 'moon'] + self::step('bid')]], 'steps/preview');
        self::assertSame([422, '/steps/0/from'], [$wrong->status, $wrong->body['pointer']]);
    }

    public function testTheStepsAreOneCommandWithThePlansOfTheTrader(): void
    {
        $old = $this->trader->place(['kind' => 'limit', 'price' => '390.00'] + self::order())->body['id'];
        $plan = $this->trader->call('GET', 'exit-plans')->body['items'][0]['id'];
        $order = ['side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => '391.00', 'exit_plan' => $plan];
        $body = ['client_id' => Trader::id(), 'name' => 'Nearer', 'steps' => [['do' => 'cancel-buys'], ['do' => 'order', 'order' => $order]]];
        self::assertSame(['steps' => 2], array_intersect_key($this->steps($body)->body, ['steps' => 1]));
        self::assertSame(['steps' => 2], array_intersect_key($this->steps($body)->body, ['steps' => 1]), 'the same id does nothing more');
        $working = $this->trader->working();
        self::assertSame(['391.00', 'Short tide'], [$working[0]['price'], $working[0]['plan']]);
        self::assertSame(['cancelled', 1], [$this->trader->call('GET', "orders/$old")->body['state'], count($working)]);
        $recalled = $this->trader->call('POST', "accounts/{$this->trader->account}/recall", [
            'client_id' => $body['client_id'], 'account' => $this->trader->account,
        ]);
        self::assertSame([true, 2], [$recalled->body['arrived'], $recalled->body['answer']['steps']]);
        $refused = $this->steps(['client_id' => Trader::id()] + ['steps' => [['do' => 'cancel-buys'], ['do' => 'order', 'order' => ['quantity' => 900] + $order]]] + $body);
        self::assertSame([422, 'order-limit'], [$refused->status, $refused->code()]);
        self::assertCount(1, $this->trader->working());
    }
}
