<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Moment;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Money\Money;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\FirstExit;
use Lotrik\Rehearsal\Noise\NearbyStops;
use Lotrik\Rehearsal\Noise\NoiseStudy;
use Lotrik\Rehearsal\Noise\NoiseTally;
use Lotrik\Rehearsal\Outcome;
use Lotrik\Rehearsal\PrintList;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Rehearsal\Tape;
use Lotrik\Watching\Bars\MinuteBars;
use Lotrik\Watching\PriceTrail;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\RandomPlans;
use Tests\Support\TestSystem;

/** How often a stop came first: the same, case by case, as `lotrik:rehearse` finds on a tape of the same prints. */
final class NoiseTest extends TestCase
{
    private const BEGAN = 1_793_611_800_000;

    /** @return list<array{int, int, Side}> ms since 1970 UTC, tick, side: quiet and hectic minutes, jumps, a pause in between */
    private static function prints(int $seed, int $minutes): array
    {
        $dice = new Randomizer(new Mt19937($seed));
        $prints = [];
        $at = self::BEGAN;
        $tick = 825;
        while ($at < self::BEGAN + 60_000 * $minutes) {
            $hectic = intdiv($at, 180_000) % 3 === 0;
            $at += $dice->getInt(1, 400) === 1 ? 40_000 : $dice->getInt(0, $hectic ? 150 : 1_500);
            $tick += $dice->getInt(1, 300) === 1 ? $dice->getInt(-9, 9) : [0, 0, 0, 1, -1][$dice->getInt(0, 4)];
            $prints[] = [$at, $tick, $dice->getInt(0, 1) === 0 ? Side::Buy : Side::Sell];
        }

        return $prints;
    }

