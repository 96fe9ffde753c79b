<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigDecimal;
use Lotrik\Desk\Account\Account;
use Lotrik\Refusal\Refusal;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** How many lots an amount of risk allows. A lot of Short tide risks 7 ticks of 2.50 and 1.24 of fees: 18.74. */
final class SizeByRiskTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /**
     * @param array<string, mixed>      $risk
     * @param array<string, mixed>|null $plan
     *
     * @return array{lots: int, risk: string|null, most: string, currency: string, words: string}
     */
    private function sized(array $risk, ?array $plan, string $side = 'buy'): array
    {
        return $this->system->system->desk->queries->size(1, [
            'contract' => TestSystem::CODE, 'side' => $side, 'kind' => 'market', 'exit_plan' => $plan, 'risk' => $risk,
        ], $this->system->now());
    }

    /** @param array<string, mixed> $risk */
    private function refused(array $risk): ?string
    {
        try {
            $this->sized($risk, TestSystem::plan());
        } catch (Refusal $refusal) {
            return $refusal->pointer;
        }

        return self::fail('it was taken');
    }

    public function testItIsRoundedDownToWholeLotsWithFees(): void
    {
        self::assertSame(
            [8, '149.92', '150.00', 'EUR', '8 lots risk 149.92 of 150.00 EUR'],
            array_values($this->sized(['money' => '150.00'], TestSystem::plan())),
        );
        self::assertSame(1, $this->sized(['money' => '18.74'], TestSystem::plan())['lots'], 'just enough');
        $none = $this->sized(['money' => '18.73'], TestSystem::plan());
        self::assertSame([0, null, 'even one lot is too much for 18.73 EUR: it risks 18.74 with fees'], [$none['lots'], $none['risk'], $none['words']]);
        self::assertSame(20, $this->sized(['money' => '9000.00'], TestSystem::plan())['lots'], 'no more than one order may have');
    }

    public function testInPercentItIsOfTheBalanceAndInROfWhatATradeMayRisk(): void
    {
        self::assertSame([1, '30.00'], array_values(array_intersect_key($this->sized(['percent' => '0.3'], TestSystem::plan()), ['lots' => 1, 'most' => 1])));
        self::assertSame('/risk/r', $this->refused(['r' => '0.5']), 'R is not known');
        $this->system->limit(['each_contract' => ['trade_risk' => ['money' => '80.00']]]);
        self::assertSame([2, '40.00'], array_values(array_intersect_key($this->sized(['r' => '0.5'], TestSystem::plan()), ['lots' => 1, 'most' => 1])));
    }

    public function testWithoutAStopNothingFits(): void
    {
        self::assertSame(0, $this->sized(['money' => '150.00'], null)['lots']);
        self::assertSame(0, $this->sized(['money' => '150.00'], TestSystem::plan('"stop":null,"portions":[{"rest":true,"target":{"ticks":9}}]'))['lots']);
    }

    public function testWhatIsNoAmountIsRefusedWithItsPlace(): void
    {
        foreach ([
            [['money' => '-5'], '/risk/money'], [['money' => '5.001'], '/risk/money'], [['percent' => '101'], '/risk/percent'], [['r' => '0'], '/risk/r'],
            [[], '/risk'], [['money' => '5.00', 'percent' => '1'], '/risk'], [['money' => '5.00', 'more' => 1], '/risk/more'],
        ] as [$risk, $pointer]) {
            self::assertSame($pointer, $this->refused($risk), json_encode($risk, JSON_THROW_ON_ERROR));
        }
    }

    /** The account's currency is another than the contract's: 0.50 of it for one EUR. */
    public function testTheAmountIsInTheAccountsCurrency(): void
    {
        $this->system = new TestSystem(accounts: [Account::fromArray(['currency' => 'GBP', 'rates' => ['EUR' => '0.50']] + TestSystem::account(1)->document)]);
        self::assertSame([16, '149.92'], array_values(array_intersect_key($this->sized(['money' => '150.00'], TestSystem::plan()), ['lots' => 1, 'risk' => 1])));
    }

    /** Whatever the unit of a stop, in the preview of the order the lots risk no more than the amount, and one more would. */
    public function testWhatIsGivenBackIsWhatThePreviewSays(): void
    {
        mt_srand($seed = 7);
        foreach (['{"ticks":3}', '{"ticks":12}', '{"points":"4.5"}', '{"money":"22.00"}', '{"order_money":"90.00"}', '{"percent":"1.1"}', '{"account_percent":"0.4"}'] as $stop) {
            for ($i = 0; $i < 25; $i++) {
                $plan = TestSystem::plan('"stop":'.$stop.',"portions":[{"lots":'.mt_rand(1, 3).',"target":{"ticks":9}},{"rest":true,"target":null}]');
                $most = BigDecimal::of(mt_rand(500, 60_000))->dividedBy(100, 2);
                try {
                    $lots = $this->sized(['money' => (string) $most], $plan)['lots'];
                } catch (Refusal $refusal) {
                    self::assertSame('plan-does-not-fit', $refusal->problem->value);

                    continue;
                }
                foreach ([[$lots, true], [$lots + 1, false]] as [$n, $fits]) {
                    if ($n === 0 || $n > 20) {
                        continue;
                    }
                    $preview = $this->system->system->desk->queries->preview(1, [
                        'contract' => TestSystem::CODE, 'side' => 'buy', 'kind' => 'market', 'exit_plan' => $plan, 'quantity' => $n,
                    ], $this->system->now());
                    if ($preview['refusal'] !== null) {
                        continue;
                    }
                    $risk = BigDecimal::of((string) $preview['risk'])->plus((string) $preview['fees']);
                    self::assertSame($fits, $risk->isLessThanOrEqualTo($most), "seed $seed: $n of $lots lots with $stop risk $risk of $most");
                }
            }
        }
    }
}
