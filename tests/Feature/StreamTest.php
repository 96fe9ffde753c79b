<?php

declare(strict_types=1);

namespace Tests\Feature;

use Tests\Support\EventStream;

final class StreamTest extends DeskCase
{
    public function testStateThenOwnEventsEachCommitEndingWithItsSequence(): void
    {
        $stream = EventStream::of($this->trader, $this->desk);
        self::assertSame(200, $stream->status());
        self::assertStringContainsString('no-store, no-transform', $stream->head);
        $state = $stream->await('state')['data'];
        self::assertSame([[], [], false], [$state['orders'], $state['positions'], isset($state['reset'])]);
        self::assertNotEmpty($state['books']['DULZ6']['bids']);
        self::assertIsInt($state['books']['DULZ6']['bids'][0][0]);
        $order = $this->trader->place(self::order() + ['exit_plan' => 1])->body;
        self::assertSame($order['id'], $stream->await('fill')['data']['order']);
        self::assertSame(2, $stream->await('position', static fn(array $p): bool => $p['quantity'] === 2)['data']['quantity']);
        $risk = $stream->await('risk');
        self::assertGreaterThan($state['sequence'], (int) $risk['id']);
        self::assertContains(
            $order['id'],
            array_map(static fn(array $e): int => $e['event'] === 'order' ? $e['data']['id'] : 0, $stream->events),
        );
        $heartbeat = $stream->await('heartbeat', static fn(array $h): bool => $h['sequence'] >= (int) $risk['id'])['data'];
        self::assertSame($state['epoch'], $heartbeat['epoch']);
        $this->trader->push(self::CODE, 3);
        self::assertSame(self::CODE, $stream->await('trade')['data']['contract']);
        $stream->await('book', static fn(array $b): bool => ! isset($b['full']));
        $stream->await('mark', static fn(array $m): bool => $m['positions'][0]['open_ticks'] > 0);
        $stream->await('notice');
    }

    /** The same prints with one event for all of a moment, for those who ask for that. */
    public function testTradesComeTogetherForWhoeverAsksForIt(): void
    {
        $each = EventStream::of($this->trader, $this->desk);
        $together = EventStream::of($this->trader, $this->desk, '&trades=together');
        $each->await('state');
        $together->await('state');
        $before = $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=1')->body['items'][0]['number'];
        $this->trader->push(self::CODE, 6);
        $end = $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=1')->body['items'][0]['number'];
        $each->await('trade', static fn(array $t): bool => $t['number'] === $end);
        $together->await('trades', static fn(array $t): bool => end($t['rows'])[4] === $end);
        $one = array_map(
            static fn(array $e): array => [$e['data']['at'], $e['data']['price'], $e['data']['size'], $e['data']['aggressor'] === 'buy' ? 1 : -1, $e['data']['number']],
            array_values(array_filter($each->events, static fn(array $e): bool => $e['event'] === 'trade')),
        );
        $rows = array_merge(...array_map(static fn(array $e): array => $e['event'] === 'trades' ? $e['data']['rows'] : [], $together->events));
        // What was on its way while the second was opened, the first alone has heard.
        $since = static fn(array $all): array => array_values(array_filter($all, static fn(array $row): bool => $row[4] > $before));
        self::assertNotSame([], $since($rows));
        self::assertSame($since($one), $since($rows));
        self::assertSame([], array_filter($together->events, static fn(array $e): bool => $e['event'] === 'trade'));
    }

