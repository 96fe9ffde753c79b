<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\Trader;

/** A trade from entry to flat, as a script makes it. */
final class TradingTest extends DeskCase
{
    public function testEntryBreakEvenTrailFlatten(): void
    {
        $placed = $this->trader->place(self::order() + ['exit_plan' => 1, 'tag' => 'morning']);
        self::assertSame(
            [201, 'filled', 2, 'Short tide', 'morning'],
            [$placed->status, $placed->body['state'], $placed->body['filled'], $placed->body['plan'], $placed->body['tag']],
        );
        $anchor = self::ticks($placed->body['average_price']);
        self::assertSame([self::price($anchor - 7), self::price($anchor - 7)], $this->trader->stops());
        $position = $this->trader->position(self::CODE);
        self::assertSame([2, 0, '37.48'], [$position['quantity'], $position['unprotected'], $position['open_risk']]);

        $this->trader->push(self::CODE, $anchor + 5 - $this->last());
        self::assertSame([self::price($anchor), self::price($anchor)], $this->trader->stops());
        $this->trader->push(self::CODE, 6);
        self::assertSame([self::price($anchor + 5)], $this->trader->stops(), 'one out at +9, the other trails');
        $risk = $this->trader->call('GET', "accounts/{$this->trader->account}/risk")->body;
        self::assertSame(['0.00', '11.26', 0], [$risk['open_risk'], $risk['locked_in'], $risk['unprotected']]);

        $flat = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/flatten',
            ['client_id' => Trader::id(), 'account' => $this->trader->account],
        );
        self::assertSame([200, 'flat', 0], [$flat->status, $flat->body['contracts'][0]['words'], $flat->body['contracts'][0]['quantity']]);
        self::assertSame([], $this->trader->working());

        $fills = $this->trader->call('GET', "fills?account={$this->trader->account}")->body['items'];
        // The entry may have met several resting orders, one fill each.
        self::assertSame(['close', 'target', 'entry'], array_values(array_unique(array_column($fills, 'role'))));
        self::assertSame(4, array_sum(array_column($fills, 'quantity')));
        $rows = $this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body;
        self::assertContains('stop-moved', array_column($rows['items'], 'type'));
        self::assertSame(array_unique(array_column($rows['items'], 'sequence')), array_column($rows['items'], 'sequence'));
        self::assertSame('EUR', $risk['currency']);

