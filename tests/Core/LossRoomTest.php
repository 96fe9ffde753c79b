<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The ghost says when an order would risk more than the day still allows: 500.00 EUR for the account of these tests. */
final class LossRoomTest extends TestCase
{
    /** @return array{string, bool} */
    private static function preview(TestSystem $system, int $lots, string $code = TestSystem::CODE): array
    {
        $preview = $system->system->desk->queries->preview(1, [
            'account' => 1, 'contract' => $code, 'side' => 'buy', 'quantity' => $lots, 'kind' => 'market',
            'exit_plan' => TestSystem::plan('"stop":{"ticks":20}'),
        ], $system->now());

        return [$preview['words'], $preview['over_loss_room']];
    }

    /** A tick is 2.50, a stop of 20 is 50.00 a lot and 1.24 of fees: 9 lots risk 461.16, 10 risk 512.40. */
    public function testAnOrderOverTheLossRoomSaysSo(): void
    {
        $system = new TestSystem();
        self::assertFalse(self::preview($system, 9)[1]);
        [$words, $isOver] = self::preview($system, 10);
        self::assertTrue($isOver);
        self::assertStringEndsWith('risk 500.00 + 12.40 fees · over the loss room of 500.00 EUR', $words);
    }

    public function testWhatIsAtRiskAlreadyCountsAndSoDoesWhatTheDayHasLost(): void
    {
        $system = new TestSystem();
        $system->place('buy', 5, plan: TestSystem::plan('"stop":{"ticks":20}'));
        self::assertFalse(self::preview($system, 4)[1]);
        self::assertTrue(self::preview($system, 5)[1]);
        $system->push(-8);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertTrue(self::preview($system, 9)[1], 'a hundred is lost');
        self::assertFalse(self::preview($system, 7)[1]);
    }

    /** A contract in another currency: its risk is counted at the account's rate. */
    public function testAnotherCurrencyIsCountedAtItsRate(): void
    {
        $dollar = Contract::fromJson('{"code":"FRXZ6","tick_size":"0.50","tick_value":"12.50","currency":"USD","fee_per_side":"1.00","day_margin":"500.00"}');
        $account = \Lotrik\Desk\Account\Account::fromArray(['id' => 1, 'owner' => 1, 'name' => 'Test', 'currency' => 'EUR', 'balance' => '10000.00',
            'rates' => ['USD' => '0.50'], 'order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00']);
        $system = new TestSystem(others: [[$dollar, 4000]], accounts: [$account]);
        self::assertFalse(self::preview($system, 3, 'FRXZ6')[1], '756.00 USD are 378.00 EUR');
        self::assertTrue(self::preview($system, 4, 'FRXZ6')[1]);
    }
}
