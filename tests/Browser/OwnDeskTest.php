<?php

declare(strict_types=1);

namespace Tests\Browser;

/** A desk of one's own: several ladders, panels that are moved and hidden, layouts, a second window. */
final class OwnDeskTest extends PageCase
{
    private function addLadder(): void
    {
        $before = $this->page->count('[data-part=ladder-slot]');
        $this->page->run('document.querySelector("[data-action=add-ladder]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === $before + 1, 'one ladder more');
    }

    private function slot(int $nth): string
    {
        return "[data-part=ladder-slot][data-ladder='$nth']";
    }

    /** Points at the rung of a ladder some ticks below its touch, in its buy lane, until its ghost speaks. @return int the tick */
    private function pointAtLadder(int $nth, int $below = 5): int
    {
        $this->page->await(fn(): bool => $this->page->count($this->slot($nth).' [data-part=rung][data-touch]') === 1, 'its touch');
        $tick = (int) $this->page->run(
            'return document.querySelector(arguments[0]).dataset.tick',
            $this->slot($nth).' [data-part=rung][data-touch]',
        ) - $below;
        $this->page->pointAt($this->slot($nth)." [data-part=rung][data-tick='$tick'] [data-lane=buy]");
        $this->page->await(fn(): bool => str_starts_with($this->page->text($this->slot($nth).' [data-part=strip]'), 'Buy'), 'its ghost');
        $this->page->await(fn(): bool => $this->page->count($this->slot($nth).' [data-part=rungs][data-settled=true]') === 1, 'its rungs to stand');

        return $tick;
    }

    public function testEachLadderHasItsOwnContractLotsPlanAndOneClick(): void
    {
        $this->enter();
        $this->addLadder();
        self::assertStringContainsString(
            'DULH7',
            (string) $this->page->run('return document.querySelector(arguments[0]).value', $this->slot(2).' select'),
        );
        self::assertStringContainsString(
            '2 lots · Short tide · one-click off',
            $this->page->text($this->slot(2)),
            'a new ladder makes drafts first',
        );
        $this->page->holdKey('3', 10);
        $this->page->holdKey('n', 10);
        $this->page->awaitText($this->slot(2), '3 lots · Two halves · one-click off');
        $this->page->awaitText($this->slot(1), '2 lots · Short tide · one-click on');

        $this->pointAtLadder(1);
        $this->page->awaitText($this->slot(1).' [data-part=strip]', 'Short tide');
        self::assertStringStartsWith('Buy 2 limit', $this->page->text($this->slot(1).' [data-part=strip]'), 'its own lots and plan');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        $this->page->press();
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Short tide');
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'one click on the first ladder sends');
        self::assertSame(['DULZ6', 2], [$this->trader->working()[0]['contract'], $this->trader->working()[0]['quantity']]);
        $this->pointAtLadder(2);
        $this->page->awaitText($this->slot(2).' [data-part=strip]', 'a click makes a draft');
        self::assertStringStartsWith('Buy 3 limit', $this->page->text($this->slot(2).' [data-part=strip]'));
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count($this->slot(2).' [data-part=chip][data-role=draft]') === 1, 'on the second it makes a draft');
        self::assertCount(1, $this->trader->working());
        $this->page->holdKey('i', 10);
        $this->page->await(
            fn(): bool => str_contains($this->page->text($this->slot(1).' [data-part=slot-head]'), 'active'),
            'the key goes to the next ladder',
        );
        self::assertSame(1, substr_count($this->page->text('[data-part=dock-place]'), 'active'));
    }

    /** A hand that held X for the contract in front would else have flattened the one that the pointer lay on. */
    public function testThePointerAloneBringsNoLadderInFront(): void
    {
        $this->enter();
        $this->addLadder();
        $this->page->awaitText($this->slot(2).' [data-part=slot-head]', 'active');
        $this->pointAtLadder(1);
        $this->trader->place(['contract' => 'DULH7', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => null]);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => null]);
        $this->page->awaitText($this->slot(1).' [data-field=slot-position]', 'Long 1');
        $this->page->awaitText($this->slot(2).' [data-field=slot-position]', 'Long 1');
        self::assertStringContainsString('active', $this->page->text($this->slot(2).' [data-part=slot-head]'));
        $this->page->holdKey('x', 450);
        $this->page->await(fn(): bool => $this->lots('DULH7') === 0, 'flat in the contract in front');
        self::assertSame(1, $this->lots(), 'and not where the pointer lies');
        $this->page->pointAt($this->slot(1).' [data-part=slot-head] small');
        $this->page->press();
        $this->page->awaitText($this->slot(1).' [data-part=slot-head]', 'active');
    }

    public function testTwoLaddersMayHoldTheSameContractWithAPlanEach(): void
    {
        $this->enter();
        $this->addLadder();
        $this->page->run(
            'const s = document.querySelector(arguments[0]); s.value = "DULZ6"; s.dispatchEvent(new Event("change", {bubbles: true}))',
            $this->slot(2).' select',
        );
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Ladder DULZ6"]') === 2, 'the same contract twice');
        $this->page->holdKey('n', 10);
        $this->page->holdKey('o', 10);
        $this->page->awaitText($this->slot(2), 'Two halves · one-click on');
        $this->pointAtLadder(2);
        $this->page->press();
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $this->pointAtLadder(1, 7);
        $this->page->press();
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'the other order');
        $plans = array_column($this->trader->working(), 'plan');
        sort($plans);
        self::assertSame(['Short tide', 'Two halves'], $plans);
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=entry]') === 4, 'both orders on both ladders');
    }

    public function testTheTabsAreInSightAndALadderTakesItsRoomFromTheLaddersAlone(): void
    {
        $this->enter();
        $wide = fn(): int => (int) $this->page->run('return document.querySelector("aside").getBoundingClientRect().width');
        $before = $wide();
        foreach (['working', 'tape', 'journal'] as $tab) {
            self::assertGreaterThan(
                20,
                $this->page->run('return document.querySelector(arguments[0]).getBoundingClientRect().width', "[data-tab=$tab]"),
                $tab,
            );
        }
        self::assertGreaterThan(
            300,
            $this->page->run('return document.querySelector("[data-part=lists-head]").getBoundingClientRect().width'),
            'the tools',
        );
        $this->addLadder();
        self::assertEqualsWithDelta($before, $wide(), 2);
        $ladders = fn(): array
            => $this->page->run('return [...document.querySelectorAll("[data-part=ladder-slot]")].map((slot) => slot.getBoundingClientRect().width)');
        $this->page->await(fn(): bool => abs($ladders()[0] - $ladders()[1]) <= 2, 'ladders of one width');
        // In a narrow ladder bars end with their lane, and what just traded leaves the prices readable.
        $this->trader->push(self::CODE, 2);
        $this->trader->push(self::CODE, -2);
        $this->trader->steps(self::CODE, 50);
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung] [data-part=just]') > 0, 'what just traded');
        self::assertSame(
            [[0, 0], [0, 0]],
            $this->page->run('const right = (e) => Math.round(e.getBoundingClientRect().right); return [...document.querySelectorAll("[data-part=ladder-slot]")].map((slot) => [right(slot.querySelector("[data-part=underlay]")) - right(slot.querySelector("[data-part=rung] [data-part=depth]")), [...slot.querySelectorAll("[data-part=rung] [data-part=just]")].filter((just) => { const text = document.createRange(); text.selectNode([...just.parentNode.childNodes].find((node) => node.nodeType === 3)); return text.getBoundingClientRect().left < right(just); }).length])'),
        );
        $this->page->run('document.querySelector(arguments[0]).click()', '[aria-label="Close ladder 2"]');
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 1, 'one ladder');
        self::assertEqualsWithDelta($before, $wide(), 2);
    }

    public function testLaddersComeBackAfterAReloadWithOneClickOff(): void
    {
        $this->enter();
        $this->addLadder();
        $this->page->holdKey('o', 10);
        $this->page->awaitText($this->slot(2), 'one-click on');
        $this->page->open('/')->awaitLive();
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2, 'both ladders');
        self::assertSame(2, substr_count($this->page->text('[data-part=dock-place]'), 'one-click off'));
        $this->page->run('document.querySelector(arguments[0]).click()', '[aria-label="Close ladder 2"]');
        $this->page->await(
            fn(): bool => $this->page->count('[data-part=ladder-slot]') === 1 && $this->page->count('[data-part=slot-head]') === 0,
            'one ladder alone',
        );
    }

    public function testALayoutIsSavedAndOpenedOnAnotherPage(): void
    {
        $this->enter();
        $this->addLadder();
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=arrange-bar]') === 1, 'arranging');
        $this->page->tab('Tape');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Hide Tape"]') === 1, 'what can be done with the tape');
        $this->page->run('document.querySelector("[aria-label=\'Hide Tape\']").click()');
        $this->page->await(
            fn(): bool => $this->page->count('[data-tab=tape]') === 0 && $this->page->count('[data-action=show-tape]') === 1,
            'the tape hidden',
        );
        $this->page->find('[data-part=arrange-bar] input')->sendKeys('Two dulse');
        $this->page->find('[data-action=save-layout]')->click();
        $layouts = fn(): array => array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['layouts'];
        $this->page->await(fn(): bool => $layouts()['opens'] === 'Two dulse', 'the layout on the server');
        self::assertSame(['DULZ6', 'DULH7'], array_column($layouts()['layouts'][0]['ladders'], 'code'));
        $this->page->find('[data-action=standard-layout]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-tab=tape]') === 1, 'the standard one has the tape');
        // Cleared where no desk runs that could write its arrangement down once more.
        $this->page->open('/api/openapi.json')->run('localStorage.clear()');
        $this->page->open('/')->awaitLive();
        $this->page->await(
            fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2 && $this->page->count('[data-tab=tape]') === 0,
            'a browser that knows nothing opens the layout that was open last',
        );
    }

    public function testAPanelInAWindowOfItsOwnLivesFromTheSameStream(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-panel=ladder-1] button') === 2, 'arranging');
        $main = $this->page->driver->getWindowHandle();
        $this->page->run('document.querySelector("[data-panel=ladder-1] button").click()');
        $this->page->await(fn(): bool => count($this->page->driver->getWindowHandles()) === 2, 'a second window');
        $own = array_values(array_diff($this->page->driver->getWindowHandles(), [$main]))[0];
        $this->page->driver->switchTo()->window($own);
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10, 'the ladder there');
        self::assertSame(1, (int) $this->page->run('return document.styleSheets.length > 0 ? 1 : 0'), 'in the desk\'s own look');
        $this->page->driver->switchTo()->window($main);
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-action=theme]') === 1, 'done with arranging');
        $this->page->find('[data-action=theme]')->click();
        $this->page->driver->switchTo()->window($own);
        $this->page->await(fn(): bool => $this->page->run('return document.documentElement.dataset.theme') === 'paper', 'which it follows');
        $last = fn(): string => $this->page->text('[data-part=rung]:has([data-part=last]) [data-part=price]');
        $this->page->await(fn(): bool => $last() !== '', 'the last price');
        $before = $last();
        $this->trader->push(self::CODE, 3);
        $this->page->await(fn(): bool => $last() !== $before, 'the market moving in the second window');
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the order placed from there');
        // It stays in sight when the desk's own tab does not.
        $this->page->driver->switchTo()->window($main);
        $this->page->run('Object.defineProperty(document, "hidden", {value: true, configurable: true}); window.framesOf = window.requestAnimationFrame; window.requestAnimationFrame = () => 0; document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->driver->switchTo()->window($own);
        $this->page->pointAt(self::lane($tick - 1, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick - 1));
        $this->awaitSettled();
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick, $tick - 1], 'orders taken and drawn without the desk\'s tab');
        $this->page->holdKey("\u{E003}", 450);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'cancelled');
        $this->page->driver->switchTo()->window($main);
        $this->page->run('delete document.hidden; window.requestAnimationFrame = window.framesOf; document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->holdKey('g', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=plans-screen]') === 1, 'the exit plans on the desk\'s own window');
        $this->page->holdKey('c', 10);
        $this->page->driver->switchTo()->window($own);
        $this->page->pointAt(self::lane($tick - 2, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick - 2], 'and it takes orders');
        $this->page->holdKey("\u{E003}", 450);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'its keys act');
        $this->panicIn($main, $own);
        $this->page->holdKey('o', 10);
        $this->page->driver->close();
        $this->page->driver->switchTo()->window($main);
        $this->page->find('[data-name=to-desk]')->click();
        $this->page->awaitText('[data-action=one-click]', 'One-click off');
        self::assertStringNotContainsString('0 cancelled', $this->page->text('[data-field=said]'), 'each key acts once');
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10, 'the ladder back on the desk');
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'and it takes drafts');
    }

    /** Asked in the desk's own window, a question would stand behind, on another screen perhaps, with the keys dead here. */
    public function testAQuestionStandsInTheWindowThatItWasRaisedIn(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->await(fn(): bool => count($this->chips('stop')) === 1, 'a stop');
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-panel=ladder-1] button') === 2, 'arranging');
        $main = $this->page->driver->getWindowHandle();
        $this->page->run('document.querySelector("[data-panel=ladder-1] button").click()');
        $this->page->await(fn(): bool => count($this->page->driver->getWindowHandles()) === 2, 'a second window');
        $own = array_values(array_diff($this->page->driver->getWindowHandles(), [$main]))[0];
        $this->page->holdKey('a', 10);
        $this->page->driver->switchTo()->window($own);
        try {
            $this->page->await(fn(): bool => count($this->chips('stop')) === 1, 'the stop there');
            // [opaque, black] of what is drawn there: a canvas that was painted before the window had its styles is black.
            $drawn = fn(): array => $this->page->run('let ink = 0, black = 0; for (const c of document.querySelectorAll("canvas")) { if (c.width === 0) continue; const d = c.getContext("2d").getImageData(0, 0, c.width, c.height).data; for (let i = 0; i < d.length; i += 4) if (d[i + 3] === 255) { ink++; if (d[i] + d[i + 1] + d[i + 2] === 0) black++; } } return [ink, black]');
            $this->page->await(fn(): bool => $drawn()[0] > 100 && $drawn()[1] === 0, 'bars in the desk\'s colours');
            $cross = '[data-part=chip][data-role=stop] button';
            $this->page->find('[data-part=chip][data-role=stop] b')->click();
            $this->page->find($cross)->click();
            $this->page->awaitText('[role=alertdialog]', 'leaves 1 lot unprotected');
            self::assertSame('Keep the stop', $this->page->run('return document.activeElement.textContent'));
            $this->page->holdKey("\u{E00C}", 10);
            $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'Esc keeps the stop');
            self::assertCount(1, $this->trader->stops());
            // Keys are dead behind it in every window, and free again when its window has gone.
            $this->page->find('[data-part=chip][data-role=stop] b')->click();
            $this->page->find($cross)->click();
            $this->page->awaitText('[role=alertdialog]', 'unprotected');
            $this->page->driver->close();
            $this->page->driver->switchTo()->window($main);
            $this->page->holdKey('o', 10);
            $this->page->awaitText('[data-action=one-click]', 'One-click off');
            self::assertSame(0, $this->page->count('[role=alertdialog]'), 'nobody asks any more');
            self::assertCount(1, $this->trader->stops());
        } finally {
            $this->page->driver->switchTo()->window($main);
        }
    }

    /** The panic keys in a window of a panel's own: whatever has the focus there and is still down; left in the middle they do nothing. */
    private function panicIn(string $main, string $own): void
    {
        $lots = fn(): int => (int) ($this->trader->position(self::CODE)['quantity'] ?? 0);
        $key = fn(string $type): mixed => $this->page->run(
            'document.querySelector("[aria-label=\"Ticks a rung\"]").focus(); document.activeElement.dispatchEvent(new KeyboardEvent(arguments[0], {key: "X", code: "KeyX", shiftKey: true, altKey: true, bubbles: true, cancelable: true}))',
            $type,
        );
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        // Both in one go: on a slow machine the key would else have been held for long enough.
        $this->page->run('document.querySelector("[aria-label=\"Ticks a rung\"]").focus(); document.activeElement.dispatchEvent(new KeyboardEvent("keydown", {key: "X", code: "KeyX", shiftKey: true, altKey: true, bubbles: true, cancelable: true})); window.dispatchEvent(new Event("blur"))');
        $this->page->driver->switchTo()->window($main);
        $this->page->await(fn(): bool => $this->page->count('[data-action=flatten][data-held]') === 0, 'nothing held any more');
        $this->page->awaitSequence($this->trader->push(self::CODE, 1)->body['sequence']);
        self::assertSame(2, $lots(), 'the window was left while the key was down');
        $this->page->driver->switchTo()->window($own);
        $key('keydown');
        $this->page->await(fn(): bool => $lots() === 0, 'flat, with a choice in focus and other keys down');
        $key('keyup');
        $this->page->run('document.activeElement.blur()');
    }

    public function testLaddersShareTheWidthAndAPanelFollowsACertainOne(): void
    {
        $this->enter(false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=add-ladder]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2, 'a second ladder');
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-action=standard-layout]') === 1, 'arranging');
        $this->page->find('[data-action=standard-layout]')->click();
        $this->page->find('[data-action=arranged]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-action=arranged]') === 0, 'done');
        $widths = fn(): array => $this->page->run('return [...document.querySelectorAll("[data-part=ladder-slot]")].map((slot) => slot.clientWidth)');
        $this->page->await(fn(): bool => count($widths()) === 2 && abs($widths()[0] - $widths()[1]) <= 2, 'ladders of one width');

        $this->page->tab('Bars');
        $front = fn(): string => $this->page->run('return document.querySelector("[data-part=ladder-slot][data-front]").dataset.ladder');
        self::assertSame('2', $front());
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of DULH7"]') === 1, 'the bars of the ladder in front');
        $this->page->run('const s = document.querySelector("[data-field=pinned]"); s.value = "ladder 1"; s.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of DULZ6"]') === 1, 'those of ladder 1');
        self::assertSame('2', $front(), 'which is not in front');
        $this->page->pointAt('[data-part=bars-field]');
        $this->page->press();
        $this->page->await(fn(): bool => $front() === '1', 'a press in them brings their ladder in front');
        $this->page->pointAt('[data-ladder="2"] [data-part=slot-head] small');
        $this->page->press();
        $this->page->await(fn(): bool => $front() === '2', 'the other one again');
        self::assertSame(1, $this->page->count('[aria-label="Bars of DULZ6"]'), 'the bars stay with ladder 1');
    }

    public function testANarrowDeskKeepsItsToolsAndItsTapeWhole(): void
    {
        $this->page->size(800, 800);
        $this->enter(false);
        $this->page->find('[data-part=hints] button')->click();
        $inside = fn(string $css): bool => (bool) $this->page->run(
            'const all = [...document.querySelectorAll(arguments[0])]; return all.length > 0 && all.every((e) => { const b = e.getBoundingClientRect(); return b.left >= 0 && b.right <= innerWidth + 1; })',
            $css,
        );
        self::assertTrue($inside('[data-part=lists-tools] button'), 'the tools');
        $this->page->find('[data-action=desk-tools]')->click();
        $this->page->await(fn(): bool => $inside('[data-part=popover] button'), 'the seldom ones behind one button');
        $this->page->find('[data-part=popover] [data-action=settings]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-modal][data-field=settings]') === 1, 'the settings');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->tab('Tape');
        $this->page->await(fn(): bool => $this->page->count('[data-part=beside] [data-part=live-table]') === 2, 'the tape');
        [$first, $second] = $this->page->run('return [...document.querySelectorAll("[data-part=beside] [data-part=live-table]")].map((t) => { const b = t.getBoundingClientRect(); return {top: b.top, bottom: b.bottom, left: b.left, right: b.right}; })');
        self::assertGreaterThanOrEqual($first['bottom'], $second['top'], 'big prints below the tape, not beside it');
        self::assertLessThanOrEqual(800, $first['right']);
    }
}
