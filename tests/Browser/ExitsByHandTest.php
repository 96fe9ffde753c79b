<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Stops and targets that the hand sets, moves and takes off. */
final class ExitsByHandTest extends PageCase
{
    public function testDraggingFromTheAverageMakesATargetAndAStop(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market']);
        $this->page->awaitText('[data-field=protected]', '0 of 3');
        $entry = self::ticks($this->trader->position(self::CODE)['average_price']);
        $this->drag('[data-average]', self::lane($entry + 6, 'sell'));
        $this->page->await(fn(): bool => $this->chips('target') === [$entry + 6], 'the target');
        $this->drag('[data-average]', self::lane($entry - 5, 'sell'));
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 5], 'the stop');
        $this->page->awaitText('[data-field=protected]', '3 of 3');
        $this->pushTo($entry + 7);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->await(fn(): bool => $this->chips('stop') === [], 'the stop to go with the target');
    }

    /** A locked stop let go beyond the market would be a market order under another figure. */
    public function testAStopDraggedThroughTheMarketSaysThatItClosesAndIsPutBack(): void
    {
        $this->enter();
        $average = $this->buyTwo();
        $stop = '[data-part=chip][data-role=stop]';
        [$x, $y] = $this->page->middle($stop);
        [, $to] = $this->page->middle(self::lane($this->quote('asks') + 4, 'sell'));
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 100, 'x' => $x, 'y' => $to],
        ]);
        $this->page->awaitText('[data-part=rungs]', 'now ≈');
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
        $this->page->awaitText('[data-field=said]', 'Not moved: ');
        self::assertSame([2, self::price($average - 7)], [$this->lots(), array_column($this->trader->working(), 'trigger')[0] ?? null]);
    }

    /** Three presses at three rungs on a position of 2 made three stops of 2. */
    public function testAClosingStopIsNotPiledUpAndShiftMovesTheOneThatIsThere(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $rung = $this->quote('bids') - 4;
        $this->click($rung, 'sell', 'closes 2 of 2');
        $this->page->await(fn(): bool => $this->chips('close') === [$rung], 'the closing stop');
        $stop = $this->trader->working()[0]['id'];
        $this->click($rung - 2, 'sell', "stop order $stop at");
        $this->page->awaitText('[data-field=said]', 'move that one');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Shift"}))');
        $this->page->awaitText('[data-part=strip]', "Move stop order $stop from");
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('close') === [$rung - 2], 'the stop moved');
        self::assertCount(1, $this->trader->working());
    }

    public function testTakingAStopOffIsAskedFirst(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->await(fn(): bool => count($this->chips('stop')) === 2, 'the stops');
        $this->page->pointAt('[data-part=chip][data-role=stop] button');
        $this->page->press();
        $this->page->awaitText('[role=alertdialog]', 'leaves 1 lot unprotected');
        $this->page->find('[role=alertdialog] button:last-child')->click();
        $this->page->awaitText('[data-field=protected]', '1 of 2');
        self::assertSame(1, $this->page->count('[data-field=protected][data-alarm]'));
        $this->page->pointAt('[data-action=cover]');
        $this->page->press();
        $this->page->awaitText('[data-field=protected]', '2 of 2');
    }

    public function testAStopAndATargetAreTypedAtThePositionWithoutAPlan(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        $average = self::ticks($this->trader->position(self::CODE)['average_price']);
        $this->page->awaitText('[data-exit=stop-1]', 'no stop');
        $this->page->find('[data-exit=stop-1]')->click();
        $this->page->find('[data-part=exit-field] input')->sendKeys("8\u{E007}");
        $this->page->await(fn(): bool => $this->chips('stop') === [$average - 8], 'the stop');
        $this->page->find('[data-exit=target-1]')->click();
        $this->page->run('const unit = document.querySelector("[data-part=exit-field] select"); unit.value = "money"; unit.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->find('[data-part=exit-field] input')->sendKeys("40.00\u{E007}");
        $this->page->await(fn(): bool => $this->chips('target') === [$average + 8], 'the target, 40.00 for two lots');
        $this->page->find('[data-exit=stop-1]')->click();
        $this->page->find('[data-part=exit-field] input')->sendKeys("0.10\u{E007}");
        $this->page->awaitText('[data-field=said]', 'at least one tick');
    }

    /** `V` with another plan: the stop that has moved nearer stays, and what loosening it would cost is asked with the money. */
    public function testAPlanPutOnKeepsTheNearerStopAndAsksWithTheMoneyBeforeItIsLoosened(): void
    {
        $this->enter();
        $average = $this->buyTwo();
        $this->pushTo($average + 8);
        $this->page->await(fn(): bool => array_unique($this->chips('stop')) === [$average + 2], 'locked in');
        $this->page->run('[...document.querySelectorAll("[data-part=plans] button")].find((b) => b.textContent === "Wide berth").click()');
        $this->page->holdKey('v', 10);
        $this->page->awaitText('[role=alertdialog]', 'taking them there gives up');
        self::assertSame([$average + 2], array_values(array_unique($this->chips('stop'))));
        $this->page->find('[data-name=loosen]')->click();
        $stops = fn(): array => array_map(
            static fn(array $order): int => self::ticks($order['trigger']),
            array_filter($this->trader->working(), static fn(array $order): bool => $order['role'] === 'stop'),
        );
        $this->page->await(fn(): bool => $stops() !== [] && max($stops()) < $average, 'the plan\'s own stop, as it was asked for');
    }

    public function testAPlanWithoutAStopIsSaidQuietly(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => [
            'format' => 'lotrik.exit-plan/1', 'name' => 'No floor', 'stop' => null,
            'portions' => [['rest' => true, 'target' => ['ticks' => 12]]],
        ]]);
        $this->page->awaitText('[data-field=no-stop]', '1 without a stop, as the plan says');
        self::assertSame(0, $this->page->count('[data-field=alarm]'));
    }

    public function testEachEntryShowsItsOwnProfitAndTheLaneWhatItCountsFrom(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->trader->push(self::CODE, 4);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=entry-line]') === 2, 'two entries with their own profit');
        $position = $this->trader->position(self::CODE);
        $this->page->awaitText('[data-part=rung-heads]', "P/L from {$position['average_words']}");
        $shown = $this->page->run('return [...document.querySelectorAll("[data-part=entry-line] b:last-of-type")].map((b) => Number(b.textContent))');
        self::assertEqualsWithDelta((float) $position['open_money'], array_sum($shown), 0.001);
        self::assertNotSame($shown[0], $shown[1]);
        self::assertStringContainsString('counted from', (string) $this->page->find('[data-part=chip][data-role=stop]')->getAttribute('title'));
    }

    public function testTheStopsPathIsDrawnInTheColourOfExitsByDayAndByNight(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 5);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops at break-even');
        // Pixels of the canvas that are nearer to the exits' plum than to the ink.
        $plum = 'const c = document.querySelector("[data-part=picture]"); const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 200 && d[i + 2] > d[i + 1] + 60) n++; return n';
        foreach (['paper', 'night'] as $look) {
            while (! str_contains((string) $this->page->find('[data-action=theme]')->getAttribute('aria-description'), $look)) {
                $this->page->find('[data-action=theme]')->click();
            }
            $this->page->await(fn(): bool => $this->page->run($plum) > 10, "the path, $look");
        }
    }

    /** Two portions have a stop each: one that went alone left half of the position where it was. */
    public function testAllStopsAtOneRungGoInOneDragAndWithAltOneAlone(): void
    {
        $this->enter();
        $average = $this->buyTwo();
        $this->page->await(fn(): bool => $this->chips('stop') === [$average - 7, $average - 7], 'two stops at one rung');
        $at = fn(int $tick): string => self::lane($tick, 'sell').' [data-part=chip][data-role=stop]';
        $this->drag($at($average - 7), self::lane($average - 5, 'sell'));
        $this->page->await(fn(): bool => $this->chips('stop') === [$average - 5, $average - 5], 'both');
        $this->dragWith("\u{E00A}", $at($average - 5), self::lane($average - 4, 'sell'));
        $this->page->await(function () use ($average): bool {
            $stops = $this->chips('stop');
            sort($stops);

            return $stops === [$average - 5, $average - 4];
        }, 'one of them alone');
    }
}
