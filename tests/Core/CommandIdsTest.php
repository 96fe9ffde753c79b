<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\CommandArchive;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Refusal;
use Lotrik\Desk\Taken;
use Lotrik\Desk\TakenCommands;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** The same client id does nothing more, however often and however late it comes; and what is remembered of ids has a bound. */
final class CommandIdsTest extends TestCase
{
    public function testOnlySoManyAreRememberedAndTheNewestForCertain(): void
    {
        $taken = new TakenCommands();
        for ($i = 0; $i <= 45_000; $i++) {
            $taken->add($i % 3, "id $i", new Taken('place', 'f', ['order' => $i]));
        }
        self::assertLessThanOrEqual(40_000, $taken->count());
        self::assertNull($taken->find(0, 'id 0'));
        self::assertSame(['order' => 26_001], $taken->find(0, 'id 26001')?->answer);
        self::assertNull($taken->find(1, 'id 26001'), 'ids are an account\'s own');
    }

    public function testAnIdThatIsForgottenIsRefusedAndDoesNothing(): void
    {
        $floor = new TestFloor();
        $archive = new class implements CommandArchive {
            public function has(int $account, string $clientId): bool
            {
                return $account === 1 && $clientId === 'long ago';
            }
        };
        $desk = new Desk($floor->floor->desk->state, $archive);
        $order = ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'account' => 1];
        try {
            $desk->take('place', 1, ['client_id' => 'long ago'] + $order, 'f', $floor->now());
            self::fail('it was taken');
        } catch (Refusal $refusal) {
            self::assertSame('client-id-forgotten', $refusal->problem);
        }
        self::assertSame([], $floor->working());
        self::assertFalse($desk->take('place', 1, ['client_id' => 'new'] + $order, 'f', $floor->now())->repeated);
        self::assertTrue($desk->take('place', 1, ['client_id' => 'new'] + $order, 'f', $floor->now())->repeated);
        self::assertFalse($desk->take('place', 2, ['client_id' => 'long ago'] + $order, 'f', $floor->now())->repeated, 'another account may use it');
    }

    public function testUntieAndChangesOfOrdersThatAreLongGoneAreRefusedClearly(): void
    {
        $floor = new TestFloor();
        $price = TestFloor::contract()->price($floor->last() - 9);
        $first = $floor->place('buy', 1, 'limit', $price);
        $second = $floor->place('buy', 1, 'limit', $price);
        $floor->take('tie', ['orders' => [$first, $second]]);
        $floor->take('cancel', ['order' => $first]);
        for ($i = 0; $i < 2_100; $i++) {
            $floor->take('cancel', ['order' => $floor->place('buy', 1, 'limit', $price)]);
        }
        self::assertSame('not-found', $floor->refusal('modify', ['order' => $first + 5, 'quantity' => 2])->problem);
        self::assertSame('not-found', $floor->refusal('cancel', ['order' => $first + 5])->problem);
        $floor->take('untie', ['order' => $second]);
        self::assertNull($floor->order($second)->tie);
    }
}
