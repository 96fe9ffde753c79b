<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverKeys;

/** What the trader sets about the picture and the panels, and that it is kept. */
final class LooksTest extends PageCase
{
    public function testTheHeightOfARungAndEachSoundAreChosenAndKept(): void
    {
        $this->enter();
        $rungs = $this->page->count('[data-part=rung]');
        $this->page->holdKey('s', 10);
        $this->page->find('[data-field=settings] [role=tab]:nth-child(4)')->click();
        self::assertFalse($this->page->find('[data-name=sound-stop]')->isEnabled(), 'sounds are off until they are asked for');
        $this->page->find('[data-name=sounds]')->click();
        $this->page->find('[data-name=sound-stop]')->click();
        self::assertSame(['stop'], $this->page->run('return JSON.parse(localStorage.getItem("lotrik.sounds")).state.silent'));
        $this->page->run('const s = document.querySelector("[data-name=letters]"); s.value = "1.2"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        self::assertSame('16.8px', $this->page->run('return getComputedStyle(document.body).fontSize'), 'larger letters at once');
        $this->page->run('const s = document.querySelector("[data-name=rung-height]"); s.value = "26"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector("[data-part=rung]")?.offsetHeight') === 26, 'higher rungs');
        $this->page->awaitLive();
        self::assertSame('16.8px', $this->page->run('return getComputedStyle(document.body).fontSize'), 'and kept');
        self::assertLessThan($rungs, $this->page->count('[data-part=rung]'));
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
    }

