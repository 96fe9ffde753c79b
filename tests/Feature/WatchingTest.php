<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\EventStream;

/** Looking at the market over HTTP and the stream: what the engine counts is what goes out. */
final class WatchingTest extends DeskCase
{
    private function steps(int $steps): void
    {
        $this->trader->steps(self::CODE, $steps);
    }

    /** @return array<string, mixed> */
    private function history(string $query): array
    {
        return $this->trader->call('GET', 'contracts/'.self::CODE."/depth-history?$query")->body;
    }

    /** @return list<array<string, mixed>> every column of 250 ms */
    private function all(): array
    {
        $all = [];
        for ($after = '1970-01-01T00:00:00.000Z'; $after !== null; $after = $answer['next']) {
            $answer = $this->history('step=250&after='.urlencode($after));
            array_push($all, ...$answer['columns']);
        }

        return $all;
    }

    private static function iso(int $at): string
    {
        return gmdate('Y-m-d\TH:i:s', intdiv($at, 1000)).sprintf('.%03dZ', $at % 1000);
    }

    public function testTheNewestColumnOfTheDepthHistoryIsTheBook(): void
    {
        $this->steps(1000);
        $before = $this->all();
        // Until a column has just ended.
        for ($i = 0; $i < 25; $i++) {
            $this->steps(1);
            $more = $this->history('step=250&after='.urlencode(self::iso(end($before)['at'])))['columns'];
            if ($more !== []) {
                break;
            }
        }
        $columns = [...$before, ...$more];
        $last = end($columns);
        $book = $this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=1000')->body;
        $lots = [];
        foreach ([...$book['bids'], ...$book['asks']] as [$price, $there]) {
            $lots[self::ticks($price)] = $there;
        }
        $told = [];
        foreach ($last['lots'] as $i => $there) {
            $told += $there === 0 ? [] : [$last['from'] + $i => $there];
        }
        ksort($lots);
        self::assertSame($lots, $told);
        foreach (array_slice($columns, -39) as $i => $column) {
            self::assertSame(250, $column['at'] - $columns[count($columns) - 40 + $i]['at']);
        }
    }

    public function testTheLastTradeInTheBookIsThatOfTheTapeWithItsOwnTime(): void
    {
        $this->steps(20);
        for ($i = 0; $i < 20; $i++) {
            $this->steps(1);
            [$newest] = $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=1')->body['items'];
            $last = $this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body['last'];
            self::assertSame(
                [$newest['price'], $newest['size'], self::iso($newest['at'])],
                [self::ticks($last['price']), $last['size'], $last['time']],
            );
        }
    }

    public function testTheDepthHistoryIsReadPieceByPiece(): void
    {
        $this->steps(5000);
        self::assertNotNull($this->history('step=250')['next'], 'one answer does not hold it all');
        $all = array_column($this->all(), 'at');
        self::assertSame($all, array_values(array_unique($all)));
        $few = $this->history('step=250&after='.urlencode(self::iso($all[count($all) - 5])));
        self::assertSame(array_slice($all, -4), array_column($few['columns'], 'at'));
        self::assertNotEmpty($this->history('step=2000')['columns']);
    }

    public function testTheTapeHasEachPrintOnceNewestFirstAndKnowsOnesOwn(): void
    {
        $this->steps(300);
        $order = $this->trader->place(self::order(quantity: 1))->body;
        $tape = $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=100')->body['items'];
        $numbers = array_column($tape, 'number');
        self::assertSame(range($numbers[0], $numbers[0] - 99), $numbers);
        $fill = $this->trader->call('GET', "fills?account={$this->trader->account}")->body['items'][0];
        $print = $tape[array_search($fill['print'], $numbers, true)];
        self::assertSame([$order['average_price'], 'buy'], [self::price($print['price']), $print['aggressor']]);
    }

    /** @return iterable<string, array{string, int}> */
    public static function bars(): iterable
    {
        yield 'a minute' => ['time', 60];
        yield 'ten seconds' => ['time', 10];
        yield 'trades' => ['trades', 25];
        yield 'lots' => ['volume', 100];
        yield 'ticks' => ['range', 6];
    }

    #[DataProvider('bars')]
    public function testBarsEndWithTheLastTrade(string $by, int $size): void
    {
        $this->steps(2000);
        $answer = $this->trader->call('GET', 'contracts/'.self::CODE."/bars?by=$by&size=$size")->body;
        $bars = $answer['bars'];
        self::assertSame($this->last(), end($bars)[4]);
        foreach ($bars as [, $open, $high, $low, $close, $lots]) {
            self::assertTrue($low <= min($open, $close) && $high >= max($open, $close) && $lots > 0);
            self::assertTrue($by !== 'range' || $high - $low <= $size);
        }
        self::assertTrue(count($bars) < 16 || (float) $answer['average_true_range'] > 0);
    }

