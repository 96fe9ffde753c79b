<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Event\Command\FlattenStarted;
use Lotrik\Desk\Event\Command\ReversalDropped;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Flatten, reverse, a bar and the end of the session are one small machine: whatever comes on top of a reversal, nothing is entered that was taken back. */
final class ClosingDownTest extends TestCase
{
    private const DELAY = 15;

    /** Every transition, written out. */
    public function testTheTransitions(): void
    {
        $after = [];
        foreach (ClosingDown::cases() as $state) {
            foreach (ClosingTrigger::cases() as $trigger) {
                $after[$state->value][$trigger->value] = $state->on($trigger)->value;
            }
        }
        self::assertSame([
            'not' => ['flatten' => 'flattening', 'reverse' => 'reversing', 'bar' => 'flattening', 'close-near' => 'flattening', 'session-end' => 'not', 'flat' => 'not'],
            'flattening' => [
                'flatten' => 'flattening', 'reverse' => 'flattening', 'bar' => 'flattening', 'close-near' => 'flattening', 'session-end' => 'flattening', 'flat' => 'not',
            ],
            'reversing' => [
                'flatten' => 'flattening', 'reverse' => 'reversing', 'bar' => 'flattening', 'close-near' => 'flattening', 'session-end' => 'flattening', 'flat' => 'not',
            ],
        ], $after);
    }

    private function longTwo(?Contract $contract = null, int $at = 1_793_611_800_000): TestSystem
    {
        $system = new TestSystem(self::DELAY, contract: $contract, at: $at);
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->step(6 * self::DELAY);
        self::assertSame([2, 0], [$system->lots(), $system->holding()->coverage()->unprotected()]);

        return $system;
    }

    public function testFlattenOnTopOfAReversalEndsFlat(): void
    {
        for ($between = 0; $between <= 4 * self::DELAY; $between++) {
            $system = $this->longTwo();
            $system->handle('reverse', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan()]);
            $system->step($between);
            $system->handle('flatten', ['contract' => TestSystem::CODE]);
            $system->step(12 * self::DELAY);
            self::assertSame(
                [0, [], ClosingDown::Not],
                [$system->lots(), $system->working(), $system->holding()->closing],
                "flattened $between steps after the reverse",
            );
        }
    }

    public function testASecondFlattenSendsNoSecondClose(): void
    {
        $system = $this->longTwo();
        foreach (range(1, 8) as $i) {
            $system->handle('flatten', ['contract' => TestSystem::CODE]);
            $system->step(self::DELAY - 4);
        }
        $system->step(10 * self::DELAY);
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        self::assertCount(
            1,
            array_filter(
                $system->events,
                static fn($r): bool => $r->event instanceof \Lotrik\Desk\Event\Order\OrderPlaced && $r->event->role === Role::Close,
            ),
        );
    }

    public function testABarTakesAwayWhatAReversalWouldEnter(): void
    {
        $system = new TestSystem(self::DELAY);
        $system->place('buy', 20);
        $system->step(6 * self::DELAY);
        self::assertSame(20, $system->lots());
        $system->handle('reverse', ['contract' => TestSystem::CODE]);
        $system->step(2);
        $system->push(-14);
        $system->step(14 * self::DELAY);
        self::assertTrue($system->system->desk->state->isBarred(1, $system->now()));
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        self::assertSame(
            [ClosingTrigger::Reverse, ClosingTrigger::Bar],
            array_map(static fn(FlattenStarted $e): ClosingTrigger => $e->trigger, $system->eventsOf(FlattenStarted::class)),
        );
    }

    public function testABarredAccountIsFlattenedAgainWhateverCameInMeanwhile(): void
    {
        $system = new TestSystem(self::DELAY);
        $system->place('buy', 20);
        $system->step(6 * self::DELAY);
        // On its way when the limit is hit.
        $system->place('buy', 20, 'limit', TestSystem::contract()->price($system->last() - 12));
        $system->step(2 * self::DELAY - 1);
        $system->push(-14);
        for ($i = 0; $i < 20; $i++) {
            $system->step(self::DELAY);
        }
        self::assertTrue($system->system->desk->state->isBarred(1, $system->now()));
        self::assertSame([0, []], [$system->lots(), $system->working()]);
        self::assertSame(
            'barred',
            $system->refusal(
                'place',
                ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'],
            )->problem->value,
        );
    }

    /** Whatever way lots came in (a fill that the desk no longer believed in): barred and not flat is flattened. */
    public function testABarredAccountThatHoldsAnythingIsFlattened(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan());
        $system->system->desk->recorder()->note(new \Lotrik\Desk\Event\Account\AccountBarred(1, $system->now() + 86_400_000, 'by a test', 'a limit'));
        $system->push(1);
        $system->step(5);
        self::assertSame([0, [], ClosingDown::Not], [$system->lots(), $system->working(), $system->holding()->closing]);
    }

    public function testWhatComesAfterGoesThroughTheChecksAnew(): void
    {
        $system = new TestSystem(self::DELAY);
        $system->place('buy', 20);
        $system->step(6 * self::DELAY);
        $system->handle('reverse', ['contract' => TestSystem::CODE]);
        // Meanwhile the account has no rate for the contract any more: an account's document is replaced.
        $system->system->desk->openAccount(
            \Lotrik\Desk\Account\Account::fromArray(['order_limit' => 10] + TestSystem::account(1)->document),
            $system->now(),
        );
        $system->step(12 * self::DELAY);
        self::assertSame([0, [], ClosingDown::Not], [$system->lots(), $system->working(), $system->holding()->closing]);
        self::assertSame(
            ['order-limit'],
            array_map(static fn(ReversalDropped $e): string => $e->code, $system->eventsOf(ReversalDropped::class)),
        );
    }

    public function testTheEndOfTheSessionTakesTheOtherSideAway(): void
    {
        $contract = Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR","fee_per_side":"0.62","session":{"zone":"UTC","days":[1,2,3,4,5,6,7],"open":"08:00","close":"18:30"}}');
        $close = (int) strtotime('2026-11-03 18:30 UTC') * 1000;
        $system = $this->longTwo($contract, $close - 2_000);
        $system->wait($close - 40 - $system->now());
        $system->handle('reverse', ['contract' => TestSystem::CODE]);
        $system->step(10 * self::DELAY);
        self::assertSame([2, ClosingDown::Flattening], [$system->lots(), $system->holding()->closing]);
        $system->wait($close + 13 * 3_600_000 + 1_800_000 - $system->now());
        $system->step(10 * self::DELAY);
        self::assertSame([0, [], ClosingDown::Not], [$system->lots(), $system->working(), $system->holding()->closing]);
    }
}
