<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Exit\EntryClosed;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Position\ClosedBy;
use Lotrik\Desk\Position\Closing;
use Lotrik\Desk\Position\EntryRecord;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What the logbook will want to know of an entry stands in the journal when its last lot has closed. */
final class EntryRecordTest extends TestCase
{
    private const PLAN = '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":6}},{"rest":true,"target":null}],"ratchets":[{"at":4,"lock":0},{"at":8,"trail":4,"by":1}]';

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }

    /** Two lots: one at its target of +6, the other trailed out; counted by hand. */
    public function testATradeThatWorksOut(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan(self::PLAN), more: ['plan_version' => 3]);
        $at = $system->average();
        $opened = $system->now();
        $system->push($at - 3 - $system->last());
        $system->push($at + 9 - $system->last());
        $best = $system->now();
        self::assertSame([], $system->eventsOf(EntryClosed::class));
        $system->push(-5);
        [$closed] = $system->eventsOf(EntryClosed::class);
        $facts = $closed->facts;
        $out = $system->eventsOf(OrderFilled::class);
        $stop = $out[count($out) - 1];
        self::assertSame(
            ['buy', 2, self::price($at), 'Short tide', 3, 'plan'],
            [$facts['side'], $facts['lots'], $facts['average'], $facts['plan'], $facts['plan_version'], $facts['steered']],
        );
        self::assertSame(
            [$opened, $system->now(), $system->now() - $opened],
            [$facts['opened_at'], $facts['closed_at'], $facts['in_trade_ms']],
        );
        // +9 with one lot closed at +6: 15 ticks of 2.50; −3 with both open: 6 ticks.
        self::assertSame(['ticks' => 9, 'money' => '37.50', 'price' => self::price($at + 9), 'at' => $best], $facts['highest_profit']);
        self::assertSame(
            ['ticks' => -3, 'money' => '-15.00', 'price' => self::price($at - 3)],
            array_diff_key($facts['deepest_loss'], ['at' => 1]),
        );
        self::assertSame([1 => ['target' => 1], 2 => ['stop' => 1]], $facts['ends']);
        self::assertSame([1 => self::price($at - 7), 2 => self::price($at - 7)], $facts['first_stops']);
        // 7 ticks of 2.50 on two lots, and 0.62 a side and lot.
        self::assertSame(['37.48', 0, '2.48'], [$facts['risk_at_entry'], $facts['unstopped_lots'], $facts['fees']]);
        self::assertSame(6 + $stop->price - $at, $facts['realised_ticks']);
        self::assertSame([0, $stop->slippageTicks], [$facts['slippage_in_ticks'], $facts['slippage_out_ticks']]);
        self::assertSame(['lock', 'lock', 'trail', 'trail'], array_column($facts['ratchets'], 'because'));
        self::assertSame(4, $facts['ratchet_moves']);
    }

    public function testSlippageOutIsCountedInTicksAndLots(): void
    {
        $system = new TestSystem();
        $system->place('buy', 12, plan: TestSystem::plan('"stop":{"ticks":2}'));
        // A sweep through several prices sets the stop off; what is left for it is below.
        $venue = $system->system->market(TestSystem::CODE)->venue;
        $to = (int) $venue->book->bestBid() - 5;
        $lots = array_sum(array_map(
            static fn($level): int => $level->tick >= $to ? $level->lots : 0,
            $venue->book->levels(\Lotrik\Order\Side::Buy),
        ));
        $venue->flow(-5_000_001, \Lotrik\Order\Side::Sell, $to, $lots);
        $system->step(1);
        self::assertSame(0, $system->lots());
        $out = array_filter(
            $system->eventsOf(OrderFilled::class),
            static fn(OrderFilled $f): bool => $f->closes > 0 && $system->order($f->order)->account === 1,
        );
        $slipped = array_sum(array_map(static fn(OrderFilled $f): int => $f->slippageTicks * $f->quantity, $out));
        self::assertGreaterThan(0, $slipped);
        $facts = $system->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(
            [$slipped, TestSystem::contract()->money($slipped)->exact()],
            [$facts['slippage_out_ticks'], $facts['slippage_money']],
        );
    }

    public function testByHandAndFlattened(): void
    {
        $system = new TestSystem();
        $system->place('sell', 3, plan: TestSystem::plan(self::PLAN));
        $system->handle('tighten', ['contract' => TestSystem::CODE, 'ticks' => 2]);
        $system->place('buy', 1);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $facts = $system->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(
            ['sell', 'hand', [1 => ['hand' => 1], 2 => ['flatten' => 2]]],
            [$facts['side'], $facts['steered'], $facts['ends']],
        );
        self::assertLessThanOrEqual(0, $facts['deepest_loss']['ticks']);
    }

    /** A plan that is put on goes on with the story of the lots that it takes over. */
    public function testASwappedPlanGoesOnWithTheStory(): void
    {
        $system = new TestSystem();
        $system->place('buy', 2, plan: TestSystem::plan(self::PLAN));
        $at = $system->average();
        $opened = $system->now();
        $system->push($at - 4 - $system->last());
        $system->handle('cover', ['contract' => TestSystem::CODE, 'exit_plan' => TestSystem::plan('"stop":{"ticks":12}')]);
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        self::assertCount(1, $system->eventsOf(EntryClosed::class), 'one trade, one story');
        $facts = $system->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(
            [2, $opened, self::price($at), -4],
            [$facts['lots'], $facts['opened_at'], $facts['average'], min(-4, $facts['deepest_loss']['ticks'])],
        );
    }

    public function testWhatWasSeenOutlivesAKill(): void
    {
        $system = new TestSystem();
        $system->place('buy', 1, plan: TestSystem::plan('"stop":{"ticks":12}'));
        $at = $system->average();
        $system->push($at + 6 - $system->last());
        $system->push($at - 5 - $system->last());
        $system->restart();
        $system->handle('flatten', ['contract' => TestSystem::CODE]);
        $facts = $system->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(6, $facts['highest_profit']['ticks']);
        self::assertLessThanOrEqual(-5, $facts['deepest_loss']['ticks']);
    }

    public function testEachFillSaysWhatTheTouchWasJustBeforeIt(): void
    {
        $system = new TestSystem();
        $book = $system->system->market(TestSystem::CODE)->venue->book;
        [$bid, $ask] = [(int) $book->bestBid(), (int) $book->bestAsk()];
        $lots = [$book->level(\Lotrik\Order\Side::Buy, $bid)?->lots, $book->level(\Lotrik\Order\Side::Sell, $ask)?->lots];
        $system->place('buy', 20);
        $fills = $system->eventsOf(OrderFilled::class);
        self::assertSame([$bid, $lots[0], $ask, $lots[1]], $fills[0]->touch);
        $left = $lots[1];
        foreach ($fills as $fill) {
            if ($fill->price === $ask) {
                self::assertSame($left, $fill->touch[3] ?? null);
                $left -= $fill->quantity;
            }
        }
        self::assertSame([20, 20], [array_sum(array_column($fills, 'quantity')), $system->lots()]);
    }

    /** Against every print worked out anew: what was seen before is not looked at again, and must have changed nothing. */
    public function testTheExtremesAreThoseOfAllPrintsWhateverFillsAndClosesBetween(): void
    {
        for ($seed = 1; $seed <= 200; $seed++) {
            mt_srand($seed);
            $side = $seed % 2 === 0 ? Side::Buy : Side::Sell;
            $facts = new EntryRecord($side, null, null);
            $open = $cash = $most = $least = $at = 0;
            $best = $worst = null;
            $see = static function (int $tick) use (&$open, &$cash, &$most, &$least, &$best, &$worst, &$at, $side): void {
                if ($open === 0) {
                    return;
                }
                $result = $cash + $side->sign() * $open * $tick;
                [$most, $least] = [max($most, $result), min($least, $result)];
                $best = $best === null || $side->sign() * ($tick - $best[0]) > 0 ? [$tick, $at] : $best;
                $worst = $worst === null || $side->sign() * ($tick - $worst[0]) < 0 ? [$tick, $at] : $worst;
            };
            for ($i = 0; $i < 60; $i++) {
                $at++;
                $tick = 800 + mt_rand(-6, 6);
                $lots = min(mt_rand(1, 3), max(1, $open));
                $done = mt_rand(0, 9);
                if ($done === 0) {
                    $facts->opened($lots, $tick, 0, $at);
                    [$open, $cash] = [$open + $lots, $cash - $side->sign() * $lots * $tick];
                } elseif ($done === 1 && $open > 0) {
                    $facts->closed(1, $lots, new Closing($tick, $at, ClosedBy::Target, 0));
                    $see($tick);
                    [$open, $cash] = [$open - $lots, $cash + $side->sign() * $lots * $tick];
                } elseif ($done === 2) {
                    $facts->restoreExtremes($facts->extremes());
                } else {
                    $facts->saw($tick, $at);
                    $see($tick);
                }
            }
            self::assertSame([$best, $worst, $most, $least], $facts->extremes(), "seed $seed");
        }
    }
}
