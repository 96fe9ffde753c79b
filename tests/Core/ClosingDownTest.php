<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\ClosingDown;
use Lotrik\Desk\ClosingTrigger;
use Lotrik\Desk\Event\FlattenStarted;
use Lotrik\Desk\Event\ReversalDropped;
use Lotrik\Order\Role;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

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
            'not' => ['flatten' => 'flattening', 'reverse' => 'reversing', 'bar' => 'flattening', 'session-end' => 'not', 'flat' => 'not'],
            'flattening' => ['flatten' => 'flattening', 'reverse' => 'flattening', 'bar' => 'flattening', 'session-end' => 'flattening', 'flat' => 'not'],
            'reversing' => ['flatten' => 'flattening', 'reverse' => 'reversing', 'bar' => 'flattening', 'session-end' => 'flattening', 'flat' => 'not'],
        ], $after);
    }

    private function longTwo(?Contract $contract = null, int $at = 1_793_611_800_000): TestFloor
    {
        $floor = new TestFloor(self::DELAY, contract: $contract, at: $at);
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->step(6 * self::DELAY);
        self::assertSame([2, 0], [$floor->lots(), $floor->holding()->unprotected()]);

        return $floor;
    }

    public function testFlattenOnTopOfAReversalEndsFlat(): void
    {
        for ($between = 0; $between <= 4 * self::DELAY; $between++) {
            $floor = $this->longTwo();
            $floor->take('reverse', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan()]);
            $floor->step($between);
            $floor->take('flatten', ['contract' => TestFloor::CODE]);
            $floor->step(12 * self::DELAY);
            self::assertSame([0, [], ClosingDown::Not], [$floor->lots(), $floor->working(), $floor->holding()->closing], "flattened $between steps after the reverse");
        }
    }

    public function testASecondFlattenSendsNoSecondClose(): void
    {
        $floor = $this->longTwo();
        foreach (range(1, 8) as $i) {
            $floor->take('flatten', ['contract' => TestFloor::CODE]);
            $floor->step(self::DELAY - 4);
        }
        $floor->step(10 * self::DELAY);
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        self::assertCount(1, array_filter($floor->events, static fn($r): bool => $r->event instanceof \Lotrik\Desk\Event\OrderPlaced && $r->event->role === Role::Close));
    }

    public function testABarTakesAwayWhatAReversalWouldEnter(): void
    {
        $floor = new TestFloor(self::DELAY);
        $floor->place('buy', 20);
        $floor->step(6 * self::DELAY);
        self::assertSame(20, $floor->lots());
        $floor->take('reverse', ['contract' => TestFloor::CODE]);
        $floor->step(2);
        $floor->push(-14);
        $floor->step(14 * self::DELAY);
        self::assertTrue($floor->floor->desk->state->isBarred(1, $floor->now()));
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        self::assertSame([ClosingTrigger::Reverse, ClosingTrigger::Bar], array_map(static fn(FlattenStarted $e): ClosingTrigger => $e->trigger, $floor->eventsOf(FlattenStarted::class)));
    }

    public function testABarredAccountIsFlattenedAgainWhateverCameInMeanwhile(): void
    {
        $floor = new TestFloor(self::DELAY);
        $floor->place('buy', 20);
        $floor->step(6 * self::DELAY);
        // On its way when the limit is hit.
        $floor->place('buy', 20, 'limit', TestFloor::contract()->price($floor->last() - 12));
        $floor->step(2 * self::DELAY - 1);
        $floor->push(-14);
        for ($i = 0; $i < 20; $i++) {
            $floor->step(self::DELAY);
        }
        self::assertTrue($floor->floor->desk->state->isBarred(1, $floor->now()));
        self::assertSame([0, []], [$floor->lots(), $floor->working()]);
        self::assertSame('barred', $floor->refusal('place', ['contract' => TestFloor::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'])->problem);
    }

    /** Whatever way lots came in (a fill that the desk no longer believed in): barred and not flat is flattened. */
    public function testABarredAccountThatHoldsAnythingIsFlattened(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan());
        $floor->floor->desk->scribe()->note(new \Lotrik\Desk\Event\AccountBarred(1, $floor->now() + 86_400_000, 'by a test'));
        $floor->push(1);
        $floor->step(5);
        self::assertSame([0, [], ClosingDown::Not], [$floor->lots(), $floor->working(), $floor->holding()->closing]);
    }

    public function testWhatComesAfterGoesThroughTheChecksAnew(): void
    {
        $floor = new TestFloor(self::DELAY);
        $floor->place('buy', 20);
        $floor->step(6 * self::DELAY);
        $floor->take('reverse', ['contract' => TestFloor::CODE]);
        // Meanwhile the account has no rate for the contract any more: an account's document is replaced.
        $floor->floor->desk->openAccount(\Lotrik\Desk\Account::fromArray(['order_limit' => 10] + TestFloor::account(1)->document), $floor->now());
        $floor->step(12 * self::DELAY);
        self::assertSame([0, [], ClosingDown::Not], [$floor->lots(), $floor->working(), $floor->holding()->closing]);
        self::assertSame(['order-limit'], array_map(static fn(ReversalDropped $e): string => $e->code, $floor->eventsOf(ReversalDropped::class)));
    }

    public function testTheEndOfTheSessionTakesTheOtherSideAway(): void
    {
        $contract = Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR","fee_per_side":"0.62","session":{"zone":"UTC","days":[1,2,3,4,5,6,7],"open":"08:00","close":"18:30"}}');
        $close = (int) strtotime('2026-11-03 18:30 UTC') * 1000;
        $floor = $this->longTwo($contract, $close - 2_000);
        $floor->wait($close - 40 - $floor->now());
        $floor->take('reverse', ['contract' => TestFloor::CODE]);
        $floor->step(10 * self::DELAY);
        self::assertSame([2, ClosingDown::Flattening], [$floor->lots(), $floor->holding()->closing]);
        $floor->wait($close + 13 * 3_600_000 + 1_800_000 - $floor->now());
        $floor->step(10 * self::DELAY);
        self::assertSame([0, [], ClosingDown::Not], [$floor->lots(), $floor->working(), $floor->holding()->closing]);
    }
}
