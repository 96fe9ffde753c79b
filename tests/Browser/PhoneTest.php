<?php

declare(strict_types=1);

namespace Tests\Browser;

/** A screen in the hand: what is open and protected, and what gets out. Nothing there opens anything. */
final class PhoneTest extends PageCase
{
    protected function tearDown(): void
    {
        $this->page->size(1280, 800);
        parent::tearDown();
    }

    private function open(): void
    {
        $this->page->size(390, 844)->open($this->trader->link);
        $this->page->awaitText('[data-part=phone] [data-field=feed]', 'live');
    }

    /** A finger on a button for so long, ms. */
    private function rest(string $css, int $ms): void
    {
        [$x, $y] = $this->page->middle($css);
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pause', 'duration' => $ms], ['type' => 'pointerUp', 'button' => 0],
        ]);
    }

    public function testAPositionIsTightenedAndFlattenedAndNothingCanBeOpened(): void
    {
        $this->open();
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->awaitText('[data-field=protected]', '2 of 2');
        self::assertSame(0, $this->page->count('[data-lane], [data-action=buy-market], [data-action=sell-market], [data-field=ticket]'));
        self::assertFalse($this->page->run('return document.documentElement.scrollWidth > innerWidth'), 'it fits across');
        $small = $this->page->run('return [...document.querySelectorAll("[data-part=phone] button")].filter((b) => b.getBoundingClientRect().height < 32).map((b) => b.textContent)');
        self::assertSame([], $small, 'a thumb finds each of them');

        $stops = fn(): array => array_column(array_filter($this->trader->working(), static fn(array $o): bool => $o['role'] === 'stop'), 'trigger');
        $before = array_map(self::ticks(...), $stops());
        $this->page->find('[data-action=closer]')->click();
        $this->page->await(fn(): bool => array_map(self::ticks(...), $stops()) === array_map(static fn(int $tick): int => $tick + 1, $before), 'each stop a tick nearer');

        $target = fn(): int => self::ticks(array_values(array_filter($this->trader->working(), static fn(array $o): bool => $o['role'] === 'target'))[0]['price']);
        $at = $target();
        $this->page->find('[data-action=target-1-higher]')->click();
        $this->page->await(fn(): bool => $target() === $at + 1, 'the target a tick farther');

        $this->rest('[data-action=flatten]', 60);
        $this->page->awaitSequence($this->trader->push(self::CODE, 0)->body['sequence']);
        self::assertSame(2, $this->lots(), 'a thumb that brushes it does nothing');
        $this->rest('[data-action=flatten]', 400);
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame([0, []], [$this->lots(), $this->trader->working()]);
        self::assertSame([], $this->page->complaints());
    }

    public function testBareLotsAreAnAlarmThatCoversThemAndTheWholeAccountIsCancelled(): void
    {
        $this->open();
        $this->trader->place(['contract' => self::CODE, 'side' => 'sell', 'quantity' => 1, 'kind' => 'market']);
        $this->trader->place(['contract' => 'DULH7', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00']);
        $this->page->awaitText('[data-field=alarm]', '1 lot unprotected');
        $this->page->find('[data-action=cover]')->click();
        $this->page->awaitText('[data-field=protected]', '1 of 1');
        $this->page->find('[data-action=cancel-account]')->click();
        $this->page->await(
            fn(): bool => array_unique(array_column($this->trader->working(), 'contract')) === [self::CODE],
            'the other contract\'s order gone, the exits kept',
        );
    }

    /** A wider screen is a desk again; one-click, which nobody could watch meanwhile, is off. */
    public function testTurnedOnItsSideItIsTheDeskWithOneClickOff(): void
    {
        $this->enter();
        $this->page->size(390, 844)->await(fn(): bool => $this->page->count('[data-part=phone]') === 1, 'the phone page');
        $this->page->size(1280, 800);
        $this->page->awaitText('[data-action=one-click]', 'One-click off');
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 10 && $this->page->count('[data-part=phone]') === 0, 'the desk');
    }

    /** Letters of twice the size make a window of 1280 one of 640: with a mouse at hand the desk is still there. */
    public function testAMagnifiedWindowShowsTheWholeDesk(): void
    {
        $this->open();
        $this->page->size(640, 400);
        $this->page->find('[data-action=whole-desk]')->click();
        $this->page->awaitLive();
        $this->page->find('[data-part=hints] button')->click();
        $places = fn(string $css): mixed => $this->page->run('const e = document.querySelector(arguments[0]); e.scrollIntoView({block: "center", inline: "center"}); const b = e.getBoundingClientRect(); return e.contains(document.elementFromPoint(b.x + b.width / 2, b.y + b.height / 2))', $css);
        foreach (['[data-action=buy-market]', '[data-action=sell-market]', '[data-action=flatten-account]', '[data-part=typed-lots] input', '[data-tab=positions]'] as $css) {
            self::assertTrue($places($css), "$css can be pressed");
        }
        $this->page->holdKey('o', 10);
        $this->page->run('document.querySelector("[data-action=buy-market]").scrollIntoView()');
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        self::assertSame(2, $this->lots());
    }
}
