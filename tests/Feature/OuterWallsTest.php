<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Reply;
use Tests\Support\RunningDesk;

/** What comes in from outside and makes no sense is refused in words, and what belongs to all is not anybody's to move. */
final class OuterWallsTest extends DeskCase
{
    /** @return array{int, string, string} status, head and body of what is written to the web port as it is */
    private static function raw(string $line, string $host = '127.0.0.1', string $more = ''): array
    {
        $desk = RunningDesk::shared();
        $socket = stream_socket_client("tcp://127.0.0.1:$desk->port", $code, $message, 5);
        assert($socket !== false);
        fwrite($socket, "$line HTTP/1.1\r\nHost: $host\r\n{$more}Connection: close\r\n\r\n");
        [$head, $body] = explode("\r\n\r\n", (string) stream_get_contents($socket), 2) + ['', ''];

        return [(int) (explode(' ', $head)[1] ?? 0), $head, $body];
    }

    /** @return iterable<string, array{string}> */
    public static function strangePaths(): iterable
    {
        yield 'NUL' => ['/%00'];
        yield 'NUL in the API' => ['/api/contracts/DUL%00Z6'];
        yield 'no UTF-8' => ['/%ff'];
        yield 'no UTF-8 in the API' => ['/api/contracts/%ff'];
        yield 'up and up' => ['/../../etc/passwd'];
        yield 'nowhere in the API' => ['/api/nowhere'];
    }

    #[DataProvider('strangePaths')]
    public function testThereIsNothingAtAStrangePath(string $path): void
    {
        [$status, $head, $body] = self::raw("GET $path", more: "Authorization: Bearer {$this->trader->token}\r\n");
        self::assertSame(str_contains($path, '%ff') ? 400 : 404, $status, $head);
        self::assertStringContainsString(str_starts_with($path, '/api/') ? 'application/problem+json' : 'text/html', $head);
        self::assertNotSame('', $body);
    }

    /** @return iterable<string, array{string, string}> */
    public static function strangeQueries(): iterable
    {
        yield 'no UTF-8' => ['orders?contract=%ff', 'contract: found "�", expected one line of text'];
        yield 'levels, no UTF-8' => ['levels?contract=%ff', 'contract: found'];
        yield 'a curve, no UTF-8' => ['exit-plans/1/curve?price=%ff', 'price: found'];
        yield 'a list' => ['orders?contract[]=x', 'contract: found'];
        yield 'a line break' => ['contracts?q=a%0Ab', 'q: found'];
        yield 'unknown' => ['orders?colour=red', 'found "colour", expected only account, state, contract, cursor'];
        yield 'unknown where nothing is taken' => ['accounts?colour=red', 'takes no query'];
        yield 'no contract of ours' => ['orders?contract=ZZZZ9', 'no contract ZZZZ9'];
        yield 'working of no contract of ours' => ['orders?state=working&contract=ZZZZ9', 'no contract ZZZZ9'];
        yield 'off' => ['levels?off=abc', 'off: found "abc"'];
        yield 'a quantity' => ['exit-plans/1/curve?quantity=999999999999999', 'quantity: found 999999999999999'];
        yield 'a side' => ['exit-plans/1/curve?side=up', 'side: found "up"'];
    }

    #[DataProvider('strangeQueries')]
    public function testAStrangeQueryIsRefusedAndSaysWhatIsTaken(string $path, string $says): void
    {
        $reply = $this->trader->call('GET', $path);
        self::assertContains($reply->status, [404, 422], json_encode($reply->body) ?: '');
        self::assertStringContainsString($says, $reply->body['detail']);
    }

    /** Each address says of a query that it does not know which ones it takes: those of the OpenAPI document. */
    public function testEveryAddressTakesTheQueriesThatAreDescribedAndNoOthers(): void
    {
        /** @var array<string, array<string, array{parameters?: list<array{name: string, in: string}>}>> $paths */
        $paths = json_decode((string) file_get_contents(dirname(__DIR__, 2).'/docs/openapi.json'), true)['paths'];
        foreach ($paths as $path => $methods) {
            foreach (array_diff_key($methods, ['parameters' => 1]) as $method => $operation) {
                $described = array_column(
                    array_filter($operation['parameters'] ?? [], static fn(array $p): bool => $p['in'] === 'query'),
                    'name',
                );
                sort($described);
                $address = substr(strtr($path, ['{id}' => '1', '{code}' => 'DULZ6', '{name}' => 'keys']), strlen('/api/'));
                $reply = $this->trader->call(strtoupper($method), "$address?zz=1", $method === 'get' ? null : []);
                self::assertSame(
                    1,
                    preg_match('/found "zz", expected (?:only (.*)|none: .*)$/', $reply->body['detail'] ?? '', $found),
                    "$method $path: ".json_encode($reply->body),
                );
                $taken = ($found[1] ?? '') === '' ? [] : explode(', ', $found[1]);
                sort($taken);
                self::assertSame($described, $taken, "$method $path");
            }
        }
    }

