<?php

declare(strict_types=1);

namespace Tests\Feature;

/** What would be lost if stops were moved and drafts filled, before anything is sent; and how far the market has jumped. */
final class WhatIfTest extends DeskCase
{
    private string $address;

    protected function setUp(): void
    {
        parent::setUp();
        $this->address = "accounts/{$this->trader->account}/what-if";
    }

    /** @return array<string, mixed> */
    private function whatIf(array $body): array
    {
        $reply = $this->trader->call('POST', $this->address, $body);
        self::assertSame(200, $reply->status, json_encode($reply->body, JSON_THROW_ON_ERROR));

        return $reply->body;
    }

    /** @return list<array<string, mixed>> orders, by portion */
    private function stops(): array
    {
        $stops = array_values(array_filter($this->trader->working(), static fn(array $order): bool => $order['role'] === 'stop'));
        usort($stops, static fn(array $a, array $b): int => $a['portion'] <=> $b['portion']);

        return $stops;
    }

    public function testAMovedStopMovesAllTotalsAndNothingElse(): void
    {
        $this->trader->place(['exit_plan' => 1] + self::order());
        $stops = $this->stops();
        $before = $this->trader->call('GET', "accounts/{$this->trader->account}/open-risk?gap=4")->body;
        $lower = self::price(self::ticks($stops[0]['trigger']) - 2);
        $then = $this->whatIf(['gap' => '4', 'moves' => [['order' => $stops[0]['id'], 'price' => $lower]]]);
        // One lot, two ticks of 2.50 farther.
        foreach (['from_here', 'from_entry'] as $total) {
            $more = \Brick\Math\BigDecimal::of($then['totals'][$total])->minus($before['totals'][$total]);
            self::assertTrue($more->isEqualTo('5.00'), "$total: $more");
        }
        self::assertSame([$lower, $stops[1]['trigger']], [$then['contracts'][0]['stops'][1]['stop'], $then['contracts'][0]['stops'][0]['stop']]);
        self::assertSame($before['totals']['gap'], $then['totals']['gap']);
        self::assertSame($stops, $this->stops(), 'nothing was sent');
        self::assertEquals($before, $this->whatIf(['gap' => 4]), 'nothing moved is as it is');
        self::assertEquals($before, $this->whatIf(['gap' => '4', 'moves' => [['order' => 999_999, 'price' => $lower]]]), 'what fills meanwhile moves nothing');
    }

    public function testLotsWithoutAStopGetTheOneThatIsPulled(): void
    {
        $this->trader->place(['exit_plan' => null] + self::order());
        $last = $this->last();
        self::assertSame(2, $this->whatIf([])['unprotected']);
        $then = $this->whatIf(['stops' => [['contract' => self::CODE, 'price' => self::price($last - 10)]]]);
        self::assertSame([0, 2], [$then['unprotected'], $then['contracts'][0]['stops'][0]['lots']]);
    }

    /** Two drafts: 2 lots at 7 ticks of 2.50, with 0.62 a side. */
    public function testADraftCountsAsIfItHadFilledWhereItStands(): void
    {
        $draft = ['account' => $this->trader->account, 'exit_plan' => 1, 'kind' => 'limit', 'price' => self::price($this->last() - 5)] + self::order();
        $then = $this->whatIf(['orders' => [$draft]]);
        self::assertSame(['37.48', '37.48', '1.07'], [$then['totals']['from_here'], $then['totals']['from_entry'], $then['r']]);
        self::assertSame([2, null], [$then['contracts'][0]['quantity'], $then['contracts'][0]['stops'][0]['entry']]);
        self::assertSame('74.96', $this->whatIf(['orders' => [$draft, $draft]])['totals']['from_here']);
        self::assertNull($this->trader->position(self::CODE), 'nothing was sent');
        $bare = $this->whatIf(['orders' => [['exit_plan' => null] + $draft]]);
        self::assertSame([2, false, null], [$bare['unprotected'], $bare['over'], $bare['r']]);
        // Long 2, and a draft that goes through flat to short 1: only that one is at risk.
        $this->trader->place(['exit_plan' => 1] + self::order());
        $through = ['side' => 'sell', 'quantity' => 3, 'closing' => 'through', 'price' => self::price($this->last() + 5)] + $draft;
        $then = $this->whatIf(['orders' => [$through]]);
        self::assertSame([-1, 1, '18.74'], [$then['contracts'][0]['quantity'], count($then['contracts'][0]['stops']), $then['totals']['from_here']]);
        // One that closes takes what was at risk with it: half of it, or all.
        $closes = ['side' => 'sell', 'quantity' => 2, 'exit_plan' => null, 'price' => self::price($this->last() + 5)] + $draft;
        self::assertSame([[], '0.00'], [($all = $this->whatIf(['orders' => [$closes]]))['contracts'], $all['totals']['from_here']]);
        $half = $this->whatIf(['orders' => [['quantity' => 1] + $closes]]);
        self::assertSame([1, '18.74'], [$half['contracts'][0]['quantity'], $half['totals']['from_entry']]);
    }

    public function testTheGapMayBeAsFarAsTheContractHasJumped(): void
    {
        $this->trader->place(['exit_plan' => 1] + self::order());
        $address = "accounts/{$this->trader->account}/open-risk";
        $hour = $this->trader->call('GET', "$address?gap=hour")->body;
        $day = $this->trader->call('GET', "$address?gap=day")->body;
        $jump = $hour['contracts'][0]['gap_ticks'];
        self::assertGreaterThanOrEqual($jump, $day['contracts'][0]['gap_ticks']);
        self::assertGreaterThan(0, $jump);
        self::assertTrue(\Brick\Math\BigDecimal::of($hour['totals']['gap'])->isEqualTo(\Brick\Math\BigDecimal::of('2.50')->multipliedBy(2 * $jump)));
        foreach (['week', '-1', '100001', '1.5', ''] as $wrong) {
            self::assertSame(422, $this->trader->call('GET', "$address?gap=$wrong")->status, $wrong);
            self::assertSame(422, $this->trader->call('POST', $this->address, ['gap' => $wrong])->status, $wrong);
        }
    }

    public function testWhatCannotBeReadIsSaidAndAnothersAccountIsNotFound(): void
    {
        $this->trader->place(['exit_plan' => 1] + self::order());
        $stop = $this->stops()[0];
        foreach ([
            '/moves/0/price' => ['moves' => [['order' => $stop['id'], 'price' => '400.30']]],
            '/moves/0/order' => ['moves' => [['order' => 'x', 'price' => '400.00']]],
            '/stops' => ['stops' => 7], '/colour' => ['colour' => 'red'],
            '/moves' => ['moves' => array_fill(0, 21, ['order' => 1, 'price' => '400.00'])],
            '/orders/0/quantity' => ['orders' => [['account' => $this->trader->account, 'contract' => self::CODE, 'side' => 'buy', 'kind' => 'market', 'quantity' => 0]]],
        ] as $pointer => $body) {
            $reply = $this->trader->call('POST', $this->address, $body);
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer'] ?? null], json_encode($reply->body, JSON_THROW_ON_ERROR));
        }
        $other = $this->desk->trader();
        self::assertSame(404, $other->call('POST', $this->address, [])->status);
        $own = ['moves' => [['order' => $stop['id'], 'price' => '400.00']]];
        self::assertSame([], $other->call('POST', "accounts/{$other->account}/what-if", $own)->body['contracts'], "another's order moves nothing");
    }
}
