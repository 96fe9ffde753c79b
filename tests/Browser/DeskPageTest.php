<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\Page;
use Tests\Support\RunningDesk;

/** The real page in Chromium: what a trader does with the ladder, seen on the ladder. */
final class DeskPageTest extends PageCase
{
    public function testFromTheEntryLinkToFlat(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->awaitText('[data-field=protected]', '2 of 2');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 7, $entry - 7], 'both stops 7 below');
        self::assertSame([$entry + 9], $this->chips('target'));
        self::assertStringContainsString(self::price($entry), $this->page->text('[data-part=price][data-average]'));

        $this->pushTo($entry + 5);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops at break-even');
        self::assertStringContainsString('stop ±0', $this->page->text('[data-part=chip][data-role=stop]'));
        $this->pushTo($entry + 11);
        $this->page->await(
            fn(): bool => $this->chips('stop') === [$entry + 5] && $this->chips('target') === [],
            'one out, the other trailing',
        );
        $this->page->awaitText('[data-field=position]', 'Long 1');
        $this->pushTo($entry + 13);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 7], 'the trail');

        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-order]') === 0, 'no chip left');
        self::assertSame([], $this->trader->working());
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

    public function testClosingIsOnePressWithOneClickOff(): void
    {
        $this->enter(oneClick: false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->click($this->quote('bids'), 'sell', 'closes 2 of 2');
        $this->page->awaitText('[data-field=position]', 'Flat');
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

    public function testSeveralOrdersAtOneRungShareHalfOfTheLaneAndFanOut(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        foreach ([1, 2, 3] as $lots) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => $lots, 'kind' => 'limit', 'price' => self::price($tick),
            ]);
        }
        $this->page->await(fn(): bool => count($this->chips('entry')) === 3, 'three chips');
        $widths = $this->page->run(
            'const lane = document.querySelector(arguments[0]); return [lane.getBoundingClientRect().width, [...lane.children].reduce((sum, chip) => sum + chip.getBoundingClientRect().width, 0)]',
            self::lane($tick, 'buy'),
        );
        self::assertLessThan($widths[0] * 0.75, $widths[1], 'room to press beside them');
        self::assertSame(2, $this->page->count(self::lane($tick, 'buy').' [data-part=chip][data-narrow]'));
        $this->page->pointAt(self::lane($tick, 'buy').' [data-part=chip][data-narrow]');
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count(self::lane($tick, 'buy').'[data-fanned]') === 1, 'the rung to fan out');
        self::assertSame(3, $this->page->count(self::lane($tick, 'buy').' [data-part=chip] button'), 'each with its cross');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-fanned]') === 0, 'Esc to fold it');
        self::assertCount(3, $this->trader->working());
    }

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

    public function testTheGhostShowsItsExitsOnTheirRungs(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 2;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText("[data-part=rung][data-tick='".($tick - 7)."'] [data-part=note][data-kind=exit]", '2 stop -35.00');
        $this->page->awaitText("[data-part=rung][data-tick='".($tick + 9)."'] [data-part=note][data-kind=exit]", '1 target +22.50');
    }

    public function testTheListsAreSortedByTheirHeadsAndKeepIt(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        foreach ([3, 1, 2] as $lots) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => $lots, 'kind' => 'limit', 'price' => self::price($bid - 5 - $lots),
            ]);
        }
        $lots = fn(): array => $this->page->run('return [...document.querySelectorAll("[data-part=live-row] [role=gridcell]:nth-child(4)")].map((cell) => Number(cell.textContent))');
        $this->page->await(fn(): bool => $lots() === [2, 1, 3], 'newest first');
        $this->page->run('document.querySelector("[data-part=live-head] [role=columnheader]:nth-child(5) button").click()');
        $this->page->await(fn(): bool => $lots() === [1, 2, 3], 'by price, the highest first');
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-part=columns]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=menu] [role=menuitemcheckbox][aria-checked=true]') === count(explode(' ', 'Time Contract Order Lots Price Limit Duration Ahead Why State')), 'the columns');
        // A letter looks for a choice, and is no key of the desk meanwhile.
        $this->page->holdKey('w', 10);
        $this->page->holdKey("\u{E007}", 10);
        $heads = fn(): string => (string) $this->page->run('return [...document.querySelectorAll("[data-part=live-head] [role=columnheader]")].map((h) => h.textContent).join(" ")');
        $this->page->await(fn(): bool => ! str_contains($heads(), 'Why'), 'the column to go');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=menu]') === 0, 'the menu shut');
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive()->await(fn(): bool => $lots() === [1, 2, 3], 'still so after a reload');
        self::assertStringNotContainsString('Why', $heads());
    }

    public function testAThousandJournalRowsAreListedAndOnlyThoseInSightAreDrawn(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        foreach (range(1, 120) as $n) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($bid - 60),
            ]);
        }
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Journal');
        $this->page->await(
            fn(): bool => (int) $this->page->run('return document.querySelector("[data-part=live-table]").ariaRowCount') > 150,
            'more rows than are in sight',
        );
        self::assertLessThan(40, $this->page->count('[data-part=live-row]'));
        $this->page->run('document.querySelector("[data-part=live-table]").focus()');
        $this->page->holdKey("\u{E010}", 10);
        $this->page->await(
            fn(): bool => (bool) $this->page->run('const rows = document.querySelectorAll("[data-part=live-row]"); return rows[rows.length - 1]?.ariaRowIndex === document.querySelector("[data-part=live-table]").ariaRowCount'),
            'End to show the oldest',
        );
    }

    public function testNothingIsCutOffAtThreeSizesOfTheWindow(): void
    {
        foreach ([[1280, 800], [1920, 1080], [2560, 1440]] as [$width, $height]) {
            $this->page->forget()->size($width, $height)->open($this->desk->trader()->link)->awaitLive();
            $this->page->await(fn(): bool => $this->page->text('[data-field=split]') !== '', 'the cards');
            $cut = $this->page->run('const out = []; for (const e of document.querySelectorAll("button, dd, dt, th, label, [data-part=figure], [data-part=headline] b, [data-part=rung] [data-part=price], [data-part=lane-heads] span")) { const b = e.getBoundingClientRect(); if (b.width === 0 || !e.checkVisibility({contentVisibilityAuto: true})) continue; if (b.right > innerWidth + 1 || b.bottom > innerHeight + 1 || e.scrollWidth > e.clientWidth + 2 && getComputedStyle(e).overflow !== "visible") out.push(e.className + " " + e.textContent); } return out.concat(document.documentElement.scrollWidth > innerWidth ? ["the page"] : [])');
            self::assertSame([], $cut, "$width x $height");
        }
    }

    public function testABarredAccountSaysSoAndWhatIsStillTaken(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 20, 'kind' => 'market']);
        $this->page->awaitText('[data-field=position]', 'Long 20');
        $this->trader->push(self::CODE, -12);
        $this->page->awaitText('[data-field=barred]', 'barred until 00:00 UTC');
        // Pressed it tells what led there.
        $this->page->find('[data-name=why-barred]')->click();
        $this->page->awaitText('[data-part=led-to-bar]', 'the loss limit is');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 0, 'the desk');
        $this->page->awaitText('[data-part=strip]', 'Orders that only reduce are taken');
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('[data-field=loss-room]', 'of 500');
        $tick = $this->quote('bids') - 5;
        $this->page->await(fn(): bool => $this->page->count(self::lane($tick, 'buy')) === 1, "rung $tick");
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip][data-refused]', 'no new entries until');
        $this->awaitSettled();
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'no new entries');
        self::assertSame([], $this->trader->working());
        $this->trader->push(self::CODE, 12);
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

    public function testTheListsFoldToOneLineAndTheLadderTakesTheRoom(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $rungs = $this->page->count('[data-part=rung]');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') >= $rungs + 5, 'more rungs');
        self::assertStringContainsString('Orders 0', $this->page->text('.dv-tabs-container:has([data-tab=working])'));
        self::assertSame(800, $this->page->run('return document.documentElement.scrollHeight'), 'nothing hangs out of the window');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') === $rungs, 'as many as before');
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

    public function testTheLadderStandsStillUnderThePointerAndFollowsElsewhere(): void
    {
        $this->enter();
        $start = $this->last();
        $top = (int) $this->page->run('return Number(document.querySelector("[data-part=rung]").dataset.tick)');
        $this->page->pointAt(self::lane($start, 'sell'));
        $this->pushTo($start + 9);
        $this->page->awaitText('[data-part=held-mark]', 'up · Space centres');
        $high = 'return document.querySelector("[data-part=held-mark]").offsetHeight';
        self::assertLessThan(30, $this->page->run($high), 'it is one line');
        self::assertSame($top, (int) $this->page->run('return Number(document.querySelector("[data-part=rung]").dataset.tick)'));
        $this->page->pointAt('section[aria-label=Position]');
        $this->page->await(
            fn(): bool => (int) $this->page->run('return Number(document.querySelector("[data-part=rung]").dataset.tick)') > $top,
            'the ladder to follow',
        );
        $this->page->pointAt(self::lane($start + 9, 'sell'));
        $this->pushTo($start);
        $this->page->awaitText('[data-part=held-mark]', 'down · Space centres');
        self::assertLessThan(30, $this->page->run($high), 'it is one line');
    }

    public function testReloadInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 5);
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops where they were');
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Journal');
        $this->page->awaitText('[data-part=live-table]', 'lock at best +5');
        $fills = count($this->trader->call('GET', "fills?account={$this->trader->account}")->body['items']);
        self::assertStringContainsString("Fills $fills", $this->page->text('.dv-tabs-container:has([data-tab=working])'));
    }

    public function testEngineKilledInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 7);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 2, $entry + 2], 'the lock');
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-part=curve] circle")?.dataset.best') === '7',
            'the best profit on the curve',
        );
        $pid = $this->desk->enginePid();
        // Where the rungs stand is looked at on every frame while the engine goes and comes: they must not move.
        $this->page->run('window.places = new Set(); window.sawBanner = false; const look = () => { window.places.add(document.querySelector("[data-part=rungs]").getBoundingClientRect().y); window.sawBanner ||= document.querySelector("[data-part=banner]") !== null; requestAnimationFrame(look); }; look();');
        posix_kill($pid, SIGKILL);
        $this->page->await(fn(): bool => (bool) $this->page->run('return window.sawBanner'), 'the banner');
        self::assertSame(1, $this->page->run('return window.places.size'), 'the banner moved the rungs');
        $this->desk->awaitEngineOtherThan($pid);
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        self::assertSame([$entry + 2, $entry + 2], $this->chips('stop'));
        $this->pushTo($entry + 11);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 5], 'the trail goes on');
    }

    public function testAnotherContractWithPricesInThirtySeconds(): void
    {
        $this->enter();
        $this->page->find('[data-part=contract-tab][title^="Ten-year"]')->click();
        $this->page->await(
            fn(): bool => (bool) preg_match(
                '/^1\\d\\d-\\d\\d½?$/',
                (string) $this->page->run('return document.querySelector("[data-part=rung]")?.dataset.price'),
            ),
            'a ladder in 32nds',
        );
        $book = $this->trader->call('GET', 'contracts/HBNZ6/book?levels=1')->body;
        $shown = $this->page->run('return [...document.querySelectorAll("[data-part=rung] [data-part=depth][data-side=ask]")].at(-1).parentElement.dataset');
        $contract = \App\Demo\KestrelBay::contracts(new \DateTimeImmutable(RunningDesk::CLOCK))[3][0];
        self::assertSame($contract->write($contract->ticks($book['asks'][0][0])), $shown['price']);
        $this->page->pointAt(self::lane((int) $shown['tick'] - 6, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.$contract->write((int) $shown['tick'] - 6));
    }

    public function testSigningOutClosesTheStreamOfThatSession(): void
    {
        $this->enter();
        $this->page->driver->executeScript('window.open("/", "second")');
        $this->page->driver->switchTo()->window($this->page->driver->getWindowHandles()[1]);
        $this->page->awaitLive();
        $this->page->driver->switchTo()->window($this->page->driver->getWindowHandles()[0]);
        $this->page->find('form[action="/sign-out"] button')->click();
        $this->page->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page');
        $this->page->driver->switchTo()->window($this->page->driver->getWindowHandles()[1]);
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->await(fn(): bool => $this->page->text('[data-field=feed]') !== 'live', 'the other tab to hear nothing any more');
    }

    public function testACommandWithoutTheCsrfTokenIsRefused(): void
    {
        $this->enter();
        $answer = $this->page->driver->executeAsyncScript('const done = arguments[arguments.length - 1]; fetch("/api/contracts/DULZ6/flatten", {method: "POST", headers: {"Content-Type": "application/json"}, body: "{}"}).then(async (r) => done([r.status, (await r.json()).code]))');
        self::assertSame([419, 'csrf'], $answer);
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

    public function testARefusalSpeaksUpOnThePage(): void
    {
        $this->enter();
        $touch = $this->quote('asks');
        $refused = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop', 'trigger' => self::price($touch - 6),
        ]);
        self::assertSame('stop-passed', $refused->code());
        $this->page->awaitText('[data-field=said]', 'already passed');
    }

    public function testSignInDemoEntryAndSignOut(): void
    {
        $this->page->open('/')->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page');
        $this->page->find('input[name=email]')->sendKeys('nobody@kestrel-bay.invalid');
        $this->page->find('input[name=password]')->sendKeys('wrong');
        $this->page->find('form[action="/sign-in"] button')->click();
        $this->page->awaitText('[data-part=fault]', 'do not go together');
        $this->page->find('input[name=email]')->clear()->sendKeys($this->trader->email);
        $this->page->find('input[name=password]')->sendKeys($this->trader->password);
        $this->page->find('form[action="/sign-in"] button')->click();
        $this->page->awaitLive();
        $this->page->find('form[action="/sign-out"] button')->click();
        $this->page->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page again');
        $this->page->find('form[action="/demo"] button')->click();
        $this->page->awaitLive();
    }

    public function testAnAddressThatIsNotThereLooksLikeTheRest(): void
    {
        $this->page->open('/nowhere');
        self::assertStringContainsString('There is nothing at this address', $this->page->text('main'));
    }

    public function testAnEntryLinkWorksOnceAndThePolicyIsStrict(): void
    {
        $this->enter();
        $headers = get_headers($this->desk->url('/sign-in'), true);
        $policy = is_array($headers) ? (string) $headers['Content-Security-Policy'] : '';
        self::assertStringContainsString("default-src 'none'; script-src 'self'; style-src 'self'", $policy);
        self::assertStringNotContainsString('unsafe', $policy);
        $other = new Page($this->desk->url());
        $other->open($this->trader->link)->awaitText('[data-part=fault]', 'has been used');
        $other->close();
    }

    public function testALongDayIsThereWholeWhenThePageIsOpened(): void
    {
        // The spread is paid so often that an account with the usual limit may be barred on the way.
        $this->trader = $this->desk->traderWhoMayLose('9000.00');
        $micro = $this->trader->call('GET', 'contracts?q=micro')->body['items'][0]['code'];
        for ($i = 0; $i < 204; $i++) {
            self::assertSame(
                201,
                $this->trader->place([
                    'contract' => $micro, 'side' => $i % 2 === 0 ? 'buy' : 'sell', 'quantity' => 1, 'kind' => 'market',
                ])->status,
            );
        }
        $newest = '';
        for ($after = 0; $after !== null; $after = $rows['next']) {
            $rows = $this->trader->call('GET', "journal?account={$this->trader->account}&after=$after")->body;
            $newest = end($rows['items'])['words'];
        }
        $this->enter(false);
        $this->page->await(
            fn(): bool => (int) preg_replace('/\D/', '', $this->page->text('[data-tab=fills]')) >= 204,
            'more fills than one answer holds',
        );
        $this->page->tab('Journal');
        $this->page->awaitText('[data-part=list] [data-part=live-row]', $newest);
    }
}
