<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Tests\Support\Trader;

/** Depth history, tape, marked levels, bars and the list of contracts, on the page. */
final class WatchingTest extends PageCase
{
    private function steps(int $steps): void
    {
        $this->trader->steps(self::CODE, $steps);
    }

    /** Pixels that are not empty in the depth history, left and right half. @return array{int, int} */
    private function ink(): array
    {
        return $this->page->run('const c = document.querySelector("canvas[data-part=picture]"); const w = c.width >> 1; const count = (x) => { const d = c.getContext("2d").getImageData(x, 0, w, c.height).data; let n = 0; for (let i = 3; i < d.length; i += 4) if (d[i] > 0) n++; return n; }; return [count(0), count(w)]');
    }

    private function pointAtHistory(float $across, float $down): void
    {
        [$x, $y, $width, $height] = $this->page->run('const b = document.querySelector("canvas[data-part=picture]").getBoundingClientRect(); return [b.x, b.y, b.width, b.height]');
        $this->page->mouse([[
            'type' => 'pointerMove', 'duration' => 0, 'x' => (int) ($x + $across * $width), 'y' => (int) ($y + $down * $height),
        ]]);
    }

    /** Drags the edge between the ladder and the lists. */
    private function makeListsHigher(int $by): void
    {
        [$x, $y] = $this->page->run('const b = document.querySelector("[data-tab=working]").closest(".dv-groupview").getBoundingClientRect(); return [b.x + b.width / 2, b.y]');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x, 'y' => (int) $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 50, 'x' => (int) $x, 'y' => (int) $y - $by], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-tab=working]").closest(".dv-groupview").getBoundingClientRect().height') > $by,
            'higher lists',
        );
    }

    public function testAPageOpenedLateShowsTheDepthHistoryAndScrollsBackInIt(): void
    {
        $this->steps(4000);
        $this->enter();
        foreach (['1 min', '30 s', '10 s'] as $span) {
            $this->page->run('document.querySelector("[aria-label=\'Less time\']").click()');
            $this->page->awaitText('[data-field=span]', $span);
        }
        $this->steps(25);
        $this->page->await(fn(): bool => min($this->ink()) > 300, 'history over the whole width');
        // A jump of the market is more than the stream can tell: what is missing is asked for.
        $this->steps(1500);
        $this->page->await(fn(): bool => min($this->ink()) > 300, 'history over the whole width after a jump');
        $this->pointAtHistory(0.9, 0.5);
        $this->page->await(
            fn(): bool => preg_match('/^\d+\.\d\d · \d\d:\d\d:\d\d\n\d+ resting/', $this->page->text('[data-field=there]')) === 1,
            'price, time and lots there',
        );
        $resting = $this->page->text('[data-field=there]');
        $this->steps(200);
        $this->page->await(
            fn(): bool => preg_replace(
                '/.* · ([\d:]{8}).*/s',
                '$1',
                $this->page->text('[data-field=there]'),
            ) > preg_replace('/.* · ([\d:]{8}).*/s', '$1', $resting),
            'what lies below the resting pointer two seconds later',
        );
        $now = $this->page->text('[data-field=there]');
        [$x, $y, $width] = $this->page->run('const b = document.querySelector("canvas[data-part=picture]").getBoundingClientRect(); return [b.x, b.y, b.width]');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x + 20, 'y' => (int) $y + 200],
            ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 30, 'x' => (int) ($x + 0.8 * $width), 'y' => (int) $y + 200],
            ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->awaitText('[data-part=history-head]', 'back · to now');
        $this->page->await(fn(): bool => min($this->ink()) > 300, 'what the engine remembers');
        $this->pointAtHistory(0.9, 0.5);
        $this->page->await(fn(): bool => $this->page->text('[data-field=there]') !== $now, 'an earlier time');
        $this->page->find('[data-action=now]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-action=now]') === 0, 'the present');
    }

    public function testWhatAContractToldBeforeItCameOnTheLadderIsDrawnThoughItsMarketStands(): void
    {
        $tools = new ChromeDevToolsDriver($this->page->driver);
        $kept = $tools->execute(
            'Page.addScriptToEvaluateOnNewDocument',
            ['source' => 'const add = EventSource.prototype.addEventListener; EventSource.prototype.addEventListener = function (name, handler, options) { if (name === "book") window.tellBook = handler; return add.call(this, name, handler, options); };'],
        );
        try {
            $this->enter(false);
            $ask = $this->trader->call('GET', 'contracts/DULH7/book')->body['asks'][3][0];
            // Both in one go, so that nothing is drawn in between.
            $this->page->run(
                'window.tellBook({data: JSON.stringify({contract: "DULH7", bids: [], asks: [[arguments[0], 4321, 9]]})}); window.dispatchEvent(new KeyboardEvent("keydown", {key: ".", code: "Period", bubbles: true}))',
                self::ticks($ask),
            );
            $this->page->await(fn(): bool => $this->page->count('[aria-label="Ladder DULH7"]') === 1, 'the other contract');
            $this->page->await(
                fn(): bool => $this->page->text("[data-part=rung][data-tick='".self::ticks($ask)."'] [data-part=depth] span") === '4321',
                'what it told last',
            );
        } finally {
            $tools->execute('Page.removeScriptToEvaluateOnNewDocument', ['identifier' => $kept['identifier']]);
        }
    }

    public function testThePathOfAStopStaysToBeSeenWhenItIsOver(): void
    {
        $this->enter();
        // Far enough away that the market does not come there within these steps, and near enough to be on the rungs.
        $wide = ['name' => 'Wide', 'stop' => ['ticks' => 12], 'portions' => [['rest' => true, 'target' => null]]];
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => $wide]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $entry = self::ticks($this->trader->position(self::CODE)['average_price']);
        $this->steps(700);
        // Wherever the market and its middle have gone meanwhile: the stop stands on the rungs again, or at their edge.
        $this->pushTo($entry);
        $this->page->holdKey(' ', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=stop], [data-part=edge-chip]') === 1, 'the stop');
        if ($this->chips('stop') === []) {
            $this->page->find('[data-part=edge-chip]')->click();
        }
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 12], 'the stop on its rung');
        // Pixels in the colour of exits, between the newest columns and the left edge.
        $plum = fn(): int => $this->page->run('const c = document.querySelector("canvas[data-part=picture]"); const [r, g, b] = getComputedStyle(c).borderTopColor.match(/\d+/g).map(Number); const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i = 0; i < d.length; i += 4) if (d[i + 3] > 200 && Math.abs(d[i] - r) + Math.abs(d[i + 1] - g) + Math.abs(d[i + 2] - b) < 12) n++; return n');
        $this->page->await(fn(): bool => $plum() > 5, 'the path of the stops');
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame([], $this->trader->working());
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=stop]') === 0 && $plum() > 5, 'the path that they took');
        $this->page->open('/')->awaitLive();
        $this->page->await(fn(): bool => $plum() > 5, 'also for a page that opens later');
    }

    public function testTheLadderShowsTheDaysPricesAndSums(): void
    {
        $this->enter();
        // Under the pointer the ladder would not follow; and wherever the market has been today, it comes to a new high.
        $this->page->pointAt('[data-part=headline]');
        $pushed = 0;
        $this->page->await(function () use (&$pushed): bool {
            $this->page->awaitSequence($this->trader->push(self::CODE, 4)->body['sequence']);
            $pushed += 4;

            return str_contains($this->page->text('[data-part=rungs]'), 'high');
        }, 'the day at its rungs');
        $this->trader->push(self::CODE, -$pushed);
        $this->page->await(
            fn(): bool => (int) $this->page->text('[data-field=bids]') > 0 && str_ends_with(
                $this->page->text('[data-field=imbalance]'),
                '%',
            ),
            'the sums',
        );
    }

    public function testALevelIsMarkedWithOneGestureAndGivesTheNextStop(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        [$x, $y] = $this->page->middle("[data-part=rung][data-tick='".($entry - 4)."'] [data-part=depth]");
        [, $y2] = $this->page->middle("[data-part=rung][data-tick='".($entry - 3)."'] [data-part=depth]");
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x - 120, 'y' => (int) $y], ['type' => 'pointerDown', 'button' => 2],
            ['type' => 'pointerMove', 'duration' => 30, 'x' => (int) $x - 120, 'y' => (int) $y2], ['type' => 'pointerUp', 'button' => 2],
        ]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder] [data-part=level-band]') === 1, 'the band');
        $level = $this->trader->call('GET', 'levels')->body['items'][0];
        self::assertSame([$entry - 4, $entry - 3], [$level['low_level'], $level['high_level']]);
        self::assertSame([$entry - 7, $entry - 7], $this->chips('stop'), 'marking moved nothing');
        $this->page->tab('Levels');
        $this->page->await(fn(): bool => $this->page->count('[data-part=list] [data-part=live-row]') === 1, 'the list');
        $this->page->run('[...document.querySelectorAll("[data-part=list] [data-part=live-row] button")].find((b) => b.textContent === "stop behind").click()');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 5, $entry - 5], 'the stops one tick behind it');
        $this->page->run('[...document.querySelectorAll("[data-part=list] [data-part=live-row] button")].find((b) => b.textContent === "delete").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-part=level-band]') === 0, 'no band');
    }

    public function testAnOrderIsPlacedAndDraggedOnTheBars(): void
    {
        $this->steps(3000);
        // So that there is room below the market wherever it has gone.
        $this->trader->push(self::CODE, 14);
        // The cards keep the room that they need: the bars have theirs in a higher window.
        $this->page->size(1280, 1000);
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->makeListsHigher(270);
        $this->page->tab('Bars');
        $this->page->run('const s = document.querySelector("[aria-label=\'What ends a bar\']"); s.value = "range"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        // Few bars lie close together, so that their prices lie far enough apart for one click.
        $this->page->run('for (const _ of [1, 2, 3]) document.querySelector("[data-part=bars-field]").dispatchEvent(new WheelEvent("wheel", {deltaY: -100, bubbles: true}))');
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-last]') === 1, 'the bars');
        $this->page->await(
            fn(): bool => $this->page->run('const c = document.querySelector("[data-part=bars-field] canvas"); const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; let ink = 0; let black = 0; for (let i = 0; i < d.length; i += 4) if (d[i + 3] === 255) d[i] + d[i + 1] + d[i + 2] === 0 ? black++ : ink++; return ink > 100 && black === 0'),
            'the bars in the colours of the look',
        );
        [$x, $y] = $this->page->run('const l = document.querySelector("[data-part=bars-lane][data-side=buy]").getBoundingClientRect(); const p = document.querySelector("[data-part=bars-last]").getBoundingClientRect(); return [l.x + l.width / 2, p.y + p.height / 2]');
        $this->page->mouse([['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x, 'y' => (int) $y + 24]]);
        $this->page->awaitText('[data-field=bar]', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field][data-settled=true]') === 1, 'the scale to stand');
        $said = $this->page->text('[data-field=bar]');
        $this->page->press();
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $order = $this->trader->working()[0];
        self::assertStringStartsWith("Buy 2 limit {$order['price']} ", $said, 'what was said is what was sent');
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field] [data-part=chip][data-order]') === 1, 'its chip');
        [$x, $y] = $this->page->middle('[data-part=bars-field] [data-part=chip][data-order] b');
        $pull = fn(int $by): null => $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y + 6], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 50, 'x' => $x, 'y' => $y + 6 + $by], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $pull(2);
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field] [data-part=chip][data-chosen]') === 1, 'it to be chosen');
        $pull(20);
        $this->page->await(
            fn(): bool => self::ticks($this->trader->working()[0]['price']) < self::ticks($order['price']),
            'the order further down',
        );
        $moves = array_filter(
            $this->trader->call('GET', "journal?account={$this->trader->account}")->body['items'],
            static fn(array $row): bool => $row['type'] === 'replace-requested',
        );
        self::assertCount(1, $moves, 'a press beside the middle of a chip, by an unsteady hand, moved nothing');
    }

    public function testTheTapeJoinsPrintsOfOneMomentAndMarksOnesOwn(): void
    {
        $this->steps(500);
        $this->enter();
        $this->page->tab('Tape');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        $this->page->await(
            fn(): bool => $this->page->run('return [...document.querySelectorAll("[aria-label=\'Tape of DULZ6\'] [role=gridcell]")].some((cell) => cell.textContent === "own")'),
            'the own fill marked',
        );
        $this->page->await(
            fn(): bool => $this->page->count('[aria-label="Tape of DULZ6"] [data-part=live-row]') > 3,
            'what traded before the page was opened',
        );
    }

    public function testAWordIsSaidWhenTheMarketComesNearALevelAndTheNextOrdersStopGoesBehindIt(): void
    {
        $this->enter();
        $last = $this->last();
        $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last + 9), 'name' => 'lid']);
        $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last - 6), 'name' => 'floor']);
        $this->page->open('/')->awaitLive();
        $this->page->tab('Levels');
        $this->page->await(fn(): bool => $this->page->count('[data-part=list] [data-part=live-row]') === 2, 'both levels');
        self::assertStringContainsString('−6', $this->page->text('[data-part=list] [data-part=live-row]'), 'the nearer one first');
        $this->page->run('[...document.querySelector("[data-part=list] [data-part=live-row]").querySelectorAll("button")].find((b) => b.textContent === "stop behind").click()');
        $this->page->awaitText('[data-field=said]', 'Next order only: stop');
        $ticks = (int) preg_replace('/.*stop (\d+) ticks.*/s', '$1', $this->page->text('[data-field=said]'));
        self::assertSame($this->quote('asks') - ($last - 7), $ticks, 'from the ask to one tick behind the level');
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-part=list] [data-part=live-row]:nth-child(2), [data-part=list] [data-part=live-row]") !== null'),
            'the list',
        );
        $this->trader->push(self::CODE, 7);
        $this->page->awaitText('[data-field=said]', 'is approaching lid');
    }

    public function testOnlyAnArmedRowOfTheContractsTakesOrders(): void
    {
        $this->setEntry(['double_press_ms' => 2000]);
        $this->enter();
        $this->page->tab('Contracts');
        $this->page->await(fn(): bool => $this->page->count('[data-arm=DULH7]') === 1, 'the row');
        self::assertSame(0, $this->page->count('[data-quote]'));
        $this->page->run('document.querySelector("[data-arm=DULH7]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-quote]') === 2, 'its bid and its ask');
        $press = 'const press = () => { const buy = [...document.querySelectorAll("[data-quote]")].find((b) => b.textContent.startsWith("buy")); for (const type of ["pointerdown", "pointerup"]) buy.dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0})); };';

        $this->page->await(function () use ($press): bool {
            $this->page->run($press.'press()');

            return $this->page->count('[aria-label="Ladder DULH7"]') === 1;
        }, 'the rows to stand, and the contract on the ladder');
        $this->page->await(fn(): bool => ($this->trader->position('DULH7')['quantity'] ?? 0) === 2, 'bought at the ask');
        // Two at once: on a slow machine the first of them is no second press any more.
        $this->page->run($press.'press(); press()');
        $this->page->awaitText('[data-field=said]', 'A second press within 2000 ms was dropped');
        $this->page->await(fn(): bool => (int) $this->page->run('return document.querySelectorAll("[data-field=unheard]").length') === 0, 'nothing on its way');
        $lots = $this->trader->position('DULH7')['quantity'];
        self::assertContains($lots, [2, 4]);
        $this->page->driver->executeAsyncScript($press.'const done = arguments[0]; [...document.querySelectorAll("[data-part=contract-list] [role=columnheader] button")].find((b) => b.textContent.startsWith("Contract")).click(); requestAnimationFrame(() => { press(); done(); })');
        $this->page->awaitText('[data-field=said]', 'the rows just moved');
        self::assertSame($lots, $this->trader->position('DULH7')['quantity']);
    }

    public function testSeveralTicksARungMergeTheMarketAndAPressOpensTheExactPrices(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 6;
        foreach ([$tick, $tick - 1] as $at) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($at),
            ]);
        }
        $this->page->await(fn(): bool => count($this->chips('entry')) === 2, 'both orders');
        $zoom = fn(int $ticks): mixed => $this->page->run(
            'const s = document.querySelector("[aria-label=\'Ticks a rung\']"); s.value = arguments[0]; s.dispatchEvent(new Event("change", {bubbles: true}))',
            (string) $ticks,
        );
        $zoom(10);
        $this->page->await(
            fn(): bool => array_unique(array_map(
                static fn(int $t): int => $t % 10,
                $this->page->run('return [...document.querySelectorAll("[data-part=rung]")].map((r) => Number(r.dataset.tick))'),
            )) === [0],
            'rungs of ten ticks',
        );
        self::assertCount(2, $this->chips('entry'), 'own orders are all there');
        $rung = intdiv($tick - 20, 10) * 10;
        $lots = array_sum(array_map(
            static fn(array $l): int => self::ticks($l[0]) >= $rung && self::ticks($l[0]) < $rung + 10 ? $l[1] : 0,
            $this->trader->call('GET', 'contracts/'.self::CODE.'/book?levels=1000')->body['bids'],
        ));
        self::assertSame($lots, (int) $this->page->text("[data-part=rung][data-tick='$rung'] [data-part=depth] span"));
        $this->page->pointAt(self::lane($rung, 'buy'));
        $this->page->press();
        $this->page->await(
            fn(): bool => in_array(
                $rung + 1,
                $this->page->run('return [...document.querySelectorAll("[data-part=rung]")].map((r) => Number(r.dataset.tick))'),
                true,
            ),
            'the exact prices',
        );
        self::assertCount(2, $this->trader->working(), 'the press placed nothing');
        self::assertSame(0, $this->page->count('[data-part=chip][data-role=draft]'));
    }

    public function testFillsOfAnotherProgramAreBroughtInAndMarkedApart(): void
    {
        $this->trader->steps(self::CODE, 500);
        $this->enter();
        $this->page->await(
            fn(): bool => str_contains($this->page->run('return document.querySelector("[data-part=picture]").ariaLabel'), '3 min'),
            'the depth history',
        );
        $at = $this->trader->call('GET', 'contracts/'.self::CODE.'/tape?most=200')->body['items'];
        $time = (new \DateTimeImmutable('@'.intdiv(end($at)['at'], 1000)))->format('Y-m-d\TH:i:s\Z');
        $file = $this->desk->data.'/fills.csv';
        $bring = function (string $row) use ($file): void {
            file_put_contents($file, "time,contract,side,quantity,price\n$row\n");
            $this->page->find('[data-name=import-fills]')->sendKeys($file);
        };
        $drawn = fn(): string => $this->page->run('return document.querySelector("[data-part=picture]").toDataURL()');
        $mark = fn(string $which): mixed => $this->page->run(
            'const s = [...document.querySelectorAll("[data-part=popover] select")].find((s) => s.textContent.includes("squares")); s.value = arguments[0]; s.dispatchEvent(new Event("change", {bubbles: true}))',
            $which,
        );
        $this->page->find('[data-action=history-scale]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-name=import-fills]') === 1, 'where fills are brought in');
        // The clock stands, but the newest column may still be on its way: the picture is there once it stays as it is.
        $before = '';
        $same = 0;
        $this->page->await(function () use (&$before, &$same, $drawn): bool {
            $now = $drawn();
            $same = $now === $before ? $same + 1 : 0;
            $before = $now;

            return $same === 8;
        }, 'the picture to stand');
        $bring("$time,DULZ6,buy,1,412.30");
        $this->page->awaitText('[data-field=said]', 'line 2: found price "412.30"');
        $bring("$time,DULZ6,buy,1,".self::price($this->last()));
        $this->page->awaitText('[data-field=said]', '1 fills taken from fills.csv');
        $this->page->await(fn(): bool => $drawn() !== $before, 'its mark');
        $marked = $drawn();
        foreach (['none' => $before, 'imported' => $marked, 'hand' => $before] as $which => $picture) {
            $mark($which);
            $this->page->await(fn(): bool => $drawn() === $picture, "the picture with $which");
        }
        $mark('all');
        $this->page->find('[data-action=forget-fills]')->click();
        $this->page->await(fn(): bool => $drawn() === $before, 'the mark taken away');
    }

    public function testAContractIsFoundAndPutOnTheLadder(): void
    {
        $this->enter();
        $this->page->tab('Contracts');
        $this->page->find('[data-part=contract-list] input')->sendKeys('honey');
        $this->page->await(fn(): bool => $this->page->count('[data-part=contract-list] [data-part=live-row]') === 1, 'the one that is called so');
        $code = $this->page->text('[data-part=contract-list] [role=gridcell]');
        self::assertStringStartsWith('HNY', $code);
        $this->page->run('document.querySelector("[data-part=contract-list] [data-part=live-row]").dispatchEvent(new MouseEvent("dblclick", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->page->count("[aria-label='Ladder $code']") === 1, 'its ladder');
    }
}
