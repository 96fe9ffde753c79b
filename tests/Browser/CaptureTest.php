<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What a press, a drag or a key means is fixed as it begins, and each acts once. */
final class CaptureTest extends PageCase
{
    /** @param list<array<string, mixed>> $steps */
    private function tile(string $name, string $key, array ...$steps): void
    {
        $this->trader->call(
            'PUT',
            'settings/action-keys',
            ['format' => 'lotrik.action-keys/1', 'tiles' => [['name' => $name, 'key' => $key, 'steps' => $steps]]],
        );
    }

    /** Answers to calls whose address ends so wait until `window.go()`. */
    private function holdBack(string $ending): void
    {
        $this->page->run(<<<'JS'
            const ending = arguments[0], real = window.fetch, held = window.held = [];
            window.fetch = (address, options) => String(address).endsWith(ending)
                ? new Promise((answer, fail) => {
                    held.push(() => options.signal?.aborted || answer(real(address, options)));
                    options.signal?.addEventListener('abort', () => fail(options.signal.reason));
                })
                : real(address, options);
            window.go = () => { window.fetch = real; for (const one of held) one(); };
            JS, $ending);
    }

    /** Bars are pinned to one contract, another is in front: what is dragged on the bars is what stands there. */
    public function testAStopDraggedOnBarsOfAnotherContractMovesThatOneAlone(): void
    {
        $this->trader->steps(self::CODE, 1500);
        foreach ([self::CODE, 'DULH7'] as $code) {
            $this->trader->place(['contract' => $code, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        }
        // Close to its stop, so that the bars reach down to it.
        $this->trader->push(self::CODE, -5);
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Bars');
        $this->page->await(fn(): bool => $this->page->count('[data-field=pinned]') === 1, 'the bars');
        $this->page->run('const s = document.querySelector("[data-field=pinned]"); s.value = arguments[0]; s.dispatchEvent(new Event("change", {bubbles: true}))', self::CODE);
        while ($this->page->count('[aria-label="Ladder DULH7"]') === 0) {
            $this->page->holdKey('.', 10);
        }
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Bars of '.self::CODE.'"] [data-part=chip][data-role=stop] b') > 0, 'its stop on the bars');
        $stops = fn(string $code): array => array_column(
            array_filter($this->trader->working(), static fn(array $order): bool => $order['contract'] === $code),
            'trigger',
        );
        [$here, $other] = [$stops(self::CODE), $stops('DULH7')];
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars-field][data-settled=true]') === 1, 'the scale to stand');
        [$x, $y] = $this->page->middle('[data-part=bars-field] [data-part=chip][data-role=stop] b');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 50, 'x' => $x, 'y' => $y + 18], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->await(fn(): bool => $stops(self::CODE) !== $here, 'the stop of the bars\' contract moved');
        self::assertSame($other, $stops('DULH7'));
    }

