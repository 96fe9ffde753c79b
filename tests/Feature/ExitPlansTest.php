<?php

declare(strict_types=1);

namespace Tests\Feature;

use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Reply;
use Tests\Support\Trader;

/** Exit plans over HTTP: kept, studied, tried, changed for one order, and steered on an open position. */
final class ExitPlansTest extends DeskCase
{
    private const PLAN = [
        'name' => 'Ebb', 'stop' => ['ticks' => 6],
        'portions' => [['lots' => 1, 'target' => ['ticks' => 5]], ['rest' => true, 'target' => null]],
        'ratchets' => [['at' => 4, 'lock' => 0]],
    ];

    public function testAPlanIsMadeChangedOrderedAndDeleted(): void
    {
        $made = $this->trader->call('POST', 'exit-plans', self::PLAN);
        self::assertSame([201, 1, 'cancel-entry'], [$made->status, $made->body['version'], $made->body['document']['after_target']]);
        $id = $made->body['id'];
        self::assertSame(['Short tide', 'Two halves', 'Wide berth', 'Runner', 'Ebb'], $this->names());
        self::assertSame([409, 'name-taken'], self::problem($this->trader->call('POST', 'exit-plans', ['document' => self::PLAN])));
        $changed = $this->trader->call('PUT', "exit-plans/$id", ['document' => ['name' => 'Flood'] + self::PLAN]);
        self::assertSame([200, 2, 'Flood'], [$changed->status, $changed->body['version'], $changed->body['document']['name']]);
        self::assertSame(
            [409, 'version-changed'],
            self::problem($this->trader->call('PATCH', "exit-plans/$id", ['version' => 1, 'document' => self::PLAN])),
        );
        self::assertSame(
            [200, 200],
            [
                $this->trader->call('POST', 'exit-plans/order', ['ids' => [$id, 4, 3, 2, 1]])->status,
                $this->trader->call('GET', "exit-plans/$id")->status,
            ],
        );
        self::assertSame(['Flood', 'Runner', 'Wide berth', 'Two halves', 'Short tide'], $this->names());
        self::assertSame([422, 'invalid'], self::problem($this->trader->call('POST', 'exit-plans/order', ['ids' => [1, 2]])));
        self::assertSame(200, $this->trader->call('DELETE', "exit-plans/$id")->status);
        self::assertSame(404, $this->trader->call('GET', "exit-plans/$id")->status);
    }

    public function testEveryPlanComesWithAllItsFields(): void
    {
        foreach ($this->trader->call('GET', 'exit-plans')->body['items'] as $plan) {
            self::assertSame(
                ['format', 'name', 'stop', 'portions', 'ratchets', 'watch', 'covers', 'after_target'],
                array_keys($plan['document']),
                $plan['document']['name'],
            );
        }
    }

    public function testABuiltInPlanKeepsItsNumberWhenAUserChangesIt(): void
    {
        $other = $this->desk->trader();
        $document = $this->trader->call('GET', 'exit-plans/1')->body['document'];
        $changed = $this->trader->call('PUT', 'exit-plans/1', ['stop' => ['ticks' => 9]] + $document);
        self::assertSame([1, 2], [$changed->body['id'], $changed->body['version']]);
        $this->trader->place(self::order() + ['exit_plan' => 1]);
        $level = self::ticks((string) $this->trader->position(self::CODE)['average_price']);
        self::assertSame([self::price($level - 9), self::price($level - 9)], $this->trader->stops());
        self::assertSame(7, $other->call('GET', 'exit-plans/1')->body['document']['stop']['ticks'], 'nobody else sees it');
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        self::assertSame(200, $this->trader->call('DELETE', 'exit-plans/1')->status);
        self::assertSame([404, 200], [$this->trader->call('GET', 'exit-plans/1')->status, $other->call('GET', 'exit-plans/1')->status]);
        self::assertNotContains('Short tide', $this->names());
    }

