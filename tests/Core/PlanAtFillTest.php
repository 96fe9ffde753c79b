<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** An exit plan is checked when it is sent or its order changed; a fill, at whatever price, can always be recorded. */
final class PlanAtFillTest extends TestCase
{
    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    public function testMoreLotsThanTheMoneyOfThePlanAllowsAreRefused(): void
    {
        foreach (['"stop":{"order_money":"10.00"}' => 5, '"stop":{"account_percent":"0.1"}' => 5] as $stop => $tooMany) {
            $system = new TestSystem();
            $order = $system->place('buy', 2, 'limit', self::price($system->last() - 3), TestSystem::plan($stop));
            $refused = $system->refusal('modify', ['order' => $order, 'quantity' => $tooMany]);
            self::assertSame(['plan-does-not-fit', '/quantity'], [$refused->problem->value, $refused->pointer]);
            self::assertStringContainsString('under one tick', $refused->getMessage());
            self::assertSame(2, $system->order($order)->quantity);
            $system->push(-4);
            self::assertSame(
                [2, 2],
                [$system->lots(), array_sum(array_map(static fn($o): int => $o->leaves(), $system->working(Role::Stop)))],
            );
        }
    }

    public function testAPriceThatLeavesNoTickIsRefused(): void
    {
        // 0.13 % of 412.00 is 1.07 ticks, of 372.00 less than one.
        $wide = new TestSystem(contract: \Lotrik\Contract\Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR","fee_per_side":"0.62"}'));
        $order = $wide->place('buy', 2, 'limit', self::price($wide->last() - 1), TestSystem::plan('"stop":{"percent":"0.13"}'));
        $refused = $wide->refusal('modify', ['order' => $order, 'price' => self::price($wide->last() - 80)]);
        self::assertSame(['plan-does-not-fit', '/price'], [$refused->problem->value, $refused->pointer]);
    }

    public function testAFillWhosePriceLeavesNoTickIsProtectedAtOneAndSaysSo(): void
    {
        $system = new TestSystem(delaySteps: 5);
        $bid = (int) $system->system->desk->quote(TestSystem::CODE)->bid;
        // One tick at the price that it is sent at; the market falls while it is on its way.
        $percent = (string) \Brick\Math\BigDecimal::of(100)->dividedBy($bid, 6, \Brick\Math\RoundingMode::UP);
        $system->place(
            'sell',
            3,
            plan: TestSystem::plan('"stop":{"percent":"'.$percent.'"},"portions":[{"lots":1,"target":{"ticks":4}},{"rest":true,"target":null}]'),
        );
        $system->push(-4);
        $system->step(30);
        $event = $system->eventsOf(OrderFilled::class)[0];
        self::assertLessThan($bid, $event->price);
        self::assertStringContainsString('under one tick', (string) $event->madeToFit);
        self::assertStringContainsString('adjusted to at least one tick', implode("\n", $system->words()));
        $stops = array_map(static fn(array $p): mixed => $p['stop']['distance'] ?? null, $event->exits['portions'] ?? []);
        self::assertSame([1, 1], $stops);
        self::assertSame(abs($system->lots()), array_sum(array_map(static fn($o): int => $o->leaves(), $system->working(Role::Stop))));
    }

    public function testDistancesThatCannotWorkAtTheFillAreMadeToFit(): void
    {
        $plan = \Lotrik\ExitPlan\ExitPlan::fromArray(TestSystem::plan('"stop":{"percent":"0.1"},"portions":[{"lots":1,"target":{"percent":"0.02"}},{"rest":true,"target":null}],"ratchets":[{"at":{"percent":"1"},"lock":0},{"at":{"percent":"1.01"},"lock":0},{"at":40,"lock":{"percent":"90"}},{"at":50,"trail":{"percent":"0.1"}},{"at":60,"lock":9}]'));
        $atFill = $plan->resolveFilled(new \Lotrik\ExitPlan\InTicks\Basis(TestSystem::contract(), 100, 3));
        self::assertStringContainsString('no tick away', (string) $atFill->adjusted);
        self::assertSame([1, 1], [$atFill->plan->portion(1)->stop?->distance, $atFill->plan->portion(1)->target]);
        self::assertSame(
            [[1, 0], [60, 9]],
            array_map(static fn($r): array => [$r->at, $r->lock], $atFill->plan->portion(1)->stop->ratchets ?? []),
            'ratchets that fall together, lock too much or trail nothing are left out',
        );
    }

    public function testTheTicksOfTheFillStandInTheEvent(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan('"stop":{"percent":"1"}'));
        $event = $system->eventsOf(OrderFilled::class)[0];
        self::assertSame(intdiv($event->price, 100), $event->exits['portions'][0]['stop']['distance'] ?? null);
        self::assertSame([0, null], [$event->closes, $event->joins]);
    }
}
