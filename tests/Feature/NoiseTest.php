<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** Is the stop inside the noise? What the engine says of its own prints, and what the command line says of each entry. */
final class NoiseTest extends TestCase
{
    private const PLAN = [
        'name' => 'Tight', 'stop' => ['ticks' => 2], 'portions' => [['rest' => true, 'target' => ['ticks' => 2]]],
        'ratchets' => [['at' => 1, 'lock' => 0]],
    ];

    public function testTheFiguresAreThoseOfTheCommandLineEntryByEntryAndSurviveAKill(): void
    {
        $desk = RunningDesk::start('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
        try {
            $trader = $desk->trader();
            $trader->call('POST', 'practice/DULZ6', ['mood' => 'quiet']);
            $trader->steps('DULZ6', 2_400);
            $asked = ['account' => $trader->account, 'contract' => 'DULZ6', 'document' => self::PLAN, 'quantity' => 2, 'minutes' => 10];
            $noise = $trader->call('POST', 'exit-plans/noise', $asked);
            self::assertSame(200, $noise->status, json_encode($noise->body, JSON_THROW_ON_ERROR));
            $prints = array_reverse($trader->call('GET', 'contracts/DULZ6/tape?most=500')->body['items']);
            self::assertLessThan(500, count($prints), 'all that has printed');
            $told = $this->onTheCommandLine($desk, $prints, (int) $prints[0]['at']);
            foreach (['buy', 'sell'] as $side) {
                $of = $noise->body['by_stop'][0][$side];
                self::assertSame($told[$side], array_intersect_key($of, $told[$side]), $side);
                self::assertGreaterThan(2, $of['cases']);
                self::assertFalse($of['enough'], 'so few say nothing');
            }
            self::assertSame([null, 5, 0], [$noise->body['by_stop'][0]['stop'], $noise->body['every'], $noise->body['covered_minutes']]);
            $desk->crash();
            $desk->up('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
            self::assertSame($noise->body, $trader->call('POST', 'exit-plans/noise', $asked)->body, 'nothing of it was lost');
        } finally {
            $desk->stop();
        }
    }

    /**
     * @param list<array<string, mixed>> $prints oldest first
     *
     * @return array<string, array{cases: int, stop: int, break_even: int, target: int, open: int}>
     */
    private function onTheCommandLine(RunningDesk $desk, array $prints, int $first): array
    {
        $folder = "{$desk->data}/noise";
        mkdir($folder);
        $price = static fn(int $tick): string => sprintf('%d.%d0', intdiv($tick, 2), 5 * ($tick % 2));
        $iso = static fn(int $at): string => gmdate('Y-m-d\TH:i:s', intdiv($at, 1000)).sprintf('.%03dZ', $at % 1000);
        $lines = ["time,contract,price,size,aggressor\n"];
        foreach ($prints as $print) {
            $lines[] = "{$iso($print['at'])},DULZ6,{$price($print['price'])},{$print['size']},{$print['aggressor']}\n";
        }
        file_put_contents("$folder/tape.csv", $lines);
        file_put_contents("$folder/plan.json", json_encode(self::PLAN, JSON_THROW_ON_ERROR));
        file_put_contents("$folder/contract.json", '{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR"}');
        $found = [];
        foreach (['buy', 'sell'] as $side) {
            $counts = ['cases' => 0, 'stop' => 0, 'break_even' => 0, 'target' => 0, 'open' => 0];
            for ($at = $first + (5_000 - $first % 5_000) % 5_000; $at <= end($prints)['at']; $at += 5_000) {
                if (array_filter($prints, static fn(array $p): bool => $p['at'] >= $at && $p['at'] < $at + 5_000) === []) {
                    continue;
                }
                exec(escapeshellarg(PHP_BINARY)." artisan lotrik:rehearse --data=$folder/d --contract=$folder/contract.json --plan=$folder/plan.json"
                    ." --tape=$folder/tape.csv --side=$side --quantity=2 --kind=market --at={$iso($at)} --json", $out, $status);
                self::assertSame(0, $status);
                $result = json_decode((string) array_pop($out), true, 512, JSON_THROW_ON_ERROR);
                $counts['cases']++;
                $exits = array_values(array_filter($result['events'], static fn(array $e): bool => $e['event'] === 'exit-filled'));
                $stops = array_values(array_filter($result['events'], static fn(array $e): bool => str_starts_with($e['event'], 'stop-')));
                // Of one portion: its stop stood last where it filled.
                $even = $stops !== [] && end($stops)['price'] === $result['entry']['average'];
                $counts[$exits === [] ? 'open' : ($exits[0]['order'] === 'target' ? 'target' : ($even ? 'break_even' : 'stop'))]++;
            }
            $found[$side] = $counts;
        }

        return $found;
    }

    public function testWhatMakesNoSenseIsSaidAndAnotherAccountIsNotFound(): void
    {
        $desk = RunningDesk::shared();
        [$trader, $other] = [$desk->trader(), $desk->trader()];
        $asked = ['account' => $trader->account, 'contract' => 'DULZ6', 'document' => self::PLAN, 'quantity' => 2];
        self::assertSame(200, $trader->call('POST', 'exit-plans/noise', $asked)->status);
        foreach ([
            '/minutes' => ['minutes' => 9], '/quantity' => ['quantity' => 0], '/document/stop' => ['document' => ['stop' => []] + self::PLAN],
            '/colour' => ['colour' => 'red'], '/by_stop' => ['by_stop' => 1],
        ] as $pointer => $wrong) {
            $reply = $trader->call('POST', 'exit-plans/noise', $wrong + $asked);
            self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer'] ?? null], $pointer);
        }
        self::assertSame(404, $other->call('POST', 'exit-plans/noise', $asked)->status);
        $far = ['document' => ['stop' => ['atr' => '2', 'bar' => '1h', 'length' => 100]] + self::PLAN, 'by_stop' => true];
        $waits = $trader->call('POST', 'exit-plans/noise', $far + $asked);
        self::assertSame([422, 'plan-does-not-fit', '/document'], [$waits->status, $waits->body['code'], $waits->body['pointer']]);
        $near = $trader->call('POST', 'exit-plans/noise', ['by_stop' => true] + $asked)->body['by_stop'];
        self::assertSame([[1, false], [2, true], [3, false], [4, false]], array_map(static fn(array $p): array => [$p['stop'], $p['own']], $near));
    }
}