    /** @return iterable<string, array{string, string, array<string, mixed>, string}> `account` is put in where it says so */
    public static function strangeBodies(): iterable
    {
        yield 'no sides' => ['POST', 'contracts/DULZ6/cancel', ['client_id' => 'c', 'account' => '@', 'sides' => []], '/sides: found nothing in it'];
        yield 'no account to cancel in' => [
            'POST', 'contracts/DULZ6/cancel', ['client_id' => 'c', 'account' => null], '/account: found nothing',
        ];
        yield 'no account to tighten in' => [
            'POST', 'contracts/DULZ6/tighten', ['client_id' => 'c', 'account' => null, 'ticks' => 1], '/account: found nothing',
        ];
        yield 'a ticket with more' => ['POST', 'stream-ticket', ['account' => '@', 'colour' => 'red'], '/colour: found an unknown field'];
        yield 'a ticket of no account' => ['POST', 'stream-ticket', ['account' => null], '/account: found nothing'];
        yield 'a price that is a number' => [
            'POST', 'exit-plans/study',
            [
                'account' => '@', 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'price' => 412,
                'document' => ['name' => 'x', 'stop' => ['ticks' => 5]],
            ],
            '/price: found 412',
        ];
        yield 'a rehearsal at a number' => [
            'POST', 'rehearsals',
            [
                'account' => '@', 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'price' => 412, 'line' => [0, 5],
                'document' => ['name' => 'x', 'stop' => ['ticks' => 5]],
            ],
            '/price: found 412',
        ];
        yield 'a name with a line break' => [
            'POST', 'exit-plans', ['name' => "two\nlines", 'stop' => ['ticks' => 5]], '/name: found control characters',
        ];
        yield 'a name with a NUL' => [
            'POST', 'levels', ['contract' => 'DULZ6', 'low' => '400.00', 'name' => "no\0thing"], '/name: found control characters',
        ];
        yield 'a tag with a NUL' => [
            'POST', 'orders',
            [
                'client_id' => 'c', 'account' => '@', 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market',
                'tag' => "\x7f",
            ],
            '/tag: found control characters',
        ];
        yield 'a version that is no number' => [
            'PUT', 'exit-plans/1', ['version' => '1', 'name' => 'Short tide', 'stop' => ['ticks' => 5]], 'version: found "1"',
        ];
        yield 'an order of plans with more' => [
            'POST', 'exit-plans/order', ['ids' => [1, 2, 3, 4], 'colour' => 'red'], '/colour: found an unknown field',
        ];
    }

    /** @param array<string, mixed> $body */
    #[DataProvider('strangeBodies')]
    public function testABodyThatMakesNoSenseIsRefusedAtTheFieldThatDoesNot(string $method, string $path, array $body, string $says): void
    {
        $body = array_map(fn(mixed $value): mixed => $value === '@' ? $this->trader->account : $value, $body);
        $reply = $this->trader->call($method, $path, $body);
        self::assertSame(422, $reply->status, json_encode($reply->body) ?: '');
        self::assertStringContainsString($says, $reply->body['detail']);
    }

    public function testABodyThatIsFarTooLargeIsNotRead(): void
    {
        $reply = $this->trader->call('POST', 'stream-ticket', ['account' => $this->trader->account, 'more' => str_repeat('x', 1_000_000)]);
        self::assertSame([413, 'too-large'], [$reply->status, $reply->body['code']]);
    }

