<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\WebDriverKeys;

/** Hands that use fingers, keys alone, or colours of their own. */
final class EverybodyTest extends PageCase
{
    private const FIRE = 'const fire = (type, at, id, dy = 0) => { const b = at.getBoundingClientRect(); at.dispatchEvent(new PointerEvent(type, {bubbles: true, cancelable: true, pointerType: "touch", pointerId: id, button: 0, clientX: b.x + 8, clientY: b.y + b.height / 2 + dy})); };';

    /** What the pointer with the number 5 does on an element, and another finger with the number 6. @param list<array{string, int}> $does */
    private function fire(string $css, array $does): void
    {
        $this->page->run(self::FIRE.'const at = document.querySelector(arguments[0]); for (const [type, id] of arguments[1]) fire(type, at, id);', $css, $does);
    }

    /** A palm, a gesture of the system's, a window that comes in front: the press was not let go, and places nothing, then or later. */
    public function testAPointerThatIsTakenAwayPlacesNothing(): void
    {
        $this->enter();
        $this->awaitSettled();
        $lane = self::lane($this->quote('bids') - 4, 'buy');
        $this->page->pointAt($lane);
        $this->page->awaitText('[data-part=strip]', 'Buy 2');
        $this->awaitSettled();
        $this->fire($lane, [['pointerdown', 5], ['pointercancel', 5], ['pointerup', 5]]);
        $this->fire($lane, [['pointerdown', 5], ['pointerup', 6]]);
        // A frame later an order would be on its way; the next one comes behind it.
        $this->page->awaitSequence($this->trader->push('DULH7', 1)->body['sequence']);
        self::assertSame([], $this->trader->working());
        $this->page->await(function () use ($lane): bool {
            $this->fire($lane, [['pointerdown', 5], ['pointerup', 5]]);

            return $this->trader->working() !== [];
        }, 'let go there, it is sent');
    }

    /** A finger has no hover: its first touch says what the next one sends; a touch that rests gives what the keys give. */
    public function testAFingerPointsFirstAndOneThatRestsChoosesTheKind(): void
    {
        $this->enter();
        $this->page->pointAt('[data-part=headline]');
        $this->awaitSettled();
        $tick = $this->quote('bids') - 4;
        $lane = self::lane($tick, 'buy');
        $this->page->await(fn(): bool => $this->page->count($lane) === 1, 'the rung');
        $this->fire($lane, [['pointerdown', 5], ['pointerup', 5]]);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        self::assertSame([], $this->trader->working(), 'the first touch only says it');
        $this->fire($lane, [['pointerdown', 5]]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=touch-menu]') === 1, 'what else it could be');
        $this->fire($lane, [['pointerup', 5]]);
        $this->page->find('[data-name=touch-other]')->click();
        $this->page->awaitText('[data-part=strip]', 'Buy 2 MIT '.self::price($tick));
        self::assertSame([], $this->trader->working(), 'a finger that rested has sent nothing');
        $this->fire($lane, [['pointerdown', 5], ['pointerup', 5]]);
        $this->page->await(fn(): bool => array_column($this->trader->working(), 'kind') === ['mit'], 'the other kind');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
    }

    /** A choice that was not used is not kept for a press of much later, by whatever pointer. */
    public function testWhatAFingerChoseAndDidNotUseIsForgotten(): void
    {
        $this->enter();
        $this->page->pointAt('[data-part=headline]');
        $this->awaitSettled();
        $tick = $this->quote('bids') - 4;
        $lane = self::lane($tick, 'buy');
        $this->page->await(fn(): bool => $this->page->count($lane) === 1, 'the rung');
        $this->fire($lane, [['pointerdown', 5]]);
        $this->page->await(fn(): bool => $this->page->count('[data-part=touch-menu]') === 1, 'what else it could be');
        $this->fire($lane, [['pointerup', 5]]);
        $this->page->find('[data-name=touch-other]')->click();
        $this->page->awaitText('[data-part=strip]', 'Buy 2 MIT');
        $this->page->await(fn(): bool => ! str_contains($this->page->text('[data-part=strip]'), 'MIT'), 'the finger has gone');
        $this->page->pointAt($lane);
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
    }