    public function testWhatCannotBeAnsweredSaysWhatCould(): void
    {
        foreach ([
            'depth-history?step=300' => '/step', 'depth-history?after=yesterday' => '/after', 'bars?by=renko' => '/by',
            'bars?size=0' => '/size',
            'bars?by=range&size=1001' => '/size', 'tape?most=1001' => '/most', 'bars?most=x' => '/most',
        ] as $query => $pointer) {
            $reply = $this->trader->call('GET', 'contracts/'.self::CODE."/$query");
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer'] ?? null], $query);
            self::assertStringContainsString('expected', $reply->body['detail']);
        }
        self::assertSame(404, $this->trader->call('GET', 'contracts/NOPE6/tape')->status);
    }

    public function testOddQuestionsNeverAreAFault(): void
    {
        $dice = new Randomizer(new Mt19937(17));
        $odd = [
            '', '0', '-1', '1.5', '1e9', '99999999999999999999', 'x', '250', '2000', 'time', 'range', '2026-11-02T09:30:00.000Z',
            '2026-13-45T99:99:99Z', '%00', "\u{202e}", str_repeat('9', 300),
        ];
        $names = ['step', 'after', 'until', 'by', 'size', 'most', 'contract', 'account'];
        $seen = [];
        for ($i = 0; $i < 120; $i++) {
            $path = [
                'contracts/'.self::CODE.'/depth-history', 'contracts/'.self::CODE.'/tape', 'contracts/'.self::CODE.'/bars', 'levels',
            ][$dice->getInt(0, 3)];
            $query = [];
            for ($n = $dice->getInt(1, 3); $n > 0; $n--) {
                $name = $names[$dice->getInt(0, count($names) - 1)];
                $value = $odd[$dice->getInt(0, count($odd) - 1)];
                $query[] = $dice->getInt(0, 9) === 0 ? "{$name}[]=".rawurlencode($value) : "$name=".rawurlencode($value);
            }
            $reply = $this->trader->call('GET', "$path?".implode('&', $query));
            self::assertLessThan(500, $reply->status, "$path?".implode('&', $query));
            self::assertTrue($reply->status === 200 || is_string($reply->body['detail'] ?? null), 'a problem says what it is');
            $seen[$reply->status] = true;
        }
        self::assertArrayHasKey(422, $seen);
        self::assertSame(200, $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=250')->status, 'a right one is still answered');
    }

    public function testTheStreamTellsTheDayAndTheDepth(): void
    {
        $stream = EventStream::of($this->trader, $this->desk);
        $before = $stream->await('state')['data']['days'][0];
        self::assertTrue($before['full']);
        self::assertSame(self::CODE, $stream->await('depth')['data']['contract'], 'a market that stands is told of too');
        $this->trader->push(self::CODE, 3);
        $this->steps(100);
        $day = $stream->await('day', static fn(array $d): bool => $d['lots'] > $before['lots'])['data'];
        self::assertSame(self::CODE, $day['contract']);
        self::assertFalse($day['full']);
        $at = array_combine(array_column($before['traded'], 0), array_map(static fn(array $t): int => $t[1] + $t[2], $before['traded']));
        $more = array_sum(array_map(static fn(array $t): int => $t[1] + $t[2] - ($at[$t[0]] ?? 0), $day['traded']));
        self::assertSame($day['lots'] - $before['lots'], $more, 'the prices that are told have all that was traded since');
        $depth = $stream->await('depth', static fn(array $d): bool => count($d['columns']) > 0)['data'];
        self::assertSame([3, 5, 10, 20], array_column($depth['sums'], 0));
        [, $bids, $asks, $imbalance] = $depth['sums'][2];
        self::assertSame(intdiv(100 * ($bids - $asks), $bids + $asks), $imbalance);
        self::assertGreaterThan(0, $depth['unusual']);
        self::assertGreaterThan(0, array_sum(array_map(static fn(array $t): int => $t[1] + $t[2], $depth['just'])));
    }

    public function testALevelIsMarkedChangedFollowedAndDeleted(): void
    {
        $last = $this->last();
        $level = $this->trader->call(
            'POST',
            'levels',
            ['contract' => self::CODE, 'low' => self::price($last + 4), 'high' => self::price($last + 2), 'name' => 'shelf'],
        )->body;
        self::assertSame(
            [$last + 2, $last + 4, 'shelf', 'sand'],
            [$level['low_level'], $level['high_level'], $level['name'], $level['tone']],
        );
        self::assertSame(['untouched', 2], [$level['figures']['state'], $level['figures']['distance']]);
        $exits = $this->trader->call('GET', 'levels?off=3')->body['items'][0]['figures']['exits'];
        self::assertSame([$last - 1, $last + 7], [$exits['long'], $exits['short']]);
        self::assertSame(['sell', $last + 7], [$exits['next_stop']['side'], $exits['next_stop']['level']]);
        foreach (['-1', '1001', 'x'] as $off) {
            self::assertSame([422, '/off'], [($bad = $this->trader->call('GET', "levels?off=$off"))->status, $bad->body['pointer']]);
        }
        $this->trader->push(self::CODE, 3);
        $touched = $this->one($level['id']);
        self::assertSame(['touched', 0], [$touched['state'], $touched['distance']]);
        self::assertGreaterThan(0, $touched['bought']);
        $this->trader->push(self::CODE, -3);
        self::assertSame('held', $this->one($level['id'])['state']);
        $this->trader->push(self::CODE, 6);
        self::assertSame('broken', $this->one($level['id'])['state']);
        $named = $this->trader->call('PATCH', "levels/{$level['id']}", ['name' => 'old shelf', 'tone' => 'moss'])->body;
        self::assertSame(['old shelf', 'moss', 'broken'], [$named['name'], $named['tone'], $named['figures']['state']]);
        $moved = $this->trader->call('PATCH', "levels/{$level['id']}", ['low' => self::price($last + 20)])->body;
        self::assertSame(
            [$last + 20, $last + 20, 'untouched', 0],
            [$moved['low_level'], $moved['high_level'], $moved['figures']['state'], $moved['figures']['bought']],
            'another place begins anew',
        );
        $other = $this->desk->trader();
        self::assertSame([], $other->call('GET', 'levels')->body['items']);
        self::assertSame(404, $other->call('DELETE', "levels/{$level['id']}")->status);
        self::assertSame(200, $this->trader->call('DELETE', "levels/{$level['id']}")->status);
        self::assertSame([], $this->trader->call('GET', 'levels?contract='.self::CODE)->body['items']);
    }

    /** Nobody has a page open: it stands in the journal all the same, once, over a kill too. */
    public function testWhatHappensAtALevelIsWrittenDownWithoutAPage(): void
    {
        $last = $this->last();
        $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last + 6), 'name' => 'lid']);
        $told = fn(): array => array_values(array_filter(
            array_column($this->trader->call('GET', 'journal?account='.$this->trader->account)->body['items'], 'words'),
            static fn(string $words): bool => str_contains($words, 'lid'),
        ));
        $this->trader->push(self::CODE, 3);
        self::assertCount(1, $told());
        self::assertStringContainsString('is approaching lid '.self::price($last + 6).': ', $told()[0]);
        $this->desk->killEngine();
        $this->trader->push(self::CODE, -1);
        $this->trader->push(self::CODE, 1);
        self::assertCount(1, $told());
        self::assertSame(['within' => 3], $this->trader->call('POST', 'levels/watch', [])->body);
        self::assertSame(['within' => 1], $this->trader->call('POST', 'levels/watch', ['within' => 1])->body);
        $this->trader->push(self::CODE, 1);
        self::assertCount(1, $told(), 'two ticks away is not near any more');
        $this->trader->push(self::CODE, 1);
        self::assertCount(2, $told());
        // Two pages look at the levels all day: looking writes nothing.
        $before = $this->trader->call('GET', 'levels')->body['sequence'];
        self::assertSame(['within' => 1], $this->trader->call('POST', 'levels/watch', [])->body);
        foreach (['levels?off=1', 'levels?off=3', 'levels'] as $look) {
            self::assertSame($before, $this->trader->call('GET', $look)->body['sequence']);
        }
        self::assertSame([422, '/within'], [($bad = $this->trader->call('POST', 'levels/watch', ['within' => -1]))->status, $bad->body['pointer']]);
        self::assertSame(['within' => 3], $this->desk->trader()->call('POST', 'levels/watch', [])->body, 'another trader has an own one');
    }

    public function testABadLevelIsRefusedAndChangesNothing(): void
    {
        foreach ([
            ['low' => '412.30'], ['low' => '0.00'], ['low' => '412.50', 'tone' => 'red'],
            ['low' => '412.50', 'name' => str_repeat('x', 61)], ['low' => '412.50', 'odd' => 1], [],
        ] as $body) {
            $reply = $this->trader->call('POST', 'levels', ['contract' => self::CODE] + $body);
            self::assertSame(422, $reply->status, (string) json_encode($body));
        }
        self::assertStringContainsString(
            '412.00',
            $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => '412.30'])->body['detail'],
        );
        self::assertSame([], $this->trader->call('GET', 'levels')->body['items']);
    }

    /** @return array<string, mixed> */
    private function one(int $id): array
    {
        return array_column($this->trader->call('GET', 'levels')->body['items'], 'figures', 'id')[$id];
    }
}
