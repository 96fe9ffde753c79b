<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\AtRisk\Gap;
use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\AtRisk\StopLosses;
use Lotrik\Desk\AtRisk\StoppedLots;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\DepthWalk;
use Lotrik\Venue\TradePrint;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What would be open if stops stood elsewhere and drafts had filled. A tick of a lot is 2.50, a side's fee 0.62; Short tide's stop is 7 ticks away. */
final class WhatIfTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /** @param array<string, mixed> $body */
    private function whatIf(array $body): ?ProtectedPosition
    {
        return $this->system->system->desk->queries->whatIf(1, $body, $this->system->now())[TestSystem::CODE] ?? null;
    }

    /** @return array<string, mixed> */
    private function draft(string $side, int $lots, int $tick, bool $plan = true, string $kind = 'limit', string $closing = ''): array
    {
        return ['contract' => TestSystem::CODE, 'side' => $side, 'quantity' => $lots, 'kind' => $kind,
            $kind === 'stop' ? 'trigger' : 'price' => TestSystem::contract()->price($tick)]
            + ($plan ? ['exit_plan' => TestSystem::plan()] : []) + ($closing === '' ? [] : ['closing' => $closing]);
    }

    /** @return list<array{int, int}> lots and stop of each part, in ticks */
    private static function parts(?ProtectedPosition $open): array
    {
        return array_map(static fn(StoppedLots $part): array => [$part->lots, $part->stop], $open->parts ?? []);
    }

    public function testDraftsFillWhereTheyStandOneAfterTheOther(): void
    {
        $at = $this->system->last() - 5;
        $one = $this->whatIf(['orders' => [$this->draft('buy', 2, $at)]]);
        self::assertSame([[1, $at - 7], [1, $at - 7]], self::parts($one));
        self::assertSame([2, 0, '35.00'], [$one?->position->lots, $one?->unprotected(), $one?->atEntry?->exact()]);
        $losses = StopLosses::of($one, $this->system->last(), new DepthWalk([]), 0);
        self::assertSame('18.74', $losses[0]->fromHere->exact(), 'from where it would have filled, with the fees of both ways');
        $two = $this->whatIf(['orders' => [$this->draft('buy', 2, $at), $this->draft('buy', 1, $at - 4, false)]]);
        self::assertSame([3, 1, null], [$two?->position->lots, $two?->unprotected(), $two?->atEntry]);
        // The second closes what the first would have opened, and opens one on the other side.
        $back = $this->whatIf(['orders' => [$this->draft('buy', 2, $at), $this->draft('sell', 3, $at + 9)]]);
        self::assertSame([-1, [[1, $at + 16]]], [$back?->position->lots, self::parts($back)]);
        self::assertNull($this->whatIf(['orders' => [$this->draft('buy', 2, $at), $this->draft('sell', 2, $at + 9)]]), 'flat again');
        self::assertSame(0, $this->system->lots());
    }

    public function testOnAPositionTheOldestLotsCloseFirstAndAClosingStopCoversWhatIsBare(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan());
        $first = $this->system->holding()->position->anchor();
        $this->system->place('buy', 2, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $second = array_values($this->system->working(Role::Stop))[2]->trigger;
        $half = $this->whatIf(['orders' => [$this->draft('sell', 6, $first + 30, closing: 'through')]]);
        self::assertSame([-2, 0], [$half?->position->lots, $half?->unprotected()]);
        self::assertSame([[1, $first + 37], [1, $first + 37]], self::parts($half));
        $closes = $this->whatIf(['orders' => [$this->draft('sell', 1, $first + 30, false)]]);
        self::assertSame([3, [[1, $first - 7], [2, $second]]], [$closes?->position->lots, self::parts($closes)], 'the oldest lot closes, and its stop goes with it');
        $moved = $this->whatIf(['moves' => [['order' => array_values($this->system->working(Role::Stop))[0]->id, 'price' => TestSystem::contract()->price($first - 3)]]]);
        self::assertSame([[1, $first - 3], [1, $first - 7], [2, $second]], self::parts($moved));
        $this->system->place('buy', 1);
        self::assertSame(1, $this->whatIf([])?->unprotected());
        $covered = $this->whatIf(['orders' => [$this->draft('sell', 1, $first - 12, false, 'stop')]]);
        self::assertSame([0, [1, $first - 12]], [$covered?->unprotected(), array_slice(self::parts($covered), -1)[0]]);
        self::assertSame(0, $this->whatIf(['stops' => [['contract' => TestSystem::CODE, 'price' => TestSystem::contract()->price($first - 9)]]])?->unprotected());
    }

    /** A plan that covers the position takes the lots of a draft in: one set of exits, its stop by the new average. */
    public function testADraftJoinsThePlanThatCoversThePosition(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":12}}],"covers":"position"');
        $this->system->place('buy', 2, plan: $plan);
        $anchor = $this->system->holding()->position->anchor();
        $joined = $this->whatIf(['orders' => [['exit_plan' => $plan] + $this->draft('buy', 2, $anchor - 4)]]);
        self::assertSame([4, [[4, $anchor - 10]]], [$joined?->position->lots, self::parts($joined)], 'following never loosens');
        self::assertSame([[2, $anchor - 10]], self::parts($this->whatIf([])));
    }

    public function testARefusedDraftCountsForNothing(): void
    {
        $this->system->limit(['each_contract' => ['order_lots' => 1]]);
        self::assertNull($this->whatIf(['orders' => [$this->draft('buy', 2, $this->system->last() - 5)]]));
    }

    /** The gap may be as far as two prints that followed each other lay apart: of the last hour, or of the day, its first print counted from the day before. */
    public function testTheGapIsTheLargestJump(): void
    {
        $quote = new Quote();
        $quote->day->begin(0);
        foreach ([[1_000, 800], [2_000, 803], [3_700_000, 801], [3_800_000, 806]] as $i => [$at, $tick]) {
            $quote->traded($at, new TradePrint($i + 1, $tick, 1, Side::Buy));
        }
        $gap = static fn(string $written, int $at): int => Gap::parse($written)->of($quote, $at);
        self::assertSame([5, 5, 12], [$gap('hour', 3_900_000), $gap('day', 3_900_000), $gap('12', 3_900_000)]);
        self::assertSame([0, 5], [$gap('hour', 9_000_000), $gap('day', 9_000_000)], 'an hour without a print');
        $quote->day->begin(10_000_000);
        $quote->traded(10_000_001, new TradePrint(5, 790, 1, Side::Sell));
        self::assertSame([16, 16], [$gap('hour', 10_000_002), $gap('day', 10_000_002)], 'from the settlement to the first print');
        self::assertSame([0, 16], [$gap('hour', 20_000_000), $gap('day', 20_000_000)], 'the day remembers it');
        $this->expectException(Refusal::class);
        Gap::parse('week');
    }
}