    public function testTheWebPortAnswersToItsOwnNamesOnly(): void
    {
        $port = RunningDesk::shared()->port;
        foreach (['127.0.0.1', "127.0.0.1:$port", 'LOCALHOST', "[::1]:$port"] as $host) {
            self::assertSame(200, self::raw('GET /sign-in', $host)[0], $host);
        }
        foreach (['desk.example', "desk.example:$port", '127.0.0.1.desk.example', ''] as $host) {
            [$status, , $body] = self::raw('GET /sign-in', $host);
            self::assertSame(421, $status, $host);
            self::assertStringNotContainsString('demo', $body);
        }
        [$status, $head] = self::raw('GET /api/accounts', 'desk.example', "Authorization: Bearer {$this->trader->token}\r\n");
        self::assertSame(421, $status);
        self::assertStringContainsString('application/problem+json', $head);
    }

    public function testANameThatWasGivenIsAnsweredToButTheDemoDeskIsNotOpenThere(): void
    {
        $desk = RunningDesk::start('--paused', '--names', 'desk.example');
        try {
            foreach (['desk.example' => false, '127.0.0.1' => true] as $host => $demo) {
                $curl = curl_init($desk->url('/sign-in'));
                curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_HTTPHEADER => ["Host: $host:$desk->port"]]);
                $page = (string) curl_exec($curl);
                self::assertSame(200, curl_getinfo($curl, CURLINFO_RESPONSE_CODE));
                self::assertSame($demo, str_contains($page, 'action="/demo"'), $host);
            }
        } finally {
            $desk->stop();
        }
    }

    public function testOnlyTheOwnerOfTheDeskSteersThePracticeMarketAndLiftsWhatALimitHasStopped(): void
    {
        $desk = RunningDesk::startAsUsual('--paused');
        try {
            $other = $desk->trader();
            $before = $other->call('GET', 'contracts/DULZ6/book')->body;
            foreach ([['push_ticks' => 60], ['mood' => 'burst'], ['paused' => false], ['steps' => 10]] as $steering) {
                $reply = $other->call('POST', 'practice/DULZ6', $steering);
                self::assertSame([403, 'forbidden'], [$reply->status, $reply->body['code']]);
            }
            self::assertSame($before, $other->call('GET', 'contracts/DULZ6/book')->body);
            exec(
                escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:token --data='
                    .escapeshellarg($desk->data),
                $lines,
            );
            self::assertSame(200, $other->call('POST', 'practice/DULZ6', ['push_ticks' => 2], $lines[0])->status);

            $lift = "accounts/{$other->account}/lift";
            self::assertSame([403, 'forbidden'], [($own = $other->call('POST', $lift, []))->status, $own->body['code']]);
            $hidden = $desk->trader()->call('POST', $lift, []);
            self::assertSame([404, 'unknown-account'], [$hidden->status, $hidden->body['code']], "another's looks as if it were not there");
            self::assertSame([422, 'nothing-to-change'], [($none = $other->call('POST', $lift, [], $lines[0]))->status, $none->body['code']]);
            self::assertSame([422, '/by'], [($bad = $other->call('POST', $lift, ['by' => 'me'], $lines[0]))->status, $bad->body['pointer']]);
            $limits = ['format' => 'lotrik.limits/1', 'daily_loss' => '500.00', 'losses_in_a_row' => 1];
            self::assertSame(200, $other->call('PUT', "accounts/{$other->account}/limits", $limits)->status);
            $other->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
            $other->call('POST', 'practice/DULZ6', ['push_ticks' => -4], $lines[0]);
            $other->call('POST', 'contracts/DULZ6/flatten', ['client_id' => 'out', 'account' => $other->account]);
            self::assertSame('entries-stopped', $other->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->body['code']);
            $lifted = $other->call('POST', $lift, [], $lines[0]);
            self::assertSame([200, null, 0], [$lifted->status, $lifted->body['stopped_until'], $lifted->body['losses_in_a_row']]);
            $desk->killEngine();
            self::assertSame(201, $other->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->status);
            $words = array_column($other->call('GET', "journal?account={$other->account}&after=0")->body['items'], 'words');
            self::assertNotSame([], preg_grep('/^Lifted by Demo trader: the stop of new entries/', $words));
        } finally {
            $desk->stop();
        }
    }

    public function testSomebodyWhoAsksWithoutEndIsHeldBackButNeverFromWhatProtects(): void
    {
        putenv('LOTRIK_CALLS_A_MINUTE=20');
        $desk = RunningDesk::start('--paused');
        putenv('LOTRIK_CALLS_A_MINUTE');
        try {
            [$trader, $other] = [$desk->trader(), $desk->trader()];
            $trader->push('DULZ6', 1);
            $trader->push('DULZ6', -1);
            $order = $trader->place([
                'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00',
            ])->body['id'];
            $statuses = [];
            for ($i = 0; $i < 25; $i++) {
                $statuses[] = $trader->call('GET', 'positions')->status;
            }
            self::assertSame([200 => 18, 429 => 7], array_count_values($statuses));
            self::assertSame(200, $other->call('GET', 'positions')->status, 'another user is not held back');
            self::assertSame(
                201,
                $trader->place([
                    'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market',
                    'exit_plan' => ['name' => 'x', 'stop' => ['ticks' => 5]],
                ])->status,
            );
            foreach (['tighten' => ['ticks' => 1], 'half-off' => [], 'cancel' => [], 'flatten' => []] as $what => $more) {
                self::assertSame(
                    200,
                    $trader->call('POST', "contracts/DULZ6/$what", ['client_id' => $what, 'account' => $trader->account] + $more)->status,
                    $what,
                );
            }
            self::assertSame(409, $trader->call('DELETE', "orders/$order")->status, 'it is cancelled already');
            self::assertSame(200, $trader->call('POST', "accounts/$trader->account/flatten", ['client_id' => 'all'])->status);
        } finally {
            $desk->stop();
        }
    }

    /**
     * Sends the same at the same time, as often as there are workers to take it.
     *
     * @param array<string, mixed> $body
     *
     * @return array<int, int> status → how often
     */
    private function atOnce(int $times, string $method, string $path, array $body): array
    {
        $multi = curl_multi_init();
        $handles = [];
        for ($i = 0; $i < $times; $i++) {
            $curl = curl_init(RunningDesk::shared()->url("/api/$path"));
            curl_setopt_array($curl, [
                CURLOPT_CUSTOMREQUEST => $method, CURLOPT_RETURNTRANSFER => true, CURLOPT_TIMEOUT => 20,
                CURLOPT_POSTFIELDS => json_encode($body),
                CURLOPT_HTTPHEADER => ['Content-Type: application/json', "Authorization: Bearer {$this->trader->token}"],
            ]);
            curl_multi_add_handle($multi, $curl);
            $handles[] = $curl;
        }
        do {
            curl_multi_exec($multi, $running);
            curl_multi_select($multi, 0.01);
        } while ($running > 0);

        return array_count_values(array_map(
            static fn(\CurlHandle $curl): int => (int) curl_getinfo($curl, CURLINFO_RESPONSE_CODE),
            $handles,
        ));
    }

    public function testOfPlansOfOneNameThatComeAtOnceOneIsMade(): void
    {
        for ($round = 0; $round < 4; $round++) {
            self::assertEquals(
                [201 => 1, 409 => 7],
                $this->atOnce(8, 'POST', 'exit-plans', ['name' => "Same $round", 'stop' => ['ticks' => 5]]),
            );
        }
    }

    public function testOfChangesOfOneVersionThatComeAtOnceOneIsTaken(): void
    {
        $plan = fn(int $id): Reply => $this->trader->call('GET', "exit-plans/$id");
        $built = $plan(1)->body;
        $own = $this->trader->call('POST', 'exit-plans', ['name' => 'Mine', 'stop' => ['ticks' => 5]])->body;
        foreach ([$built, $own] as $one) {
            for ($version = $one['version']; $version < $one['version'] + 3; $version++) {
                self::assertEquals(
                    [200 => 1, 409 => 5],
                    $this->atOnce(
                        6,
                        'PUT',
                        "exit-plans/{$one['id']}",
                        ['version' => $version, 'document' => ['stop' => ['ticks' => 5 + $version]] + $one['document']],
                    ),
                );
                self::assertSame($version + 1, $plan($one['id'])->body['version']);
            }
        }
        self::assertCount(5, $this->trader->call('GET', 'exit-plans')->body['items'], 'one row in the place of a built-in plan');
    }

    public function testThereAreNeverMoreMarkedLevelsThanThereMayBe(): void
    {
        for ($i = 0; $i < 98; $i++) {
            self::assertSame(201, $this->trader->call('POST', 'levels', ['contract' => 'DULZ6', 'low' => '400.00'])->status);
        }
        self::assertEquals([201 => 2, 422 => 6], $this->atOnce(8, 'POST', 'levels', ['contract' => 'DULZ6', 'low' => '400.00']));
        self::assertCount(100, $this->trader->call('GET', 'levels')->body['items']);
    }
}
