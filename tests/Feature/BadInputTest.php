<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\Reply;
use Tests\Support\Trader;

/** Whatever is wrong is named, with what would be right; nothing changes and nothing is ever a 500. */
final class BadInputTest extends DeskCase
{
    private function assertProblem(Reply $reply, int $status, string $code, string $says = ''): void
    {
        self::assertSame([$status, $code], [$reply->status, $reply->code()], json_encode($reply->body) ?: '');
        self::assertStringStartsWith('application/problem+json', $reply->type);
        self::assertStringContainsString($says, $reply->body['detail']);
        self::assertSame([], $this->trader->working());
    }

    /** @return iterable<array{array<string, mixed>, int, string, string}> */
    public static function orders(): iterable
    {
        yield [['kind' => 'limit', 'price' => '410.30'], 422, 'price-off-grid', '410.00 and 410.50'];
        yield [['quantity' => 0], 422, 'invalid', 'whole number'];
        yield [['quantity' => -1], 422, 'invalid', 'whole number'];
        yield [['quantity' => 1.5], 422, 'invalid', 'fraction'];
        yield [['quantity' => 2.0], 422, 'invalid', 'fraction'];
        yield [['quantity' => '2'], 422, 'invalid', 'whole number'];
        yield [['quantity' => 99_999_999], 422, 'invalid', 'whole number'];
        yield [['quantity' => 500], 422, 'order-limit', 'at most 20'];
        yield [['contract' => 'ZZZZ9'], 422, 'unknown-contract', 'GET /api/contracts'];
        yield [['kind' => 'limit', 'price' => 410.5], 422, 'invalid', 'decimal string'];
        yield [['kind' => 'stop', 'trigger' => '1.00'], 422, 'stop-passed', 'market order'];
        yield [['exit_plan' => ['name' => 'none']], 422, 'invalid', 'neither stop nor target'];
        yield [
            ['exit_plan' => ['name' => 'x', 'stop' => ['ticks' => 5], 'ratchets' => [['at' => 4, 'lock' => 1], ['at' => 3, 'lock' => 1]]]],
            422, 'invalid', 'rise strictly',
        ];
        yield [['exit_plan' => 999], 422, 'unknown-plan', 'GET /api/exit-plans'];
        yield [['account' => 999_999], 404, 'unknown-account', 'GET /api/accounts'];
        yield [['tif' => 'ioc', 'kind' => 'stop', 'trigger' => '600.00'], 422, 'invalid', 'waits for its trigger'];
        yield [['tif' => 'forever'], 422, 'invalid', 'day, gtc'];
        yield [['tif' => 'gtd', 'expires_at' => '2020-01-01T00:00:00Z'], 422, 'invalid', 'a time after now'];
        yield [['release_at' => '2099-01-01T00:00:00Z', 'cancel_at' => '2098-01-01T00:00:00Z'], 422, 'invalid', 'a time before cancel_at'];
        yield [['client_id' => str_repeat('x', 65)], 422, 'invalid', '1 to 64'];
        yield [['client_id' => "\xc3\xa9"], 201, '', ''];
        yield [['client_id' => "\xc3\xa9\u{0}"], 422, 'invalid', 'control characters'];
    }

    /** @param array<string, mixed> $fields */
    #[DataProvider('orders')]
    public function testABadOrder(array $fields, int $status, string $code, string $says): void
    {
        $reply = $this->trader->place($fields + self::order());
        if ($status === 201) {
            self::assertSame(201, $reply->status);
        } else {
            $this->assertProblem($reply, $status, $code, $says);
        }
    }

    public function testBrokenJsonAndBodiesThatAreNoObject(): void
    {
        foreach ([
            '{"quantity":1e400}', '{"side":', '[1,2]', '"text"', "\xff\xfe", '{"a":'.str_repeat('[', 40).str_repeat(']', 40).'}',
        ] as $body) {
            $this->assertProblem($this->trader->call('POST', 'orders', $body), 400, 'invalid-json');
        }
        $this->assertProblem($this->trader->place(self::order() + ['tag' => str_repeat('x', 70_000)]), 413, 'too-large');
    }

