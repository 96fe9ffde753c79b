<?php

declare(strict_types=1);

namespace Tests\Feature;

/** What is lost if all stops fill: stop by stop, at current depth, after a gap, and for the account. */
final class OpenRiskTest extends DeskCase
{
    public function testEachStopAndTheWholeAreToldAndOnlyToTheOwner(): void
    {
        $address = "accounts/{$this->trader->account}/open-risk";
        self::assertSame([], $this->trader->call('GET', $address)->body['contracts']);
        $order = ['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1];
        $this->trader->place($order);
        $risk = $this->trader->call('GET', "$address?gap=10");
        self::assertSame(200, $risk->status, json_encode($risk->body, JSON_THROW_ON_ERROR));
        $stops = $risk->body['contracts'][0]['stops'];
        self::assertSame([1, 2], array_column($stops, 'portion'));
        // Ten ticks of 2.50 for each lot; 7 ticks and the fees of both ways from the entry.
        self::assertSame(['25.00', '25.00'], array_column($stops, 'gap'));
        self::assertSame(['18.74', '18.74'], array_column($stops, 'from_entry'));
        self::assertSame(['50.00', 10, 0], [$risk->body['totals']['gap'], $risk->body['contracts'][0]['gap_ticks'], $risk->body['unprotected']]);
        $sum = \Brick\Math\BigDecimal::of($risk->body['totals']['from_here'])->plus($risk->body['totals']['slippage'])->plus('50.00');
        self::assertSame((string) $sum, $risk->body['totals']['all']);
        $now = $this->trader->call('GET', "accounts/{$this->trader->account}/risk")->body;
        self::assertSame([$now['open_risk'], $now['locked_in'], $now['risk_from_here']], [
            $risk->body['totals']['from_entry'], $risk->body['totals']['locked_in'], $risk->body['totals']['from_here'],
        ], 'the same as the account\'s risk says');
        $this->trader->place(['exit_plan' => null] + $order);
        $bare = $this->trader->call('GET', $address)->body;
        self::assertSame([2, false], [$bare['unprotected'], $bare['over']], 'what nothing limits is named, and in no sum');
        self::assertSame(422, $this->trader->call('GET', "$address?gap=100001")->status);
        self::assertSame(422, $this->trader->call('GET', "$address?gap=-1")->status);
        self::assertSame(404, $this->desk->trader()->call('GET', $address)->status);
    }
}
