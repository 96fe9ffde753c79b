<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Nothing goes out that was not shown, nothing twice, and the way out works whatever has the focus. */
final class HandTest extends PageCase
{
    /**
     * What happens to calls whose address ends so: `lost` is done and its answer dropped, `gone` never arrives.
     *
     * @param list<string> $fates in turn; the last one goes on, and `ok` is as usual
     */
    private function fates(string $ending, array $fates): void
    {
        $this->page->run(<<<'JS'
            const [ending, fates] = arguments;
            window.real ??= window.fetch;
            const seen = window.sent = [];
            window.fetch = async (address, options) => {
                if (!String(address).endsWith(ending)) return window.real(address, options);
                const fate = fates[Math.min(seen.push(JSON.parse(options.body).client_id) - 1, fates.length - 1)];
                if (fate === "gone") throw new TypeError("it never arrived");
                const answer = await window.real(address, options);
                if (fate === "lost") throw new TypeError("its answer was lost");
                return answer;
            };
            JS, $ending, $fates);
    }

    /** A key as the browser tells of it. @param array<string, mixed> $with */
    private function key(string $type, string $key, string $code, array $with = [], string $on = 'body'): void
    {
        $this->page->run(
            'const [type, on, fields] = arguments; document.querySelector(on).dispatchEvent(new KeyboardEvent(type, {bubbles: true, cancelable: true, ...fields}))',
            $type,
            $on,
            ['key' => $key, 'code' => $code] + $with,
        );
    }

    /** @return int lots of the test contract that the account has */
    private function lots(string $code = self::CODE): int
    {
        return $this->trader->position($code)['quantity'] ?? 0;
    }

    private function draftAt(int $below): int
    {
        $tick = $this->quote('bids') - $below;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');

        return $tick;
    }

    public function testALostAnswerDoesNotDoubleTheOrder(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->fates('/api/orders', ['lost', 'ok']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => $this->chips('entry') !== [] && $this->chips('draft') === [], 'the order in place of its draft');
        self::assertCount(1, $this->trader->working());
        self::assertCount(1, array_unique($this->page->run('return window.sent')), 'one id from the press to the answer');
    }

