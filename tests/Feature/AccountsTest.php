<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\Trader;

/** Practice accounts over HTTP: opened, closed, reset, with rates of their own; over a kill, and never somebody else's. */
final class AccountsTest extends DeskCase
{
    /** @return array<int, array<string, mixed>> by number */
    private function accounts(): array
    {
        return array_column($this->trader->call('GET', 'accounts')->body['items'], null, 'id');
    }

    public function testAnAccountIsOpenedTradedResetAndReadOverAKill(): void
    {
        $opened = $this->trader->call('POST', 'accounts', ['name' => 'Small one', 'currency' => 'EUR', 'balance' => '3000.00', 'rates' => ['USD' => '0.92']]);
        self::assertSame([201, 'Small one', '3000.00', false], [$opened->status, $opened->body['name'], $opened->body['balance'], $opened->body['closed']]);
        $id = $opened->body['id'];
        self::assertSame(409, $this->trader->call('POST', 'accounts', ['name' => 'Small one', 'currency' => 'EUR', 'balance' => '3000.00'])->status);
        $placed = $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $id] + self::order());
        self::assertSame(201, $placed->status);
        $refused = $this->trader->call('POST', "accounts/$id/reset", ['balance' => '5000.00']);
        self::assertSame([409, 'account-in-use'], [$refused->status, $refused->body['code']]);
        self::assertSame(409, $this->trader->call('POST', "accounts/$id/close", [])->status);
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $id]);
        $reset = $this->trader->call('POST', "accounts/$id/reset", ['balance' => '5000.00']);
        self::assertSame([200, 'Small one', '5000.00'], [$reset->status, $reset->body['name'], $reset->body['balance']]);
        self::assertNotSame($id, $reset->body['id']);
        $this->desk->killEngine();
        $accounts = $this->accounts();
        self::assertSame([true, false], [$accounts[$id]['closed'], $accounts[$reset->body['id']]['closed']]);
        $late = $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $id] + self::order());
        self::assertSame([422, 'account-closed'], [$late->status, $late->body['code']]);
        self::assertSame(422, $this->trader->call('POST', "accounts/$id/reset", ['balance' => '5000.00'])->status, 'sent twice it opens nothing twice');
        self::assertCount(2, array_filter($this->trader->call('GET', "fills?account=$id")->body['items'], static fn(array $fill): bool => $fill['account'] === $id), 'what was traded stays to be read');
        $words = array_column($this->trader->call('GET', "journal?account=$id&after=0")->body['items'], 'words');
        self::assertContains("Account closed, replaced by account {$reset->body['id']}", $words);
        self::assertSame(201, $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $reset->body['id']] + self::order())->status);
    }

    public function testAContractWithoutARateTakesNoEntryUntilItHasOne(): void
    {
        $id = $this->trader->call('POST', 'accounts', ['name' => 'Without rates', 'currency' => 'GBP', 'balance' => '3000.00'])->body['id'];
        $enter = fn(): \Tests\Support\Reply => $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $id] + self::order());
        self::assertSame([422, 'no-rate'], [$enter()->status, $enter()->body['code']]);
        $set = $this->trader->call('PUT', "accounts/$id/rates", ['rates' => ['EUR' => '0.85']]);
        self::assertSame([200, ['EUR' => '0.85']], [$set->status, $set->body['rates']]);
        self::assertSame(201, $enter()->status);
        $taken = $this->trader->call('PUT', "accounts/$id/rates", ['rates' => ['USD' => '0.8']]);
        self::assertSame([422, '/rates/EUR'], [$taken->status, $taken->body['pointer']]);
        self::assertSame(['EUR' => '0.85'], $this->accounts()[$id]['rates']);
    }

    /** The desk may show any of them: what is measured by a balance, and what is told of a level, is that account's. */
    public function testPlansAndLevelsAreThoseOfTheAccountThatIsShown(): void
    {
        $small = $this->trader->call('POST', 'accounts', ['name' => 'Small', 'currency' => 'EUR', 'balance' => '5000.00', 'rates' => ['USD' => '0.92']])->body['id'];
        $document = ['format' => 'lotrik.exit-plan/1', 'name' => 'By balance', 'stop' => ['account_percent' => '0.5'], 'portions' => [['rest' => true, 'target' => null]]];
        $sample = ['document' => $document, 'contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'price' => '412.50'];
        $stop = function (int $account) use ($sample): int {
            $study = $this->trader->call('POST', 'exit-plans/study', ['account' => $account] + $sample);
            self::assertSame(200, $study->status, json_encode($study->body, JSON_THROW_ON_ERROR));

            return $study->body['portions'][0]['stop']['ticks'];
        };
        // 0.5 % of 25,000 and of 5,000 on two lots at 2.50 a tick.
        self::assertSame([25, 5], [abs($stop($this->trader->account)), abs($stop($small))]);
        $left = fn(int $account): int => count(array_filter(
            $this->trader->call('POST', 'rehearsals', ['account' => $account, 'line' => [0, -8]] + $sample)->body['events'],
            static fn(array $event): bool => $event['event'] === 'exit-filled',
        ));
        self::assertSame([0, 1], [$left($this->trader->account), $left($small)], 'eight ticks down stop out the small one alone');
        $last = $this->last();
        $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last + 6), 'high' => self::price($last + 6), 'name' => 'lid']);
        $this->trader->push(self::CODE, 5);
        $this->trader->call('POST', 'practice/'.self::CODE, ['steps' => 30]);
        foreach ([$this->trader->account, $small] as $account) {
            $types = array_column($this->trader->call('GET', "journal?account=$account&after=0")->body['items'], 'type');
            self::assertContains('level-told', $types, "account $account");
        }
    }

    public function testSomebodyElsesAccountIsNotThere(): void
    {
        $other = $this->desk->trader();
        foreach (['close' => [], 'reset' => ['balance' => '1.00']] as $what => $body) {
            self::assertSame(404, $this->trader->call('POST', "accounts/{$other->account}/$what", $body)->status, $what);
        }
        self::assertSame(404, $this->trader->call('PUT', "accounts/{$other->account}/rates", ['rates' => []])->status);
        self::assertFalse(array_column($other->call('GET', 'accounts')->body['items'], null, 'id')[$other->account]['closed']);
    }

    public function testBadInputIsNamedAndChangesNothing(): void
    {
        $before = $this->accounts();
        foreach ([
            '/balance' => ['name' => 'x', 'currency' => 'EUR', 'balance' => '-1'],
            '/currency' => ['name' => 'x', 'currency' => 'EURO', 'balance' => '1.00'],
            '/name' => ['name' => '', 'currency' => 'EUR', 'balance' => '1.00'],
            '/rates/USD' => ['name' => 'x', 'currency' => 'EUR', 'balance' => '1.00', 'rates' => ['USD' => '0']],
            '/owner' => ['name' => 'x', 'currency' => 'EUR', 'balance' => '1.00', 'owner' => 1],
        ] as $pointer => $body) {
            $reply = $this->trader->call('POST', 'accounts', $body);
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer']]);
        }
        self::assertSame(422, $this->trader->call('POST', "accounts/{$this->trader->account}/close", ['now' => true])->status);
        self::assertSame($before, $this->accounts());
    }
}
