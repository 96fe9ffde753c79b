<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\Study\PlanStudy;
use Lotrik\Order\Side;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What a plan means for a sample order, and what is odd about it. */
final class PlanStudyTest extends TestCase
{
    public function testEveryDistanceIsToldAsTicksPriceAndMoney(): void
    {
        $study = self::study(
            '"stop":{"money":"18.00"},"portions":[{"lots":1,"target":{"points":"4.60"}},{"rest":true,"target":null}],"ratchets":[{"at":5,"lock":2},{"at":11,"trail":6,"by":2}]',
            3,
            Side::Sell,
        );
        [$first, $second] = $study['portions'];
        self::assertSame(['ticks' => -7, 'price' => '416.00', 'money' => '-17.50'], $first['stop'], '7.2 ticks round down');
        self::assertSame(['ticks' => 9, 'price' => '408.00', 'money' => '22.50'], $first['target'], '9.2 ticks go to the nearest');
        self::assertSame(
            [['stop' => '7.20', 'target' => '9.20'], ['stop' => '7.20', 'target' => null]],
            [$first['unrounded'], $second['unrounded']],
        );
        self::assertSame([1, 2, null], [$first['lots'], $second['lots'], $second['target']]);
        self::assertSame(
            ['lock', 2, 'trail', 5],
            [
                $second['ratchets'][0]['word'], $second['ratchets'][0]['stop']['ticks'], $second['ratchets'][1]['word'],
                $second['ratchets'][1]['stop']['ticks'],
            ],
        );
        self::assertSame([-7, -7, -7, -7, -7, 2, 2, 2, 2, 2, 2, 5, 5, 7], array_slice($second['stops'], 0, 14));
    }

    /** By hand: 10 ticks of 2.50 against 20; fees 1.24 a lot. 25 / 75 = 33.34 %, (25 + 1.24) / 75 = 34.99 %. */
    public function testRiskRewardAndTheWinRateThatBreaksEven(): void
    {
        $study = self::study('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":20}}]', 1);
        self::assertSame(
            ['25.00', '50.00', '1.24', '2.00', '33.34', '34.99'],
            [$study['risk'], $study['reward'], $study['fees'], $study['ratio'], $study['win_rate'], $study['win_rate_with_fees']],
        );
        $unlimited = self::study('"portions":[{"rest":true,"target":{"ticks":20}}]', 1);
        self::assertSame([null, null, null], [$unlimited['risk'], $unlimited['ratio'], $unlimited['win_rate']]);
    }

    /** @return iterable<string, array{string, string|null}> plan, and the warning's beginning */
    public static function odd(): iterable
    {
        yield 'nothing odd' => [
            '"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":9}}],"ratchets":[{"at":5,"lock":0},{"at":7,"trail":4}]', null,
        ];
        yield 'a trail beyond the target' => [
            '"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":9}}],"ratchets":[{"at":9,"trail":4}]',
            'the trail at +9 can never act: portion 1 is out at +9',
        ];
        yield 'a lock looser than what stands' => [
            '"stop":{"ticks":7},"ratchets":[{"at":5,"lock":3},{"at":8,"lock":3}]',
            'the lock at +8 can never act: the stop stands tighter already',
        ];
        yield 'a trail that has no room before the target' => [
            '"stop":{"ticks":3},"portions":[{"rest":true,"target":{"ticks":10}}],"ratchets":[{"at":4,"lock":3},{"at":5,"trail":8}]',
            'the trail at +5 can never act',
        ];
        yield 'a trail that comes late but comes' => ['"stop":{"ticks":3},"ratchets":[{"at":4,"lock":3},{"at":5,"trail":8}]', null];
        yield 'a trail that one portion of two can use' => [
            '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[{"at":11,"trail":6}]',
            null,
        ];
        yield 'a trail that a portion with a stop of its own has no use for, beside one that has' => [
            '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":10},"stop":{"ticks":4}},{"rest":true,"target":null}],"ratchets":[{"at":10,"trail":4}]',
            'the trail at +10 of portion 1 can never act: portion 1 is out at +10',
        ];
        yield 'a trail that no portion of two can use' => [
            '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":{"ticks":10}}],"ratchets":[{"at":11,"trail":6}]',
            'the trail at +11 can never act: the last portion is out at +10',
        ];
        yield 'a widening trail' => [
            '"stop":{"ticks":7},"ratchets":[{"at":4,"trail":4},{"at":10,"trail":9}]',
            'the trail at +10 widens from 4 ticks to 9: the stop stands still until best profit is +15',
        ];
        yield 'a target nearer than the fees' => [
            '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":{"ticks":1}}]', null,
        ];
        yield 'a stop inside the noise' => [
            '"stop":{"ticks":2}', 'the stop of 2 ticks is inside the usual noise: 50 % of the last 20 minutes ranged wider',
        ];
        yield 'a stop-limit' => ['"stop":{"ticks":7,"kind":"stop-limit","limit_ticks":2}', 'a stop-limit can be left behind'];
    }

    #[DataProvider('odd')]
    public function testWhatIsLegalButOddIsSaid(string $fields, ?string $warning): void
    {
        $warnings = self::study($fields, 2)['warnings'];
        if ($warning === null) {
            self::assertSame([], $warnings);
        } else {
            self::assertStringStartsWith($warning, $warnings[0] ?? '');
        }
    }

    public function testATargetThatDoesNotPayItsFees(): void
    {
        $contract = \Lotrik\Contract\Contract::fromNode(\Lotrik\Document\Node::of(['fee_per_side' => '2.00'] + TestSystem::contract()->toArray()));
        $study = PlanStudy::of(
            ExitPlan::fromArray(TestSystem::plan('"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":1}}]')),
            new Basis($contract, 825, 1),
            Side::Buy,
            5,
            [],
        );
        self::assertSame('the target of portion 1 at +1 is nearer than the fees, which take 2 ticks', $study['warnings'][0]);
        self::assertNull($study['win_rate_with_fees'], 'no win rate is high enough');
    }

    /** @return array<string, mixed> of a sample at 412.50 */
    private static function study(string $fields, int $lots, Side $side = Side::Buy): array
    {
        return PlanStudy::of(
            ExitPlan::fromArray(TestSystem::plan($fields)),
            new Basis(TestSystem::contract(), 825, $lots),
            $side,
            20,
            array_merge(array_fill(0, 10, 2), array_fill(0, 10, 3)),
        );
    }
}