    /** @return \Generator<string, array{array<string, mixed>, int}> */
    public static function plans(): \Generator
    {
        yield 'two portions and a ladder of ratchets' => [TestSystem::plan(), 3];
        yield 'a ratchet that acts at once' => [TestSystem::plan('"stop":{"ticks":9},"ratchets":[{"at":0,"lock":-4},{"at":3,"trail":2,"by":1}]'), 1];
        yield 'a stop-limit' => [TestSystem::plan('"stop":{"ticks":6,"kind":"stop-limit","limit_ticks":1},"portions":[{"rest":true,"target":{"ticks":8}}]'), 2];
        yield 'the exit quote watched' => [TestSystem::plan('"stop":{"ticks":8},"ratchets":[{"at":4,"lock":0},{"at":6,"trail":4,"by":1}],"watch":"exit-quote"'), 1];
        yield 'the position covered' => [TestSystem::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":12}}],"covers":"position"'), 2];
        yield 'no stop' => [TestSystem::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":5}}],"ratchets":[]'), 1];
        yield 'true ranges' => [TestSystem::plan('"stop":{"atr":"1.5","bar":"1m","length":5},"portions":[{"rest":true,"target":{"atr":"2","bar":"1m","length":5}}]'), 1];
        yield 'lock of the fees' => [TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":4,"lock":"fees"}]'), 2];
    }

    /** @param array<string, mixed> $written */
    #[DataProvider('plans')]
    public function testEachCaseIsThatOfARehearsalOverATapeOfThePrints(array $written, int $lots): void
    {
        $contract = TestSystem::contract();
        $plan = ExitPlan::fromArray($written);
        $prints = self::prints(1, 18);
        [$trail, $bars] = [new PriceTrail(), new MinuteBars()];
        $lines = ["time,contract,price,size,aggressor,bid,bid_size,ask,ask_size\n"];
        foreach ($prints as [$at, $tick, $side]) {
            $trail->add($at, $tick, $side);
            $bars->add($at, $tick, 1);
            $bid = $side === Side::Sell ? $tick : $tick - 1;
            $lines[] = Moment::iso(1000 * $at).",{$contract->code},{$contract->price($tick)},1,{$side->value},{$contract->price($bid)},,{$contract->price($bid + 1)},\n";
        }
        // Read once: it is the same for each case.
        $tape = new PrintList([...(new Tape($lines, $contract))->prints()]);
        self::assertLessThan(count($prints), $trail->made(), 'some prints say nothing new');
        $work = (new NoiseStudy($contract, $trail, $bars, $lots, 10, null))->of($plan);
        foreach ($work as $bit) {
            self::assertNull($bit);
        }
        $end = $prints[count($prints) - 1][0];
        $wanted = ['buy' => new NoiseTally(), 'sell' => new NoiseTally()];
        // Every fifth second in which something printed, of the last ten minutes.
        for ($moment = $end - 600_000 + (5_000 - ($end - 600_000) % 5_000) % 5_000; $moment <= $end; $moment += 5_000) {
            if (array_filter($prints, static fn(array $p): bool => $p[0] >= $moment && $p[0] < $moment + 5_000) === []) {
                continue;
            }
            foreach (Side::cases() as $side) {
                try {
                    $told = (new Rehearsal($contract, $plan, new EntryOrder($side, $lots, OrderKind::Market, null, 1000 * $moment, false)))
                        ->over($tape);
                } catch (InvalidPlan) {
                    continue;
                }
                $wanted[$side->value]->add(self::read($told, $side, $contract, $prints[count($prints) - 1][1]));
            }
        }
        foreach ($work->getReturn() as $side => $tally) {
            self::assertSame($wanted[$side]->toArray($contract), $tally->toArray($contract), $side);
            self::assertGreaterThan(60, $tally->toArray($contract)['cases']);
        }
    }

    /**
     * What a rehearsal's document says came first.
     *
     * @param array<string, mixed> $told
     */
    private static function read(array $told, Side $side, Contract $contract, int $last): Outcome
    {
        $first = null;
        $stops = [];
        foreach ($told['events'] as $event) {
            if (str_starts_with((string) $event['event'], 'stop-')) {
                $stops[$event['portion']] = $contract->ticks((string) $event['price']);
            } elseif ($event['event'] === 'exit-filled' && $first === null) {
                $even = $side->sign() * (($stops[$event['portion']] ?? 0) - $contract->ticks((string) $told['entry']['average'])) >= 0;
                $first = $event['order'] === 'target' ? FirstExit::Target : ($even ? FirstExit::BreakEven : FirstExit::Stop);
            }
        }

        return new Outcome(
            $first,
            (int) $told['open_quantity'],
            (int) $told['entry']['quantity'] - (int) $told['open_quantity'],
            (int) $told['result']['ticks'],
            // The whole entry has filled at one price.
            $told['open_quantity'] === 0 ? 0 : $side->sign() * ($last - $contract->ticks((string) $told['entry']['average'])) * $told['open_quantity'],
        );
    }

    /** Whatever a trader writes, the study ends: a fault in it would end the engine. */
    public function testNoPlanBreaksIt(): void
    {
        [$trail, $bars] = [new PriceTrail(), new MinuteBars()];
        foreach (self::prints(5, 12) as [$at, $tick, $side]) {
            $trail->add($at, $tick, $side);
            $bars->add($at, $tick, 1);
        }
        $dice = new Randomizer(new Mt19937(8));
        $plans = new RandomPlans($dice);
        $tried = 0;
        for ($i = 0; $i < 150; $i++) {
            try {
                $plan = ExitPlan::fromArray($plans->one() ?? []);
                $near = NearbyStops::of($plan, new Basis(TestSystem::contract(), 825, 3));
            } catch (InvalidDocument|InvalidPlan) {
                continue;
            }
            foreach ([$plan, ...array_slice($near, 0, 1)] as $of) {
                $work = (new NoiseStudy(TestSystem::contract(), $trail, $bars, $dice->getInt(1, 7), 10, null))->of($of);
                foreach ($work as $bit) {
                    $tried++;
                }
                foreach ($work->getReturn() as $tally) {
                    $told = $tally->toArray(TestSystem::contract());
                    self::assertSame($told['cases'], $told['stop'] + $told['break_even'] + $told['target'] + $told['open']);
                }
            }
        }
        self::assertGreaterThan(5_000, $tried);
    }

    /** 2.50 a tick, 0.62 a side: 1.24 a lot there and back is 0.496 ticks. Worked by hand. */
    public function testTheAverageIsInTicksOfALotAfterFeesWithWhatRunsAtTheLastPrint(): void
    {
        $tally = new NoiseTally();
        foreach ([
            [FirstExit::Stop, 0, 2, -14, 0], [FirstExit::Target, 0, 2, 18, 0], [FirstExit::BreakEven, 0, 2, 0, 0], [FirstExit::Target, 1, 1, 9, 20], [null, 2, 0, 0, -6],
        ] as [$first, $open, $closed, $ticks, $openTicks]) {
            $tally->add(new Outcome($first, $open, $closed, $ticks, $openTicks));
        }
        self::assertSame([
            'cases' => 5, 'stop' => 1, 'break_even' => 1, 'target' => 2, 'open' => 1, 'stop_percent' => 20, 'break_even_percent' => 20,
            'target_percent' => 40, 'running' => 2, 'average_ticks' => '2.2', 'enough' => false,
        ], $tally->toArray(TestSystem::contract()), '27 ticks over 10 lots, less 0.496');
        self::assertNull((new NoiseTally())->toArray(TestSystem::contract())['stop_percent']);
        for ($i = 0; $i < 26; $i++) {
            self::assertFalse($tally->toArray(TestSystem::contract())['enough']);
            $tally->add(new Outcome(FirstExit::Stop, 0, 2, -14));
        }
        self::assertTrue($tally->toArray(TestSystem::contract())['enough'], '30 are decided');
    }

    public function testAMarketThatHasNotTradedHasNoCase(): void
    {
        $study = new NoiseStudy(TestSystem::contract(), new PriceTrail(), new MinuteBars(), 1, 30, null);
        $work = $study->of(ExitPlan::fromArray(TestSystem::plan()));
        foreach ($work as $bit) {
            self::fail('there is nothing to do');
        }
        self::assertSame(0, $work->getReturn()['buy']->toArray(TestSystem::contract())['cases']);
        self::assertSame([null, 0], [$study->from(), $study->coveredMinutes()]);
    }

    public function testEntriesComeAtWholeStretchesAndAreNoMoreThanSaid(): void
    {
        self::assertSame([5, 10, 20, 40, 80], array_map(NoiseStudy::every(...), [10, 30, 60, 120, 240]));
        for ($minutes = 10; $minutes <= 240; $minutes++) {
            self::assertSame(0, NoiseStudy::every($minutes) % 5);
            self::assertLessThanOrEqual(180, intdiv($minutes * 60 - 1, NoiseStudy::every($minutes)) + 1);
        }
    }

    public function testTheSamePlanIsTriedWithItsStopNearerAndFarther(): void
    {
        $of = static fn(array $plan): array => NearbyStops::of(
            ExitPlan::fromArray($plan),
            new Basis(TestSystem::contract(), 825, 2, Money::of('10000', TestSystem::contract()->currency)),
        );
        $plans = $of(TestSystem::plan('"stop":{"points":"4"}'));
        self::assertSame([4, 6, 8, 10, 12, 16], array_keys($plans), 'four points are eight ticks');
        self::assertSame(['points' => '4'], $plans[8]->document['stop'], 'the plan itself is as it was written');
        self::assertSame(['ticks' => 16], $plans[16]->document['stop']);
        self::assertSame($plans[8]->document['portions'], $plans[16]->document['portions']);
        self::assertSame([1, 2], array_keys($of(TestSystem::plan('"stop":{"ticks":1}'))), 'no distance comes twice');
        self::assertSame([], $of(TestSystem::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":5}}],"ratchets":[]')));
        $own = $of(TestSystem::plan('"stop":{"ticks":4,"kind":"stop-limit","limit_ticks":1},"portions":[{"lots":1,"target":{"ticks":9},"stop":{"ticks":8}},{"rest":true,"target":null}]'));
        self::assertSame([4, 6, 8, 10, 12, 16], array_keys($own), 'by the first portion');
        self::assertSame(
            [['ticks' => 8, 'kind' => 'stop-limit', 'limit_ticks' => 1], ['ticks' => 16]],
            [$own[16]->document['stop'], $own[16]->document['portions'][0]['stop']],
            'each stop by its own distance',
        );
    }
}