    public function testWithoutATokenOrWithAWrongOne(): void
    {
        $this->assertProblem($this->trader->call('GET', 'accounts', null, ''), 401, 'unauthenticated', 'bearer token');
        $this->assertProblem($this->trader->call('GET', 'accounts', null, '1|nonsense'), 401, 'unauthenticated');
    }

    public function testAnotherTradersOrderIsNotThere(): void
    {
        $other = $this->desk->trader();
        $id = $other->place(['price' => self::price($this->last() - 30)] + self::order(kind: 'limit'))->body['id'];
        foreach ([['GET', null], ['PATCH', ['client_id' => Trader::id(), 'quantity' => 1]], ['DELETE', []]] as [$method, $body]) {
            $this->assertProblem($this->trader->call($method, "orders/$id", $body), 404, 'not-found');
        }
        foreach ([
            "accounts/{$other->account}/risk", "positions?account={$other->account}", "orders?state=working&account={$other->account}",
            "fills?account={$other->account}", "journal?account={$other->account}",
        ] as $path) {
            $this->assertProblem($this->trader->call('GET', $path), 404, 'unknown-account');
        }
        foreach (['contracts/'.self::CODE.'/flatten', 'contracts/'.self::CODE.'/reverse', 'contracts/'.self::CODE.'/cancel'] as $path) {
            $this->assertProblem(
                $this->trader->call('POST', $path, ['client_id' => Trader::id(), 'account' => $other->account]),
                404,
                'unknown-account',
            );
        }
        foreach (["accounts/{$other->account}/flatten", "accounts/{$other->account}/cancel"] as $path) {
            $this->assertProblem($this->trader->call('POST', $path, ['client_id' => Trader::id()]), 404, 'unknown-account');
        }
        $this->assertProblem($this->trader->call('POST', 'stream-ticket', ['account' => $other->account]), 404, 'unknown-account');
        $this->assertProblem($this->trader->place(['account' => $other->account] + self::order()), 404, 'unknown-account');
        self::assertCount(1, $other->working());
    }

    public function testAddressesAndQueriesThatAreNotThere(): void
    {
        $this->assertProblem($this->trader->call('GET', 'nowhere'), 404, 'not-found');
        $this->assertProblem($this->trader->call('PUT', 'orders'), 405, 'method-not-allowed');
        $this->assertProblem($this->trader->call('GET', 'contracts/ZZZZ9/book'), 404, 'not-found');
        $this->assertProblem($this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=0'), 422, 'invalid');
        $this->assertProblem($this->trader->call('GET', 'orders/abc'), 404, 'not-found');
        $this->assertProblem($this->trader->call('GET', 'orders?state=sleeping'), 422, 'invalid', 'working or final');
        $this->assertProblem($this->trader->call('GET', 'journal?after=-1'), 422, 'invalid');
        $this->assertProblem($this->trader->call('GET', 'orders?account[]=1'), 422, 'invalid');
        $this->assertProblem($this->trader->call('GET', 'contracts?q[]=1'), 422, 'invalid', 'line of text');
        $this->assertProblem($this->trader->call('GET', 'exit-plans/77'), 404, 'not-found');
        $this->assertProblem($this->trader->call('POST', 'practice/'.self::CODE, ['mood' => 'angry']), 422, 'invalid', 'quiet');
        $this->assertProblem($this->trader->call('POST', 'practice/'.self::CODE, ['push_ticks' => 1.5]), 422, 'invalid');
        $this->assertProblem(
            $this->trader->call(
                'POST',
                'contracts/'.self::CODE.'/reverse',
                ['client_id' => Trader::id(), 'account' => $this->trader->account],
            ),
            422,
            'flat',
        );
        $this->assertProblem(
            $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['account' => $this->trader->account]),
            422,
            'invalid',
            'client_id',
        );
    }

    /** @return array{int, string} */
    private function shell(string $command): array
    {
        exec('cd '.escapeshellarg(dirname(__DIR__, 2))." && $command 2>&1 >/dev/null", $lines, $status);
        self::assertCount(1, $lines, implode("\n", $lines));

        return [$status, $lines[0]];
    }