    /** What its orders would be is asked for first: meanwhile the trader goes to another contract. */
    public function testATilesKeyMeansTheContractAndTheLotsThatStoodThere(): void
    {
        $this->tile('Dip', 'F13', ['do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => -3, 'lots' => 'chosen', 'plan' => 'chosen']);
        $this->enter();
        $bid = $this->quote('bids');
        self::assertSame(0, $this->page->count('[data-field=deck]'), 'no deck that shows its prices');
        $this->holdBack('/steps/preview');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "F13"}))');
        $this->page->await(fn(): bool => $this->page->run('return window.held.length') > 0, 'asked what it would be');
        $this->page->holdKey('.', 10);
        $this->page->holdKey('4', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '5');
        $this->page->run('window.go()');
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $order = $this->trader->working()[0];
        self::assertSame([self::CODE, self::price($bid - 3), 2], [$order['contract'], $order['price'], $order['quantity']]);
    }

    /** Prices that come long after the press are not those that the hand meant. */
    public function testATileWhosePricesComeTooLateSendsNothing(): void
    {
        $this->tile('Dip', 'F13', ['do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => -3, 'lots' => 'chosen', 'plan' => 'chosen']);
        $this->enter();
        $this->holdBack('/steps/preview');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "F13"}))');
        $this->page->awaitText('[data-field=said]', 'Dip: not sent: its prices came too late');
        $this->page->run('window.go()');
        $this->page->awaitSequence($this->trader->push(self::CODE, 1)->body['sequence']);
        self::assertSame([], $this->trader->working());
    }

    public function testATilePressedTwiceBeginsOnce(): void
    {
        $this->tile(
            'Fade',
            'F13',
            ['do' => 'cancel-all'],
            ['do' => 'order', 'side' => 'sell', 'kind' => 'limit', 'from' => 'ask', 'offset' => 5, 'lots' => 1, 'plan' => 'none'],
        );
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Action keys');
        $this->page->awaitText('[data-action=tile-Fade]', 'cancel all, then sell 1 limit');
        $this->holdBack('/steps');
        $this->page->run('const tile = document.querySelector("[data-action=tile-Fade]"); tile.click(); tile.click(); window.dispatchEvent(new KeyboardEvent("keydown", {key: "F13"}))');
        $this->page->await(fn(): bool => $this->page->run('return window.held.length') > 0, 'under way');
        $this->page->run('document.querySelector("[data-action=tile-Fade]").click()');
        self::assertSame(1, $this->page->run('return window.held.length'));
        $this->page->run('window.go()');
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'its order');
    }

    public function testTheTicketSendsOnceWhileEnterIsHeld(): void
    {
        $this->enter();
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-action=ticket-send]:not(:disabled)') === 1, 'the ticket, ready');
        $this->holdBack('/api/orders');
        $this->page->run(<<<'JS'
            const field = document.querySelector('[data-field=ticket] [data-name=lots]');
            const enter = (repeat) => { if (field.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', code: 'Enter', repeat, bubbles: true, cancelable: true}))) field.form?.requestSubmit(); };
            enter(false); enter(true); enter(true);
            JS);
        $this->page->await(fn(): bool => $this->page->run('return window.held.length') > 0, 'sent');
        $this->page->run('const send = document.querySelector("[data-action=ticket-send]"); send?.click(); send?.click();');
        self::assertSame(1, $this->page->run('return window.held.length'));
        $this->page->run('window.go()');
        $this->page->await(fn(): bool => count($this->trader->working()) + count(array_filter([$this->trader->position(self::CODE)['quantity'] ?? 0])) === 1, 'one order');
    }

    public function testAnArmedRowSaysWhatItSendsAndMakesADraftWithOneClickOff(): void
    {
        $this->enter(oneClick: false);
        $this->page->tab('Contracts');
        $this->page->await(fn(): bool => $this->page->count('[data-arm=DULH7]') === 1, 'the row');
        $this->page->run('document.querySelector("[data-arm=DULH7]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-quote]') === 2, 'its bid and its ask');
        $this->page->awaitText('[data-arm=DULH7]', '2 · Short tide · draft');
        $this->page->await(function (): bool {
            $this->page->run('for (const type of ["pointerdown", "pointerup"]) document.querySelector("[data-quote]").dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0}))');

            return count($this->chips('draft')) === 1;
        }, 'a draft');
        self::assertSame([], $this->trader->working());
    }

    public function testAPressOnAnArmedRowThatIsSlidOffIsNothing(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Contracts');
        $this->page->await(fn(): bool => $this->page->count('[data-arm='.self::CODE.']') === 1, 'the row');
        $this->page->run('document.querySelector("[data-arm='.self::CODE.']").click()');
        $buy = '[data-quote]';
        $this->page->await(fn(): bool => $this->page->count($buy) === 2, 'its bid and its ask');
        // Long enough for the row to take a press at all.
        [$x, $y] = $this->page->middle($buy);
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 600, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 50, 'x' => $x, 'y' => $y - 120], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->awaitSequence($this->trader->push(self::CODE, 1)->body['sequence']);
        self::assertSame([[], 0], [$this->trader->working(), $this->trader->position(self::CODE)['quantity'] ?? 0]);
        $this->page->await(function () use ($buy): bool {
            $this->page->pointAt($buy);
            $this->page->press();

            return ($this->trader->position(self::CODE)['quantity'] ?? 0) !== 0 || $this->trader->working() !== [];
        }, 'let go on it, it is sent');
    }

    /** A stop let go beyond the market with Shift down is meant so. */
    public function testWithShiftAStopLetGoThroughTheMarketCloses(): void
    {
        $this->enter();
        $this->buyTwo();
        [$x, $y] = $this->page->middle('[data-part=chip][data-role=stop]');
        [, $to] = $this->page->middle(self::lane($this->quote('asks') + 4, 'sell'));
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 100, 'x' => $x, 'y' => $to],
        ]);
        $this->page->awaitText('[data-part=rungs]', 'closes');
        $this->page->awaitText('[data-part=rungs]', 'now ≈');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Shift", shiftKey: true}))');
        $this->page->run('const at = document.elementFromPoint(arguments[0], arguments[1]); at.dispatchEvent(new PointerEvent("pointerup", {bubbles: true, pointerId: 1, button: 0, shiftKey: true, clientX: arguments[0], clientY: arguments[1]}))', $x, $to);
        $this->page->await(fn(): bool => ($this->trader->position(self::CODE)['quantity'] ?? 0) < 2, 'closed at the market');
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
    }

    public function testTheTopBarFlattensAndCancelsTheWholeAccountAndTheCardCannotBeHidden(): void
    {
        $this->enter();
        foreach ([self::CODE, 'DULH7'] as $code) {
            $this->trader->place(['contract' => $code, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => 1]);
            $bid = $this->trader->call('GET', "contracts/$code/book")->body['bids'][0][0];
            $this->trader->place([
                'contract' => $code, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit',
                'price' => (string) \Brick\Math\BigDecimal::of($bid)->minus('3.00'),
            ]);
        }
        $open = fn(): int => count(array_filter(array_map(
            fn(string $code): int => $this->trader->position($code)['quantity'] ?? 0,
            [self::CODE, 'DULH7'],
        )));
        $entries = fn(): int => count(array_filter($this->trader->working(), static fn(array $order): bool => $order['role'] === 'entry'));
        $this->page->await(fn(): bool => $open() === 2 && $entries() === 2, 'two positions and two orders');
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-panel=cards]') === 1, 'arranging');
        self::assertSame(0, $this->page->count('[aria-label="Hide '.$this->page->text('[data-tab=cards]').'"]'));
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-panel=cards]') === 0, 'done');
        $this->page->find('[data-action=cancel-account]')->click();
        $this->page->await(fn(): bool => $entries() === 0, 'both entries cancelled');
        self::assertSame([2, 2], [$open(), count($this->trader->stops())], 'positions and stops stay');
        $this->page->find('[data-action=flatten-account]')->click();
        $this->page->await(fn(): bool => $open() === 0 && $this->trader->working() === [], 'flat everywhere');
    }

    /** A box to tick, a slider and a modifier that comes up in the middle keep the panic keys from nothing. */
    public function testThePanicKeysWorkFromBoxesAndSliders(): void
    {
        $this->enter();
        $hold = fn(string $on): mixed => $this->page->run(<<<'JS'
            const on = document.querySelector(arguments[0]), fire = (type, key, code, with_ = {}) => on.dispatchEvent(new KeyboardEvent(type, {key, code, bubbles: true, cancelable: true, ...with_}));
            on.focus();
            fire('keydown', 'Alt', 'AltLeft', {altKey: true});
            fire('keydown', '≈', 'KeyX', {altKey: true});
            fire('keyup', 'Alt', 'AltLeft');
            window.letGo = () => fire('keyup', 'x', 'KeyX');
            JS, $on);
        foreach (['checkbox', 'range'] as $type) {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => null]);
            $this->page->awaitText('[data-field=position]', 'Long 1');
            $this->page->run('document.querySelector("#panic")?.remove(); const field = document.createElement("input"); field.type = arguments[0]; field.id = "panic"; document.querySelector("[data-part=top-bar]").append(field)', $type);
            $hold('#panic');
            $this->page->awaitText('[data-field=position]', 'Flat');
            $this->page->run('window.letGo()');
        }
    }
}
