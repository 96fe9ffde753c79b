<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Venue\Simulated\NoFeed;
use Lotrik\Venue\Simulated\SimulatedVenue;
use Lotrik\Venue\WorkingOrder;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Kinds, durations, held orders and groups, at the desk with its venue. */
final class OrdersTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    /** @return array{OrderState, string|null} */
    private function end(int $id): array
    {
        return [$this->system->order($id)->state, $this->system->order($id)->reason];
    }

    private function lotsAt(Side $side, int $tick): int
    {
        return $this->system->system->market(TestSystem::CODE)->venue->book->level($side, $tick)->lots ?? 0;
    }

    public function testMarketIfTouchedIsTheMirrorOfAStop(): void
    {
        $last = $this->system->last();
        $id = $this->system->place('buy', 1, 'mit', more: ['trigger' => self::price($last - 3)]);
        $this->system->push(2);
        $this->system->push(-4);
        self::assertSame(OrderState::New, $this->system->order($id)->state, 'one tick short of it');
        $this->system->push(-1);
        self::assertSame([OrderState::Filled, 1], [$this->system->order($id)->state, $this->system->lots()]);
        $sell = $this->system->place('sell', 2, 'mit', more: ['trigger' => self::price($this->system->last() + 3), 'closing' => 'through']);
        $this->system->push(3);
        self::assertSame([OrderState::Filled, -1], [$this->system->order($sell)->state, $this->system->lots()]);
    }

    public function testAnIfTouchedThatIsTouchedAlreadyIsRefused(): void
    {
        $refusal = $this->system->refusal(
            'place',
            [
                'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'mit',
                'trigger' => self::price($this->system->last() + 1),
            ],
        );
        self::assertSame('stop-passed', $refusal->problem->value);
        self::assertStringContainsString('already touched', $refusal->getMessage());
    }

    public function testImmediateOrCancelFillsWhatIsThereAndNeverRests(): void
    {
        $ask = (int) $this->system->system->market(TestSystem::CODE)->venue->book->bestAsk();
        $there = $this->lotsAt(Side::Sell, $ask);
        $id = $this->system->place('buy', min(20, $there + 2), 'limit', self::price($ask), more: ['tif' => 'ioc']);
        $order = $this->system->order($id);
        self::assertSame(min(20, $there), $order->filled);
        self::assertSame($there < 20 ? OrderState::Cancelled : OrderState::Filled, $order->state);
        $far = $this->system->place('buy', 1, 'limit', self::price($ask - 9), more: ['tif' => 'ioc']);
        self::assertSame([OrderState::Cancelled, 'immediate or cancel: nothing more was there to fill it'], $this->end($far));
    }

    public function testFillOrKillLargerThanTheBookIsRejectedAndSaysWhy(): void
    {
        $ask = (int) $this->system->system->market(TestSystem::CODE)->venue->book->bestAsk();
        $there = $this->lotsAt(Side::Sell, $ask);
        $id = $this->system->place('buy', $there + 1, 'limit', self::price($ask), more: ['tif' => 'fok']);
        self::assertSame(
            [OrderState::Rejected, "fill or kill: the book has only $there of ".($there + 1).' lots at its price or better'],
            $this->end($id),
        );
        self::assertSame(0, $this->system->lots());
        self::assertSame(
            OrderState::Filled,
            $this->system->order($this->system->place('buy', $there, 'limit', self::price($ask), more: ['tif' => 'fok']))->state,
        );
    }

    public function testAGoodTillDateOrderExpires(): void
    {
        $id = $this->system->place(
            'buy',
            1,
            'limit',
            self::price($this->system->last() - 9),
            more: ['tif' => 'gtd', 'expires_at' => $this->system->in(1000)],
        );
        $this->system->step(90);
        self::assertSame(OrderState::New, $this->system->order($id)->state);
        $this->system->step(20);
        self::assertSame([OrderState::Expired, 0], [$this->system->order($id)->state, $this->system->order($id)->leaves()]);
    }

    public function testAnOrderThatDidNotFillInItsTimeIsCancelledForThatReason(): void
    {
        $id = $this->system->place(
            'buy',
            1,
            'limit',
            self::price($this->system->last() - 9),
            more: ['cancel_at' => $this->system->in(500)],
        );
        $this->system->step(60);
        self::assertSame([OrderState::Cancelled, 'it had not filled in its time'], $this->end($id));
    }

    public function testAnOrderIsHeldUntilItsReleaseTime(): void
    {
        $id = $this->system->place(
            'buy',
            1,
            'limit',
            self::price($this->system->last() - 9),
            more: ['release_at' => $this->system->in(500)],
        );
        self::assertSame([OrderState::Suspended, true], [$this->system->order($id)->state, $this->system->order($id)->isHeld()]);
        self::assertNull($this->system->system->market(TestSystem::CODE)->venue->book->ahead($id), 'the venue does not know it');
        $this->system->step(60);
        self::assertSame(OrderState::New, $this->system->order($id)->state);
        self::assertNotNull($this->system->system->market(TestSystem::CODE)->venue->book->ahead($id));
    }

    /** Left where it was, the limit would lie behind the trigger, and the order could never be filled where it is set off. */
    public function testTheLimitOfAStopLimitGoesWithItsTriggerAndNeverBehindIt(): void
    {
        $last = $this->system->last();
        foreach ([[], ['release_at' => $this->system->in(50_000)]] as $more) {
            $id = $this->system->place('buy', 1, 'stop-limit', self::price($last + 8), more: ['trigger' => self::price($last + 6)] + $more);
            $levels = fn(): array => [$this->system->order($id)->trigger - $last, $this->system->order($id)->price - $last];
            $this->system->handle('modify', ['order' => $id, 'trigger' => self::price($last + 10)]);
            self::assertSame([10, 12], $levels());
            $this->system->handle('modify', ['order' => $id, 'trigger' => self::price($last + 7), 'price' => self::price($last + 7)]);
            self::assertSame([7, 7], $levels());
            foreach ([
                ['price' => self::price($last + 6)], ['trigger' => self::price($last + 9), 'price' => self::price($last + 8)],
            ] as $behind) {
                self::assertStringContainsString(
                    'a limit at or above the trigger',
                    $this->system->refusal('modify', ['order' => $id] + $behind)->getMessage(),
                );
                self::assertSame([7, 7], $levels());
            }
            $this->system->handle('modify', ['order' => $id, 'price' => self::price($last + 9)]);
            self::assertSame([7, 9], $levels());
        }
    }

    public function testAHeldOrderCanBeChangedAndCancelled(): void
    {
        $level = $this->system->last() - 9;
        $id = $this->system->place('buy', 1, 'limit', self::price($level), more: ['release_at' => $this->system->in(500)]);
        $this->system->handle('modify', ['order' => $id, 'price' => self::price($level - 1), 'quantity' => 3]);
        self::assertSame(
            [OrderState::Suspended, 3, $level - 1],
            [$this->system->order($id)->state, $this->system->order($id)->leaves(), $this->system->order($id)->price],
        );
        $this->system->step(60);
        self::assertSame([OrderState::New, 3], [$this->system->order($id)->state, $this->lotsOf($id)]);
        $other = $this->system->place('buy', 1, 'limit', self::price($level), more: ['release_at' => $this->system->in(500)]);
        $this->system->handle('cancel', ['order' => $other]);
        self::assertSame(OrderState::Cancelled, $this->system->order($other)->state);
        $this->system->step(60);
        self::assertSame(OrderState::Cancelled, $this->system->order($other)->state);
    }

    private function lotsOf(int $id): int
    {
        return $this->system->system->market(TestSystem::CODE)->venue->book->order($id)->lots ?? 0;
    }

    public function testAHeldStopThatIsPassedWhenItIsDueIsRejected(): void
    {
        $trigger = $this->system->last() + 4;
        $id = $this->system->place('buy', 1, 'stop', self::price($trigger), more: ['release_at' => $this->system->in(300)]);
        $this->system->push(6);
        $this->system->step(40);
        self::assertSame(
            [
                OrderState::Rejected,
                'when it was due: a stop to buy at 414.00 is already passed: the market is at 415.00; a market order, or a limit at 414.00, would be accepted',
            ],
            $this->end($id),
        );
    }

    public function testAConditionReleasesOnTheLastPrice(): void
    {
        $last = $this->system->last();
        $id = $this->system->place(
            'buy',
            1,
            more: ['condition' => ['contract' => TestSystem::CODE, 'price' => self::price($last + 3), 'last' => 'at-or-above']],
        );
        $this->system->push(2);
        self::assertSame([OrderState::Suspended, 0], [$this->system->order($id)->state, $this->system->lots()]);
        $this->system->push(1);
        self::assertSame([OrderState::Filled, 1], [$this->system->order($id)->state, $this->system->lots()]);
    }

    /** FIX 5.0 SP2, ContingencyType (1385) 2, One Triggers the Other: the second order is born with a fill of the first; from memory. */
    public function testOneTriggersTheOther(): void
    {
        $last = $this->system->last();
        $parent = $this->system->place('buy', 1, 'limit', self::price($last - 3));
        $child = $this->system->place('buy', 1, 'limit', self::price($last - 6), more: ['after' => $parent]);
        $orphan = $this->system->place(
            'buy',
            1,
            'limit',
            self::price($last - 7),
            more: ['after' => $other = $this->system->place('buy', 1, 'limit', self::price($last - 12))],
        );
        self::assertTrue($this->system->order($child)->isHeld());
        $this->system->push(-4);
        $this->system->step(1);
        self::assertSame(
            [OrderState::Filled, OrderState::New],
            [$this->system->order($parent)->state, $this->system->order($child)->state],
        );
        $this->system->handle('cancel', ['order' => $other]);
        $this->system->step(1);
        self::assertSame([OrderState::Cancelled, "order $other, which it waited for, ended without a fill"], $this->end($orphan));
    }

    /** FIX 5.0 SP2, ContingencyType (1385) 1, One Cancels the Other: a fill or trigger of one cancels the other; from memory. */
    public function testATiedPairOfEntriesIsOneCancelsTheOther(): void
    {
        $last = $this->system->last();
        $low = $this->system->place('buy', 2, 'limit', self::price($last - 3));
        $high = $this->system->place('buy', 2, 'stop', self::price($last + 5));
        $this->system->handle('tie', ['orders' => [$low, $high]]);
        $this->system->push(-4);
        self::assertSame(
            [OrderState::Filled, OrderState::Cancelled],
            [$this->system->order($low)->state, $this->system->order($high)->state],
        );
        self::assertStringContainsString("order $low, tied to it, filled", (string) $this->system->order($high)->reason);
    }

    /** FIX 5.0 SP2, ContingencyType (1385) 3, One Updates the Other, absolute: what fills of one comes off the other; from memory. */
    public function testTwoTiedClosesLowerEachOtherAndLeaveTheExitsAlone(): void
    {
        $this->system->place('buy', 4, plan: TestSystem::plan('"stop":{"ticks":20}'));
        $at = $this->system->average();
        $near = $this->system->place('sell', 2, 'limit', self::price($at + 3));
        $far = $this->system->place('sell', 2, 'limit', self::price($at + 12));
        self::assertSame([Role::Close, Role::Close], [$this->system->order($near)->role, $this->system->order($far)->role]);
        $this->system->handle('tie', ['orders' => [$near, $far]]);
        self::assertSame(4, $this->system->working(Role::Stop)[0]->leaves(), 'tying took nothing off the stop');
        $this->system->push($at + 4 - $this->system->last());
        self::assertSame(
            [2, OrderState::Filled, OrderState::Cancelled],
            [$this->system->lots(), $this->system->order($near)->state, $this->system->order($far)->state],
        );
        self::assertSame(2, $this->system->working(Role::Stop)[0]->leaves());
    }

    public function testABreakoutPairCancelsItsOtherSideWhenOneTriggers(): void
    {
        $last = $this->system->last();
        $stop = static fn(string $side, int $tick): array => [
            'contract' => TestSystem::CODE, 'side' => $side, 'quantity' => 1, 'kind' => 'stop', 'trigger' => self::price($tick),
            'exit_plan' => TestSystem::plan(),
        ];
        [$up, $down] = $this->system->handle(
            'place-pair',
            ['orders' => [$stop('buy', $last + 4), $stop('sell', $last - 4)]],
        )->body['orders'];
        self::assertFalse($this->system->order($up)->state->isFinal());
        $this->system->push(5);
        self::assertSame(
            [1, OrderState::Filled, OrderState::Cancelled],
            [$this->system->lots(), $this->system->order($up)->state, $this->system->order($down)->state],
        );
        self::assertCount(1, $this->system->stops(), 'with its exit plan');
    }

    public function testAPairOfWhichOneFillsAtOnceNeverPlacesTheOther(): void
    {
        foreach ([0, 3] as $delay) {
            $system = new TestSystem($delay);
            $buy = static fn(string $kind, array $more): array => [
                'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => $kind,
            ] + $more;
            [$first, $second] = $system->handle(
                'place-pair',
                ['orders' => [$buy('market', []), $buy('limit', ['price' => self::price($system->last() - 8)])]],
            )->body['orders'];
            $system->step(20);
            self::assertSame([1, OrderState::Filled], [$system->lots(), $system->order($first)->state]);
            self::assertSame(OrderState::Rejected, $system->order($second)->state, "delay $delay");
        }
    }

    /** What the build before this one packed: orders without a tie of their own and a duration, a venue without decided groups. */
    public function testAMarketSavedByAnOlderBuildIsRestored(): void
    {
        $order = new WorkingOrder(7, 1, Side::Buy, OrderKind::Limit, 3, 800);
        $old = array_slice($order->pack(), 0, 12);
        self::assertEquals($order, WorkingOrder::unpack($old));
        $packed = $this->system->system->market(TestSystem::CODE)->venue->pack();
        unset($packed['decided']);
        self::assertSame($packed['prints'], SimulatedVenue::unpack($packed, new NoFeed())->pack()['prints']);
    }

    public function testUntiedOrdersGoOnByThemselvesAndTiedOnesCanBeCancelledTogether(): void
    {
        $last = $this->system->last();
        $low = $this->system->place('buy', 1, 'limit', self::price($last - 3));
        $high = $this->system->place('buy', 1, 'stop', self::price($last + 9));
        $this->system->handle('tie', ['orders' => [$low, $high]]);
        $this->system->handle('untie', ['order' => $high]);
        $this->system->push(-4);
        self::assertSame([OrderState::Filled, OrderState::New], [$this->system->order($low)->state, $this->system->order($high)->state]);
        $again = $this->system->place('buy', 1, 'limit', self::price($last - 12));
        $this->system->handle('tie', ['orders' => [$again, $high]]);
        $this->system->handle('cancel', ['order' => $again, 'tied' => true]);
        self::assertSame(
            [OrderState::Cancelled, OrderState::Cancelled],
            [$this->system->order($again)->state, $this->system->order($high)->state],
        );
    }

    public function testStopsCloserAndNotBeyondTheMarket(): void
    {
        $this->system->place('buy', 2, plan: TestSystem::plan());
        $at = $this->system->average();
        $this->system->handle('tighten', ['contract' => TestSystem::CODE, 'ticks' => 2]);
        self::assertSame([1 => -5, 2 => -5], $this->system->stops($at));
        self::assertSame('stop-passed', $this->system->refusal('tighten', ['contract' => TestSystem::CODE, 'ticks' => 50])->problem->value);
        self::assertSame([1 => -5, 2 => -5], $this->system->stops($at));
    }

    public function testHowLongAnOrderWorksCanBeChanged(): void
    {
        $id = $this->system->place('buy', 1, 'limit', self::price($this->system->last() - 9));
        $this->system->handle('modify', ['order' => $id, 'tif' => 'gtd', 'expires_at' => $this->system->in(500)]);
        $this->system->step(60);
        self::assertSame(OrderState::Expired, $this->system->order($id)->state);
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function badInput(): iterable
    {
        $limit = ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '400.00'];
        yield 'GTD in the past' => ['place', ['tif' => 'gtd', 'expires_at' => '2020-01-01T00:00:00.000Z'] + $limit, 'a time after now'];
        yield 'GTD without a date' => ['place', ['tif' => 'gtd'] + $limit, 'the time until which'];
        yield 'a date that is no GTD' => ['place', ['expires_at' => '2099-01-01T00:00:00.000Z'] + $limit, 'only a gtd order has a date'];
        yield 'a day that does not exist' => [
            'place', ['tif' => 'gtd', 'expires_at' => '2099-02-30T00:00:00.000Z'] + $limit, 'a time in UTC',
        ];
        yield 'release after cancel' => [
            'place', ['release_at' => '2099-01-01T00:00:01.000Z', 'cancel_at' => '2099-01-01T00:00:00.000Z'] + $limit,
            'a time before cancel_at',
        ];
        yield 'IOC stop' => [
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop', 'trigger' => '500.00', 'tif' => 'ioc'],
            'waits for its trigger',
        ];
        yield 'trigger and limit the wrong way round' => [
            'place',
            [
                'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop-limit', 'trigger' => '420.00',
                'price' => '419.00',
            ],
            'at or above the trigger',
        ];
        yield 'a condition on nothing' => [
            'place', ['condition' => ['contract' => 'ABCZ6', 'price' => '1.00', 'last' => 'at-or-above']] + $limit, 'no contract ABCZ6',
        ];
        yield 'after an order that is not there' => ['place', ['after' => 7] + $limit, 'order 7 is not a working entry'];
        yield 'an MIT with a limit' => ['place', ['kind' => 'mit', 'trigger' => '400.00'] + $limit, 'has no price'];
        yield 'a pair of one' => ['place-pair', ['orders' => [$limit]], 'exactly two'];
        yield 'a pair of three' => ['place-pair', ['orders' => [$limit, $limit, $limit]], 'exactly two'];
        yield 'one tie' => ['tie', ['orders' => [1]], 'two different orders'];
    }

    /** @param array<string, mixed> $body */
    #[DataProvider('badInput')]
    public function testBadInputChangesNothing(string $op, array $body, string $says): void
    {
        $refusal = $this->system->refusal($op, $body);
        self::assertStringContainsString($says, $refusal->getMessage());
        self::assertSame([], $this->system->working());
    }

    public function testTiesThatMakeNoSenseAreRefused(): void
    {
        $last = $this->system->last();
        $this->system->place('buy', 1, plan: TestSystem::plan());
        $one = $this->system->place('buy', 1, 'limit', self::price($last - 5));
        $two = $this->system->place('buy', 1, 'limit', self::price($last - 6));
        $three = $this->system->place('buy', 1, 'limit', self::price($last - 7));
        $this->system->handle('tie', ['orders' => [$one, $two]]);
        self::assertSame('already-tied', $this->system->refusal('tie', ['orders' => [$two, $three]])->problem->value);
        self::assertSame(
            'exit-is-tied',
            $this->system->refusal('tie', ['orders' => [$three, $this->system->working(Role::Stop)[0]->id]])->problem->value,
        );
        self::assertSame('not-tied', $this->system->refusal('untie', ['order' => $three])->problem->value);
        self::assertSame('invalid', $this->system->refusal('tie', ['orders' => [$one, $two, $three]])->problem->value);
        $final = $this->system->place('buy', 1);
        self::assertSame('order-final', $this->system->refusal('modify', ['order' => $final, 'quantity' => 2])->problem->value);
    }

    /** The place in the queue that the book keeps, against counting the level from its head, over a busy market. */
    public function testQueuePlaceAgainstANaiveRecount(): void
    {
        $system = new TestSystem(seed: 11);
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(11));
        $counted = 0;
        for ($i = 0; $i < 1500; $i++) {
            $roll = $dice->getInt(0, 9);
            $working = $system->working();
            try {
                match (true) {
                    $roll < 3 && count($working) < 12 => $system->place(
                        $dice->getInt(0, 1) === 0 ? 'buy' : 'sell',
                        $dice->getInt(1, 3),
                        'limit',
                        self::price($system->last() + $dice->getInt(-4, 4)),
                        more: ['closing' => 'through'],
                    ),
                    $roll < 4 && $working !== [] => $system->handle(
                        'modify',
                        ['order' => $working[$dice->getInt(0, count($working) - 1)]->id, 'quantity' => $dice->getInt(1, 5)],
                    ),
                    $roll < 5 && $working !== [] => $system->handle(
                        'cancel',
                        ['order' => $working[$dice->getInt(0, count($working) - 1)]->id],
                    ),
                    default => $system->step($dice->getInt(1, 5)),
                };
            } catch (\Lotrik\Refusal\Refusal) {
            }
            $book = $system->system->market(TestSystem::CODE)->venue->book;
            foreach ($system->working() as $order) {
                $resting = $book->order($order->id);
                if ($resting === null) {
                    continue;
                }
                $ahead = 0;
                for ($other = $book->level(
                    $resting->side,
                    $resting->tick,
                )?->first; $other !== null && $other !== $resting; $other = $other->behind) {
                    $ahead += $other->lots;
                }
                self::assertSame($ahead, $book->ahead($order->id), "order {$order->id} after action $i");
                $counted++;
            }
        }
        self::assertGreaterThan(500, $counted);
    }
}