    public function testASecondEngineOnTheSameDataRefusesInOneLine(): void
    {
        [$status, $line] = $this->shell('bin/start --no-setup --port 1 --data '.escapeshellarg($this->desk->data));
        self::assertSame(2, $status);
        self::assertStringContainsString('another engine running', $line);
        [$status, $line] = $this->shell(escapeshellarg(PHP_BINARY).' artisan lotrik:engine --data='.escapeshellarg($this->desk->data));
        self::assertSame(2, $status);
        self::assertStringContainsString('another engine running', $line);
    }

    public function testBadOptionsOfTheStartScript(): void
    {
        foreach ([
            '--colour red' => 'unknown option', '--port 99999' => '1 to 65535', '--seed x' => 'whole number',
            '--port' => 'expected a value',
        ] as $options => $says) {
            [$status, $line] = $this->shell("bin/start --no-setup $options");
            self::assertSame(2, $status);
            self::assertStringContainsString($says, $line);
        }
    }

    public function testTheRehearsalCommandEndsWithStatusTwoAndOneLine(): void
    {
        $folder = sys_get_temp_dir().'/lotrik-rehearse-'.getmypid();
        @mkdir($folder);
        file_put_contents("$folder/c.json", '{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR"}');
        file_put_contents("$folder/p.json", '{"name":"x","stop":{"ticks":7}}');
        file_put_contents("$folder/bad.json", '{"name":"x","stop":{"ticks":7.5}}');
        file_put_contents("$folder/t.csv", "time,contract,price,size,aggressor\n2026-11-02T09:30:00.000Z,DULZ6,412.50,1,buy\n");
        $base = escapeshellarg(PHP_BINARY)
            ." artisan lotrik:rehearse --data=$folder/d --contract=$folder/c.json --tape=$folder/t.csv --json";
        foreach ([
            "--plan=$folder/p.json --side=buy --quantity=0 --kind=market" => '--quantity: found "0"',
            "--plan=$folder/p.json --side=up --quantity=1 --kind=market" => '--side: found "up"',
            "--plan=$folder/p.json --side=buy --quantity=1 --kind=limit" => '--price: found nothing',
            "--plan=$folder/p.json --side=buy --quantity=1 --kind=limit --price=412.30" => '412.00 and 412.50',
            "--plan=$folder/bad.json --side=buy --quantity=1 --kind=market" => '/stop/ticks',
            "--plan=$folder/none.json --side=buy --quantity=1 --kind=market" => 'no readable file',
            "--plan=$folder/p.json --side=buy --quantity=1 --kind=market --colour=red" => 'unknown option',
            "--plan=$folder/p.json --side=buy --quantity=1 --kind=market --at=noon" => '--at: found "noon"',
        ] as $options => $says) {
            [$status, $line] = $this->shell("$base $options");
            self::assertSame(2, $status, $options);
            self::assertStringContainsString($says, $line);
        }
        $gzip = (string) gzencode((string) file_get_contents("$folder/t.csv"));
        file_put_contents("$folder/bad.gz", substr($gzip, 0, -8).chr(ord($gzip[-8]) ^ 1).substr($gzip, -7));
        [$status, $line] = $this->shell(str_replace('t.csv', 'bad.gz', $base)." --plan=$folder/p.json --side=buy --quantity=1 --kind=market");
        self::assertSame([2, "$folder/bad.gz: found a damaged gzip, expected one whose checksum fits"], [$status, trim($line)]);
        exec("$base --plan=$folder/p.json --side=buy --quantity=1 --kind=market", $out, $status);
        self::assertSame(0, $status);
        self::assertSame('412.50', json_decode($out[0], true)['entry']['average']);
        exec('rm -rf '.escapeshellarg($folder));
    }

    public function testASocketPathThatPhpWouldCutIsRefused(): void
    {
        $long = sys_get_temp_dir().'/lotrik-'.str_repeat('x', 100);
        @mkdir($long);
        exec(
            'LOTRIK_DATA='.escapeshellarg($long).' '.escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2))
                .'/artisan lotrik:engine 2>&1 >/dev/null',
            $lines,
            $status,
        );
        exec('rm -rf '.escapeshellarg($long));
        self::assertSame(2, $status);
        self::assertStringContainsString('at most 107', $lines[0]);
    }
}
