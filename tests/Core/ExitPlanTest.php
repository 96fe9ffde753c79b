<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\ExitPlan\Open\Anchor;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Order\Side;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

final class ExitPlanTest extends TestCase
{
    /** @return iterable<array{string, string, string}> */
    public static function badPlans(): iterable
    {
        yield ['{"name":"x"}', '', 'neither stop nor target'];
        yield ['{"name":"x","stop":null,"portions":[{"rest":true,"target":null}]}', '', 'neither stop nor target'];
        yield ['{"name":"x","stop":{"ticks":0}}', '/stop/ticks', 'from 1'];
        yield ['{"name":"x","stop":{"ticks":2.5}}', '/stop/ticks', 'whole number'];
        yield ['{"name":"x","stop":{"ticks":2,"points":"1"}}', '/stop', 'exactly one of'];
        yield ['{"name":"x","stop":{"points":2.5}}', '/stop/points', 'as a string'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":7,"lock":0},{"at":5,"lock":0}]}', '/ratchets/1/at', 'more than 7'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":5,"lock":0},{"at":5,"lock":1}]}', '/ratchets/1/at', 'more than 5'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":5,"lock":5}]}', '/ratchets/0/lock', 'less than at'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":5}]}', '/ratchets/0', 'one of lock and trail'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":5,"trail":0}]}', '/ratchets/0/trail', 'from 1'];
        yield ['{"name":"x","stop":{"ticks":7},"ratchets":[{"at":-1,"lock":-2}]}', '/ratchets/0/at', 'from 0'];
        yield [
            '{"name":"x","portions":[{"rest":true,"target":{"ticks":4}}],"ratchets":[{"at":5,"lock":0}]}', '/ratchets', 'a stop for them',
        ];
        yield [
            '{"name":"x","stop":{"ticks":7},"portions":[{"rest":true,"target":null},{"lots":1,"target":null}]}', '/portions/0/rest',
            'only in the last',
        ];
        yield ['{"name":"x","stop":{"ticks":7},"portions":[]}', '/portions', '1 to 20'];
        yield ['{"name":"x","stop":{"ticks":7},"covers":"all"}', '/covers', 'entry'];
        yield ['{"name":"x","stop":{"ticks":7},"colour":"red"}', '/colour', 'unknown field'];
        yield ['{"name":"x","stop":{"ticks":7,"limit_ticks":3}}', '/stop/limit_ticks', 'stop-limit'];
        yield ['{"stop":{"ticks":7}}', '/name', 'a text'];
    }

    #[DataProvider('badPlans')]
    public function testABadPlanIsRefusedWithItsPointer(string $json, string $pointer, string $says): void
    {
        try {
            ExitPlan::fromJson($json);
            self::fail('taken');
        } catch (InvalidDocument $fault) {
            self::assertSame($pointer, $fault->pointer, $fault->getMessage());
            self::assertStringContainsString($says, $fault->getMessage());
        }
    }

    public function testADocumentReadAndWrittenReadsTheSame(): void
    {
        $plan = ExitPlan::fromArray(TestSystem::plan());
        self::assertSame($plan->document, ExitPlan::fromArray($plan->document)->document);
        self::assertSame('cancel-entry', $plan->document['after_target']);
    }

    private static function basis(int $quantity = 1, ?string $balance = null): Basis
    {
        return new Basis(TestSystem::contract(), 825, $quantity, $balance === null ? null : Money::of($balance, Currency::of('EUR')));
    }

    /** @return iterable<array{string, int, int, int}> distance, lots, ticks as a stop, ticks as a target */
    public static function distances(): iterable
    {
        yield ['{"ticks":7}', 1, 7, 7];
        yield ['{"points":"2.5"}', 1, 5, 5];
        yield ['{"points":"2.9"}', 1, 5, 6];
        yield ['{"money":"19.00"}', 1, 7, 8];
        yield ['{"order_money":"100.00"}', 3, 13, 13];
        yield ['{"percent":"1"}', 1, 8, 8];
        yield ['{"account_percent":"0.5"}', 2, 10, 10];
    }

    #[DataProvider('distances')]
    public function testAStopRoundsDownAndATargetToTheNearestTick(string $distance, int $lots, int $stop, int $target): void
    {
        $plan = ExitPlan::fromJson('{"name":"x","stop":'.$distance.',"portions":[{"rest":true,"target":'.$distance.'}]}')->resolve(self::basis($lots, '10000.00'));
        self::assertSame($stop, $plan->portion(1)->stop?->distance);
        self::assertSame($target, $plan->portion(1)->target);
    }

    public function testAStopUnderOneTickIsRefused(): void
    {
        $this->expectException(InvalidPlan::class);
        $this->expectExceptionMessage('at least one tick');
        ExitPlan::fromJson('{"name":"x","stop":{"money":"2.49"}}')->resolve(self::basis());
    }

    public function testPercentOfTheAccountNeedsAnAccount(): void
    {
        $this->expectExceptionMessage('needs an account');
        ExitPlan::fromJson('{"name":"x","stop":{"account_percent":"1"}}')->resolve(self::basis());
    }

    public function testLotsSplitOverThePortionsAndLaterOnesStayEmpty(): void
    {
        $plan = ExitPlan::fromJson('{"name":"x","stop":{"ticks":7},"portions":[{"lots":2,"target":{"ticks":4}},{"lots":1,"target":{"ticks":8}},{"lots":1,"target":null}]}')->resolve(self::basis());
        self::assertSame([1 => 1, 2 => 0, 3 => 0], $plan->split(1));
        self::assertSame([1 => 2, 2 => 1, 3 => 0], $plan->split(3));
        self::assertSame([1 => 2, 2 => 1, 3 => 7], $plan->split(10));
    }

    public function testTheLastRatchetReachedGovernsAndTheStopNeverRetreats(): void
    {
        $path = ExitPlan::fromArray(TestSystem::plan())->resolve(self::basis())->portion(1)->stop;
        self::assertSame([-7, -7, -7, -7, -7, 0, 0, 2, 2, 2, 2, 5, 5, 7, 7, 9], $path?->curve(15));
        $widening = ExitPlan::fromJson('{"name":"x","stop":{"ticks":9},"ratchets":[{"at":10,"lock":8},{"at":12,"trail":9}]}')->resolve(self::basis())->portion(1)->stop;
        self::assertSame([8, 8, 8, 8], array_slice((array) $widening?->curve(13), 10));
        self::assertSame(3, $widening?->offset(12));
    }

    /** Common practice, no source: stop 30, no target, at +12 trail 9 by 1. */
    public function testATrailFollowsTickByTick(): void
    {
        $path = ExitPlan::fromJson('{"name":"x","stop":{"ticks":30},"ratchets":[{"at":12,"trail":9,"by":1}]}')->resolve(self::basis())
            ->portion(1)->stop;
        self::assertSame([-30, 3, 4], [$path?->offset(11), $path?->offset(12), $path?->offset(13)]);
    }

    /** Common practice, no source: point value 25.00, a target of 2,000.00 is 80 points, a stop of 1,500.00 is 60 points. */
    public function testMoneyDistancesAsPoints(): void
    {
        $contract = Contract::fromJson('{"code":"AZ6","tick_size":"1","tick_value":"25.00","currency":"EUR"}');
        $plan = ExitPlan::fromJson('{"name":"x","stop":{"money":"1500.00"},"portions":[{"rest":true,"target":{"money":"2000.00"}}]}')->resolve(new Basis($contract, 16000, 1));
        self::assertSame([60, 80], [$plan->portion(1)->stop?->distance, $plan->portion(1)->target]);
    }

    public function testLockFeesIsTheFewestTicksThatCoverTheRoundTrip(): void
    {
        $path = ExitPlan::fromJson('{"name":"x","stop":{"ticks":7},"ratchets":[{"at":5,"lock":"fees"}]}')->resolve(self::basis())
            ->portion(1)->stop;
        self::assertSame(1, $path?->offset(5));
    }

    public function testTheAnchorRoundsToTheProfitSide(): void
    {
        foreach ([[Side::Buy, 101], [Side::Sell, 100]] as [$side, $tick]) {
            $anchor = new Anchor($side);
            $anchor->add(2, 100);
            $anchor->add(1, 101);
            self::assertSame($tick, $anchor->tick());
        }
        $below = new Anchor(Side::Sell);
        $below->add(1, -3);
        $below->add(1, -4);
        self::assertSame(-4, $below->tick());
    }

    public function testFillsAfterARatchetHasMovedTheStopAreAGroupOfTheirOwn(): void
    {
        $exits = new EntryExits(
            Side::Buy,
            ExitPlan::fromArray(TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":5,"lock":2}]'))->resolve(new Basis(
                TestSystem::contract(),
                100,
                4,
            )),
        );
        $exits->fill(1, 100, 1);
        $exits->fill(1, 102, 2);
        self::assertSame(
            [[2, 94]],
            array_map(static fn($c): array => [$c->lots, $c->stop], $exits->slots()),
            'before a ratchet the anchor follows the fills',
        );
        $exits->observe(106, 3);
        foreach ($exits->dueMoves() as $move) {
            $exits->moved($move->portion, $move->group, $move->to);
        }
        $exits->fill(2, 105, 4);
        self::assertSame([[2, 103], [2, 98]], array_map(static fn($c): array => [$c->lots, $c->stop], $exits->slots()));
        $exits->observe(110, 5);
        self::assertSame(
            [[1, 107]],
            array_map(static fn($m): array => [$m->group, $m->to], $exits->dueMoves()),
            'its best profit is measured from its own anchor',
        );
    }

    /** Best profit starts at 0 and is never negative: a ratchet at 0 acts with the first print, wherever that is. */
    public function testBestProfitIsNeverNegative(): void
    {
        $exits = new EntryExits(
            Side::Sell,
            ExitPlan::fromArray(TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":0,"lock":-3}]'))->resolve(new Basis(
                TestSystem::contract(),
                100,
                1,
            )),
        );
        $exits->fill(1, 100, 1);
        $exits->observe(102, 2);
        self::assertSame(
            [0, [[107, 103]]],
            [$exits->bestProfit(0), array_map(static fn($m): array => [$m->from, $m->to], $exits->dueMoves())],
        );
    }
}
