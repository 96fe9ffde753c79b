<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\Trader;

/** Slips of the hand that must not send anything, and words that must be what is sent. */
final class SlipsTest extends PageCase
{
    public function testSpaceAndEnterAfterAClickOnBuyDoNotBuyAgain(): void
    {
        $this->enter();
        $this->page->pointAt('[data-action=buy-market]');
        $this->page->press();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->holdKey(' ', 10);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        self::assertSame(2, $this->trader->position(self::CODE)['quantity']);
        self::assertSame('BODY', $this->page->run('return document.activeElement.tagName'), 'the button took no focus');
    }

    public function testFlattenPressedTwiceFlattensOnce(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->pointAt('[data-action=flatten]');
        $this->page->mouse([
            ['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $closes = array_filter(
            $this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'],
            static fn(array $o): bool => $o['role'] === 'close',
        );
        self::assertCount(1, $closes);
        self::assertSame(0, $this->trader->position(self::CODE)['quantity']);
    }

    public function testATabThatWasHiddenHoldsItsClicksUntilItHasHeardFromTheEngine(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->run('Object.defineProperty(document, "hidden", {value: true, configurable: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'this tab was hidden');
        self::assertSame([], $this->trader->working());
        $this->page->run('Object.defineProperty(document, "hidden", {value: false, configurable: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->await(function () use ($tick): bool {
            $this->page->press();

            return $this->chips('entry') !== [] && $tick > 0;
        }, 'clicks to be taken again');
    }

    public function testLotsCanBeTypedAndKeysTypedThereDoNothingElse(): void
    {
        $this->enter();
        $this->page->awaitText('[data-field=margin]', 'margin 410.00 EUR');
        $this->page->find('[data-part=typed-lots] input')->click();
        $this->page->run('document.querySelector("[data-part=typed-lots] input").select()');
        $this->page->find('[data-part=typed-lots] input')->sendKeys('7');
        $this->page->awaitText('[data-field=split]', '7 lots: 1 at +9, 6 run');
        $this->page->awaitText('[data-field=margin]', 'margin 1435.00 EUR');
        $this->page->find('[data-part=typed-lots] input')->sendKeys("nobN\u{E007}999");
        self::assertSame('Short tide', $this->page->text('[data-part=plans] [data-state=on]'));
        self::assertStringContainsString('One-click on', $this->page->text('[data-action=one-click]'));
        self::assertStringContainsString('7999 lots are over the order limit of 20: nothing is sent', $this->page->text('[data-field=split]'));
        self::assertSame([], $this->trader->working());
    }

    public function testADoublePressSendsOneOrder(): void
    {
        // On a starved machine a quarter of a second goes by between the two.
        $this->setEntry(['double_press_ms' => 2000]);
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        // Both at once, as a bounce comes: between two presses of the driver the chip may already lie under the pointer.
        $this->page->run(
            'const lane = document.querySelector(arguments[0]); for (const type of ["pointerdown", "pointerup", "pointerdown", "pointerup"]) lane.dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0}))',
            self::lane($tick, 'buy'),
        );
        $this->page->awaitText('[data-field=said]', 'second press');
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1, 'one chip');
        self::assertCount(1, $this->trader->working());
    }

    public function testADoublePressOnAButtonThatTradesSendsOneOrderAndNoneWhereTheFeedIsOld(): void
    {
        $this->setEntry(['double_press_ms' => 2000]);
        $this->enter();
        // Both at once, as a bounce comes: between two presses of the driver the position may change, and the buttons with it.
        $twice = 'const button = document.querySelector(arguments[0]); button.click(); button.click()';
        $this->page->run($twice, '[data-action=buy-market]');
        $this->page->awaitText('[data-field=said]', 'second press');
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->run($twice, '[data-action=reverse]');
        $this->page->awaitText('[data-field=position]', 'Short 2');
        $this->page->run('Object.defineProperty(document, "hidden", {value: true, configurable: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->pointAt('[data-action=sell-market]');
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'this tab was hidden');
        $this->page->holdKey('r', 450);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        self::assertSame(-2, $this->trader->position(self::CODE)['quantity']);
        $this->page->holdKey('x', 450);
        $this->page->await(
            fn(): bool => ($this->trader->position(self::CODE)['quantity'] ?? 0) === 0,
            'flat: what closes goes out all the same',
        );
        $closes = array_filter(
            $this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'],
            static fn(array $o): bool => $o['role'] === 'close',
        );
        self::assertCount(2, $closes, 'one of the reverse, one of the flatten');
        $this->page->run('delete document.hidden; document.dispatchEvent(new Event("visibilitychange"))');
    }

    /** A busy page hears of a quick move and of the press at once: what the press would send was never seen. */
    public function testAPressWhereNoGhostWasShownSendsNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->awaitSettled();
        $this->page->run(
            'const fire = (type, on) => on.dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0, buttons: type === "pointermove" ? 0 : 1})); const lane = document.querySelector(arguments[0]); for (const type of ["pointermove", "pointerdown", "pointerup"]) fire(type, lane)',
            self::lane($tick - 4, 'buy'),
        );
        $this->page->awaitText('[data-field=said]', 'preview not ready');
        self::assertSame([], $this->trader->working());
    }

