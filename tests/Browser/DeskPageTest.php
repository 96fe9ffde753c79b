<?php

declare(strict_types=1);

namespace Tests\Browser;

/** The real page in Chromium: from the entry link to flat, at three sizes. */
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

    public function testNothingIsCutOffAtThreeSizesOfTheWindow(): void
    {
        foreach ([[1280, 800], [1920, 1080], [2560, 1440]] as [$width, $height]) {
            $this->page->forget()->size($width, $height)->open($this->desk->trader()->link)->awaitLive();
            $this->page->await(fn(): bool => $this->page->text('[data-field=split]') !== '', 'the cards');
            $cut = $this->page->run('const out = []; for (const e of document.querySelectorAll("button, dd, dt, th, label, [data-part=figure], [data-part=headline] b, [data-part=rung] [data-part=price], [data-part=lane-heads] span")) { const b = e.getBoundingClientRect(); if (b.width === 0 || !e.checkVisibility({contentVisibilityAuto: true})) continue; if (b.right > innerWidth + 1 || b.bottom > innerHeight + 1 || e.scrollWidth > e.clientWidth + 2 && getComputedStyle(e).overflow !== "visible") out.push(e.className + " " + e.textContent); } return out.concat(document.documentElement.scrollWidth > innerWidth ? ["the page"] : [])');
            self::assertSame([], $cut, "$width x $height");
        }
    }
}
