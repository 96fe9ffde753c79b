<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\AtRisk\StopLosses;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\RefusalCode;
use Lotrik\Risk\DepthWalk;
use Lotrik\Risk\OpenRisk;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** A closing stop that is sent by hand takes the lots that no stop covers yet, and no others. */
final class ClosingStopTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    private function price(int $off): string
    {
        return TestSystem::contract()->price($this->system->last() + $off);
    }

    /** @return array<string, mixed> */
    private function stop(int $lots, int $off, string $kind = 'stop'): array
    {
        return ['contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => $lots, 'kind' => $kind, 'trigger' => $this->price($off)]
            + ($kind === 'stop-limit' ? ['price' => $this->price($off - 2)] : []);
    }

    public function testOneOnLotsThatThePlanCoversIsRefusedAndNamesTheirStop(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $covering = $this->system->working(Role::Stop)[0];
        foreach (['stop', 'stop-limit'] as $kind) {
            $refusal = $this->system->refusal('place', $this->stop(2, -5, $kind));
            self::assertSame([RefusalCode::AlreadyCovered, ['covered_by' => $covering->id]], [$refusal->problem, $refusal->facts]);
            self::assertStringContainsString("stop order {$covering->id} at ", $refusal->getMessage());
        }
        self::assertCount(1, $this->system->working(), 'nothing was sent');
    }

    /** Three presses at three rungs on a position of 2 made three stops of 2. */
    public function testASecondOneByHandIsRefusedAndTheFirstIsNamed(): void
    {
        $this->system->place('buy', 2);
        $first = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        self::assertSame(['covered_by' => $first], $this->system->refusal('place', $this->stop(2, -7))->facts);
        self::assertSame(['covered_by' => $first], $this->system->refusal('place', $this->stop(1, -3))->facts);
        $this->system->handle('cancel', ['order' => $first, 'leave_unprotected' => true]);
        self::assertIsInt($this->system->handle('place', $this->stop(2, -7))->body['order'], 'once it is gone another may stand');
    }

    public function testOneForMoreThanIsUncoveredTakesOnlyThoseLots(): void
    {
        $this->system->place('buy', 4);
        $this->system->handle('place', $this->stop(1, -5));
        self::assertSame(3, $this->system->order($this->system->handle('place', $this->stop(4, -6))->body['order'])->quantity);
    }

    public function testTheLotsOfOneAreNotRaisedOverThoseThatAnotherCovers(): void
    {
        $this->system->place('buy', 4);
        $first = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        $this->system->handle('place', $this->stop(1, -6));
        $refusal = $this->system->refusal('modify', ['order' => $first, 'quantity' => 4]);
        self::assertSame(RefusalCode::MoreThanPosition, $refusal->problem);
        self::assertStringContainsString('beyond 3', $refusal->getMessage());
        $this->system->handle('modify', ['order' => $first, 'quantity' => 3]);
        self::assertSame(3, $this->system->order($first)->quantity);
    }

    /** The plan's stop has been asked for and the venue has not answered: it covers its lots all the same. */
    public function testStopsThatAreOnTheirWayCoverTheirLots(): void
    {
        $slow = new TestSystem(delaySteps: 5);
        $slow->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        for ($i = 0; $i < 40 && $slow->lots() === 0; $i++) {
            $slow->step(1);
        }
        self::assertSame(2, $slow->lots());
        $body = ['contract' => TestSystem::CODE, 'side' => 'sell', 'quantity' => 2, 'kind' => 'stop'];
        $refusal = $slow->refusal('place', $body + ['trigger' => TestSystem::contract()->price($slow->last() - 5)]);
        self::assertSame(RefusalCode::AlreadyCovered, $refusal->problem);
    }

    public function testWhatTakesProfitOrGoesThroughFlatIsNoSecondStop(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $this->system->handle('place', ['kind' => 'mit', 'trigger' => $this->price(9)] + $this->stop(2, 0));
        $this->system->handle('place', ['closing' => 'through'] + $this->stop(2, -5));
        self::assertCount(3, $this->system->working());
    }

    /** They read as unprotected, and as a risk without a limit, while their stop stood at the venue. */
    public function testLotsThatOneClosesAreProtectedAndTheirRiskIsCounted(): void
    {
        $this->system->place('buy', 3);
        $order = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        $bare = fn(): int => $this->system->holding()->coverage()->unprotected();
        self::assertSame(1, $bare());
        $average = $this->system->holding()->position->anchor();
        $at = $this->system->order($order)->trigger;
        $risk = fn(): array => [$this->risk()->risk->exact(), $this->risk()->unprotected];
        // A tick of a lot is 2.50, a side's fee 0.62.
        self::assertSame([self::loss($average - $at), 1], $risk());
        $this->system->handle('modify', ['order' => $order, 'trigger' => TestSystem::contract()->price($at - 4)]);
        self::assertSame([self::loss($average - $at + 4), 1], $risk());
        $losses = StopLosses::of(
            ProtectedPosition::of($this->system->holding(), TestSystem::contract()), $this->system->last(), new DepthWalk([]), 0,
        );
        self::assertSame([[null, $order, 2]], array_map(static fn($of): array => [$of->entry, $of->order, $of->lots], $losses));
        // Two of three close: what is left has its stop, and no lot is counted twice.
        $this->system->place('sell', 2);
        self::assertSame([1, 0], [$this->system->lots(), $bare()]);
        $this->system->handle('cancel', ['order' => $order, 'leave_unprotected' => true]);
        self::assertSame(1, $bare());
    }

    public function testTheStopsOfAPlanCountBeforeThem(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $this->system->place('buy', 2);
        $this->system->handle('place', $this->stop(2, -5));
        self::assertSame([2, 2], array_map(static fn($part): int => $part->lots, $this->system->holding()->coverage()->protected()));
        // The oldest lots go, and the plan's stop with them.
        $this->system->place('sell', 2);
        self::assertSame([2], array_map(static fn($part): int => $part->lots, $this->system->holding()->coverage()->protected()));
    }

    /** The lots without a plan are the oldest: one of them closes, and the stop by hand is for more than is left of them. */
    public function testOneProtectsNoLotsThatAPlanDoes(): void
    {
        $this->system->place('buy', 2);
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $order = $this->system->order($this->system->handle('place', $this->stop(2, -5))->body['order']);
        $this->system->place('sell', 1);
        self::assertSame([3, 2], [$this->system->lots(), $order->leaves()]);
        self::assertSame([2, 1], array_map(static fn($part): int => $part->lots, $this->system->holding()->coverage()->protected()));
        self::assertSame(['unprotected' => 1], $this->system->refusal('cancel', ['order' => $order->id])->facts);
    }

    /** Neither has reached the market, or it has gone past it: the alarm has to stand. */
    public function testWhatIsHeldOrLeftBehindProtectsNothing(): void
    {
        $this->system->place('buy', 2);
        $this->system->handle('place', ['release_at' => $this->system->in(60_000)] + $this->stop(2, -5));
        self::assertSame(2, $this->system->holding()->coverage()->unprotected());
        $this->system->handle('cancel', ['order' => $this->system->working()[0]->id]);
        $limit = $this->system->order($this->system->handle('place', ['price' => $this->price(-5)] + $this->stop(2, -5, 'stop-limit'))->body['order']);
        self::assertSame(0, $this->system->holding()->coverage()->unprotected());
        // One sweep takes every bid down to far beyond its limit before it has its turn.
        $market = $this->system->system->market(TestSystem::CODE);
        $market->flow->aggress($market->venue, Side::Sell, (int) $limit->trigger - 3, 5000);
        $this->system->step(1);
        self::assertSame([true, 2], [$limit->triggered, $this->system->lots()], 'the market is beyond its limit');
        self::assertSame(2, $this->system->holding()->coverage()->unprotected());
        self::assertIsInt($this->system->handle('place', $this->stop(2, -3))->body['order'], 'another may stand for its lots');
    }

    public function testAPlanWithoutAStopOnPurposeHasNoneLeftToName(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan('"portions":[{"rest":true,"target":{"ticks":9}}]'));
        $coverage = fn(): array => [$this->system->holding()->coverage()->unprotected(), $this->system->holding()->coverage()->unstoppedByPlan()];
        self::assertSame([2, 2], $coverage());
        $this->system->handle('place', $this->stop(1, -5));
        self::assertSame([1, 1], $coverage());
        $this->system->handle('place', $this->stop(1, -6));
        self::assertSame([0, 0], $coverage());
    }

    public function testTakingOneOffIsAskedAboutAndCancelAllKeepsIt(): void
    {
        $this->system->place('buy', 2);
        $stop = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        $target = $this->system->place('sell', 2, 'limit', $this->price(9));
        $this->system->place('buy', 1, 'limit', $this->price(-9));
        self::assertSame(
            ['would-unprotect', ['unprotected' => 2]],
            [($refusal = $this->system->refusal('cancel', ['order' => $stop]))->problem->value, $refusal->facts],
        );
        $answer = $this->system->handle('cancel-many', ['contract' => TestSystem::CODE])->body;
        self::assertSame([1, 2], [$answer['stops_kept'], count($answer['cancelled'])]);
        self::assertSame([$stop], array_map(static fn($order): int => $order->id, $this->system->working()));
        self::assertTrue($this->system->order($target)->state->isFinal());
        self::assertSame('would-unprotect', $this->system->refusal('cancel-many', ['contract' => TestSystem::CODE, 'exits' => true])->problem->value);
        $this->system->handle('cancel-many', ['contract' => TestSystem::CODE, 'exits' => true, 'leave_unprotected' => true]);
        self::assertSame([], $this->system->working());
    }

    /** The other half may be pressed: the stop goes with it, and nobody would have asked. */
    public function testItIsAskedAboutToWhereItGoesWithTheOneThatItIsTiedTo(): void
    {
        $this->system->place('buy', 2);
        $stop = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        $target = $this->system->place('sell', 2, 'limit', $this->price(9));
        $this->system->handle('tie', ['orders' => [$stop, $target]]);
        self::assertSame('would-unprotect', $this->system->refusal('cancel', ['order' => $target, 'tied' => true])->problem->value);
        $this->system->handle('cancel', ['order' => $target, 'tied' => true, 'leave_unprotected' => true]);
        self::assertSame([], $this->system->working());
    }

    public function testWhereEachLotMustHaveAStopItIsNotTakenOff(): void
    {
        $this->system->place('buy', 2);
        $stop = $this->system->handle('place', $this->stop(2, -5))->body['order'];
        $this->system->limit(['each_contract' => ['stop_required' => true]]);
        self::assertSame('stop-required', $this->system->refusal('cancel', ['order' => $stop, 'leave_unprotected' => true])->problem->value);
    }

    /** Taking the plan off leaves the lots to the stop that was sent by hand: nobody has to be asked. */
    public function testAPlanComesOffLotsThatItCoversToo(): void
    {
        $this->system->place('buy', 2);
        $this->system->handle('place', $this->stop(2, -5));
        $this->system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":20}')]);
        $this->system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => null]);
        self::assertSame(0, $this->system->holding()->coverage()->unprotected());
    }

    /** What the close has not filled stays under its stop, whoever sent that. */
    public function testItStaysWhileAFlattenIsUnderWay(): void
    {
        $slow = $this->system = new TestSystem(delaySteps: 5);
        $slow->place('buy', 2);
        for ($i = 0; $i < 40 && $slow->lots() === 0; $i++) {
            $slow->step(1);
        }
        $stop = $slow->order($slow->handle('place', $this->stop(2, -5))->body['order']);
        $slow->place('sell', 2, 'limit', $this->price(9));
        $slow->step(20);
        $slow->handle('flatten', ['contract' => TestSystem::CODE]);
        for ($i = 0; $i < 60 && $slow->lots() > 0; $i++) {
            self::assertSame(0, $slow->holding()->coverage()->unprotected(), "step $i");
            self::assertSame(OrderState::New, $stop->state, "step $i");
            $slow->step(1);
        }
        $slow->step(20);
        self::assertSame([0, [], false], [$slow->lots(), $slow->working(), $slow->holding()->isClosingDown()]);
        self::assertSame(0, $stop->filled);
    }

    private static function loss(int $ticks): string
    {
        return TestSystem::contract()->money(2 * $ticks)->plus(TestSystem::contract()->fees(4))->exact();
    }

    private function risk(): OpenRisk
    {
        return $this->system->system->desk->atStops->of($this->system->holding(), TestSystem::contract())->from($this->system->last());
    }
}
