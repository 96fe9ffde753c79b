<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Role;
use Lotrik\Refusal\RefusalCode;
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
        $this->system->handle('cancel', ['order' => $first]);
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
}
