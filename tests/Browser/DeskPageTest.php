<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;
use Tests\Support\Page;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** The real page in Chromium: what a trader does with the ladder, seen on the ladder. */
final class DeskPageTest extends TestCase
{
    private const CODE = 'DULZ6';

    private RunningDesk $desk;

    private Trader $trader;

    private Page $page;

    protected function setUp(): void
    {
        $this->desk = RunningDesk::shared();
        $this->trader = $this->desk->trader();
        $this->trader->push(self::CODE, 1);
        $this->trader->push(self::CODE, -1);
        $this->page = new Page($this->desk->url());
    }

    protected function tearDown(): void
    {
        $complaints = $this->page->complaints();
        $this->page->close();
        // What the browser itself says of an answer with an error status, or of a connection that broke, is no fault of the page.
        self::assertSame([], array_values(array_filter($complaints, static fn(string $c): bool => ! str_contains($c, 'Failed to load resource') && ! str_contains($c, 'net::ERR_'))));
    }

    private function enter(bool $oneClick = true): void
    {
        $this->page->open($this->trader->link)->awaitLive();
        if ($oneClick) {
            $this->page->holdKey('o', 10);
            $this->page->awaitText('[data-action=one-click]', 'One-click on');
        }
    }

    private function last(): int
    {
        return self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body['last']['price']);
    }

    private function quote(string $side): int
    {
        return self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body[$side][0][0]);
    }

    private static function ticks(string $price): int
    {
        return (int) \Brick\Math\BigDecimal::of($price)->multipliedBy(2)->toInt();
    }

    private static function price(int $ticks): string
    {
        return (string) \Brick\Math\BigDecimal::ofUnscaledValue($ticks * 50, 2);
    }

    private function pushTo(int $tick): void
    {
        $this->page->awaitSequence($this->trader->push(self::CODE, $tick - $this->last())->body['sequence']);
    }

    private static function lane(int $tick, string $side): string
    {
        return ".rung[data-tick='$tick'] [data-lane=$side]";
    }

    /** The tick of each chip of a role, as the ladder shows them. @return list<int> */
    private function chips(string $role): array
    {
        return $this->page->run('return [...document.querySelectorAll(`.chip[data-role=${arguments[0]}]`)].map((c) => Number(c.closest(".rung").dataset.tick))', $role);
    }

    /** Points at a rung until the ghost speaks, then presses. */
    private function click(int $tick, string $side, string $says): void
    {
        $this->page->await(fn(): bool => $this->page->count(self::lane($tick, $side)) === 1, "rung $tick");
        $this->page->pointAt(self::lane($tick, $side));
        $this->page->awaitText('.strip', $says);
        $this->awaitSettled();
        $this->page->press();
    }

    /** Rungs that have just moved take no order: the page says when they stand. */
    private function awaitSettled(): void
    {
        $this->page->await(fn(): bool => $this->page->count('.rungs[data-settled=true]') === 1, 'the rungs to stand');
    }

    private function buyTwo(): int
    {
        $this->click($this->quote('asks'), 'buy', 'risk 35.00 + 2.48 fees');
        $this->page->awaitText('[data-field=position]', 'Long 2');

        return self::ticks($this->trader->position(self::CODE)['average_price']);
    }

    public function testFromTheEntryLinkToFlat(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->awaitText('[data-field=protected]', '2 of 2');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 7, $entry - 7], 'both stops 7 below');
        self::assertSame([$entry + 9], $this->chips('target'));
        self::assertStringContainsString(self::price($entry), $this->page->text('.price.average'));

        $this->pushTo($entry + 5);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops at break-even');
        self::assertStringContainsString('break-even', $this->page->text('.chip.stop'));
        $this->pushTo($entry + 11);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 5] && $this->chips('target') === [], 'one out, the other trailing');
        $this->page->awaitText('[data-field=position]', 'Long 1');
        $this->pushTo($entry + 13);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 7], 'the trail');

        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->await(fn(): bool => $this->page->count('.chip[data-order]') === 0, 'no chip left');
        self::assertSame([], $this->trader->working());
    }

    public function testTheGhostSaysWhatIsSent(): void
    {
        $this->enter();
        $ask = $this->quote('asks');
        foreach ([[$ask - 3, 'buy', 'limit'], [$ask + 1, 'buy', 'limit'], [$ask + 4, 'buy', 'stop'], [$this->quote('bids') - 4, 'sell', 'stop'], [$ask + 3, 'sell', 'limit']] as [$tick, $side, $kind]) {
            $this->page->pointAt(self::lane($tick, $side));
            $this->page->awaitText('.strip', ucfirst($side)." 2 $kind ".self::price($tick).' · Short tide');
            self::assertSame("2 $kind", $this->page->text('.chip.ghost'));
        }
        $this->click($ask + 4, 'buy', 'stop '.self::price($ask + 4));
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $sent = $this->trader->working()[0];
        self::assertSame(['stop', self::price($ask + 4), 2, 'Short tide'], [$sent['kind'], $sent['trigger'], $sent['quantity'], $sent['plan']]);
    }

    public function testTheGhostSpeaksAnewWhenThePositionChanges(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->pointAt(self::lane($this->quote('asks') + 3, 'sell'));
        $this->page->awaitText('.strip', 'closes 2 of 2');
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('.strip', 'Short tide · risk 35.00');
    }

    public function testWithOneClickOffAClickMakesADraftThatEnterSendsOnce(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'a click makes a draft');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');
        self::assertSame([], $this->trader->working(), 'nothing was sent');
        $this->page->pointAt('.headline');
        $this->page->awaitText('.strip', 'Buy 2 limit '.self::price($tick).' · Short tide · risk 35.00 + 2.48 fees · draft: Enter sends');
        $this->page->driver->executeScript('for (const _ of [1, 2]) window.dispatchEvent(new KeyboardEvent("keydown", {key: "Enter"}))');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick] && $this->chips('draft') === [], 'the order in the draft\'s place');
        self::assertCount(1, $this->trader->working(), 'Enter twice sends one');
    }

    public function testADraftIsDraggedAndDropped(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'a click makes a draft');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');
        $this->drag('.chip.draft b', self::lane($this->quote('asks') + 4, 'buy'));
        $this->page->await(fn(): bool => $this->chips('draft') === [$this->quote('asks') + 4], 'the draft at its new rung');
        self::assertStringContainsString('draft · stop', $this->page->text('.chip.draft'), 'above the ask it is a stop');
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
        $this->page->awaitText('.strip', 'Buy 2 limit');
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
        $this->drag('.chip[data-role=target] b', self::lane($entry + 12, 'sell'));
        $this->page->await(fn(): bool => $this->chips('target') === [$entry + 12], 'the target at its new rung');
        $tick = $this->quote('bids') - 6;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the entry');
        $this->drag('.chip[data-role=entry] b', self::lane($tick - 3, 'buy'), escape: true);
        self::assertSame([$tick], $this->chips('entry'), 'Esc while dragging leaves it where it was');
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
    }

    public function testSpaceAndEnterAfterAClickOnBuyDoNotBuyAgain(): void
    {
        $this->enter();
        $this->page->pointAt('[data-action=buy-market]');
        $this->page->press();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->holdKey(' ', 10);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('.plans [data-state=on]', 'Two halves');
        self::assertSame(2, $this->trader->position(self::CODE)['quantity']);
        self::assertSame('BODY', $this->page->run('return document.activeElement.tagName'), 'the button took no focus');
    }

    public function testFlattenPressedTwiceFlattensOnce(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->pointAt('[data-action=flatten]');
        $this->page->mouse([['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0], ['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0]]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $closes = array_filter($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], static fn(array $o): bool => $o['role'] === 'close');
        self::assertCount(1, $closes);
        self::assertSame(0, $this->trader->position(self::CODE)['quantity']);
    }

    public function testATabThatWasHiddenHoldsItsClicksUntilItHasHeardFromTheEngine(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('.strip', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->run('Object.defineProperty(document, "hidden", {value: true, configurable: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'this tab was hidden');
        self::assertSame([], $this->trader->working());
        $this->page->run('Object.defineProperty(document, "hidden", {value: false, configurable: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->await(function () use ($tick): bool {
            $this->page->press();

            return $this->chips('entry') !== [] && $tick > 0;
        }, 'clicks to be taken again');
    }

    public function testTheHintsGoAwayForGoodAndTheSheetListsTheKeys(): void
    {
        $this->enter(oneClick: false);
        self::assertStringContainsString('hold X, or press Flatten', $this->page->text('.hints'));
        $this->page->find('.hints button')->click();
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
        self::assertSame(0, $this->page->count('.hints'));
        $this->page->holdKey('?', 10);
        $this->page->await(fn(): bool => $this->page->count('dialog[open]') === 1, 'the sheet');
        self::assertStringContainsString('stops to break-even', $this->page->text('dialog'));
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('dialog[open]') === 0, 'the sheet to close');
    }

    public function testTheListsFoldToOneLineAndTheLadderTakesTheRoom(): void
    {
        $this->enter();
        $this->page->find('.hints button')->click();
        $rungs = $this->page->count('.rung');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->count('.rung') >= $rungs + 5, 'more rungs');
        self::assertStringContainsString('Working 0', $this->page->text('.lists [role=tablist]'));
        self::assertSame(800, $this->page->run('return document.documentElement.scrollHeight'), 'nothing hangs out of the window');
        $this->page->find('[data-action=fold]')->click();
        $this->page->await(fn(): bool => $this->page->count('.rung') === $rungs, 'as many as before');
    }

    public function testLotsCanBeTypedAndKeysTypedThereDoNothingElse(): void
    {
        $this->enter();
        $this->page->awaitText('[data-field=margin]', 'margin 410.00 EUR');
        $this->page->find('.typed-lots input')->click();
        $this->page->run('document.querySelector(".typed-lots input").select()');
        $this->page->find('.typed-lots input')->sendKeys('7');
        $this->page->awaitText('[data-field=split]', '7 lots: 1 at +9, 6 run');
        $this->page->awaitText('[data-field=margin]', 'margin 1435.00 EUR');
        $this->page->find('.typed-lots input')->sendKeys("nobN\u{E007}999");
        self::assertSame('Short tide', $this->page->text('.plans [data-state=on]'));
        self::assertStringContainsString('One-click on', $this->page->text('[data-action=one-click]'));
        self::assertStringContainsString('7 lots', $this->page->text('[data-field=split]'), 'over the order limit nothing changes');
        self::assertSame([], $this->trader->working());
    }

    private function drag(string $from, string $to, bool $escape = false): void
    {
        [$x, $y] = $this->page->middle($from);
        [$tox, $toy] = $this->page->middle($to);
        $this->page->mouse([['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerMove', 'duration' => 60, 'x' => $tox, 'y' => $toy]]);
        if ($escape) {
            $this->page->driver->executeScript('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Escape"}))');
        }
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
    }

    public function testADoublePressSendsOneOrder(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('.strip', 'Buy 2 limit');
        $this->awaitSettled();
        $this->page->mouse([['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0], ['type' => 'pointerDown', 'button' => 0], ['type' => 'pointerUp', 'button' => 0]]);
        $this->page->awaitText('[data-field=said]', 'second press');
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1, 'one chip');
        self::assertCount(1, $this->trader->working());
    }

    public function testTheCrossCancelsAndAPressOnAChipPlacesNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the chip');
        $this->page->pointAt('.chip[data-role=entry] b');
        $this->page->press();
        $this->page->pointAt('.chip[data-role=entry] button');
        $this->page->press();
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'the chip to go');
        self::assertSame(['cancelled'], array_column($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], 'state'));
    }

    public function testTakingAStopOffIsAskedFirst(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->await(fn(): bool => count($this->chips('stop')) === 2, 'the stops');
        $this->page->pointAt('.chip[data-role=stop] button');
        $this->page->press();
        $this->page->awaitText('[role=alertdialog]', 'leaves 1 lots unprotected');
        $this->page->find('[role=alertdialog] button:last-child')->click();
        $this->page->awaitText('[data-field=protected]', '1 of 2');
        self::assertStringContainsString('alarm', (string) $this->page->find('[data-field=protected]')->getAttribute('class'));
        $this->page->pointAt('[data-action=cover]');
        $this->page->press();
        $this->page->awaitText('[data-field=protected]', '2 of 2');
    }

    public function testLotsAndPlanDoNotTouchEachOther(): void
    {
        $this->enter();
        $this->page->holdKey('3', 10);
        $this->page->awaitText('.lots [data-state=on]', '3');
        $this->page->holdKey('n', 10);
        $this->page->awaitText('.plans [data-state=on]', 'Two halves');
        self::assertStringContainsString('3', $this->page->text('.lots [data-state=on]'));
        $this->page->awaitText('[data-field=split]', '3 lots: 1 at +8, 2 at +16');
        $this->page->awaitText('[data-field=curve]', '2 out at +16');
        self::assertStringContainsString('stop -10', $this->page->text('[data-field=curve]'));
    }

    public function testTheLadderStandsStillUnderThePointerAndFollowsElsewhere(): void
    {
        $this->enter();
        $start = $this->last();
        $top = (int) $this->page->run('return Number(document.querySelector(".rung").dataset.tick)');
        $this->page->pointAt(self::lane($start, 'sell'));
        $this->pushTo($start + 9);
        $this->page->awaitText('.held-mark', 'up · Space centres');
        self::assertSame($top, (int) $this->page->run('return Number(document.querySelector(".rung").dataset.tick)'));
        $this->page->pointAt('.card');
        $this->page->await(fn(): bool => (int) $this->page->run('return Number(document.querySelector(".rung").dataset.tick)') > $top, 'the ladder to follow');
        $this->pushTo($start);
    }

    public function testReloadInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 5);
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops where they were');
        $this->page->find('.hints button')->click();
        $this->page->find('.lists [role=tab]:nth-child(3)')->click();
        $this->page->awaitText('.said', 'lock at best +5');
        $fills = count($this->trader->call('GET', "fills?account={$this->trader->account}")->body['items']);
        self::assertStringContainsString("Fills $fills", $this->page->text('.lists [role=tablist]'));
    }

    public function testEngineKilledInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 7);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 2, $entry + 2], 'the lock');
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector(".curve circle")?.dataset.best') === '7', 'the best profit on the curve');
        $pid = $this->desk->enginePid();
        // Where the rungs stand is looked at on every frame while the engine goes and comes: they must not move.
        $this->page->run('window.places = new Set(); window.sawBanner = false; const look = () => { window.places.add(document.querySelector(".rungs").getBoundingClientRect().y); window.sawBanner ||= document.querySelector(".banner") !== null; requestAnimationFrame(look); }; look();');
        posix_kill($pid, SIGKILL);
        $this->page->await(fn(): bool => (bool) $this->page->run('return window.sawBanner'), 'the banner');
        self::assertSame(1, $this->page->run('return window.places.size'), 'the banner moved the rungs');
        $this->desk->awaitEngineOtherThan($pid);
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        self::assertSame([$entry + 2, $entry + 2], $this->chips('stop'));
        $this->pushTo($entry + 11);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 5], 'the trail goes on');
    }

    public function testAStaleFeedSaysSoAndSendsNothing(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('.strip', 'Buy 2 limit');
        $this->awaitSettled();
        $pid = $this->desk->enginePid();
        posix_kill($pid, SIGSTOP);
        try {
            $this->page->awaitText('[data-field=feed]', 'stale');
            $this->page->press();
            $this->page->awaitText('[data-field=said]', 'the feed is not live');
        } finally {
            posix_kill($pid, SIGCONT);
        }
        $this->page->awaitLive();
        self::assertSame([], $this->trader->working());
    }

    public function testAnotherContractWithPricesInThirtySeconds(): void
    {
        $this->enter();
        $this->page->find('.contract-tab[title^="Ten-year"]')->click();
        $this->page->await(fn(): bool => (bool) preg_match('/^1\\d\\d-\\d\\d½?$/', (string) $this->page->run('return document.querySelector(".rung")?.dataset.price')), 'a ladder in 32nds');
        $book = $this->trader->call('GET', 'contracts/HBNZ6/book?levels=1')->body;
        $shown = $this->page->run('return [...document.querySelectorAll(".rung .depth.ask")].at(-1).parentElement.dataset');
        $contract = \App\Demo\KestrelBay::contracts(new \DateTimeImmutable(RunningDesk::CLOCK))[3][0];
        self::assertSame($contract->write($contract->ticks($book['asks'][0][0])), $shown['price']);
        $this->page->pointAt(self::lane((int) $shown['tick'] - 6, 'buy'));
        $this->page->awaitText('.strip', 'Buy 2 limit '.$contract->write((int) $shown['tick'] - 6));
    }

    public function testSigningOutClosesTheStreamOfThatSession(): void
    {
        $this->enter();
        $this->page->driver->executeScript('window.open("/", "second")');
        $this->page->find('form[action="/sign-out"] button')->click();
        $this->page->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page');
        $this->page->driver->switchTo()->window($this->page->driver->getWindowHandles()[1]);
        $this->page->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the other tab to be signed out too');
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
        $refused = $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop', 'trigger' => self::price($touch - 6)]);
        self::assertSame('stop-passed', $refused->code());
        $this->page->awaitText('[data-field=said]', 'already passed');
    }

    public function testSignInDemoEntryAndSignOut(): void
    {
        $this->page->open('/')->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page');
        $this->page->find('input[name=email]')->sendKeys('nobody@kestrel-bay.invalid');
        $this->page->find('input[name=password]')->sendKeys('wrong');
        $this->page->find('form[action="/sign-in"] button')->click();
        $this->page->awaitText('.fault', 'do not go together');
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
        $other->open($this->trader->link)->awaitText('.fault', 'has been used');
        $other->close();
    }
}
