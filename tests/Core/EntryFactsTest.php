<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\ClosedBy;
use Lotrik\Desk\Closing;
use Lotrik\Desk\EntryFacts;
use Lotrik\Desk\Event\EntryClosed;
use Lotrik\Desk\Event\OrderFilled;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestFloor;

/** What the logbook will want to know of an entry stands in the journal when its last lot has closed. */
final class EntryFactsTest extends TestCase
{
    private const PLAN = '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":6}},{"rest":true,"target":null}],"ratchets":[{"at":4,"lock":0},{"at":8,"trail":4,"by":1}]';

    private static function price(int $tick): string
    {
        return TestFloor::contract()->price($tick);
    }

    /** Two lots: one at its target of +6, the other trailed out; counted by hand. */
    public function testATradeThatWorksOut(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan(self::PLAN), more: ['plan_version' => 3]);
        $at = $floor->average();
        $opened = $floor->now();
        $floor->push($at - 3 - $floor->last());
        $floor->push($at + 9 - $floor->last());
        $best = $floor->now();
        self::assertSame([], $floor->eventsOf(EntryClosed::class));
        $floor->push(-5);
        [$closed] = $floor->eventsOf(EntryClosed::class);
        $facts = $closed->facts;
        $out = $floor->eventsOf(OrderFilled::class);
        $stop = $out[count($out) - 1];
        self::assertSame(['buy', 2, self::price($at), 'Short tide', 3, 'plan'], [$facts['side'], $facts['lots'], $facts['average'], $facts['plan'], $facts['plan_version'], $facts['steered']]);
        self::assertSame([$opened, $floor->now(), $floor->now() - $opened], [$facts['opened_at'], $facts['closed_at'], $facts['in_trade_ms']]);
        // +9 with one lot closed at +6: 15 ticks of 2.50; −3 with both open: 6 ticks.
        self::assertSame(['ticks' => 9, 'money' => '37.50', 'price' => self::price($at + 9), 'at' => $best], $facts['highest_profit']);
        self::assertSame(['ticks' => -3, 'money' => '-15.00', 'price' => self::price($at - 3)], array_diff_key($facts['deepest_loss'], ['at' => 1]));
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
        $floor = new TestFloor();
        $floor->place('buy', 12, plan: TestFloor::plan('"stop":{"ticks":2}'));
        // A sweep through several prices sets the stop off; what is left for it is below.
        $venue = $floor->floor->market(TestFloor::CODE)->venue;
        $to = (int) $venue->book->bestBid() - 5;
        $lots = array_sum(array_map(static fn($level): int => $level->tick >= $to ? $level->lots : 0, $venue->book->levels(\Lotrik\Order\Side::Buy)));
        $venue->flow(-5_000_001, \Lotrik\Order\Side::Sell, $to, $lots);
        $floor->step(1);
        self::assertSame(0, $floor->lots());
        $out = array_filter($floor->eventsOf(OrderFilled::class), static fn(OrderFilled $f): bool => $f->closes > 0 && $floor->order($f->order)->account === 1);
        $slipped = array_sum(array_map(static fn(OrderFilled $f): int => $f->slippageTicks * $f->quantity, $out));
        self::assertGreaterThan(0, $slipped);
        $facts = $floor->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame([$slipped, TestFloor::contract()->money($slipped)->exact()], [$facts['slippage_out_ticks'], $facts['slippage_money']]);
    }

    public function testByHandAndFlattened(): void
    {
        $floor = new TestFloor();
        $floor->place('sell', 3, plan: TestFloor::plan(self::PLAN));
        $floor->take('tighten', ['contract' => TestFloor::CODE, 'ticks' => 2]);
        $floor->place('buy', 1);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $facts = $floor->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(['sell', 'hand', [1 => ['hand' => 1], 2 => ['flatten' => 2]]], [$facts['side'], $facts['steered'], $facts['ends']]);
        self::assertLessThanOrEqual(0, $facts['deepest_loss']['ticks']);
    }

    /** A plan that is put on goes on with the story of the lots that it takes over. */
    public function testASwappedPlanGoesOnWithTheStory(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 2, plan: TestFloor::plan(self::PLAN));
        $at = $floor->average();
        $opened = $floor->now();
        $floor->push($at - 4 - $floor->last());
        $floor->take('cover', ['contract' => TestFloor::CODE, 'exit_plan' => TestFloor::plan('"stop":{"ticks":12}')]);
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        self::assertCount(1, $floor->eventsOf(EntryClosed::class), 'one trade, one story');
        $facts = $floor->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame([2, $opened, self::price($at), -4], [$facts['lots'], $facts['opened_at'], $facts['average'], min(-4, $facts['deepest_loss']['ticks'])]);
    }

    public function testWhatWasSeenOutlivesAKill(): void
    {
        $floor = new TestFloor();
        $floor->place('buy', 1, plan: TestFloor::plan('"stop":{"ticks":12}'));
        $at = $floor->average();
        $floor->push($at + 6 - $floor->last());
        $floor->push($at - 5 - $floor->last());
        $floor->restart();
        $floor->take('flatten', ['contract' => TestFloor::CODE]);
        $facts = $floor->eventsOf(EntryClosed::class)[0]->facts;
        self::assertSame(6, $facts['highest_profit']['ticks']);
        self::assertLessThanOrEqual(-5, $facts['deepest_loss']['ticks']);
    }

    public function testEachFillSaysWhatTheTouchWasJustBeforeIt(): void
    {
        $floor = new TestFloor();
        $book = $floor->floor->market(TestFloor::CODE)->venue->book;
        [$bid, $ask] = [(int) $book->bestBid(), (int) $book->bestAsk()];
        $lots = [$book->level(\Lotrik\Order\Side::Buy, $bid)?->lots, $book->level(\Lotrik\Order\Side::Sell, $ask)?->lots];
        $floor->place('buy', 20);
        $fills = $floor->eventsOf(OrderFilled::class);
        self::assertSame([$bid, $lots[0], $ask, $lots[1]], $fills[0]->touch);
        $left = $lots[1];
        foreach ($fills as $fill) {
            if ($fill->price === $ask) {
                self::assertSame($left, $fill->touch[3] ?? null);
                $left -= $fill->quantity;
            }
        }
        self::assertSame([20, 20], [array_sum(array_column($fills, 'quantity')), $floor->lots()]);
    }

    /** Against every print worked out anew: what was seen before is not looked at again, and must have changed nothing. */
    public function testTheExtremesAreThoseOfAllPrintsWhateverFillsAndClosesBetween(): void
    {
        for ($seed = 1; $seed <= 200; $seed++) {
            mt_srand($seed);
            $side = $seed % 2 === 0 ? Side::Buy : Side::Sell;
            $facts = new EntryFacts($side, null, null);
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