    public function testAFilledTargetSpeaksUpAndTheStopThatGoesWithItDoesNot(): void
    {
        $stream = EventStream::of($this->trader, $this->desk);
        $stream->await('state');
        $entry = $this->trader->place(self::order(quantity: 1) + ['exit_plan' => 1])->body;
        $this->trader->push(self::CODE, self::ticks($entry['average_price']) + 9 - $this->last());
        $flat = $stream->await('position', static fn(array $p): bool => $p['quantity'] === 0 && $p['realised'] !== '0.00');
        self::assertSame('22.50', $flat['data']['realised']);
        $risk = $stream->await('risk', static fn(array $r): bool => $r['day']['realised'] === '22.50');
        // All that was said of it has come by then.
        $stream->await('heartbeat', static fn(array $h): bool => $h['sequence'] >= (int) $risk['id']);
        $notices = array_values(array_filter(
            $stream->events,
            static fn(array $e): bool => $e['event'] === 'notice' && $e['data']['speaks'],
        ));
        self::assertSame('order-filled', $notices[count($notices) - 1]['data']['type']);
        self::assertNotContains('order-cancelled', array_map(static fn(array $e): string => $e['data']['type'], $notices));
        self::assertContains(
            'order-cancelled',
            array_column($this->trader->call('GET', "journal?account={$this->trader->account}")->body['items'], 'type'),
        );
    }

    public function testAStreamThatComesBackGetsWhatItMissed(): void
    {
        $first = EventStream::of($this->trader, $this->desk);
        $first->await('state');
        $this->trader->place(self::order());
        $seen = $first->await('risk')['id'];
        $first->close();
        $missed = $this->trader->place(['price' => self::price($this->last() - 25)] + self::order(kind: 'limit'))->body['id'];
        $second = EventStream::of($this->trader, $this->desk, "&after=$seen");
        $second->await('order', static fn(array $o): bool => $o['id'] === $missed);
        self::assertTrue($second->await('book')['data']['full']);
        self::assertNotContains('state', array_column($second->events, 'event'));
        $old = EventStream::of($this->trader, $this->desk, '&after=1');
        self::assertTrue($old->await('state')['data']['reset']);
    }

    public function testNobodySeesAnotherAccountsEvents(): void
    {
        $other = $this->desk->trader();
        $stream = EventStream::of($other, $this->desk);
        $state = $stream->await('state')['data'];
        $this->trader->place(self::order());
        $mine = $other->place(['price' => self::price($this->last() - 25)] + self::order(kind: 'limit'))->body['id'];
        $stream->await('order', static fn(array $o): bool => $o['id'] === $mine);
        foreach ($stream->events as $event) {
            self::assertContains($event['data']['account'] ?? $other->account, [$other->account], $event['event']);
        }
        self::assertSame($other->account, $state['account']);
    }

    public function testATicketOpensOneStreamAndNothingElseIsServed(): void
    {
        $port = $this->desk->streamPort;
        $ticket = $this->trader->call('POST', 'stream-ticket', ['account' => $this->trader->account])->body;
        self::assertSame("http://127.0.0.1:$port/stream", $ticket['url']);
        self::assertSame(200, (new EventStream($port, "/stream?ticket={$ticket['ticket']}&contracts=DULZ6"))->status());
        self::assertSame(401, (new EventStream($port, "/stream?ticket={$ticket['ticket']}&contracts=DULZ6"))->status());
        self::assertSame(401, (new EventStream($port, '/stream?contracts=DULZ6'))->status());
        self::assertSame(401, (new EventStream($port, '/stream?ticket=a&ticket=b&contracts=DULZ6'))->status());
        self::assertSame(400, (new EventStream($port, 'x', [], "\x01"))->status());
        self::assertSame(404, (new EventStream($port, '/'))->status());
        self::assertSame(405, (new EventStream($port, '/stream', [], 'POST'))->status());
        self::assertSame(403, (new EventStream($port, '/stream', ['Origin' => 'http://elsewhere.invalid']))->status());
        self::assertSame(403, (new EventStream($port, '/stream', ['Host' => 'elsewhere.invalid']))->status());
        self::assertSame(431, (new EventStream($port, '/stream?x='.str_repeat('y', 9000)))->status());
        $more = $this->trader->call('POST', 'stream-ticket', ['account' => $this->trader->account])->body['ticket'];
        self::assertSame(422, (new EventStream($port, "/stream?ticket=$more&contracts=ZZZZ9"))->status());
    }
}
