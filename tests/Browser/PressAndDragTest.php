<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Presses and drags on the ladder: what is sent is what was shown, and a hand that slips does nothing. */
final class PressAndDragTest extends PageCase
{
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

    public function testWithOneClickOffAClickMakesADraftThatEnterSendsOnce(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'a click makes a draft');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');
        self::assertSame([], $this->trader->working(), 'nothing was sent');
        $this->page->pointAt('[data-part=headline]');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick).' · Short tide · risk 35.00 + 2.48 fees · draft: Enter sends');
        $this->page->driver->executeScript('for (const _ of [1, 2]) window.dispatchEvent(new KeyboardEvent("keydown", {key: "Enter"}))');
        $this->page->await(
            fn(): bool => $this->chips('entry') === [$tick] && $this->chips('draft') === [],
            'the order in the draft\'s place',
        );
        self::assertCount(1, $this->trader->working(), 'Enter twice sends one');
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

    public function testHoldingDMakesADraftWhileOneClickIsOn(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->driver->executeScript('window.dispatchEvent(new KeyboardEvent("keydown", {key: "d"}))');
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');
        self::assertSame([], $this->trader->working());
    }

    public function testClosingIsOnePressWithOneClickOff(): void
    {
        $this->enter(oneClick: false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->click($this->quote('bids'), 'sell', 'closes 2 of 2');
        $this->page->awaitText('[data-field=position]', 'Flat');
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

    /** On the way to the cards the pointer crosses another ladder: the cards stay those that it was on its way to. */
    public function testCrossingAnotherLadderDoesNotBringItInFront(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->run('document.querySelector("[data-action=add-ladder]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2, 'two ladders');
        $this->page->pointAt("[data-ladder='1'] [data-part=slot-head] small");
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count("[data-ladder='1'][data-front]") === 1, 'a press on its head brings it in front');
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

    public function testADraftIsDraggedAndDropped(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'a click makes a draft');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');
        $this->drag('[data-part=chip][data-role=draft] b', self::lane($this->quote('asks') + 4, 'buy'));
        $this->page->await(fn(): bool => $this->chips('draft') === [$this->quote('asks') + 4], 'the draft at its new rung');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 stop');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'Esc drops it');
        self::assertSame([], $this->trader->working());
    }

    public function testAnOrderIsDraggedToAnotherRung(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->await(fn(): bool => count($this->chips('stop')) === 2, 'the stops');
        $this->drag('[data-part=chip][data-role=target] b', self::lane($entry + 12, 'sell'));
        $this->page->await(fn(): bool => $this->chips('target') === [$entry + 12], 'the target at its new rung');
        $tick = $this->quote('bids') - 6;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the entry');
        $this->drag('[data-part=chip][data-role=entry] b', self::lane($tick - 3, 'buy'), escape: true);
        self::assertSame([$tick], $this->chips('entry'), 'Esc while dragging leaves it where it was');
    }

    /** A busy page hears of all of a quick drag at once, and has drawn none of it when it ends. */
    public function testAQuickDragOnABusyPageEndsWhereItIsLetGo(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 6;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the entry');
        $this->page->run(
            'const [from, ...to] = arguments; const fire = (type, at) => { const on = document.querySelector(at); const b = on.getBoundingClientRect(); on.dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0, buttons: 1, clientX: b.x + 9, clientY: b.y + b.height / 2})); }; fire("pointerdown", from); for (const at of to) fire("pointermove", at); fire("pointerup", to.at(-1))',
            '[data-part=chip][data-role=entry] b',
            self::lane($tick - 1, 'buy'),
            self::lane($tick - 3, 'buy'),
        );
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick - 3], 'the entry at the rung where it was let go');
    }

    public function testADragThatIsLetGoOutsideTheLadderMovesNothingThenOrLater(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 6;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the entry');
        [$x, $y] = $this->page->middle('[data-part=chip][data-role=entry] b');
        [, $over] = $this->page->middle(self::lane($tick - 3, 'buy'));
        [$outside, $above] = $this->page->middle('[data-part=headline]');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 50, 'x' => $x, 'y' => $over],
        ]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=note]') === 1, 'where it would go');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 50, 'x' => $outside, 'y' => $above], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=note]') === 0, 'nothing to be said any more');
        $this->click($tick - 2, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick, $tick - 2], 'the entry where it was, and a new one');
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
}
