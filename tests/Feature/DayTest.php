<?php

declare(strict_types=1);

namespace Tests\Feature;

use Brick\Math\BigDecimal;
use Tests\Support\Trader;

/** The trading day of an account: its result, how it went, its trades, the limits that it met, and what is left over. */
final class DayTest extends DeskCase
{
    /** @return array<string, mixed> */
    private function day(string $which = 'now'): array
    {
        $reply = $this->trader->call('GET', "accounts/{$this->trader->account}/day?which=$which");
        self::assertSame(200, $reply->status, json_encode($reply->body, JSON_THROW_ON_ERROR));

        return $reply->body;
    }

    private function send(string $side, int $lots): void
    {
        self::assertSame(201, $this->trader->call('POST', 'orders', ['client_id' => Trader::id(), 'account' => $this->trader->account]
            + self::order($side, $lots))->status);
    }

    public function testTradesAreCountedTheirSumIsTheDaysAndItAllOutlivesAKill(): void
    {
        $none = $this->day();
        self::assertSame([0, [], null, '0.00'], [$none['trades']['count'], $none['by_contract'], $none['best'], $none['net']]);
        $this->send('buy', 1);
        $this->trader->push(self::CODE, 6);
        $this->send('sell', 1);
        $this->send('buy', 1);
        $this->trader->push(self::CODE, -4);
        $this->send('sell', 1);
        $this->trader->place(['exit_plan' => 1] + self::order('buy', 2));
        $this->trader->place(['kind' => 'limit', 'price' => self::price($this->last() - 40), 'tif' => 'gtc'] + self::order('buy', 1));
        $day = $this->day();
        self::assertSame([2, 1, 1], [$day['trades']['count'], $day['trades']['won'], $day['trades']['lost']]);
        // What has closed, less the fees of the two lots that are open: 0.62 each.
        $closed = BigDecimal::of($day['realised'])->minus($day['fees']);
        self::assertTrue($closed->plus('1.24')->isEqualTo($day['trades']['net']), "$closed and {$day['trades']['net']}");
        self::assertTrue($closed->plus($day['open'])->isEqualTo($day['net']));
        self::assertTrue(BigDecimal::of($day['trades']['best'])->plus($day['trades']['worst'])->isEqualTo($day['trades']['net']));
        self::assertSame($day['net'], $day['by_contract'][0]['net'], 'one contract is all');
        self::assertNotSame([], $day['line']);
        self::assertTrue(BigDecimal::of($day['best']['money'])->isPositive());
        $whys = array_column($day['left_over'], 'why', 'words');
        self::assertSame('open, under its stops', $whys['Long 2']);
        self::assertContains('lives as long as the lots that it protects', $whys);
        self::assertContains('lives as long as the lots that it closes', $whys);
        self::assertContains('good till cancelled: it works until somebody cancels it', $whys);
        $this->desk->killEngine();
        $after = $this->day();
        foreach (['trades', 'best', 'by_contract', 'left_over', 'met'] as $part) {
            self::assertSame($day[$part], $after[$part], $part);
        }
        self::assertSame($day['line'][0], $after['line'][0], 'the line goes on where it was');
        $before = $this->day('before');
        self::assertSame([true, '0.00', 0, []], [$before['is_over'], $before['net'], $before['trades']['count'], $before['line']]);
        self::assertSame($day['began'], $before['ends']);
    }

    /** Dulse in euro, freight in dollars, yuzu in yen: what each has brought, and holds back, in the account's currency. */
    public function testContractsInTheirOwnCurrenciesAddUpToTheAccount(): void
    {
        foreach (['DULZ6' => 2, 'FRXZ6' => 1, 'YUZX6' => 1] as $code => $lots) {
            $code = array_values(preg_grep('/^'.substr($code, 0, 3).'/', array_column($this->trader->call('GET', 'contracts')->body['items'], 'code')) ?: [])[0];
            $order = ['contract' => $code, 'quantity' => $lots, 'kind' => 'market', 'exit_plan' => null];
            $this->trader->place(['side' => 'buy'] + $order);
            $this->trader->push($code, 3);
            $this->trader->place(['side' => 'sell', 'quantity' => 1] + $order);
        }
        $day = $this->day();
        self::assertCount(3, $day['by_contract']);
        foreach (['realised', 'open', 'fees', 'net'] as $figure) {
            $sum = BigDecimal::sum(...array_map(static fn(array $of): BigDecimal => BigDecimal::of($of[$figure]), $day['by_contract']));
            // Written to 8 decimals where a rate leaves more.
            self::assertTrue($sum->minus($day[$figure])->abs()->isLessThan('0.0000001'), "$figure: $sum and {$day[$figure]}");
        }
        $risk = $this->trader->call('GET', "accounts/{$this->trader->account}/risk")->body;
        $margin = BigDecimal::sum(...array_map(static fn(array $of): BigDecimal => BigDecimal::of($of['margin']), $day['by_contract']));
        self::assertTrue($margin->minus($risk['margin_used'])->abs()->isLessThan('0.0000001'), "$margin and {$risk['margin_used']}");
        self::assertSame($risk['day']['net'], $day['net']);
    }

    public function testABarTellsTheLinesOfTheJournalThatLedThere(): void
    {
        $this->trader->call('PUT', "accounts/{$this->trader->account}/limits", ['format' => 'lotrik.limits/1', 'daily_loss' => '60.00']);
        $this->send('buy', 10);
        $this->trader->push(self::CODE, -2);
        $this->trader->push(self::CODE, -2);
        $day = $this->day();
        self::assertNotSame([], $day['led_to_bar'], json_encode($day, JSON_THROW_ON_ERROR));
        $words = array_column($day['led_to_bar'], 'words');
        self::assertStringContainsString('the loss limit is 60.00', end($words));
        self::assertNotSame([], preg_grep('/Bought 10|10 .*bought|fill/i', $words), implode(' | ', $words));
        self::assertSame($day['led_to_bar'], array_values(array_filter(
            $day['led_to_bar'],
            static fn(array $line): bool => $line['sequence'] <= end($day['met'])['sequence'],
        )));
        self::assertTrue(BigDecimal::of($day['worst']['money'])->isLessThanOrEqualTo('-50'));
    }

    public function testAnothersDayIsNotFoundAndAnUnknownOneIsSaid(): void
    {
        $address = "accounts/{$this->trader->account}/day";
        self::assertSame(404, $this->desk->trader()->call('GET', $address)->status);
        self::assertSame(422, $this->trader->call('GET', "$address?which=monday")->status);
        self::assertSame(422, $this->trader->call('GET', "$address?day=1")->status);
    }
}
