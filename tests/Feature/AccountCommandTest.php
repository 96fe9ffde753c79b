<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** Practice accounts that are opened from the command line. */
final class AccountCommandTest extends TestCase
{
    public function testAnAccountIsBarredAtTheLossThatWasSaidForIt(): void
    {
        $desk = RunningDesk::shared();
        $limits = static fn(\Tests\Support\Trader $trader): array => array_column($trader->call('GET', 'accounts')->body['items'], 'daily_loss_limit');
        self::assertSame(['9000.00'], $limits($desk->traderWhoMayLose('9000.00')));
        self::assertSame(['500.00'], $limits($desk->trader()), 'and where nothing was said at the usual one');
    }

    public function testALimitThatIsNoAmountOpensNothing(): void
    {
        $desk = RunningDesk::shared();
        foreach (['0', '-5.00', '5.001', 'much', '12345678'] as $wrong) {
            try {
                $desk->traderWhoMayLose($wrong);
                self::fail("taken: $wrong");
            } catch (\RuntimeException $refused) {
                self::assertStringContainsString("--loss-limit: found \"$wrong\", expected an amount such as 500.00", $refused->getMessage());
            }
        }
    }
}