    public function testTheCrossCancelsAndAPressOnAChipPlacesNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the chip');
        $this->page->pointAt('[data-part=chip][data-role=entry] b');
        $this->page->press();
        $this->page->pointAt('[data-part=chip][data-role=entry] button');
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'the chip to go');
        self::assertSame(
            ['cancelled'],
            array_column($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], 'state'),
        );
    }

    public function testLotsAndPlanDoNotTouchEachOther(): void
    {
        $this->enter();
        $this->page->holdKey('3', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        self::assertStringContainsString('3', $this->page->text('[data-part=lots] [data-state=on]'));
        $this->page->awaitText('[data-field=split]', '3 lots: 1 at +8, 2 at +16');
        $this->page->awaitText('[data-field=curve]', '2 target +16');
        self::assertStringContainsString('stop -10', $this->page->text('[data-field=curve]'));
    }

    public function testTheGhostSaysWhatIsSent(): void
    {
        $this->enter();
        $ask = $this->quote('asks');
        foreach ([
            [$ask - 3, 'buy', 'limit'], [$ask + 1, 'buy', 'limit'], [$ask + 4, 'buy', 'stop'], [$this->quote('bids') - 4, 'sell', 'stop'],
            [$ask + 3, 'sell', 'limit'],
        ] as [$tick, $side, $kind]) {
            $this->page->pointAt(self::lane($tick, $side));
            $this->page->awaitText('[data-part=strip]', ucfirst($side)." 2 $kind ".self::price($tick).' · Short tide');
            self::assertSame("2 $kind", $this->page->text('[data-part=note][data-kind=ghost]'));
        }
        $this->click($ask + 4, 'buy', 'stop '.self::price($ask + 4));
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $sent = $this->trader->working()[0];
        self::assertSame(
            ['stop', self::price($ask + 4), 2, 'Short tide'],
            [$sent['kind'], $sent['trigger'], $sent['quantity'], $sent['plan']],
        );
    }

    public function testAStaleFeedSaysSoAndSendsNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        $pid = $this->desk->enginePid();
        posix_kill($pid, SIGSTOP);
        try {
            $this->page->awaitText('[data-field=feed]', 'stale');
            $this->page->press();
            $this->page->awaitText('[data-field=said]', 'the feed is not live');
        } finally {
            posix_kill($pid, SIGCONT);
        }
        $this->page->awaitLive();
        self::assertSame([], $this->trader->working());
    }

    /** An engine that was brought up to date under an open page: half of what it says would be shown on top of what is not known. */
    public function testWhatThePageDoesNotUnderstandStopsIt(): void
    {
        $this->enter();
        $this->page->run('const add = EventSource.prototype.addEventListener; window.tell = {}; EventSource.prototype.addEventListener = function (name, handler, options) { window.tell[name] = handler; return add.call(this, name, handler, options); }');
        $this->page->awaitPassing('[data-field=feed]', 'away', fn() => $this->desk->killEngine());
        $this->page->awaitLive();
        $this->page->run('window.tell.book({data: JSON.stringify({contract: "DULZ6", bids: [["402.50", 3]], asks: []})})');
        $this->page->awaitText('[data-field=feed]', 'reload');
        $this->page->awaitText('[data-part=banner]', 'reload the page');
        $this->page->awaitText('[data-action=one-click]', 'One-click off');
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'the feed is not live');
        self::assertSame([], $this->trader->working());
        self::assertNull($this->trader->position(self::CODE));
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
    }

    public function testTheGhostSpeaksAnewWhenThePositionChanges(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->pointAt(self::lane($this->quote('asks') + 3, 'sell'));
        $this->page->awaitText('[data-part=strip]', 'closes 2 of 2');
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('[data-part=strip]', 'Short tide · risk 35.00');
    }

    public function testThePlainWheelScrollsAndOverAChipThatIsNotChosenChangesNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the chip');
        $top = $this->topRung();
        $this->wheel('[data-part=chip][data-role=entry] b', -120);
        $this->page->await(fn(): bool => $this->topRung() === $top + 3, 'the rungs to scroll');
        self::assertSame([2], array_column($this->trader->working(), 'quantity'));
        self::assertSame(0, $this->page->count('[data-field=change]'), 'no change is proposed either');
        $this->page->pointAt('[data-part=chip][data-role=entry] b');
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=entry][data-chosen]') === 1, 'the chip to be chosen');
        $this->wheel('[data-part=chip][data-role=entry] b', -120);
        $this->page->awaitText('[data-field=change]', '2 → 3 lots');
        self::assertSame([2], array_column($this->trader->working(), 'quantity'), 'nothing is sent before Enter');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'a second order');
        self::assertEqualsCanonicalizing(
            [[2, 'Short tide'], [1, 'Short tide']],
            array_map(static fn(array $o): array => [$o['quantity'], $o['plan']], $this->trader->working()),
            'the first one keeps its place',
        );
    }

    public function testAPressWhileTheRungsMoveSendsNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        [$x, $y] = $this->page->middle(self::lane($tick, 'buy'));
        // The wheel moves the rungs and the button goes down in the same breath, where it now points at another price.
        $this->page->run('const rungs = document.querySelector("[data-part=rungs]"); rungs.dispatchEvent(new WheelEvent("wheel", {deltaY: -120, bubbles: true}));'
            .'const under = () => document.elementFromPoint(arguments[0], arguments[1]); const at = {bubbles: true, clientX: arguments[0], clientY: arguments[1], button: 0};'
            .'setTimeout(() => { under().dispatchEvent(new PointerEvent("pointermove", at)); setTimeout(() => under().dispatchEvent(new PointerEvent("pointerdown", at)), 20); }, 40)', $x, $y);
        $this->page->awaitText('[data-field=said]', 'the ladder just moved');
        self::assertSame([], $this->trader->working());
    }

    public function testADraftWhoseStopHasBeenPassedSaysSoAndSendsNothing(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->quote('asks') + 4;
        $this->click($tick, 'buy', 'Buy 2 stop');
        $this->page->pointAt('[data-part=headline]');
        $this->page->awaitText('[data-part=strip]', 'draft: Enter sends');
        $this->pushTo($tick + 3);
        $this->page->awaitText('[data-part=strip][data-refused]', 'already passed');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'already passed');
        self::assertSame([[], [$tick]], [$this->trader->working(), $this->chips('draft')], 'the draft stays, to be changed');
    }

    public function testAnAnswerThatBreaksOffLeavesTheDeskStanding(): void
    {
        $this->enter();
        $this->page->run('const real = window.fetch; window.broken = 0; window.fetch = (address, ...more) => String(address).endsWith("/preview")'
            .' ? (window.broken++, Promise.resolve({ok: true, status: 200, json: () => Promise.reject(new Error("broke off"))})) : real(address, ...more)');
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'The answer broke off');
        $this->awaitSettled();
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'Not sent');
        self::assertSame([0, true], [$this->page->count('[data-field=broken]'), $this->page->count('[data-part=rung]') > 10]);
        self::assertSame([], $this->trader->working());
    }

    public function testARefusalIsSaidOnce(): void
    {
        $this->enter();
        $this->page->holdKey('b', 10);
        $this->page->awaitText('[data-field=said]', 'Refused');
        $this->page->await(fn(): bool => $this->page->count('[data-field=said] [data-sound=refusal]') === 1, 'it to stand out');
        self::assertSame(
            1,
            substr_count($this->page->text('[data-field=said]'), 'there is no position to act on'),
            $this->page->text('[data-field=said]'),
        );
    }

    public function testWhatWasDoneDoesNotLookLikeARefusal(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=said]', self::CODE.': flat');
        self::assertSame(0, $this->page->count('[data-field=said] [data-sound=refusal]'));
    }

    /** A page that is busy while a key is held comes to the key's end before its own timer. */
    public function testAKeyHeldLongEnoughCountsThoughThePageWasBusy(): void
    {
        $this->enter();
        $this->buyTwo();
        // Both events stand in one turn of the page, as they do when it was busy; how long the key was down is in their stamps.
        $held = 'const [ms] = arguments, now = performance.now(); const key = (type, at) => window.dispatchEvent(Object.defineProperty(new KeyboardEvent(type, {key: "x", code: "KeyX"}), "timeStamp", {value: at})); key("keydown", now); key("keyup", now + ms)';
        $this->page->run($held, 299);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        self::assertSame(2, $this->trader->position(self::CODE)['quantity'], 'not held long enough');
        $this->page->run($held, 300);
        $this->page->awaitText('[data-field=position]', 'Flat');
    }

    public function testShiftAndDSayWhatTheyDoWhileTheyAreHeld(): void
    {
        $this->enter();
        $ask = $this->quote('asks');
        $this->page->pointAt(self::lane($ask + 4, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 stop');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Shift"}))');
        $this->page->awaitText('[data-part=strip]', 'Shift: limit through the market');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($ask + 4));
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keyup", {key: "Shift"})); window.dispatchEvent(new KeyboardEvent("keydown", {key: "d"}))');
        $this->page->awaitText('[data-part=strip]', 'D: a draft');
    }

    /** The stop fills while a press that "closes 2 of 2" is on its way: it opened two lots the other way, and nobody had been told. */
    public function testWhatWasShownToCloseNeverOpens(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => null]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->run('window.real ??= window.fetch; window.fetch = async (address, options) => { if (String(address).endsWith("/orders")) await new Promise((go) => { window.go = go; }); return window.real(address, options); }');
        $tick = $this->quote('asks') + 4;
        $this->click($tick, 'sell', 'closes 2 of 2');
        $this->page->await(fn(): bool => $this->page->run('return window.go !== undefined'), 'the order on its way');
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => 'gone before', 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->run('window.go()');
        $this->page->awaitText('[data-field=said]', 'there is no position that sell would close');
        self::assertSame([[], 0], [$this->trader->working(), $this->lots()]);
    }
}
