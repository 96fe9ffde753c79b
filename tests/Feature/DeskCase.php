<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** A test of the HTTP interface over the real engine, with a fresh account. */
abstract class DeskCase extends TestCase
{
    protected const CODE = 'DULZ6';

    protected RunningDesk $desk;

    protected Trader $trader;

    protected function setUp(): void
    {
        $this->desk = RunningDesk::shared();
        $this->trader = $this->desk->trader();
        // A push leaves lots on both sides of the price, so that small market orders fill at one price.
        $this->trader->push(self::CODE, 1);
        $this->trader->push(self::CODE, -1);
    }

    /** @return array<string, mixed> */
    protected static function order(string $side = 'buy', int $quantity = 2, string $kind = 'market'): array
    {
        return ['contract' => self::CODE, 'side' => $side, 'quantity' => $quantity, 'kind' => $kind];
    }

    /** Whole ticks of a price of the test contract (0.50). */
    protected static function ticks(string $price): int
    {
        return (int) \Brick\Math\BigDecimal::of($price)->multipliedBy(2)->toInt();
    }

    protected static function price(int $ticks): string
    {
        return (string) \Brick\Math\BigDecimal::ofUnscaledValue($ticks * 50, 2);
    }

    protected function last(): int
    {
        return self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=1')->body['last']['price']);
    }
}