    public function testAPlanThatSomethingIsUnderIsNotDeleted(): void
    {
        $this->trader->place(self::order() + ['exit_plan' => 4]);
        $refused = $this->trader->call('DELETE', 'exit-plans/4');
        self::assertSame([409, 'plan-in-use'], self::problem($refused));
        self::assertStringContainsString('covers the open position in DULZ6', $refused->body['detail']);
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        self::assertSame(200, $this->trader->call('DELETE', 'exit-plans/4')->status);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> what is wrong with the document, and its pointer */
    public static function spoiled(): iterable
    {
        yield 'an unknown field' => [['colour' => 'red'], '/colour'];
        yield 'a float' => [['stop' => ['ticks' => 6.5]], '/stop/ticks'];
        yield 'a decimal that is a float' => [['stop' => ['points' => 2.5]], '/stop/points'];
        yield 'two units' => [['stop' => ['ticks' => 6, 'points' => '3']], '/stop'];
        yield 'ratchets that fall' => [['ratchets' => [['at' => 5, 'lock' => 0], ['at' => 5, 'trail' => 2]]], '/ratchets/1/at'];
        yield 'a lock beyond its at' => [['ratchets' => [['at' => 5, 'lock' => 5]]], '/ratchets/0/lock'];
        yield 'rest before the last' => [
            ['portions' => [['rest' => true, 'target' => null], ['lots' => 1, 'target' => null]]], '/portions/0/rest',
        ];
        yield 'ratchets without a stop' => [['stop' => null, 'portions' => [['rest' => true, 'target' => ['ticks' => 3]]]], '/ratchets'];
        yield 'bars of no known size' => [['stop' => ['atr' => '1', 'bar' => '7m']], '/stop/bar'];
        yield 'an unknown cover' => [['covers' => 'account'], '/covers'];
    }

    #[DataProvider('spoiled')]
    public function testASpoiledDocumentIsRefusedWithItsPointer(array $fields, string $pointer): void
    {
        $reply = $this->trader->call('POST', 'exit-plans', $fields + self::PLAN);
        self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer'] ?? null], $reply->body['detail'] ?? '');
        self::assertCount(4, $this->names());
    }

    /** The schema beside the document: what it takes is read, and what it refuses is refused (but for what it says it cannot say). */
    public function testTheSchemaAgreesWithTheReader(): void
    {
        $schema = $this->trader->call('GET', 'exit-plans/schema');
        $validator = new Validator();
        $valid = static fn(array $document): bool => $validator->validate(
            json_decode(json_encode($document, JSON_THROW_ON_ERROR)),
            json_encode($schema->body, JSON_THROW_ON_ERROR),
        )->isValid();
        foreach ($this->trader->call('GET', 'exit-plans')->body['items'] as $plan) {
            self::assertTrue($valid($plan['document']), $plan['document']['name']);
        }
        self::assertTrue($valid(['stop' => ['atr' => '1.5', 'bar' => '5m', 'kind' => 'stop-limit', 'limit_ticks' => 2]] + self::PLAN));
        foreach (self::spoiled() as $name => [$fields]) {
            if (! in_array(
                $name,
                ['ratchets that fall', 'a lock beyond its at', 'rest before the last', 'ratchets without a stop'],
                true,
            )) {
                self::assertFalse($valid($fields + self::PLAN), $name);
            }
        }
    }

    public function testAStudyTellsTicksPricesMoneyOddsAndWarnings(): void
    {
        $study = $this->trader->call('POST', 'exit-plans/study', $this->sample() + ['price' => '412.50', 'best' => 12]);
        self::assertSame(200, $study->status);
        $first = $study->body['portions'][0];
        self::assertSame([-6, '409.50', '-15.00'], [$first['stop']['ticks'], $first['stop']['price'], $first['stop']['money']]);
        self::assertCount(13, $first['stops']);
        self::assertSame(['30.00', '12.50', '2.48'], [$study->body['risk'], $study->body['reward'], $study->body['fees']]);
        $odd = $this->trader->call(
            'POST',
            'exit-plans/study',
            ['document' => ['ratchets' => [['at' => 5, 'lock' => 2], ['at' => 7, 'lock' => 2]]] + self::PLAN] + $this->sample(),
        );
        self::assertStringContainsString('the lock at +7 can never act', $odd->body['warnings'][0]);
        self::assertSame(
            [422, '/price'],
            [
                ($bad = $this->trader->call('POST', 'exit-plans/study', ['price' => '412.30'] + $this->sample()))->status,
                $bad->body['pointer'],
            ],
        );
        self::assertSame(
            [422, '/document/stop/ticks'],
            [
                ($bad = $this->trader->call(
                    'POST',
                    'exit-plans/study',
                    ['document' => ['stop' => ['ticks' => 1.5]] + self::PLAN] + $this->sample(),
                ))->status,
                $bad->body['pointer'],
            ],
        );
    }

    public function testAPlanIsTriedOnADrawnLineOnWhatTradedAndOnATape(): void
    {
        $drawn = $this->trader->call('POST', 'rehearsals', $this->sample() + ['price' => '412.50', 'line' => [0, 5, -3]]);
        self::assertSame(200, $drawn->status);
        self::assertSame(
            [['target', '415.00'], ['stop', '412.50']],
            array_values(array_map(
                static fn(array $e): array => [$e['order'], $e['price']],
                array_filter($drawn->body['events'], static fn(array $e): bool => $e['event'] === 'exit-filled'),
            )),
        );
        self::assertSame(
            ['12.50', '2.48', '10.02', 0],
            [$drawn->body['result']['money'], $drawn->body['result']['fees'], $drawn->body['result']['net'], $drawn->body['open_quantity']],
        );
        self::assertCount(14, $drawn->body['steps'], 'each tick between the corners prints');
        self::assertSame([824, 0], [$drawn->body['steps'][11]['tick'], $drawn->body['steps'][11]['open']]);

        $tape = "time,contract,price,size,aggressor\n".implode(
            "\n",
            array_map(
                static fn(int $i, int $t): string => sprintf('2026-11-02T09:30:%02d.000Z,DULZ6,%s,1,', $i, self::price($t)),
                range(0, 13),
                array_column($drawn->body['steps'], 'tick'),
            ),
        );
        $taped = $this->trader->call('POST', 'rehearsals', $this->sample() + ['price' => '412.50', 'tape' => $tape]);
        self::assertSame(200, $taped->status, json_encode($taped->body, JSON_THROW_ON_ERROR));
        self::assertSame($drawn->body['result'], $taped->body['result']);
        self::assertSame($drawn->body['steps'], $taped->body['steps']);

        $this->trader->push(self::CODE, 3);
        $recent = $this->trader->call('POST', 'rehearsals', $this->sample() + ['recent' => true]);
        self::assertSame(
            [self::price($recent->body['steps'][0]['tick']), $recent->body['steps'][0]['tick']],
            [$recent->body['entry']['average'], $recent->body['entry_level']],
            'the entry is where the prints begin',
        );
        self::assertSame($this->last(), $recent->body['steps'][count($recent->body['steps']) - 1]['tick']);

        foreach ([['line' => [0, 5, -3], 'price' => '412.50'], ['recent' => true]] as $prices) {
            $byQuote = $this->trader->call(
                'POST',
                'rehearsals',
                ['document' => ['watch' => 'exit-quote'] + self::PLAN] + $this->sample() + $prices,
            );
            self::assertSame(
                200,
                $byQuote->status,
                'prints of which no quote was kept give it away: '.json_encode($byQuote->body, JSON_THROW_ON_ERROR),
            );
        }

        foreach ([
            [['line' => [0, 1.5]], '/line/1'], [['line' => [0], 'recent' => true], ''], [[], ''], [['tape' => 'nonsense'], '/tape'],
        ] as [$prices, $pointer]) {
            $refused = $this->trader->call('POST', 'rehearsals', $this->sample() + $prices);
            self::assertSame(
                [422, $pointer],
                [$refused->status, $refused->body['pointer'] ?? ''],
                json_encode($prices, JSON_THROW_ON_ERROR),
            );
        }
    }

    public function testADistanceInAverageTrueRangesTakesTheBarsOfTheMarket(): void
    {
        $plan = ['name' => 'By range', 'stop' => ['atr' => '2', 'bar' => '1m', 'length' => 2]];
        self::assertSame(
            [422, 'plan-does-not-fit'],
            self::problem($this->trader->place(['contract' => 'YUZX6'] + self::order() + ['exit_plan' => ['stop' => [
                'atr' => '2', 'bar' => '1h', 'length' => 50,
            ]] + $plan])),
        );
        $this->trader->call('POST', 'practice/'.self::CODE, ['mood' => 'burst']);
        $this->trader->steps(self::CODE, 10_000);
        $this->trader->steps(self::CODE, 10_000);
        $study = $this->trader->call('POST', 'exit-plans/study', ['document' => $plan] + $this->sample());
        self::assertSame(200, $study->status, json_encode($study->body, JSON_THROW_ON_ERROR));
        $placed = $this->trader->place(self::order(quantity: 1) + ['exit_plan' => $plan]);
        self::assertSame(201, $placed->status);
        $position = $this->trader->position(self::CODE);
        self::assertSame(
            $study->body['portions'][0]['stop']['ticks'],
            $position['entries'][0]['portions'][0]['stop'] - self::ticks((string) $position['average_price']),
        );
    }

    /** What is asked for and refused once the turn is done must not take the engine with it. */
    public function testAPlanThatTheMarketHasTooFewBarsForIsRefusedAndTheEngineGoesOn(): void
    {
        $refused = $this->trader->call(
            'POST',
            'exit-plans/study',
            ['document' => ['name' => 'Far', 'stop' => ['atr' => '1', 'bar' => '1h', 'length' => 90]]] + $this->sample(),
        );
        self::assertSame([422, 'plan-does-not-fit'], self::problem($refused));
        self::assertStringContainsString('needs 91 closed bars', $refused->body['detail']);
        self::assertSame(200, $this->trader->call('POST', 'exit-plans/study', $this->sample())->status);
    }

    public function testOnePortionIsClosedAndAnotherRunsAndTheHandIsShown(): void
    {
        $this->trader->place(self::order(quantity: 3) + ['exit_plan' => 2]);
        $position = $this->trader->position(self::CODE);
        self::assertSame(
            [['portion' => 1, 'lots' => 1], ['portion' => 2, 'lots' => 2]],
            array_map(
                static fn(array $p): array => ['portion' => $p['portion'], 'lots' => $p['lots']],
                $position['entries'][0]['portions'],
            ),
        );
        $closed = $this->trader->call(
            'POST',
            'contracts/'.self::CODE.'/close',
            ['client_id' => Trader::id(), 'account' => $this->trader->account, 'entry' => $position['entries'][0]['entry'], 'portion' => 1],
        );
        self::assertSame([200, 2], [$closed->status, $closed->body['contracts'][0]['quantity']]);
        $portion = $this->trader->position(self::CODE)['entries'][0]['portions'][0];
        self::assertSame([2, 'plan', null], [$portion['lots'], $portion['steering'], $portion['back_words']]);
        $this->trader->call(
            'PATCH',
            "orders/{$portion['stop_order']}",
            ['client_id' => Trader::id(), 'trigger' => self::price($portion['stop'] - 2)],
        );
        $portion = $this->trader->position(self::CODE)['entries'][0]['portions'][0];
        self::assertSame(
            ['hand', 'its ratchets would have it at '.self::price($portion['stop'] + 2)],
            [$portion['steering'], $portion['back_words']],
        );
        $this->trader->call('DELETE', "orders/{$portion['target_order']}", ['client_id' => Trader::id()]);
        self::assertSame(
            [null, 0],
            [
                $this->trader->position(self::CODE)['entries'][0]['portions'][0]['target'],
                $this->trader->position(self::CODE)['unprotected'],
            ],
        );
    }

    public function testAnOrderOfItsOwnStopSaysSoBeforeAndAfter(): void
    {
        $body = self::order() + ['account' => $this->trader->account, 'exit_plan' => 1, 'this_order' => ['stop' => 9]];
        $preview = $this->trader->call('POST', 'orders/preview', $body);
        self::assertStringContainsString('Short tide, stop 9 instead of 7', $preview->body['words']);
        self::assertSame('45.00', $preview->body['risk']);
        self::assertSame('Short tide, stop 9 instead of 7', $this->trader->place($body)->body['plan']);
    }

    /** @return array<string, mixed> */
    private function sample(): array
    {
        return ['account' => $this->trader->account, 'document' => self::PLAN, 'contract' => self::CODE, 'side' => 'buy', 'quantity' => 2];
    }

    /** A tick is 0.50, and 2.50 a lot: 7 ticks at 412.50 are 825 ticks' 0.85 %. */
    public function testADistanceIsWrittenInAnotherUnit(): void
    {
        $in = function (array $distance, array $as): array {
            $body = ['distance' => $distance, 'as' => $as, 'price' => '412.50'] + array_diff_key($this->sample(), ['document' => 0]);
            $reply = $this->trader->call('POST', 'exit-plans/distance', $body);

            return $reply->body['distance'] ?? self::problem($reply);
        };
        self::assertSame(['money' => '17.50'], $in(['ticks' => 7], ['money' => '1.00']));
        self::assertSame(['order_money' => '35.00'], $in(['ticks' => 7], ['order_money' => '1.00']));
        self::assertSame(['points' => '3.50'], $in(['ticks' => 7], ['points' => '1']));
        self::assertSame(['percent' => '0.85'], $in(['ticks' => 7], ['percent' => '1']));
        self::assertSame(['ticks' => 7], $in(['percent' => '0.85'], ['ticks' => 1]));
        $unmeasured = $in(['ticks' => 7], ['atr' => '1', 'bar' => '1m', 'length' => 14]);
        self::assertSame([422, 'plan-does-not-fit'], $unmeasured, 'the market has not gone on for long enough');
        self::assertSame([422, 'invalid'], $in(['ticks' => 0], ['money' => '1.00']));
        self::assertSame([422, 'invalid'], $in(['ticks' => 7], []));
    }

    /** @return list<string> */
    private function names(): array
    {
        return array_map(static fn(array $p): string => $p['document']['name'], $this->trader->call('GET', 'exit-plans')->body['items']);
    }

    /** @return array{int, string} */
    private static function problem(Reply $reply): array
    {
        return [$reply->status, $reply->body['code'] ?? ''];
    }
}
