<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What the trader sets about the picture and the panels, and that it is kept. */
final class LooksTest extends PageCase
{
    public function testTheHeightOfARungAndEachSoundAreChosenAndKept(): void
    {
        $this->enter();
        $rungs = $this->page->count('.rung');
        $this->page->holdKey('s', 10);
        $this->page->find('.settings [role=tab]:nth-child(4)')->click();
        self::assertFalse($this->page->find('[data-name=sound-stop]')->isEnabled(), 'sounds are off until they are asked for');
        $this->page->find('.looks fieldset input')->click();
        $this->page->find('[data-name=sound-stop]')->click();
        self::assertSame('["stop"]', $this->page->run('return localStorage.getItem("lotrik.sounds.silent")'));
        $this->page->run('const s = document.querySelector("[data-name=letters]"); s.value = "1.2"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        self::assertSame('16.8px', $this->page->run('return getComputedStyle(document.body).fontSize'), 'larger letters at once');
        $this->page->run('const s = document.querySelector("[data-name=rung-height]"); s.value = "26"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector(".rung")?.offsetHeight') === 26, 'higher rungs');
        $this->page->awaitLive();
        self::assertSame('16.8px', $this->page->run('return getComputedStyle(document.body).fontSize'), 'and kept');
        self::assertLessThan($rungs, $this->page->count('.rung'));
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('.strip', 'Buy 2 limit '.self::price($tick));
    }

    public function testTheInkOfTheHistoryIsMeasuredAsTheTraderSays(): void
    {
        $this->trader->steps(self::CODE, 3000);
        $this->enter();
        $ink = fn(): int => $this->page->run('const c = document.querySelector("canvas.picture"); const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; let n = 0; for (let i = 3; i < d.length; i += 4) if (d[i] > 0) n++; return n');
        $this->page->await(fn(): bool => $ink() > 500, 'the history');
        $before = $ink();
        $this->page->find('[data-action=history-scale]')->click();
        $this->page->await(fn(): bool => $this->page->count('.popover') === 1, 'its settings');
        $this->page->find('.popover input[type=checkbox]')->click();
        $set = fn(int $nth, int $value): mixed => $this->page->run(
            'const i = document.querySelectorAll(".popover input[type=number]")[arguments[0]]; Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(i, arguments[1]); i.dispatchEvent(new Event("input", {bubbles: true}))',
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
        $this->page->find('.hints button')->click();
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
        [$x, $y] = $this->page->middle('.bars-lane.buy');
        $this->page->mouse([['type' => 'pointerMove', 'duration' => 0, 'x' => (int) $x, 'y' => (int) $y]]);
        $this->page->await(fn(): bool => $this->page->count('.bars-field[data-settled=true]') === 1, 'the scale to stand');
        $this->page->press();
        self::assertSame([], $this->trader->working(), 'lots and plan are those of the ladder in front: nothing is sent from here');
        $choose('[data-field=pinned]', '');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of DULH7"]') === 1, 'the ladder followed again');
        foreach (['trades', 'volume', 'range'] as $by) {
            $choose('[aria-label="What ends a bar"]', $by);
            $this->page->await(
                fn(): bool => str_starts_with(
                    $this->page->run('return document.querySelector(".bars-field canvas").getAttribute("aria-label")'),
                    '0 bars',
                ) === false,
                "bars by $by",
            );
        }
    }

    public function testFewerRungsAreHigherOnes(): void
    {
        $this->enter(false);
        $rungs = $this->page->count('.rung');
        $room = $this->page->run('return document.querySelector(".rungs").clientHeight');
        $this->page->holdKey('s', 10);
        $this->page->await(fn(): bool => $this->page->count('dialog.settings[open]') === 1, 'the settings');
        $this->page->find('.settings [role=tab]:nth-child(4)')->click();
        $ask = fn(int $wanted): mixed => $this->page->run(
            'const i = document.querySelector("[data-name=rungs-shown]"); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(i, arguments[0]); i.dispatchEvent(new Event("input", {bubbles: true}))',
            (string) $wanted,
        );
        $this->page->await(fn(): bool => $this->page->count('[data-name=rungs-shown]') === 1, 'how many rungs are shown');
        self::assertSame($rungs, (int) $this->page->run('return document.querySelector("[data-name=rungs-shown]").value'));
        $ask(3);
        $this->page->await(fn(): bool => $this->page->count('.looks form button:disabled') === 1, 'three would be too high');
        $ask(20);
        $height = intdiv($room, 20);
        $this->page->awaitText('.looks form button', 'Show '.intdiv($room, $height).", $height pixels each");
        $this->page->find('.looks form button')->click();
        $this->page->await(
            fn(): bool => $this->page->count('.rung') === intdiv($room, $height)
                && $this->page->run('return document.querySelector(".rung").offsetHeight') === $height,
            'twenty rungs',
            20,
        );
    }

    public function testTheLargestLettersCutOffNeitherMoneyNorOneClick(): void
    {
        $this->enter(false);
        $this->page
            ->open('/api/openapi.json')->run('localStorage.setItem("lotrik.letters", "1.2"); localStorage.removeItem("lotrik.dock")');
        $this->page->open('/')->awaitLive();
        $this->page->find('.hints button')->click();
        $cut = fn(): array => $this->page->run('const right = (e) => e.getBoundingClientRect().right; return [...document.querySelectorAll(".top-bar .figure, .top-bar .feed, [data-action=one-click], .top-bar form, .lists-tools button")].filter((e) => right(e) > innerWidth + 1).map((e) => e.textContent)');
        self::assertSame([], $cut());
        // The last contract is scrolled into sight when it is chosen.
        $this->page->holdKey(',', 10);
        $this->page->await(
            fn(): bool => (bool) $this->page->run('const t = document.querySelector(".contract-tab[data-state=on]").getBoundingClientRect(); const all = document.querySelector(".contract-tabs").getBoundingClientRect(); return t.right <= all.right + 1 && t.left >= all.left - 1'),
            'the chosen contract whole',
        );
    }
}
