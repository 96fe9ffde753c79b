<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\EventStream;
use Tests\Support\Trader;

/** Durations, held orders, groups and settings over HTTP and the real engine. */
final class OrdersTest extends DeskCase
{
    /** @param list<array<string, mixed>> $orders */
    private function pair(array $orders): \Tests\Support\Reply
    {
        return $this->trader->call(
            'POST',
            'orders/pair',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'orders' => $orders],
        );
    }

    /** The answer was lost: what became of the command is asked, over a kill too, and what had not arrived does nothing any more. */
    public function testACommandWhoseAnswerWasLostIsRecalled(): void
    {
        $account = $this->trader->account;
        $recall = fn(string $id, ?int $of = null): \Tests\Support\Reply => $this->trader->call(
            'POST',
            'accounts/'.($of ?? $account).'/recall',
            ['client_id' => $id, 'account' => $of ?? $account],
        );
        $id = Trader::id();
        $body = ['client_id' => $id, 'account' => $account] + self::order();
        $placed = $this->trader->call('POST', 'orders', $body)->body;
        $found = $recall($id);
        self::assertSame([200, true, $placed['id'], 'filled'], [$found->status, $found->body['arrived'], $found->body['answer']['id'], $found->body['answer']['state']]);
        $flattened = Trader::id();
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => $flattened, 'account' => $account]);
        self::assertSame(self::CODE, $recall($flattened)->body['answer']['contracts'][0]['contract']);

        $late = Trader::id();
        self::assertSame([false, null], [$recall($late)->body['arrived'], $recall($late)->body['answer']]);
        $this->desk->killEngine();
        $refused = $this->trader->call('POST', 'orders', ['client_id' => $late] + $body);
        self::assertSame([409, 'client-id-reused'], [$refused->status, $refused->code()]);
        self::assertStringContainsString('had been abandoned', $refused->body['detail']);
        self::assertSame([], $this->trader->working());
        self::assertSame(404, $recall($id, $account + 1)->status, 'nobody learns of another\'s commands');
        self::assertSame('/client_id', $this->trader->call('POST', "accounts/$account/recall", ['account' => $account])->body['pointer']);
    }

    public function testAPairIsPlacedTogetherAndOneCancelsTheOther(): void
    {
        $last = $this->last();
        $stop = static fn(string $side, int $tick): array => [
            'contract' => self::CODE, 'side' => $side, 'quantity' => 1, 'kind' => 'stop', 'trigger' => self::price($tick), 'exit_plan' => 1,
        ];
        $body = [
            'client_id' => Trader::id(), 'account' => $this->trader->account,
            'orders' => [$stop('buy', $last + 6), $stop('sell', $last - 6)],
        ];
        $placed = $this->trader->call('POST', 'orders/pair', $body);
        self::assertSame(201, $placed->status);
        [$up, $down] = $placed->body['orders'];
        self::assertSame(
            [['order' => $down['id'], 'kind' => 'oco'], ['order' => $up['id'], 'kind' => 'oco']],
            [$up['tied'], $down['tied']],
        );
        self::assertSame(200, $this->trader->call('POST', 'orders/pair', $body)->status, 'the same command again does nothing more');
        self::assertCount(2, $this->trader->working());
        $this->trader->push(self::CODE, $last + 7 - $this->last());
        self::assertSame(1, $this->trader->position(self::CODE)['quantity']);
        self::assertSame('cancelled', $this->trader->call('GET', "orders/{$down['id']}")->body['state']);
    }

    public function testABadPairIsRefusedWholeWithItsPointer(): void
    {
        $good = ['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->last() - 8)];
        self::assertSame('/orders/1/price', $this->pair([$good, ['price' => '1.3'] + $good])->body['pointer']);
        self::assertSame(
            '/orders/1/contract',
            $this->pair([$good, ['contract' => 'TIDZ6', 'price' => '80.00'] + $good])->body['pointer'] ?? '',
        );
        self::assertSame(422, $this->pair([$good])->status);
        self::assertSame([], $this->trader->working());
    }

    public function testTieAndUntie(): void
    {
        $ids = [];
        foreach ([8, 9] as $below) {
            $ids[] = $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit',
                'price' => self::price($this->last() - $below),
            ])->body['id'];
        }
        $tied = $this->trader->call(
            'POST',
            'orders/tie',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'orders' => $ids],
        );
        self::assertSame([200, 'oco'], [$tied->status, $tied->body['orders'][0]['tied']['kind']]);
        self::assertSame(
            'already-tied',
            $this->trader->call(
                'POST',
                'orders/tie',
                ['client_id' => Trader::id(), 'account' => $this->trader->account, 'orders' => $ids],
            )->code(),
        );
        $untied = $this->trader->call('POST', "orders/{$ids[1]}/untie", ['client_id' => Trader::id()]);
        self::assertSame([null, null], array_column($untied->body['orders'], 'tied'));
        $other = $this->desk->trader();
        self::assertSame(
            'not-found',
            $other->call('POST', 'orders/tie', ['client_id' => Trader::id(), 'account' => $other->account, 'orders' => $ids])->code(),
            'of another account they look absent',
        );
    }

    public function testAnOrderSaysWhenItWasOver(): void
    {
        $resting = $this->trader->place(['price' => '300.00'] + self::order(kind: 'limit'))->body;
        self::assertNull($resting['ended_at']);
        $this->trader->call('DELETE', "orders/{$resting['id']}", ['client_id' => Trader::id()]);
        $taken = $this->trader->place(self::order())->body['id'];
        $rows = $this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'];
        foreach ([[$resting['id'], 'cancelled', 'order-cancelled'], [$taken, 'filled', 'order-filled']] as [$id, $state, $type]) {
            $order = $this->trader->call('GET', "orders/$id")->body;
            self::assertSame($state, $order['state']);
            $times = array_column(
                array_filter($rows, static fn(array $row): bool => $row['type'] === $type && ($row['body']['order'] ?? null) === $id),
                'time',
            );
            self::assertSame(end($times), $order['ended_at'], 'when the journal says');
        }
    }

    public function testAHeldOrderSurvivesAKillAndSaysWhatItWaitsFor(): void
    {
        $level = self::price($this->last() + 9);
        $held = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market',
            'condition' => ['contract' => self::CODE, 'price' => $level, 'last' => 'at-or-above'],
        ])->body;
        self::assertSame(['suspended', 'DULZ6 at or above '.$level], [$held['state'], $held['held_until']]);
        $gtd = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->last() - 20),
            'tif' => 'gtd', 'expires_at' => '2099-01-01T00:00:00.000Z',
        ])->body;
        $this->desk->killEngine();
        $again = array_column($this->trader->working(), null, 'id');
        self::assertSame('suspended', $again[$held['id']]['state']);
        self::assertSame('2099-01-01T00:00:00.000Z', $again[$gtd['id']]['expires_at']);
        $this->trader->push(self::CODE, 10);
        self::assertSame('filled', $this->trader->call('GET', "orders/{$held['id']}")->body['state']);
    }

    public function testTheQueuePlaceFollowsTheMarketOnTheStream(): void
    {
        $stream = EventStream::of($this->trader, $this->desk);
        $stream->await('state');
        $bid = self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body['bids'][0][0]);
        $order = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($bid),
        ])->body;
        self::assertGreaterThan(0, $order['ahead']);
        $mark = $stream->await('mark', static fn(array $m): bool => in_array($order['id'], array_column($m['ahead'], 0), true));
        self::assertSame($order['ahead'], array_column($mark['data']['ahead'], 1, 0)[$order['id']]);
    }

    public function testSettingsAreKeptAndBadOnesRefusedWithTheirPointer(): void
    {
        $settings = fn(): array => array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name');
        $keys = $settings()['keys'];
        self::assertSame('x', $keys['keys']['flatten']);
        $put = fn(string $name, array $document): \Tests\Support\Reply => $this->trader->call('PUT', "settings/$name", $document);
        self::assertSame(200, $put('keys', ['format' => 'lotrik.keys/1', 'keys' => ['flatten' => 'F13']])->status);
        self::assertSame('F13', $settings()['keys']['keys']['flatten']);
        foreach ([
            [['flatten' => 'b'], '/keys/flatten', 'a key that is free: "break-even" has it'],
            [['fly' => 'f'], '/keys/fly', 'the action "fly"'],
            [['flatten' => 'Ctrl+w'], '/keys/flatten', 'the browser has its own use'],
            [['flatten' => 'F5'], '/keys/flatten', 'the browser reloads the page'],
            [['flatten' => 'd'], '/keys/flatten', 'D held makes a draft'],
            [['flatten' => 'Spacebar'], '/keys/flatten', 'a key such as'],
        ] as [$changed, $pointer, $says]) {
            $reply = $put('keys', ['format' => 'lotrik.keys/1', 'keys' => $changed]);
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer']]);
            self::assertStringContainsString($says, $reply->body['detail']);
        }
        self::assertSame('F13', $settings()['keys']['keys']['flatten'], 'nothing was changed');
        $tile = static fn(array $step, ?string $key = null): array => [
            'format' => 'lotrik.action-keys/1', 'tiles' => [['name' => 'One', 'key' => $key, 'steps' => [$step]]],
        ];
        self::assertSame(200, $put('action-keys', $tile(['do' => 'flatten'], 'F14'))->status);
        $order = ['do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => 1, 'lots' => 2, 'plan' => 'chosen'];
        foreach ([
            [$tile(['do' => 'dance']), '/tiles/0/steps/0/do'],
            [$tile(['from' => 'moon'] + $order), '/tiles/0/steps/0/from'],
            [$tile(['lots' => 0] + $order), '/tiles/0/steps/0/lots'],
            [$tile(['offset' => 1.5] + $order), '/tiles/0/steps/0/offset'],
            [$tile(['do' => 'flatten'], 'F13'), '/tiles/0/key'],
            [
                [
                    'format' => 'lotrik.action-keys/1',
                    'tiles' => [['name' => 'Four', 'key' => null, 'steps' => array_fill(0, 4, ['do' => 'flatten'])]],
                ],
                '/tiles/0/steps',
            ],
        ] as [$document, $pointer]) {
            $reply = $put('action-keys', $document);
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer']]);
        }
        self::assertSame(
            '/keys/half-off',
            $put('keys', ['format' => 'lotrik.keys/1', 'keys' => ['half-off' => 'F14']])->body['pointer'],
            'an action key has it',
        );
        $entry = $settings()['entry'];
        self::assertSame(
            200,
            $put(
                'entry',
                ['confirm_over' => 5, 'contracts' => ['DULZ6' => ['lots_row' => [1, 2, 4, 8, 16], 'plan' => 2]]] + $entry,
            )->status,
        );
        self::assertSame([1, 2, 4, 8, 16], $settings()['entry']['contracts']['DULZ6']['lots_row']);
        self::assertSame('/lots_row', $put('entry', ['lots_row' => [1, 2]] + $entry)->body['pointer']);
        self::assertSame('/quick_row/0', $put('entry', ['quick_row' => ['teleport']] + $entry)->body['pointer']);
        self::assertSame(404, $put('socks', [])->status);
        self::assertSame(
            'x',
            array_column($this->desk->trader()->call('GET', 'settings')->body['items'], 'document', 'name')['keys']['keys']['flatten'],
            "another user's are another user's",
        );
    }

    public function testAStopAndATargetAreSetForThePositionAndBadOnesRefused(): void
    {
        $this->trader->place(self::order(quantity: 3));
        $entry = self::ticks($this->trader->position(self::CODE)['average_price']);
        $exit = fn(array $body): \Tests\Support\Reply => $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/exit',
            $body + ['client_id' => Trader::id(), 'account' => $this->trader->account],
        );
        self::assertSame(200, $exit(['role' => 'stop', 'level' => self::price($entry - 6)])->status);
        self::assertSame([self::price($entry - 6)], $this->trader->stops());
        self::assertSame(0, $this->trader->position(self::CODE)['unprotected']);
        self::assertSame('/role', $exit(['role' => 'hope', 'level' => self::price($entry - 6)])->body['pointer']);
        self::assertSame('/level', $exit(['role' => 'target', 'level' => '1.23'])->body['pointer']);
        self::assertSame('stop-passed', $exit(['role' => 'stop', 'level' => self::price($entry + 6)])->code());
        self::assertSame('target-passed', $exit(['role' => 'target', 'level' => self::price($entry - 9)])->code());
        $closer = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/tighten',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'ticks' => 2],
        );
        self::assertSame([200, [self::price($entry - 4)]], [$closer->status, $this->trader->stops()]);
    }

    public function testWhatCameByAnActionKeyIsToldWithTheOrder(): void
    {
        $order = $this->trader->place(['via' => 'action key Join', 'tag' => 'retest'] + self::order(quantity: 1))->body;
        self::assertSame(['by hand, action key Join', 'retest'], [$order['why'], $order['tag']]);
    }

    public function testTheLossLimitBarsAndOutlivesAKill(): void
    {
        $trader = $this->trader;
        $trader->place(self::order(quantity: 20));
        $trader->push(self::CODE, -14);
        $risk = fn(): array => $trader->call('GET', "accounts/{$trader->account}/risk")->body;
        self::assertMatchesRegularExpression('/^2026-11-03T00:00:00/', (string) $risk()['barred_until']);
        self::assertSame(0, $trader->position(self::CODE)['quantity']);
        self::assertSame('barred', $trader->place(self::order(quantity: 1))->code());
        $this->desk->killEngine();
        self::assertNotNull($risk()['barred_until']);
        self::assertSame('barred', $trader->place(self::order(quantity: 1))->code());
        $other = $this->desk->trader();
        self::assertSame(201, $other->place(self::order(quantity: 1))->status, 'another account is not barred');
        self::assertContains(
            'account-barred',
            array_column($trader->call('GET', "journal?account={$trader->account}")->body['items'], 'type'),
        );
        $trader->push(self::CODE, 14);
    }

    public function testAnOrderThatWaitsForAnotherIsBornWithItsFirstFill(): void
    {
        $last = $this->last();
        $parent = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($last - 4),
        ])->body['id'];
        $child = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($last - 15),
            'after' => $parent,
        ])->body;
        self::assertSame(['suspended', "a fill of order $parent"], [$child['state'], $child['held_until']]);
        $this->trader->push(self::CODE, -5);
        $this->trader->steps(self::CODE, 2);
        self::assertSame('new', $this->trader->call('GET', "orders/{$child['id']}")->body['state']);
    }
}