    public function testProfitIsCountedInTicksPercentOfTheMarginAndRToo(): void
    {
        $this->enter(false);
        $unit = fn(string $unit): mixed => $this->page->run(
            'const s = document.querySelector("select[data-field=pnl-unit]"); s.value = arguments[0]; s.dispatchEvent(new Event("change", {bubbles: true}))',
            $unit,
        );
        $at = fn(int $tick): string => $this->page->text("[data-part=rung][data-tick='$tick'] [data-part=pnl]");
        // While flat a draft says what it would bring; the pointer has gone elsewhere.
        $draft = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($draft, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2');
        $this->awaitSettled();
        $this->page->press();
        $this->page->pointAt('[data-part=headline]');
        $this->page->await(fn(): bool => str_contains($at($draft + 8), '+40.00'), 'the draft in money');
        $unit('ticks');
        $this->page->await(fn(): bool => str_contains($at($draft + 8), '+8') && ! str_contains($at($draft + 8), '.'), 'the draft in ticks a lot');
        $this->page->holdKey(WebDriverKeys::ESCAPE, 10);
        $this->page->await(fn(): bool => ! str_contains($at($draft + 8), '+8'), 'nothing once it is dropped');

        $order = $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1])->body;
        $entry = self::ticks($order['average_price']);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->await(fn(): bool => str_contains($at($entry - 3), '-3'), 'ticks from the average');
        $unit('percent');
        // 3 ticks of 2.50 with a margin of 205.00 a lot.
        $this->page->await(fn(): bool => str_contains($at($entry - 3), '-3.7 %'), 'percent of the margin');
        // Short tide's stop lies 7 ticks away: sold at the bid now it loses some sevenths of that.
        $position = $this->trader->position(self::CODE);
        self::assertSame('35.00', $position['risk_at_entry']);
        $this->page->awaitText('[data-field=open-words]', $position['open_words']['ticks'].' · '.$position['open_words']['r']);
        $this->page->tab('Positions');
        $this->page->awaitText('[data-part=list] [data-part=live-row]', $position['open_words']['percent']);
    }

    /** Of another build, edited by hand, or cut off as the machine went down: it is as if it had never been chosen, and the rest stands. */
    public function testNothingThatTheBrowserKeptBlanksThePage(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $kept = $this->page->run('return Object.keys(localStorage)');
        self::assertContains('lotrik.hints', $kept);
        $all = [...$kept, ...array_map(
            static fn(string $name): string => "lotrik.$name",
            ['bars', 'chosen', 'dock', 'history', 'ladders', 'letters', 'levels', 'lists', 'pinned', 'recent-contracts', 'rung-height', 'rungs', 'sounds', 'tape', 'theme'],
        )];
        foreach (['{', 'null', '7', '[]', '{"state":null,"version":1}', '{"state":[1],"version":"x"}'] as $bad) {
            $this->page->open('/window')->run('for (const name of arguments[0]) localStorage.setItem(name, arguments[1])', $all, $bad);
            $this->page->open('/')->awaitLive();
            $this->page->await(fn(): bool => $this->page->count('[data-part=rung] [data-lane=buy]') > 10, "the ladder after $bad");
        }
        $mixed = ['by' => 'moon', 'size' => 30, 'width' => 1e9];
        $this->page->open('/window')->run('localStorage.setItem("lotrik.bars", JSON.stringify({state: arguments[0], version: 99}))', $mixed);
        $this->page->open('/')->awaitLive();
        $this->page->tab('Bars');
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field] canvas') === 1, 'the bars');
        self::assertSame(['time', '30'], $this->page->run(
            'return ["What ends a bar", "Size of a bar"].map((name) => document.querySelector(`[aria-label="${name}"]`).value)',
        ));
        self::assertSame([], $this->page->complaints());
    }

    public function testTheInkOfTheHistoryIsMeasuredAsTheTraderSays(): void
    {
        $this->trader->steps(self::CODE, 3000);
        $this->enter();
        $ink = fn(): int => $this->page->run('const c = document.querySelector("canvas[data-part=picture]"); const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i = 3; i < d.length; i += 4) if (d[i] > 0) n++; return n');
        $this->page->await(fn(): bool => $ink() > 500, 'the history');
        $before = $ink();
        $this->page->find('[data-action=history-scale]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=popover]') === 1, 'its settings');
        $this->page->find('[data-part=popover] [role=checkbox]')->click();
        $set = fn(int $nth, int $value): mixed => $this->page->run(
            'const i = document.querySelectorAll("[data-part=popover] input[type=number]")[arguments[0]]; Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(i, arguments[1]); i.dispatchEvent(new Event("input", {bubbles: true}))',
            $nth,
            (string) $value,
        );
        $set(0, 5);
        $this->page->await(fn(): bool => $ink() > 1.5 * $before, 'a full row is five lots: more ink');
        $set(1, 500);
        $this->page->await(fn(): bool => $ink() < $before / 2, 'what is less than five hundred is left out');
        $this->page->open('/')->awaitLive();
        $this->page->awaitText('[data-action=history-scale]', 'Depth scale 5');
    }

    public function testBarsStayWithAContractWhileTheLadderGoesOn(): void
    {
        $this->trader->steps(self::CODE, 1500);
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Bars');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of DULZ6"]') === 1, 'the bars of the ladder');
        self::assertStringContainsString('follows the ladder: DULZ6', $this->page->text('[data-field=pinned]'));
        $choose = fn(string $css, string $value): mixed => $this->page->run(
            'const s = document.querySelector(arguments[0]); s.value = arguments[1]; s.dispatchEvent(new Event("change", {bubbles: true}))',
            $css,
            $value,
        );
        $choose('[data-field=pinned]', 'DULZ6');
        $this->page->holdKey('.', 10);
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Ladder DULH7"]') === 1, 'another contract on the ladder');
        self::assertSame(1, $this->page->count('[aria-label="Bars of DULZ6"]'));
        [$x, $y] = $this->page->middle('[data-part=bars-lane][data-side=buy]');
        $this->page->mouse([['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x, 'y' => (int) $y]]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field][data-settled=true]') === 1, 'the scale to stand');
        $this->page->press();
        self::assertSame([], $this->trader->working(), 'lots and plan are those of the ladder in front: nothing is sent from here');
        $choose('[data-field=pinned]', '');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of DULH7"]') === 1, 'the ladder followed again');
        foreach (['trades', 'volume', 'range'] as $by) {
            $choose('[aria-label="What ends a bar"]', $by);
            $this->page->await(
                fn(): bool => str_starts_with(
                    $this->page->run('return document.querySelector("[data-part=bars-field] canvas").getAttribute("aria-label")'),
                    '0 bars',
                ) === false,
                "bars by $by",
            );
        }
    }

    public function testFewerRungsAreHigherOnes(): void
    {
        $this->enter(false);
        $rungs = $this->page->count('[data-part=rung]');
        $room = $this->page->run('return document.querySelector("[data-part=rungs]").clientHeight');
        $this->page->holdKey('s', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal][data-field=settings]') === 1, 'the settings');
        $this->page->find('[data-field=settings] [role=tab]:nth-child(4)')->click();
        $ask = fn(int $wanted): mixed => $this->page->run(
            'const i = document.querySelector("[data-name=rungs-shown]"); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(i, arguments[0]); i.dispatchEvent(new Event("input", {bubbles: true}))',
            (string) $wanted,
        );
        $this->page->await(fn(): bool => $this->page->count('[data-name=rungs-shown]') === 1, 'how many rungs are shown');
        self::assertSame($rungs, (int) $this->page->run('return document.querySelector("[data-name=rungs-shown]").value'));
        $ask(3);
        $this->page->await(fn(): bool => $this->page->count('[data-part=looks] form button:disabled') === 1, 'three would be too high');
        $ask(20);
        $height = intdiv($room, 20);
        $this->page->awaitText('[data-part=looks] form button', 'Show '.intdiv($room, $height).", $height pixels each");
        $this->page->find('[data-part=looks] form button')->click();
        $this->page->await(
            fn(): bool => $this->page->count('[data-part=rung]') === intdiv($room, $height)
                && $this->page->run('return document.querySelector("[data-part=rung]").offsetHeight') === $height,
            'twenty rungs',
            20,
        );
    }

    public function testTheLargestLettersCutOffNeitherMoneyNorOneClick(): void
    {
        $this->enter(false);
        $this->page
            ->open('/api/openapi.json')->run('localStorage.setItem("lotrik.letters", JSON.stringify({state: {size: "1.2"}, version: 1})); localStorage.removeItem("lotrik.dock")');
        $this->page->open('/')->awaitLive();
        $this->page->find('[data-part=hints] button')->click();
        $cut = fn(): array => $this->page->run('const right = (e) => e.getBoundingClientRect().right; return [...document.querySelectorAll("[data-part=top-bar] [data-part=figure], [data-part=top-bar] [data-part=feed], [data-action=one-click], [data-part=top-bar] form, [data-part=lists-tools] button")].filter((e) => right(e) > innerWidth + 1).map((e) => e.textContent)');
        self::assertSame([], $cut());
        // The last contract is scrolled into sight when it is chosen.
        $this->page->holdKey(',', 10);
        $this->page->await(
            fn(): bool => (bool) $this->page->run('const t = document.querySelector("[data-part=contract-tab][data-state=on]").getBoundingClientRect(); const all = document.querySelector("[data-part=contract-tabs]").getBoundingClientRect(); return t.right <= all.right + 1 && t.left >= all.left - 1'),
            'the chosen contract whole',
        );
    }
}