    /** On the bars prices lie closer together than a finger is wide: a second touch near to what was said sends just that. */
    public function testAFingerPlacesOnTheBarsWhatItsFirstTouchSaid(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Bars');
        $settled = fn(): bool => $this->page->count('[data-part=bars-field][data-settled=true]') === 1;
        $this->page->await($settled, 'the scale to stand');
        $fire = fn(array $does, int $dy) => $this->page->run(
            self::FIRE.'const at = document.querySelector("[data-part=bars-lane][data-side=buy]"); for (const [type, id] of arguments[0]) fire(type, at, id, arguments[1]);',
            $does,
            $dy,
        );
        $says = fn(): string => $this->page->text('[data-field=bar]');
        $fire([['pointerdown', 5], ['pointerup', 5], ['pointerout', 5], ['pointerleave', 5]], 24);
        $this->page->await(fn(): bool => preg_match('/Buy 2 limit ([\d.]+)/', $says(), $said) === 1, 'what it would send');
        preg_match('/Buy 2 limit ([\d.]+)/', $says(), $said);
        self::assertSame([], $this->trader->working(), 'the first touch only says it');
        $fire([['pointerdown', 5]], 36);
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars] [data-part=touch-menu]') === 1, 'what else it could be');
        $fire([['pointerup', 5]], 36);
        self::assertSame([], $this->trader->working(), 'a finger that rested has sent nothing');
        $fire([['pointerdown', 5], ['pointerup', 5]], 36);
        $this->page->await(fn(): bool => $this->trader->working() !== [] || $this->page->count('[data-part=bars] [data-draft]') > 0, 'the press');
        $placed = $this->trader->working();
        if ($placed === []) {
            // Where prices lie too close together for a hand it is a draft, at just that price.
            $this->page->awaitText('[data-part=strip]', "limit $said[1]");
        } else {
            self::assertSame([$said[1]], array_column($placed, 'price'));
        }
    }

    public function testAStopWhoseDragIsTakenAwayStaysWhereItWas(): void
    {
        $this->enter();
        $this->buyTwo();
        $stops = fn(): array => $this->trader->working();
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=stop]') > 0, 'its stop');
        $before = array_column($stops(), 'trigger');
        foreach ([['pointercancel', 'pointerup'], ['pointerup']] as $end) {
            $this->page->run(
                self::FIRE.'const chip = document.querySelector("[data-part=chip][data-role=stop]"); fire("pointerdown", chip, 5); const rungs = document.querySelector("[data-part=rungs]"); const b = chip.getBoundingClientRect(); const move = (type) => rungs.dispatchEvent(new PointerEvent(type, {bubbles: true, cancelable: true, pointerId: 5, button: 0, clientX: b.x + 8, clientY: b.y + 60})); move("pointermove"); for (const type of arguments[0]) move(type);',
                $end,
            );
            if (count($end) === 2) {
                $this->page->awaitSequence($this->trader->push(self::CODE, 0)->body['sequence']);
                self::assertSame($before, array_column($stops(), 'trigger'));
            }
        }
        $this->page->await(fn(): bool => array_column($stops(), 'trigger') !== $before, 'let go there, it moves');
    }

    public function testAListIsSortedAndARowArmedByKeysAlone(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Contracts');
        $this->page->await(fn(): bool => $this->page->count('[data-part=contract-list] [data-part=live-row]') > 5, 'the list');
        $first = fn(): string => explode("\n", $this->page->text('[data-part=contract-list] [data-part=live-row][aria-rowindex="2"]'))[0];
        $grid = $this->page->find('[data-part=contract-list] [data-part=live-table]');
        $this->focus('[data-part=contract-list] [data-part=live-table]');
        $before = $first();
        $grid->sendKeys(WebDriverKeys::ARROW_UP.WebDriverKeys::ENTER.WebDriverKeys::ENTER);
        $this->page->await(fn(): bool => $this->page->count('[data-part=contract-list] [aria-sort=descending]') === 1, 'sorted the other way');
        $this->page->await(fn(): bool => $first() !== $before, 'another row first');
        $grid->sendKeys(WebDriverKeys::ARROW_RIGHT.WebDriverKeys::ARROW_DOWN.'a');
        $this->page->await(fn(): bool => $this->page->count('[data-arm][aria-pressed=true]') === 1, 'the first row armed');
        self::assertSame(0, $this->page->count('[data-part=arrange-bar]'), 'and the key meant nothing else');
    }

    public function testTheRungThatTheArrowKeysPointAtIsSaid(): void
    {
        $this->enter(false);
        $this->page->holdKey(WebDriverKeys::ARROW_DOWN, 10);
        $this->page->holdKey(WebDriverKeys::ARROW_LEFT, 10);
        $said = fn(): string => $this->page->run('return document.querySelector("[data-field=pointed-rung]").textContent');
        $tick = fn(): int => (int) $this->page->run('return Number(document.querySelector("[data-part=rung][data-cursor]")?.dataset.tick ?? 0)');
        $this->page->await(fn(): bool => str_starts_with($said(), self::price($tick())) && str_contains($said(), 'Buy 2'), 'its price and what a press there does');
    }

    /** Fills are gone then: what is on is told by an edge. */
    public function testWithColoursOfTheReadersOwnWhatIsOnHasAnEdge(): void
    {
        $this->enter();
        $tools = new ChromeDevToolsDriver($this->page->driver);
        try {
            $tools->execute('Emulation.setEmulatedMedia', ['features' => [['name' => 'forced-colors', 'value' => 'active']]]);
            foreach (['[data-part=plans] [data-state=on]', '[data-part=lots] [data-state=on]', '[data-action=one-click]'] as $css) {
                self::assertSame('solid', $this->page->run('return getComputedStyle(document.querySelector(arguments[0])).outlineStyle', $css), $css);
            }
            self::assertSame('none', $this->page->run('return getComputedStyle(document.querySelector("[data-part=plans] [data-state=off]")).outlineStyle'));
        } finally {
            $tools->execute('Emulation.setEmulatedMedia', ['features' => []]);
        }
    }
}
