<?php

declare(strict_types=1);

namespace Tests\Feature;

/** Fills from another program over HTTP: taken whole or not at all, never twice, seen by their account alone. */
final class OutsideFillsTest extends DeskCase
{
    private const CSV = "time,contract,side,quantity,price\n2026-11-02T09:31:00.500Z,DULZ6,sell,3,413.00\n2026-11-02T09:30:00.000Z,DRIED-DEC26,buy,3,412.50\n";

    /** @return array{int, array<string, mixed>} */
    private function bring(string $csv): array
    {
        $reply = $this->trader->call('POST', 'outside-fills', ['account' => $this->trader->account, 'csv' => $csv]);

        return [$reply->status, $reply->body];
    }

    /** @return list<array<string, mixed>> */
    private function there(): array
    {
        return $this->trader->call('GET', "outside-fills?account={$this->trader->account}")->body['items'];
    }

    public function testTheyAreListedOldestFirstAndCountForNothingElse(): void
    {
        self::assertSame([201, ['imported' => 2, 'known' => 0]], $this->bring(self::CSV));
        $seen = array_map(
            static fn(array $f): array => [$f['contract'], $f['side'], $f['quantity'], $f['price'], $f['level'], $f['time']],
            $this->there(),
        );
        self::assertSame(
            [
                ['DULZ6', 'buy', 3, '412.50', 825, '2026-11-02T09:30:00.000Z'],
                ['DULZ6', 'sell', 3, '413.00', 826, '2026-11-02T09:31:00.500Z'],
            ],
            $seen,
        );
        self::assertSame([201, ['imported' => 0, 'known' => 2]], $this->bring(self::CSV), 'the same file again');
        self::assertSame([201, ['imported' => 1, 'known' => 2]], $this->bring(self::CSV."2026-11-02T09:32:00.000Z,DULZ6,buy,1,412.00\n"));
        self::assertSame(
            [[], []],
            [
                $this->trader->call('GET', "positions?account={$this->trader->account}")->body['items'],
                $this->trader->call('GET', "fills?account={$this->trader->account}")->body['items'],
            ],
        );
        self::assertSame(['deleted' => 3], $this->trader->call('DELETE', "outside-fills?account={$this->trader->account}")->body);
        self::assertSame([], $this->there());
    }

    public function testABadLineRefusesTheWholeFileAndSaysWhich(): void
    {
        [$status, $body] = $this->bring(self::CSV."2026-11-02T09:32:00.000Z,DULZ6,buy,1,412.30\n");
        self::assertSame([422, 'invalid', '/csv'], [$status, $body['code'], $body['pointer']]);
        self::assertStringContainsString('fills line 4: found price "412.30"', $body['detail']);
        self::assertSame([], $this->there());
        self::assertSame(
            422,
            $this->trader->call('POST', 'outside-fills', ['account' => $this->trader->account, 'csv' => self::CSV, 'more' => 1])->status,
        );
        self::assertSame(
            '/csv',
            $this->trader->call('POST', 'outside-fills', ['account' => $this->trader->account, 'csv' => 5])->body['pointer'],
        );
    }

    public function testAnotherAccountsFillsAreNotThere(): void
    {
        $this->bring(self::CSV);
        $other = $this->desk->trader();
        self::assertSame(404, $other->call('GET', "outside-fills?account={$this->trader->account}")->status);
        self::assertSame(404, $other->call('DELETE', "outside-fills?account={$this->trader->account}")->status);
        self::assertSame(404, $other->call('POST', 'outside-fills', ['account' => $this->trader->account, 'csv' => self::CSV])->status);
        self::assertCount(2, $this->there());
    }

    public function testALargeFileIsTaken(): void
    {
        $rows = '';
        for ($i = 0; $i < 5_000; $i++) {
            $rows .= sprintf("2026-11-02T%02d:%02d:%02d.000Z,DULZ6,buy,1,412.50\n", intdiv($i, 3600), intdiv($i, 60) % 60, $i % 60);
        }
        self::assertSame([201, ['imported' => 5_000, 'known' => 0]], $this->bring("time,contract,side,quantity,price\n$rows"));
    }
}