        // What the logbook will want to know of it, and could not find out later.
        $facts = array_values(array_filter(
            $rows['items'],
            static fn(array $row): bool => $row['type'] === 'entry-closed',
        ))[0]['body']['facts'];
        self::assertSame(
            ['Short tide', 1, 2, 'plan', ['1' => ['target' => 1], '2' => ['flatten' => 1]]],
            [$facts['plan'], $facts['plan_version'], $facts['lots'], $facts['steered'], $facts['ends']],
        );
        self::assertSame([11, '37.48'], [$facts['highest_profit']['ticks'], $facts['risk_at_entry']]);
        self::assertSame(['bid', 'bid_size', 'ask', 'ask_size'], array_keys($fills[0]['touch']));
        self::assertGreaterThan(0, $fills[0]['touch']['bid_size']);
    }

    public function testPlaceIsIdempotent(): void
    {
        $body = self::order() + ['client_id' => Trader::id(), 'account' => $this->trader->account, 'exit_plan' => 1];
        $first = $this->trader->call('POST', 'orders', $body);
        $again = $this->trader->call('POST', 'orders', array_reverse($body, true));
        self::assertSame([201, 200, $first->body['id']], [$first->status, $again->status, $again->body['id']]);
        self::assertSame(2, $this->trader->position(self::CODE)['quantity']);
        $other = $this->trader->call('POST', 'orders', ['quantity' => 3] + $body);
        self::assertSame([409, 'client-id-reused'], [$other->status, $other->code()]);
    }

    public function testPreviewReadModifyCancel(): void
    {
        $price = self::price($this->last() - 20);
        $preview = $this->trader->call(
            'POST',
            'orders/preview',
            ['price' => $price, 'account' => $this->trader->account, 'exit_plan' => 1] + self::order(kind: 'limit'),
        );
        self::assertSame("Buy 2 limit $price · Short tide · risk 35.00 + 2.48 fees", $preview->body['words']);
        $id = $this->trader->place(['price' => $price] + self::order(kind: 'limit'))->body['id'];
        $changed = $this->trader->call(
            'PATCH',
            "orders/$id",
            ['client_id' => Trader::id(), 'price' => self::price($this->last() - 19), 'quantity' => 3],
        );
        self::assertSame(
            [200, 3, self::price($this->last() - 19)],
            [$changed->status, $changed->body['quantity'], $changed->body['price']],
        );
        self::assertIsInt($this->trader->call('GET', "orders/$id")->body['ahead']);
        self::assertSame('cancelled', $this->trader->call('DELETE', "orders/$id")->body['state']);
        $again = $this->trader->call('DELETE', "orders/$id");
        self::assertSame([409, 'order-final'], [$again->status, $again->code()]);
        self::assertSame('cancelled', $this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'][0]['state']);
    }

    public function testTakingAStopOffNamesTheLotsFirst(): void
    {
        $this->trader->place(self::order() + ['exit_plan' => 4]);
        $stop = $this->trader->working()[0]['id'];
        $refused = $this->trader->call('DELETE', "orders/$stop");
        self::assertSame([409, 'would-unprotect', 2], [$refused->status, $refused->code(), $refused->body['unprotected']]);
        $this->trader->call('DELETE', "orders/$stop", ['leave_unprotected' => true]);
        self::assertSame(2, $this->trader->position(self::CODE)['unprotected']);
    }

    public function testAPlanIsPutOnTheOpenPosition(): void
    {
        $this->trader->place(self::order());
        self::assertSame(2, $this->trader->position(self::CODE)['unprotected']);
        $put = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/exit-plan',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'exit_plan' => 1],
        );
        self::assertSame([200, 0], [$put->status, $this->trader->position(self::CODE)['unprotected']]);
        self::assertSame(['Short tide'], array_values(array_unique(array_column($this->trader->working(), 'plan'))));
        $off = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/exit-plan',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'exit_plan' => null],
        );
        self::assertSame([409, 'would-unprotect'], [$off->status, $off->code()]);
    }

    public function testReverseAndCancel(): void
    {
        $this->trader->place(self::order() + ['exit_plan' => 1]);
        $this->trader->place(['price' => self::price($this->last() - 20)] + self::order(kind: 'limit'));
        $cancelled = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/cancel',
            ['client_id' => Trader::id(), 'account' => $this->trader->account],
        );
        self::assertSame([1, 2], [count($cancelled->body['cancelled']), $cancelled->body['stops_kept']]);
        $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/reverse',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'exit_plan' => 4],
        );
        self::assertSame(-2, $this->trader->position(self::CODE)['quantity']);
        self::assertCount(1, $this->trader->stops());
        $this->trader->call('POST', "accounts/{$this->trader->account}/flatten", ['client_id' => Trader::id()]);
        self::assertSame([], $this->trader->working());
    }

    public function testTotalsAreInTheAccountsCurrencyThroughItsRates(): void
    {
        $this->trader->push('FRXZ6', 1);
        $this->trader->push('FRXZ6', -1);
        $this->trader->place(['contract' => 'FRXZ6'] + self::order(quantity: 1) + ['exit_plan' => [
            'name' => 'Flat ten', 'stop' => ['ticks' => 10],
        ]]);
        $risk = $this->trader->call('GET', "accounts/{$this->trader->account}/risk")->body;
        // 10 ticks of 12.50 USD and fees of 2.20 USD, at 0.92.
        self::assertSame(['USD', '127.20'], [$risk['by_contract'][0]['currency'], $risk['by_contract'][0]['open_risk']]);
        self::assertSame(['EUR', '117.024'], [$risk['currency'], $risk['open_risk']]);
        self::assertSame('1.012', $risk['day']['fees']);
    }

    public function testTheWholeAccountIsFlattenedAndCancelled(): void
    {
        foreach (['DULZ6', 'FRXZ6'] as $code) {
            $this->trader->place(['contract' => $code] + self::order(quantity: 1) + ['exit_plan' => 1]);
            $this->trader->place([
                'contract' => $code, 'kind' => 'limit', 'price' => $code === 'DULZ6' ? '300.00' : '1750.0',
            ] + self::order());
        }
        $cancelled = $this->trader->call('POST', "accounts/{$this->trader->account}/cancel", ['client_id' => Trader::id()]);
        self::assertSame([2, 2], [count($cancelled->body['cancelled']), $cancelled->body['stops_kept']]);
        $flat = $this->trader->call('POST', "accounts/{$this->trader->account}/flatten", ['client_id' => Trader::id()]);
        self::assertSame(['flat', 'flat'], array_column($flat->body['contracts'], 'words'));
        self::assertSame([], $this->trader->working());
        $again = $this->trader->call('POST', "accounts/{$this->trader->account}/flatten", ['client_id' => Trader::id()]);
        self::assertSame([200, []], [$again->status, $again->body['contracts']]);
    }

    public function testListsComeInPagesAndTheJournalGoesOnWhereItWasLeft(): void
    {
        for ($i = 0; $i < 3; $i++) {
            $this->trader->place(['price' => '300.00'] + self::order(kind: 'limit'));
        }
        $ids = array_column($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], 'id');
        self::assertSame(
            [$ids[1], $ids[2]],
            array_column($this->trader->call('GET', "orders?account={$this->trader->account}&cursor={$ids[0]}")->body['items'], 'id'),
        );
        self::assertSame([], $this->trader->call('GET', "orders?account={$this->trader->account}&state=final")->body['items']);
        $rows = $this->trader->call('GET', "journal?account={$this->trader->account}")->body['items'];
        $middle = $rows[intdiv(count($rows), 2)]['sequence'];
        $rest = $this->trader->call('GET', "journal?account={$this->trader->account}&after=$middle")->body['items'];
        self::assertSame(array_slice($rows, intdiv(count($rows), 2) + 1), $rest);
        self::assertSame(['trader', 'engine'], [$rows[1]['actor'], $rows[0]['actor']]);
    }

    public function testContractsPlansAndCurve(): void
    {
        $contracts = $this->trader->call('GET', 'contracts')->body['items'];
        self::assertSame(
            ['DULZ6', 'DULH7', 'TIDX6', 'HBNZ6', 'FRXZ6', 'FRXH7', 'MFXZ6', 'HNYZ6', 'YUZX6'],
            array_column($contracts, 'code'),
        );
        self::assertSame(['YUZX6'], array_column($this->trader->call('GET', 'contracts?q=yuzu')->body['items'], 'code'));
        $book = $this->trader->call('GET', 'contracts/HBNZ6/book?levels=3')->body;
        self::assertCount(3, $book['bids']);
        self::assertMatchesRegularExpression('/^\d+\.\d{6}$/', $book['bids'][0][0]);
        self::assertSame(
            ['Short tide', 'Two halves', 'Wide berth', 'Runner'],
            array_map(static fn(array $p): string => $p['document']['name'], $this->trader->call('GET', 'exit-plans')->body['items']),
        );
        $curve = $this->trader->call('GET', 'exit-plans/1/curve?best=12')->body;
        self::assertSame([-7, -7, -7, -7, -7, 0, 0, 2, 2, 2, 2, 5, 5], $curve['stops']);
        self::assertSame(
            [-24, 48],
            [
                $this->trader->call('GET', 'exit-plans/3/curve?best=0&contract=DULZ6')->body['stops'][0],
                $this->trader->call('GET', 'exit-plans/3/curve?contract=DULZ6')->body['portions'][0]['target'],
            ],
        );
    }

    public function testAPushPrintsAndStopsWhereItShould(): void
    {
        $before = $this->last();
        foreach ([7, -12, 1] as $ticks) {
            $answer = $this->trader->push(self::CODE, $ticks);
            self::assertSame(self::price($before += $ticks), $answer->body['last']);
            $book = $this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=1')->body;
            self::assertLessThanOrEqual(2, self::ticks($book['asks'][0][0]) - self::ticks($book['bids'][0][0]));
        }
        $stepped = $this->trader->call('POST', 'practice/'.self::CODE, ['steps' => 50, 'mood' => 'burst']);
        self::assertSame(200, $stepped->status);
    }
}
