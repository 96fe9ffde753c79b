<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Keys on the desk: what they mean is what was in front as they went down, and the way out works whatever has the focus. */
final class KeysOnTheDeskTest extends PageCase
{
    public function testTheKeyboardAlonePlacesMovesResizesAndCancels(): void
    {
        $this->enter(oneClick: false);
        $bid = $this->quote('bids');
        [$left, $down, $up, $enter, $escape] = ["\u{E012}", "\u{E015}", "\u{E013}", "\u{E007}", "\u{E00C}"];
        $this->page->holdKey($left, 10);
        foreach (range(1, 4) as $_) {
            $this->page->holdKey($down, 10);
        }
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($bid - 4));
        $this->awaitSettled();
        $this->page->holdKey('p', 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [$bid - 4], 'the draft');
        $this->page->holdKey($escape, 10);
        self::assertSame([], $this->chips('draft'), 'Esc drops it');
        $this->page->holdKey($left, 10);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($bid));
        $this->page->holdKey($down, 10);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($bid - 1));
        $this->awaitSettled();
        $this->page->holdKey('p', 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [$bid - 1], 'the other draft');
        $this->page->holdKey('+', 10);
        $this->page->awaitText('[data-part=chip][data-role=draft] b', '3');
        $this->chord("\u{E00A}", $down);
        $this->page->await(fn(): bool => $this->chips('draft') === [$bid - 2], 'one tick down');
        $this->page->holdKey($enter, 10);
        $this->page->await(fn(): bool => $this->chips('entry') === [$bid - 2], 'the order');
        self::assertSame([3], array_column($this->trader->working(), 'quantity'));

        $this->page->run('document.querySelector("[data-part=live-table]").focus()');
        $this->page->holdKey($down, 10);
        $this->page->holdKey($enter, 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=entry][data-chosen]') === 1, 'the order chosen in the list');
        $this->page->run('document.activeElement.blur()');
        $this->chord("\u{E00A}", $up);
        $this->page->awaitText('[data-field=change]', 'loses its place');
        $this->page->holdKey($enter, 10);
        $this->page->await(fn(): bool => $this->chips('entry') === [$bid - 1], 'the order a tick higher');
        $this->page->run('document.querySelector("[data-part=live-table]").focus()');
        $this->page->holdKey("\u{E017}", 10);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'Delete to cancel it');
    }

    /** What a held key means is what was in front when it went down. */
    public function testAHeldKeyMeansTheContractThatWasInFrontWhenItWentDown(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->key('keydown', 'x', 'KeyX');
        $this->key('keydown', '.', 'Period');
        $this->page->await(fn(): bool => $this->lots() === 0, 'flat where the key went down');
        $this->key('keyup', 'x', 'KeyX');
    }

    public function testThePanicKeysWorkWhateverHasTheFocusOrIsStillDown(): void
    {
        $this->enter();
        foreach ([
            ['≈', ['altKey' => true, 'code' => 'KeyX'], 'body'],
            ['X', ['shiftKey' => true, 'code' => 'KeyX'], 'body'],
            ['x', ['code' => 'KeyX'], '[aria-label="Ticks a rung"]'],
            ['x', ['code' => 'KeyX'], '[data-part=typed-lots] input'],
        ] as [$key, $with, $on]) {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => null]);
            $this->page->awaitText('[data-field=position]', 'Long 1');
            $this->page->run('document.querySelector(arguments[0]).focus()', $on);
            $this->key('keydown', $key, 'KeyX', $with, $on);
            // The modifier is let go before the key, while it is held.
            $this->page->awaitText('[data-field=position]', 'Flat');
            $this->key('keyup', 'x', 'KeyX', [], $on);
        }
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => null]);
        $this->page->awaitText('[data-field=position]', 'Long 1');
        $this->page->find('[data-part=typed-lots] input')->click();
        $this->page->holdKey('0', 450);
        $this->page->find('[data-name=tag]')->click();
        $this->page->holdKey('x', 450);
        self::assertSame('x', $this->page->run('return document.querySelector("[data-name=tag]").value[0]'), 'a text is being written');
        self::assertSame(1, $this->lots());
    }

    /** Cmd+R reloads, Cmd+0 and Ctrl+0 set the zoom, Cmd+X cuts: a Mac tells of no key that is let go meanwhile. */
    public function testWhatIsTheSystemsOrTheBrowsersTradesNothing(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 8, 'kind' => 'market', 'exit_plan' => null]);
        $this->page->awaitText('[data-field=position]', 'Long 8');
        foreach (['r' => 'KeyR', '0' => 'Digit0', 'x' => 'KeyX', 'p' => 'KeyP', 'Enter' => 'Enter', 'F2' => 'F2', 'd' => 'KeyD'] as $key => $code) {
            $this->key('keydown', (string) $key, $code, ['metaKey' => true]);
        }
        $this->key('keydown', 'x', 'KeyX', ['metaKey' => true], '[data-part=typed-lots] input');
        $this->key('keydown', '0', 'Digit0', ['ctrlKey' => true]);
        $this->key('keydown', 'x', 'KeyX', ['ctrlKey' => true, 'shiftKey' => true]);
        $this->page->holdKey('h', 400);
        $this->page->awaitText('[data-field=position]', 'Long 4');
        $this->key('keydown', 'x', 'KeyX');
        $this->key('keydown', 'Meta', 'MetaLeft', ['metaKey' => true]);
        $this->key('keyup', 'Meta', 'MetaLeft');
        $this->page->holdKey('h', 400);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        self::assertSame([], $this->trader->working());
        $sent = array_column($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], 'quantity');
        self::assertSame([8, 4, 2], array_reverse($sent), 'the entry and two halves');
        $this->click($this->quote('bids') - 4, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'an order, and no draft: D is not taken to be down');
    }

    /** Where another script is on the keys, or Alt makes another sign, the place of the key counts; AltGr belongs to its sign. */
    public function testKeysAreFoundByTheirPlaceInOtherScripts(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 4, 'kind' => 'market', 'exit_plan' => null]);
        $this->page->awaitText('[data-field=position]', 'Long 4');
        foreach ([['р', 'KeyH', 'Long 2'], ['η', 'KeyH', 'Long 1'], ['ч', 'KeyX', 'Flat']] as [$key, $code, $then]) {
            $this->key('keydown', $key, $code);
            $this->page->awaitText('[data-field=position]', $then);
            $this->key('keyup', $key, $code);
        }
        $lots = fn(): string => (string) $this->page->run('return document.querySelector("[data-part=typed-lots] input").value');
        $graph = ['ctrlKey' => true, 'altKey' => true, 'modifierAltGraph' => true];
        foreach ([['٣', 'Digit3', [], '3'], ['5', 'Digit5', $graph, '10']] as [$key, $code, $with, $then]) {
            $this->key('keydown', $key, $code, $with);
            $this->page->await(fn(): bool => $lots() === $then, "$then lots");
        }
    }

    /** Alt and Shift switch the layout on many systems: one key does the same, and D makes a draft in any script. */
    public function testHeldKeysChangeAClickInAnyScript(): void
    {
        $this->enter();
        $tick = $this->quote('asks') + 6;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 stop '.self::price($tick));
        foreach ([['z', 'KeyZ'], ['я', 'KeyZ']] as [$key, $code]) {
            $this->key('keydown', $key, $code);
            $this->page->awaitText('[data-part=strip]', 'Alt Shift or Z: stop-limit');
            $this->page->awaitText('[data-part=strip]', 'Buy 2 stop-limit '.self::price($tick).' limit '.self::price($tick + 2));
            $this->key('keyup', $key, $code);
            $this->page->await(fn(): bool => ! str_contains($this->page->text('[data-part=strip]'), 'stop-limit'), 'a stop again');
        }
        $this->key('keydown', 'в', 'KeyD');
        $this->click($tick, 'buy', 'D: a draft');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'a draft');
        $this->key('keyup', 'в', 'KeyD');
    }

    public function testBehindAQuestionKeysDoNothingButFlatten(): void
    {
        $this->setEntry(['confirm_over' => 2]);
        $this->enter();
        $this->buyTwo();
        $this->page->holdKey('3', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->awaitText('[role=alertdialog]', 'more than 2 lots');
        foreach (['n', '1', '.', 'b'] as $key) {
            $this->page->holdKey($key, 10);
        }
        $this->page->holdKey('x', 450);
        $this->page->await(fn(): bool => $this->lots() === 0, 'flat over the question');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'dropped');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Short tide');
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
    }

    public function testTheWheelChangesNoNumberAndAHeldEnterPressesAButtonOnce(): void
    {
        $this->enter();
        $this->page->find('[data-part=typed-lots] input')->click();
        self::assertSame(
            [true, false],
            $this->page->run('const fire = (on, event) => { on.dispatchEvent(event); return event.defaultPrevented; }; return [fire(document.querySelector("[data-part=typed-lots] input"), new WheelEvent("wheel", {deltaY: 100, bubbles: true, cancelable: true})), fire(document.querySelector("[data-part=rungs]"), new WheelEvent("wheel", {deltaY: 0, bubbles: true, cancelable: true}))]'),
        );
        $this->buyTwo();
        self::assertTrue($this->page->run('const event = new KeyboardEvent("keydown", {key: "Enter", repeat: true, bubbles: true, cancelable: true}); document.querySelector("[data-name=close-1]").dispatchEvent(event); return event.defaultPrevented'));
    }

    public function testBackspaceCancelsEntriesAndKeepsTheStops(): void
    {
        $this->enter();
        $this->buyTwo();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the entry');
        $this->page->holdKey("\u{E003}", 450);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'the entry to go');
        self::assertCount(2, $this->chips('stop'));
        $this->page->holdKey('x', 60);
        $this->page->holdKey(' ', 10);
        self::assertSame(2, $this->trader->position(self::CODE)['quantity'], 'a tap is not a hold');
    }

    /** The tab that has the focus would close with it. */
    public function testBackspaceHeldOnATabCancelsAndClosesNoList(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->quote('bids') - 5), 'exit_plan' => null]);
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1, 'the order');
        $before = $this->page->count('[data-part=dock-tab]');
        $this->page->run('document.querySelector("[data-tab=working]").closest("[tabindex]")?.focus()');
        $this->page->holdKey("\u{E003}", 450);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'cancelled');
        self::assertSame($before, $this->page->count('[data-part=dock-tab]'));
    }

    public function testBreakEvenAndHalfOffByKey(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 3);
        $this->page->holdKey('b', 10);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops at break-even');
        $this->page->holdKey('h', 60);
        $this->page->holdKey('h', 450);
        $this->page->awaitText('[data-field=position]', 'Long 1');
        self::assertSame([$entry], $this->chips('stop'), 'a tap is not a hold, and the exits went with the lot');
        $this->page->find('[data-action=break-even-fees]')->click();
        $this->page->await(
            fn(): bool => $this->chips('stop') === [$entry + 1],
            'the stop where the fees of 2.48 for two lots are paid, a tick being 2.50',
        );
    }

    public function testStopsComeCloserByAsManyTicksAsAreChosen(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 7, $entry - 7], 'the stops');
        $this->page->find('[aria-label="Tighten by one tick more"]')->click();
        $this->page->find('[data-action=closer]')->click();
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 5, $entry - 5], 'two ticks closer by the button');
        $this->page->holdKey('c', 10);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 3, $entry - 3], 'and by the key');
        $this->page->find('[aria-label="Tighten by one tick less"]')->click();
        $this->page->await(
            fn(): bool => $this->page->count('[aria-label="Tighten by one tick less"]:disabled') === 1,
            'not less than one',
        );
    }

    /** Whoever holds X wants to be flat: on the wrong contract it says where the position is, and one key ends all. */
    public function testFlattenOnAFlatContractSaysWhereThePositionIsAndOneKeyFlattensAll(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->holdKey('.', 10);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=said]', self::CODE.' is long 2');
        self::assertSame(2, $this->lots());
        $this->page->holdKey('0', 450);
        $this->page->await(fn(): bool => $this->lots() === 0, 'every contract flat');
    }

    public function testTheMarketAndTheBestPricesHaveKeys(): void
    {
        $this->enter();
        self::assertStringContainsString('F2', $this->page->text('[data-action=buy-market]'));
        $this->page->holdKey("\u{E032}", 10);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $bid = $this->quote('bids');
        $this->page->awaitText('[data-action=join-bid]', self::price($bid));
        $this->page->holdKey("\u{E038}", 10);
        $this->page->await(fn(): bool => $this->chips('entry') === [$bid], 'a limit at the bid');
        $this->page->holdKey("\u{E034}", 10);
        $this->page->awaitText('[data-field=position]', 'Flat');
    }

    public function testThePlanEditorIsLeftByItsKeyAndNoPlanStaysChosen(): void
    {
        $this->enter();
        $this->page->run('[...document.querySelectorAll("[data-part=plans] button")].find((b) => b.textContent === "No plan").click()');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'No plan');
        foreach (['g', "\u{E00C}"] as $key) {
            $this->page->holdKey('g', 10);
            $this->page->await(fn(): bool => $this->page->count('[data-part=plans-screen]') === 1, 'the editor');
            $this->page->holdKey($key, 10);
            $this->page->await(fn(): bool => $this->page->count('[data-part=plans-screen]') === 0, 'the desk');
            $this->page->awaitText('[data-part=plans] [data-state=on]', 'No plan');
        }
    }

    public function testHelpStaysInSightAfterTheHintsAreGone(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-name=help]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-modal][data-field=help]') === 1, 'open');
        $this->page->awaitText('[data-field=help]', 'flattens every contract');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal][data-field=help]') === 0, 'closed');
    }

    public function testTheHintsGoAwayForGoodAndTheSheetListsTheKeys(): void
    {
        $this->enter(oneClick: false);
        self::assertStringContainsString('hold X, or press Flatten', $this->page->text('[data-part=hints]'));
        $this->page->find('[data-part=hints] button')->click();
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
        self::assertSame(0, $this->page->count('[data-part=hints]'));
        $this->page->holdKey('?', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 1, 'the sheet');
        self::assertStringContainsString('stops to break-even', $this->page->text('[data-modal]'));
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 0, 'the sheet to close');
    }
}
