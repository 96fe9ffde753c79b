<?php

declare(strict_types=1);

namespace Tests\Browser;

/** The lists below the ladder, and what is said beside it. */
final class ListsTest extends PageCase
{
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
        $this->focus('[data-part=live-table]');
        $this->page->holdKey("\u{E010}", 10);
        $this->page->await(
            fn(): bool => (bool) $this->page->run('const rows = document.querySelectorAll("[data-part=live-row]"); return rows[rows.length - 1]?.ariaRowIndex === document.querySelector("[data-part=live-table]").ariaRowCount'),
            'End to show the oldest',
        );
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

    /** Two lines within a millisecond are two, and both go on when others come. */
    public function testLinesThatComeTogetherAreBothSaidAndMakeRoom(): void
    {
        $this->enter();
        $this->page->run('for (const key of ["l", "j"]) window.dispatchEvent(new KeyboardEvent("keydown", {key}))');
        $this->page->awaitText('[data-field=said]', 'No portion has a target');
        $this->page->awaitText('[data-field=said]', 'There is no manual stop');
        for ($i = 0; $i < 3; $i++) {
            $this->page->run('for (const key of ["w", "l", "j", "l"]) window.dispatchEvent(new KeyboardEvent("keydown", {key}))');
        }
        self::assertSame(4, $this->page->count('[data-field=said] li'));
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

    /** The market came nearer to another level, and "stop behind" was pressed of a level that had not been meant. */
    public function testRowsStandStillWhileTheyArePointedAt(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $last = $this->last();
        $near = $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last + 2), 'name' => 'lid'])->body['id'];
        $far = $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last - 4), 'name' => 'floor'])->body['id'];
        $this->page->open($this->desk->url())->awaitLive();
        $this->page->tab('Levels');
        $rows = fn(): array => array_map(intval(...), $this->page->run(
            'return [...document.querySelectorAll("[aria-label=\"Marked levels\"] [data-row]")].sort((a, b) => a.getBoundingClientRect().y - b.getBoundingClientRect().y).map((row) => row.dataset.row)',
        ));
        $this->page->await(fn(): bool => $rows() === [$near, $far], 'the nearest first');
        $this->page->pointAt("[data-row='$near']");
        $this->pushTo($last - 3);
        $this->page->await(fn(): bool => str_contains($this->page->text("[data-row='$far']"), '−1'), 'the other one to be nearer');
        self::assertSame([$near, $far], $rows(), 'none has moved under the pointer');
        $this->trader->call('DELETE', "levels/$near");
        $this->page->await(fn(): bool => $this->page->count("[data-row='$near'][inert]") === 1, 'one that has gone to leave its place empty');
        self::assertSame([$near, $far], $rows());
        $this->page->pointAt('[data-part=top-bar]');
        $this->page->await(fn(): bool => $rows() === [$far], 'all in place once the pointer has left');
    }

    /** Folded as they were left, the button says what a press does: show them. */
    public function testFoldedListsAreShownByOnePressAfterAReload(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->text('[data-action=fold]') === 'Show lists', 'folded');
        $this->page->await(fn(): bool => preg_match('/size\\\\?":30\D/', (string) $this->page->run('return localStorage.getItem("lotrik.dock") ?? ""')) === 1, 'that to be kept');
        $this->page->open($this->desk->url())->awaitLive();
        $this->page->await(fn(): bool => $this->page->text('[data-action=fold]') === 'Show lists', 'folded as they were left');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->text('[data-action=fold]') === 'Hide lists', 'shown by one press');
        self::assertGreaterThan(80, $this->page->run('return document.querySelector("[data-part=list]").getBoundingClientRect().height'));
    }

    public function testTheListsOpenToHalfTheDeskAndAreLeftSo(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $height = fn(): int => (int) $this->page->run('return document.querySelector("[data-part=list]").getBoundingClientRect().height');
        $usual = $height();
        $this->page->find('[data-action=grow]')->click();
        $this->page->await(fn(): bool => $height() > 300, 'half of the desk');
        $tall = $height();
        $this->page->await(fn(): bool => $this->page->count('[data-action=grow][aria-label^="Back to the usual"]') === 1, 'the way back');
        // It is kept a moment after the last change.
        $this->page->await(fn(): bool => str_contains((string) $this->page->run('return localStorage.getItem("lotrik.dock") ?? ""'), 'working'), 'kept');
        $this->page->await(function () use ($height, $tall): bool {
            $this->page->open($this->desk->url())->awaitLive();

            return abs($height() - $tall) < 4;
        }, 'as they were left');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->text('[data-action=fold]') === 'Show lists', 'folded');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => abs($height() - $usual) < 4, 'their usual height');
    }
}