    public function testWhatIsNotKnownToHaveArrivedIsAskedForAndFound(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->fates('/api/orders', ['lost', 'gone']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=unheard]', 'Checking whether it arrived');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'Confirmed: ');
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'the draft gone');
        $this->page->await(fn(): bool => $this->page->count('[data-field=unheard]') === 0, 'nothing more to check');
        self::assertCount(1, $this->trader->working());
    }

    /** The packet that was held up comes after all: by then the trader has gone on. */
    public function testWhatNeverArrivedIsGivenUpAndItsDraftStays(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->fates('/api/orders', ['gone']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        self::assertSame([$tick], $this->chips('draft'));
        $late = $this->trader->call('POST', 'orders', [
            'client_id' => $this->page->run('return window.sent[0]'), 'account' => $this->trader->account, 'contract' => self::CODE,
            'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::price($tick), 'exit_plan' => 1,
        ]);
        self::assertSame(409, $late->status);
        self::assertSame([], $this->trader->working());
        $this->page->run('window.fetch = window.real');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'sent anew');
    }

    /** The order was done, its answer lost, and then the session ends: "not sent" would be a lie that costs a second order. */
    public function testALostAnswerIsNotTakenForNotSentWhenTheSessionEnds(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->page->run('const real = window.real = window.fetch; let n = 0; window.fetch = async (address, options) => { if (!String(address).includes("/api/")) return real(address, options); if (n > 0) return new Response("{}", {status: n++ % 2 ? 401 : 429}); if (!String(address).endsWith("/orders")) return real(address, options); n = 1; await real(address, options); throw new TypeError("lost"); }');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->awaitText('[data-field=unheard]', 'Checking whether it arrived');
        self::assertStringNotContainsString('Not sent', $this->page->text('[data-field=said]'));
        $this->page->run('window.fetch = window.real');
        $this->page->find('[data-name=go-on]')->click();
        // Sent again with its id, or asked for: either way it is found.
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'the draft gone');
        self::assertStringNotContainsString('Not sent', $this->page->text('[data-field=said]'));
        self::assertCount(1, $this->trader->working());
    }

    public function testWhatIsDifferentForThisOrderGoesWithAPairAndNoFurther(): void
    {
        $this->enter(oneClick: false);
        $this->page->await(fn(): bool => $this->page->count('[data-part=this-order] [data-name=stop] button') === 2, 'the nudges');
        $this->page->find('[data-part=this-order] [data-name=stop] button:last-child')->click();
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $this->click($this->quote('asks') + 4, 'buy', 'Buy 2 stop');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 1, 'one draft');
        $this->click($this->quote('bids') - 4, 'sell', 'Sell 2 stop');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 2, 'two drafts');
        $this->page->holdKey('y', 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'the pair');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 7');
    }

    public function testALostAnswerToAFlattenClosesOnce(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->fates('/flatten', ['gone', 'lost', 'ok']);
        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $closes = array_filter(
            $this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'],
            static fn(array $order): bool => $order['role'] === 'close',
        );
        self::assertCount(1, $closes);
        self::assertSame(0, $this->lots());
    }

    /** X goes down in the moment in which the engine is gone: it waits for it, and is done once. */
    public function testAFlattenPressedWhileTheEngineIsAwayIsDoneWhenItIsBack(): void
    {
        $this->enter();
        $this->buyTwo();
        posix_kill($this->desk->enginePid(), SIGKILL);
        $this->page->holdKey('x', 350);
        $this->page->await(fn(): bool => $this->flat(), 'flat once the engine is back');
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame(0, $this->page->count('[data-field=unheard]'));
    }

    /** Asked until the engine answers at all. */
    private function flat(): bool
    {
        $reply = $this->trader->call('GET', "positions?account={$this->trader->account}");

        return $reply->status === 200 && array_filter($reply->body['items'], static fn(array $of): bool => $of['quantity'] !== 0) === [];
    }

    public function testADraftOfAContractThatNoLadderShowsIsNotSent(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->page->holdKey('.', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder][aria-label="Ladder '.self::CODE.'"]') === 0, 'another contract');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey('+', 10);
        $this->page->holdKey(',', 10);
        $this->page->await(fn(): bool => $this->chips('draft') !== [], 'the draft as it was');
        self::assertSame([], $this->trader->working());
        self::assertStringContainsString('2', $this->page->text('[data-part=chip][data-role=draft]'));
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'sent where it is to be seen');
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

    /** @param list<array{string, int, int}> $steps of the pointer: what it does, and where it is from the middle of the lane */
    private function pointer(string $css, array $steps): void
    {
        [$x, $y] = $this->page->middle($css);
        $actions = [['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y]];
        foreach ($steps as [$type, $right, $down]) {
            $actions[] = $type === 'pointerMove'
                ? ['type' => $type, 'duration' => 0, 'x' => $x + $right, 'y' => $y + $down]
                : ['type' => $type, 'button' => 0];
        }
        $this->page->mouse($actions);
    }

    public function testAPressThatIsSlidOffItsRungIsNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $lane = self::lane($tick, 'buy');
        $this->page->pointAt($lane);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->awaitSettled();
        $this->pointer($lane, [['pointerDown', 0, 0], ['pointerMove', 0, 40], ['pointerUp', 0, 0]]);
        $this->pointer($lane, [['pointerDown', 0, 0], ['pointerMove', 300, 0], ['pointerUp', 0, 0]]);
        self::assertSame([], $this->trader->working());
        $this->page->pointAt($lane);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->awaitSettled();
        $this->pointer($lane, [['pointerDown', 0, 0], ['pointerMove', 2, 2], ['pointerUp', 0, 0]]);
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'a hand that trembles means its rung');
        self::assertSame(self::price($tick), $this->trader->working()[0]['price']);
    }

    public function testByItsSettingAPressActsAsItGoesDown(): void
    {
        $this->setEntry(['act_on_press' => true]);
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->awaitSettled();
        $this->pointer(self::lane($tick, 'buy'), [['pointerDown', 0, 0]]);
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'at once');
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
    }

    public function testWithOneClickOffButtonsThatOpenMakeDraftsAndSaySo(): void
    {
        $this->enter(oneClick: false);
        self::assertStringContainsString('draft', $this->page->text('[data-action=buy-market]'));
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->awaitText('[data-field=confirm]', 'Buy 2 market');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->find('[data-action=join-bid]')->click();
        $this->page->await(fn(): bool => count($this->chips('draft')) === 1, 'a draft at the bid');
        self::assertSame([[], 0], [$this->trader->working(), $this->lots()]);
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->awaitText('[data-field=confirm]', 'Buy 2 market');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => $this->lots() === 2, 'sent with Enter');
        $this->setEntry(['buttons_at_once' => true]);
        $this->page->open($this->desk->url())->awaitLive();
        self::assertStringNotContainsString('draft', $this->page->text('[data-action=buy-market]'));
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->await(fn(): bool => $this->lots() === 4, 'at once, as it was set');
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

    /** A page that was held up hears of the press late, and of its own timers later still. */
    public function testASilentFeedIsJudgedAtThePress(): void
    {
        $this->enter();
        $this->page->find('[data-action=buy-market]');
        $this->page->run('const now = performance.now.bind(performance); performance.now = () => now() + 2500; document.querySelector("[data-action=buy-market]").click(); performance.now = now;');
        $this->page->awaitText('[data-field=said]', 'the feed is not live');
        self::assertSame(0, $this->lots());
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

    /** The stream has been away for too long to go on where it was. A stop filled meanwhile: the position shows it, and the lists have to say how. */
    public function testWhatWasDoneWhileNothingWasHeardIsFetchedOnceThereIsAPictureAgain(): void
    {
        $this->enter();
        $this->page->tab('Fills');
        $this->page->run('window.Real = EventSource; window.EventSource = class { constructor() { setTimeout(() => this.onerror?.(), 50); } addEventListener() {} close() {} }');
        $this->desk->killEngine();
        $this->page->awaitText('[data-part=banner]', 'The engine is away');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market']);
        $this->page->run('window.EventSource = class extends Real { constructor(url) { super(url.replace(/after=[0-9]+/, "after=1")); } }');
        $this->page->awaitText('[data-field=position]', 'Long 3');
        $this->page->awaitText('[aria-label=Fills]', 'Bought');
        $this->page->awaitText('[data-field=said]', 'lines were missed');
        $this->page->tab('Journal');
        $this->page->awaitText('[aria-label=Journal]', 'Placed: Buy 3 market');
    }

    /** The lists are the last that is asked for: without them there is a desk all the same, and without an engine one is waited for. */
    public function testADeskWhoseEngineGoesWhileItOpensOpensByItself(): void
    {
        $this->enter();
        $tools = new \Facebook\WebDriver\Chrome\ChromeDevToolsDriver($this->page->driver);
        $kept = $tools->execute('Page.addScriptToEvaluateOnNewDocument', ['source' => 'const real = window.fetch; window.refused = 0; window.fetch = (address, options) => { const path = String(address); const isList = path.includes("journal?") || path.includes("orders?"); if (isList || (path.includes("positions?") && window.refused++ < 2)) return Promise.resolve(new Response(JSON.stringify({code: "engine-away", detail: "the engine is away"}), {status: 503})); return real(address, options); };']);
        try {
            $this->page->open('/')->awaitLive();
            self::assertGreaterThanOrEqual(3, $this->page->run('return window.refused'));
            $this->page->holdKey('o', 10);
            $this->page->awaitText('[data-action=one-click]', 'One-click on');
            $this->page->find('[data-action=buy-market]')->click();
            $this->page->awaitText('[data-field=position]', 'Long 2');
        } finally {
            $tools->execute('Page.removeScriptToEvaluateOnNewDocument', ['identifier' => $kept['identifier']]);
        }
    }

    /** A line that went dead without an end (a lost cell, a machine that slept) gives no error: the page gives it up by itself. */
    public function testAStreamThatSaysNothingIsOpenedAnew(): void
    {
        $this->enter();
        $this->page->run('window.Real = EventSource; window.opened = 0; window.EventSource = class { constructor() { window.opened++; } addEventListener() {} close() {} }');
        $this->desk->killEngine();
        $this->page->await(fn(): bool => $this->page->run('return window.opened') >= 2, 'the silent stream to be given up');
        $this->page->run('window.EventSource = window.Real');
        $this->page->awaitLive();
    }

    public function testAPriceThroughTheMarketThatIsTypedInTheListAsksFirst(): void
    {
        $this->enter();
        $price = self::price($this->quote('bids') - 6);
        $id = $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => $price])->body['id'];
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Orders');
        $this->page->await(fn(): bool => $this->page->count("[data-row='$id'] [data-edit=price]") === 1, 'the order in the list');
        $this->page->find("[data-row='$id'] [data-edit=price]")->click();
        $this->page->find("[data-row='$id'] [data-part=edit]")->sendKeys(self::price($this->quote('asks') + 5));
        $this->page->awaitText("[data-row='$id'] [role=status]", 'trades at once, the market is at');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[role=alertdialog]', "Order $id trades at once");
        self::assertSame($price, $this->trader->working()[0]['price']);
        $this->page->find('[data-name=change-through]')->click();
        $this->page->await(fn(): bool => $this->lots() === 2, 'bought at the market');
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

    public function testTheTicketAsksBeforeItSendsMoreLotsThanAreToBeConfirmed(): void
    {
        $this->setEntry(['confirm_over' => 1]);
        $this->enter();
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-action=ticket-send]:not(:disabled)') === 1, 'the ticket, ready');
        $this->page->find('[data-action=ticket-send]')->click();
        $this->page->awaitText('[role=alertdialog]', 'more than 1 lots. Send it?');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->awaitText('[data-field=said]', 'it was not confirmed');
        self::assertSame([], $this->trader->working());
        $this->page->find('[data-action=ticket-send]')->click();
        $this->page->find('[data-name=confirm]')->click();
        $this->page->await(fn(): bool => count($this->trader->working()) + $this->lots() > 0, 'sent once it is confirmed');
    }

    public function testOwnOrdersBeyondTheRungsStandAtTheEdgeAndAPressThereShowsThem(): void
    {
        $this->enter();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10, 'the ladder');
        $last = $this->last();
        foreach ([40, 44] as $below) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($last - $below),
            ]);
        }
        $this->page->awaitText('[data-edge=down]', 'limit');
        $this->page->awaitText('[data-edge=down]', '+1');
        self::assertMatchesRegularExpression('/1 limit · (39|40|41) down · \+1/', $this->page->text('[data-edge=down]'), 'how far the nearer one is');
        $this->page->find('[data-edge=down] button')->click();
        $this->page->await(fn(): bool => $this->chips('entry') === [$last - 40, $last - 44], 'their rungs');
        self::assertSame(0, $this->page->count('[data-edge=down]'));
        self::assertCount(2, $this->trader->working(), 'the press there placed and moved nothing');
    }

    public function testRungsComeBackAsTheyWereLeft(): void
    {
        $this->enter();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10, 'the ladder');
        $this->wheel('[data-part=rungs]', -100);
        $this->awaitSettled();
        $top = $this->topRung();
        $this->page->open('/')->awaitLive();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10 && $this->topRung() === $top, 'the same rungs');
        $this->page->run('const zoom = document.querySelector("[aria-label=\"Ticks a rung\"]"); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, "value").set.call(zoom, "5"); zoom.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->holdKey('.', 10);
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector("[aria-label=\"Ticks a rung\"]").value') === '1', 'another contract has its own');
        $this->page->open('/')->awaitLive();
        $this->page->holdKey(',', 10);
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector("[aria-label=\"Ticks a rung\"]").value') === '5', 'five ticks a rung, as it was');
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

    public function testEachEntryShowsItsOwnProfitAndTheLaneWhatItCountsFrom(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->trader->push(self::CODE, 4);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=portions] [data-part=entry-head] b') === 2, 'two entries with their own profit');
        $position = $this->trader->position(self::CODE);
        $this->page->awaitText('[data-part=rung-heads]', "P/L from {$position['average_words']}");
        $shown = $this->page->run('return [...document.querySelectorAll("[data-part=portions] [data-part=entry-head] b")].map((b) => Number(b.textContent))');
        self::assertEqualsWithDelta((float) $position['open_money'], array_sum($shown), 0.001);
        self::assertNotSame($shown[0], $shown[1]);
        self::assertStringContainsString('counted from', (string) $this->page->find('[data-part=chip][data-role=stop]')->getAttribute('title'));
    }

    public function testAnOrderOverTheLossRoomSaysSoBeforeItIsSent(): void
    {
        $this->enter(oneClick: false);
        $this->page->run('document.querySelector("[data-part=typed-lots] input").focus()');
        $this->page->find('[data-part=typed-lots] input')->clear()->sendKeys('20');
        $this->page->pointAt(self::lane($this->quote('bids') - 3, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 20 limit');
        self::assertStringNotContainsString('loss room', $this->page->text('[data-part=strip]'), '374.80 at risk, 500.00 are left');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 20, 'kind' => 'market']);
        $this->trader->push(self::CODE, -5);
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => 'f', 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('[data-part=strip]', 'over the loss room of');
        $this->page->awaitText('[data-part=rungs]', 'over the loss room');
    }

    public function testTheSignInIsAskedForOverTheDeskAndDraftsStay(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->page->run('window.real ??= window.fetch; window.fetch = async () => new Response("{}", {status: 401})');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->run('document.querySelector("meta[name=csrf-token]").content = "old"; window.fetch = window.real');
        $this->page->find('[data-name=go-on]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 0, 'the desk again');
        self::assertSame([$tick], $this->chips('draft'));
        $this->page->await(fn(): bool => $this->page->text('[data-field=feed]') === 'live', 'the feed');
        $this->page->awaitText('[data-part=strip]', 'Enter sends');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'sent with the new token');
    }

    /** An answer that was on its way while the session was renewed is about the one before. */
    public function testALateRefusalOfTheOldSessionDoesNotCloseTheDeskAgain(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->page->run('window.real ??= window.fetch; window.late = null; window.ended = false; window.fetch = (address, options) => String(address).endsWith("/orders") ? new Promise((answer) => { window.late = () => answer(new Response("{}", {status: 419})); }) : window.ended ? Promise.resolve(new Response("{}", {status: 401})) : window.real(address, options)');
        $this->page->holdKey("\u{E007}", 10);
        // A question that is asked again by itself would have closed the desk before the order went out.
        $this->page->await(fn(): bool => $this->page->run('return window.late !== null'), 'the order on its way');
        $this->page->run('window.ended = true');
        $this->page->pointAt(self::lane($tick + 1, 'buy'));
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->run('const hold = window.fetch; window.fetch = (a, o) => String(a).endsWith("/orders") ? hold(a, o) : window.real(a, o)');
        $this->page->find('[data-name=go-on]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 0, 'the desk again');
        $this->page->run('window.late()');
        $this->page->awaitText('[data-field=said]', 'Not sent: you are signed out');
        self::assertSame(0, $this->page->count('[data-field=signed-out]'));
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

    /** On the way to the cards the pointer crosses another ladder: the cards stay those that it was on its way to. */
    public function testCrossingAnotherLadderDoesNotBringItInFront(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->run('document.querySelector("[data-action=add-ladder]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2, 'two ladders');
        $this->page->pointAt("[data-ladder='1'] [data-part=rungs]");
        $this->page->await(fn(): bool => $this->page->count("[data-ladder='1'][data-front]") === 1, 'a pointer that rests brings it in front');
        $this->page->awaitText('[data-field=slot-position]', 'Long 2');
        [$x, $y] = $this->page->middle("[data-ladder='2'] [data-part=rungs]");
        [$right, $top] = $this->page->middle('[data-action=flatten]');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 20, 'x' => $x, 'y' => $y], ['type' => 'pointerMove', 'duration' => 20, 'x' => $right, 'y' => $top],
            ['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->await(fn(): bool => $this->lots() === 0, 'what was in front is flat');
        self::assertSame(1, $this->page->count("[data-ladder='1'][data-front]"));
    }

    /** Two lines within a millisecond are two, and both go on when others come. */
    public function testLinesThatComeTogetherAreBothSaidAndMakeRoom(): void
    {
        $this->enter();
        $this->page->run('for (const key of ["l", "j"]) window.dispatchEvent(new KeyboardEvent("keydown", {key}))');
        $this->page->awaitText('[data-field=said]', 'No portion has a target');
        $this->page->awaitText('[data-field=said]', 'No stop is steered by hand');
        for ($i = 0; $i < 3; $i++) {
            $this->page->run('for (const key of ["w", "l", "j", "l"]) window.dispatchEvent(new KeyboardEvent("keydown", {key}))');
        }
        self::assertSame(4, $this->page->count('[data-field=said] li'));
    }

    /** The market moves between the finger going down and coming up: the order is the one that was read. */
    public function testAQuickButtonSendsThePriceThatWasPaintedAsThePointerWentDown(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        $this->page->awaitText('[data-action=join-bid]', self::price($bid));
        $this->page->pointAt('[data-action=join-bid]');
        $this->page->mouse([['type' => 'pointerDown', 'button' => 0]]);
        $this->trader->push(self::CODE, 6);
        $this->page->await(fn(): bool => ! str_contains($this->page->text('[data-action=join-bid]'), self::price($bid)), 'another bid');
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        self::assertSame(self::price($bid), $this->trader->working()[0]['price']);
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

    public function testAPanelThatFailsTakesNeitherTheOthersNorTheKeysAlong(): void
    {
        $this->enter();
        $this->buyTwo();
        // What the card draws with is broken, as a fault in it would: it turns its entries into rows.
        $this->page->run('const real = Array.prototype.map; window.whole = real; Array.prototype.map = function (...a) { if (this[0]?.portions && !new Error().stack.includes("receive")) throw new Error("on purpose"); return real.apply(this, a); }');
        $this->trader->push(self::CODE, 1);
        $this->page->awaitText('[data-field=broken-panel]', 'could not be drawn');
        self::assertGreaterThan(10, $this->page->count('[data-part=rung]'), 'the ladder goes on');
        $this->page->holdKey('x', 450);
        $this->page->await(fn(): bool => $this->lots() === 0, 'flat all the same');
        $this->page->run('Array.prototype.map = window.whole; document.querySelector("[data-field=broken-panel] button").click()');
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertNotSame([], $this->page->complaints(), 'React tells of the fault');
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

    public function testLotsAndPlanBelongToTheContractAndComeBackWithIt(): void
    {
        $this->enter();
        $this->page->holdKey('4', 10);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '5');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        $this->page->holdKey('.', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '2');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Short tide');
        $this->page->holdKey('.', 10);
        $this->page->holdKey('3', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $front = $this->page->run('return document.querySelector("[data-part=ladder]").getAttribute("aria-label")');
        $this->page->open($this->desk->url())->awaitLive();
        self::assertSame($front, $this->page->run('return document.querySelector("[data-part=ladder]").getAttribute("aria-label")'));
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $this->page->holdKey(',', 10);
        $this->page->holdKey(',', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '5');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
    }

    public function testTheContractWithTheOpenPositionStandsInFrontAfterAReload(): void
    {
        $this->enter();
        $this->trader->place(['contract' => 'DULH7', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->open($this->desk->url())->awaitLive();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        self::assertSame(1, $this->page->count('[data-part=ladder][aria-label="Ladder DULH7"]'));
    }

    /** What is different for this order stands in the ghost that is pressed, and stays where the order is refused. */
    public function testWhatIsDifferentForThisOrderIsShownAndNotLostByARefusal(): void
    {
        $this->enter();
        $this->page->await(fn(): bool => $this->page->count('[data-part=this-order] [data-name=stop] button') === 2, 'the nudges');
        $this->page->find('[data-part=this-order] [data-name=stop] button:last-child')->click();
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->page->awaitText('[data-part=strip]', 'risk 40.00');
        $this->fates('/api/orders', ['gone']);
        $this->awaitSettled();
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $this->page->run('window.fetch = window.real');
        $this->awaitSettled();
        $this->page->press();
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 7');
    }
}
