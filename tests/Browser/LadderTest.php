<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\RunningDesk;

/** The ladder itself: its rungs, its lanes, what stands at its edge. */
final class LadderTest extends PageCase
{
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

    public function testAnotherContractWithPricesInThirtySeconds(): void
    {
        $this->enter();
        $this->page->find('[data-part=contract-tab][title^="Ten-year"]')->click();
        $this->page->await(
            fn(): bool => (bool) preg_match(
                '/^1\\d\\d-\\d\\d½?$/u',
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

    public function testTheGhostShowsItsExitsOnTheirRungs(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 2;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText("[data-part=rung][data-tick='".($tick - 7)."'] [data-part=note][data-kind=exit]", '2 stop -35.00');
        $this->page->awaitText("[data-part=rung][data-tick='".($tick + 9)."'] [data-part=note][data-kind=exit]", '1 target +22.50');
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
}
