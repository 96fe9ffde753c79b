<?php

declare(strict_types=1);

namespace Tests\Browser;

/** Enter and Esc belong to the draft whatever the pointer pressed last; where a field really has the keys, the strip says so. */
final class WhoHasTheKeysTest extends PageCase
{
    private const ENTER = "\u{E007}";

    private const ESCAPE = "\u{E00C}";

    /** Each of these was pressed between a draft and its Enter, and the order was lost. */
    public function testAfterAnyPressEnterSendsTheDraft(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Orders');
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->quote('asks') + 9),
        ]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=live-table] [data-row]') === 1, 'the order in the list');
        foreach ([
            '[data-part=contract-tab][data-state=on]',
            '[data-part=plans] button:nth-child(2)',
            '[data-part=lots] button:nth-child(3)',
            '[data-tab=fills]',
            '[data-tab=working]',
            '[data-part=live-table] [data-row]',
            '[data-part=live-head]',
            '[data-name=edit-plans] kbd',
        ] as $pressed) {
            $tick = $this->draft(5);
            $this->page->pointAt($pressed);
            if (str_contains($pressed, 'edit-plans')) {
                // Slid off: nothing opens, and nothing keeps the keys.
                $this->page->mouse([['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerMove', 'duration' => 0, 'x' => 640, 'y' => 20], ['type' => 'pointerUp', 'button' => 0]]);
            } else {
                $this->page->press();
            }
            $this->page->holdKey(self::ENTER, 10);
            $this->page->await(fn(): bool => in_array($tick, $this->chips('entry'), true), "Enter after a press on $pressed");
            $this->takeAway();
        }
    }

    public function testAListOfChoicesLetsGoOnceOneIsChosen(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-name=sized-by]')->click();
        self::assertSame('SELECT', $this->page->run('return document.activeElement.tagName'));
        $this->page->run('const list = document.activeElement; list.value = "money"; list.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->hasNoFocus(), 'the list to let go');
        $this->page->run('const list = document.querySelector("[data-name=sized-by]"); list.focus()');
        $this->page->holdKey("\u{E015}", 10);
        self::assertSame('SELECT', $this->page->run('return document.activeElement.tagName'), 'the arrow keys walk on');
    }

    /** The keys are in the field, the strip says so, Esc gives them back and leaves the draft alone. */
    public function testWhereAFieldHasTheKeysTheStripSaysSo(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draft(4);
        $this->page->pointAt('[data-part=top-bar]');
        $this->page->awaitText('[data-part=strip]', 'Enter sends, Esc drops');
        $this->page->find('[data-part=typed-lots] input')->click();
        $this->page->awaitText('[data-field=keys-elsewhere]', 'keys are in Lots · Esc');
        self::assertStringNotContainsString('Enter sends', $this->page->text('[data-part=strip]'));
        $this->page->holdKey(self::ENTER, 10);
        $this->page->holdKey(self::ESCAPE, 10);
        $this->page->awaitText('[data-part=strip]', 'Enter sends, Esc drops');
        self::assertSame([$tick], $this->chips('draft'), 'Esc has given the keys back, and nothing else');
        self::assertSame([], $this->trader->working());
        $this->page->find('[data-part=typed-lots] input')->click();
        $this->page->pointAt('[data-part=lots] button:nth-child(1)');
        $this->page->press();
        self::assertSame(0, $this->page->count('[data-field=keys-elsewhere]'), 'a press elsewhere takes the keys out of the field');
        $this->page->holdKey(self::ESCAPE, 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'Esc to drop the draft');
    }

    /** A name that is half typed is dropped by Esc, and the keys are the desk's again. */
    public function testEscGivesTheKeysBackFromAFieldInAList(): void
    {
        $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($this->last() + 3), 'name' => 'lid']);
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Levels');
        $this->page->await(fn(): bool => $this->page->count('[aria-label="Marked levels"] [data-row] input') === 1, 'the level');
        $this->page->find('[aria-label="Marked levels"] [data-row] input')->click();
        $this->page->holdKey('x', 10);
        $this->page->awaitText('[data-field=keys-elsewhere]', 'keys are in');
        $this->page->holdKey(self::ESCAPE, 10);
        $this->page->await(fn(): bool => $this->hasNoFocus(), 'the keys to be back');
        $this->page->find('[aria-label="Marked levels"] [data-row] input')->click();
        $this->page->holdKey('y', 10);
        $this->page->holdKey(self::ENTER, 10);
        $this->page->await(fn(): bool => str_contains($this->trader->call('GET', 'levels')->body['items'][0]['name'], 'y'), 'the other name kept');
        self::assertStringNotContainsString('x', $this->trader->call('GET', 'levels')->body['items'][0]['name']);
    }

    /** Whoever comes by the Tab key keeps the keys there, and the strip says what Enter is for. */
    public function testWhatWasReachedByTabKeepsEnter(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draft(4);
        $this->page->holdKey("\u{E004}", 10);
        $this->page->awaitText('[data-field=keys-elsewhere]', 'Enter is for');
        self::assertSame([$tick], $this->chips('draft'));
        $this->page->holdKey(self::ESCAPE, 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'Esc to reach the draft all the same');
    }

    /** Each control is pressed and slid off, so that none acts: none but a field has the keys then. */
    public function testNoControlTakesTheKeysFromThePointer(): void
    {
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $places = $this->page->run(<<<'JS'
            const seen = [];
            for (const control of document.querySelectorAll('button, a, summary, select, input, [role=tab], [role=row], [tabindex]')) {
                const box = control.getBoundingClientRect();
                const at = [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)];
                const hit = box.width > 0 && document.elementFromPoint(...at);
                if (!hit || !control.contains(hit) || hit.closest('select, [draggable=true], [data-part=rungs]')) continue;
                seen.push([...at, control.getAttribute('aria-label') || control.dataset.part || control.textContent.trim().slice(0, 30) || control.tagName]);
            }
            return seen;
            JS);
        self::assertGreaterThan(50, count($places));
        $fields = 0;
        foreach ($places as [$x, $y, $name]) {
            $this->page->mouse([
                ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
                ['type' => 'pointerMove', 'duration' => 0, 'x' => 8, 'y' => 8], ['type' => 'pointerUp', 'button' => 0],
            ]);
            if ($this->hasNoFocus()) {
                continue;
            }
            self::assertContains($this->page->run('return document.activeElement.tagName'), ['INPUT', 'TEXTAREA'], "$name has the keys");
            $this->page->awaitText('[data-field=keys-elsewhere]', 'keys are in ');
            $this->page->holdKey(self::ESCAPE, 10);
            self::assertTrue($this->hasNoFocus(), "Esc gives the keys back from $name");
            $fields++;
        }
        self::assertGreaterThan(0, $fields, 'the field for lots is among them');
        self::assertSame(2, $this->lots(), 'none has acted');
    }

    private function hasNoFocus(): bool
    {
        return $this->page->run('return document.activeElement === document.body') === true;
    }

    private function draft(int $below): int
    {
        $tick = $this->quote('bids') - $below;
        $this->click($tick, 'buy', 'Buy ');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');

        return $tick;
    }

    private function takeAway(): void
    {
        foreach ($this->trader->working() as $order) {
            if ($order['side'] === 'buy') {
                $this->trader->call('DELETE', "orders/{$order['id']}", ['client_id' => "c{$order['id']}"]);
            }
        }
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1, 'the order to be gone, and the one above the market to stay');
    }
}
