<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Desk;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\OrderState;
use Lotrik\Order\Side;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\Mood;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The desk answers before the venue's next action: when somebody else trades, every exit that was born by then is at the venue. */
final class BetweenActionsTest extends TestCase
{
    public function testNoExitWaitsForTheEndOfAStep(): void
    {
        $feed = new class implements MarketFeed {
            public ?TradingSystem $system = null;

            public int $trades = 0;

            /** @var list<int> */
            public array $late = [];

            public function trade(int $tick, int $lots, Side $aggressor): void
            {
                $this->trades++;
                $new = array_filter(
                    $this->system?->desk->state->holding(1, TestSystem::CODE)->working ?? [],
                    static fn(DeskOrder $o): bool => $o->role->isExit() && $o->state === OrderState::PendingNew,
                );
                // A stop that the market had passed at its birth trades as it arrives, before its target is sent.
                if (array_filter($new, static fn(DeskOrder $o): bool => $o->trigger !== null && $tick <= $o->trigger) === []) {
                    array_push($this->late, ...array_keys($new));
                }
            }

            public function level(Side $side, int $tick, int $lots, int $orders): void {}
        };
        $at = 1_793_611_800_000;
        $system = $feed->system = new TradingSystem(new Desk());
        $system->desk->list(TestSystem::contract(), $at);
        $system->desk->openAccount(
            \Lotrik\Desk\Account\Account::fromArray(['daily_loss_limit' => '900000.00'] + TestSystem::account(1)->document),
            $at,
        );
        $system->add(Market::open(TestSystem::CODE, 3, TestSystem::START, $feed));
        $system->market(TestSystem::CODE)->flow->setMood(Mood::Burst);
        $entries = 0;
        for ($i = 0; $i < 4_000; $i++) {
            $system->step($at += 10);
            $holding = $system->desk->state->holding(1, TestSystem::CODE);
            if ($i % 20 === 0 && $holding->working === [] && $holding->position->lots === 0) {
                $bid = (int) $system->desk->quote(TestSystem::CODE)->bid;
                $system->handle('place', 1, ['client_id' => "c$i", 'account' => 1, 'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'limit', 'price' => TestSystem::contract()->price($bid),
                    'exit_plan' => TestSystem::plan('"stop":{"ticks":2},"portions":[{"rest":true,"target":{"ticks":2}}]')], "f$i", $at);
                $entries++;
            }
            $system->events();
        }
        self::assertGreaterThan(30, $entries);
        self::assertGreaterThan(1_000, $feed->trades);
        self::assertSame([], $feed->late);
    }
}
