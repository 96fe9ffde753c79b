<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Command\CommandArchive;
use Lotrik\Desk\Desk;
use Lotrik\Desk\State\HandledCommand;
use Lotrik\Desk\State\HandledCommands;
use Lotrik\Refusal\Refusal;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The same client id does nothing more, however often and however late it comes; and what is remembered of ids has a bound. */
final class CommandIdsTest extends TestCase
{
    public function testOnlySoManyAreRememberedAndTheNewestForCertain(): void
    {
        $taken = new HandledCommands();
        for ($i = 0; $i <= 45_000; $i++) {
            $taken->add($i % 3, "id $i", new HandledCommand('place', 'f', ['order' => $i]));
        }
        self::assertLessThanOrEqual(40_000, $taken->count());
        self::assertNull($taken->find(0, 'id 0'));
        self::assertSame(['order' => 26_001], $taken->find(0, 'id 26001')?->answer);
        self::assertNull($taken->find(1, 'id 26001'), 'ids are an account\'s own');
    }

    public function testAnIdThatIsForgottenIsRefusedAndDoesNothing(): void
    {
        $system = new TestSystem();
        $archive = new class implements CommandArchive {
            public function has(int $account, string $clientId): bool
            {
                return $account === 1 && $clientId === 'long ago';
            }
        };
        $desk = new Desk($system->system->desk->state, $archive);
        $order = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'account' => 1];
        try {
            $desk->handle('place', 1, ['client_id' => 'long ago'] + $order, 'f', $system->now());
            self::fail('it was taken');
        } catch (Refusal $refusal) {
            self::assertSame('client-id-forgotten', $refusal->problem->value);
        }
        self::assertSame([], $system->working());
        self::assertFalse($desk->handle('place', 1, ['client_id' => 'new'] + $order, 'f', $system->now())->repeated);
        self::assertTrue($desk->handle('place', 1, ['client_id' => 'new'] + $order, 'f', $system->now())->repeated);
        self::assertFalse(
            $desk->handle('place', 2, ['client_id' => 'long ago'] + $order, 'f', $system->now())->repeated,
            'another account may use it',
        );
    }

    public function testUntieAndChangesOfOrdersThatAreLongGoneAreRefusedClearly(): void
    {
        $system = new TestSystem();
        $price = TestSystem::contract()->price($system->last() - 9);
        $first = $system->place('buy', 1, 'limit', $price);
        $second = $system->place('buy', 1, 'limit', $price);
        $system->handle('tie', ['orders' => [$first, $second]]);
        $system->handle('cancel', ['order' => $first]);
        for ($i = 0; $i < 2_100; $i++) {
            $system->handle('cancel', ['order' => $system->place('buy', 1, 'limit', $price)]);
        }
        self::assertSame('not-found', $system->refusal('modify', ['order' => $first + 5, 'quantity' => 2])->problem->value);
        self::assertSame('not-found', $system->refusal('cancel', ['order' => $first + 5])->problem->value);
        $system->handle('untie', ['order' => $second]);
        self::assertNull($system->order($second)->tie);
    }
}
