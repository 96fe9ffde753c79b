<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\Trader;

/** Every way in and every change: ticket, quick row, action keys, pairs, ties, drags of each kind, edits in the list. */
final class EnteringTest extends PageCase
{
    /** Sets a field as typing does. */
    private function set(string $css, string $value): void
    {
        $this->page->run(
            'const e = document.querySelector(arguments[0]); const of = e.tagName === "SELECT" ? HTMLSelectElement : HTMLInputElement; Object.getOwnPropertyDescriptor(of.prototype, "value").set.call(e, arguments[1]); e.dispatchEvent(new Event(e.tagName === "SELECT" ? "change" : "input", {bubbles: true}))',
            $css,
            $value,
        );
    }

    /** @return array<string, mixed> the one order that works */
    private function theOrder(): array
    {
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'one order');

        return $this->trader->working()[0];
    }

    public function testShiftMakesAnIfTouchedAndAltShiftAStopLimit(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Shift"}))');
        $this->page->awaitText('[data-part=strip]', 'Shift: market if touched');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 MIT '.self::price($tick));
        $this->awaitSettled();
        $this->page->press();
        $sent = $this->theOrder();
        self::assertSame(['mit', self::price($tick)], [$sent['kind'], $sent['trigger']]);
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keyup", {key: "Shift"}))');
        $this->trader->call('DELETE', "orders/{$sent['id']}", ['client_id' => Trader::id()]);
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'it to go');

        $high = $this->quote('asks') + 4;
        $this->page->pointAt(self::lane($high, 'buy'));
        $this->page->run('for (const key of ["Alt", "Shift"]) window.dispatchEvent(new KeyboardEvent("keydown", {key}))');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 stop-limit '.self::price($high).' limit '.self::price($high + 2));
        $this->awaitSettled();
        $this->page->press();
        $sent = $this->theOrder();
        self::assertSame(['stop-limit', self::price($high), self::price($high + 2)], [$sent['kind'], $sent['trigger'], $sent['price']]);
    }

    public function testTheTicketSendsTheExactOrderAndSaysBeforehandWhatItCosts(): void
    {
        $this->enter(oneClick: false);
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=ticket]') === 1, 'the ticket');
        $level = $this->quote('bids') - 7;
        $this->set('[data-name=kind]', 'limit');
        $this->set('[data-field=ticket] [data-name=lots]', '3');
        $this->set('[data-name=price]', self::price($level).'3');
        $this->page->awaitText('[data-field=ticket-words][data-refused]', 'the nearest');
        self::assertSame(
            'true',
            $this->page->find('[data-action=ticket-send]')->getAttribute('disabled'),
            'what would be refused cannot be sent',
        );
        $this->set('[data-name=price]', self::price($level));
        $this->set('[data-name=tif]', 'gtc');
        $this->set('[data-name=cancel]', '2099-01-01T00:00:00.000Z');
        $this->page->awaitText(
            '[data-field=ticket-words]',
            'Buy 3 limit '.self::price($level).' · Short tide · risk 52.50 + 3.72 fees · until cancelled',
        );
        $this->page->awaitText('[data-field=ticket-stop]', '3: -52.50');
        self::assertStringContainsString('615.00 EUR', $this->page->text('[data-field=ticket] dl'), 'the margin');
        $this->page->find('[data-action=ticket-send]')->click();
        $sent = $this->theOrder();
        self::assertSame(
            ['limit', 3, self::price($level), 'gtc', 'Short tide', '2099-01-01T00:00:00.000Z'],
            [$sent['kind'], $sent['quantity'], $sent['price'], $sent['tif'], $sent['plan'], $sent['cancel_at']],
        );
        $this->page->await(fn(): bool => $this->page->count('[data-field=ticket]') === 0, 'the ticket to close');
    }

    public function testTheTicketTakesPricesFromTheLadderAndFindsContractsByAlias(): void
    {
        $this->enter(oneClick: false);
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=ticket]') === 1, 'the ticket');
        $tick = $this->quote('asks') + 6;
        $this->page->pointAt("[data-part=rung][data-tick='$tick'] [data-part=price]");
        $this->page->press();
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-name=price]").value') === self::price($tick),
            'the price of that rung',
        );
        self::assertSame([], $this->chips('draft'), 'a press on a price is no order');
        $this->page->find('[data-name=contract]')->sendKeys("TIDAL-\u{E007}");
        $this->page->await(
            fn(): bool => str_contains($this->page->text('[data-part=contract-tab][data-state=on]'), 'TID'),
            'the contract of that alias on the ladder',
        );
    }

    public function testAHeldOrderIsShownWithWhatItWaitsFor(): void
    {
        $this->enter();
        $level = $this->quote('bids') - 6;
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($level),
            'release_at' => '2099-01-01T09:00:00.000Z',
        ]);
        $this->page->awaitText(self::lane($level, 'buy').' [data-part=chip]', 'limit · held');
        $this->page->awaitText('[data-part=live-row]', 'held until 2099-01-01 09:00:00 UTC');
    }

    /** Cut off after its first word it looked as if it worked for ever. */
    public function testWhenAnOrderIsTakenAwayStandsWholeInTheList(): void
    {
        $this->enter();
        foreach ([['cancel_at' => '2026-11-02T14:30:00.000Z'], ['tif' => 'gtd', 'expires_at' => '2026-12-24T16:00:00.000Z']] as $at => $ends) {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->quote('bids') - 6 - $at)] + $ends);
        }
        $words = ['until 2026-12-24 16:00', 'until 14:30'];
        $cells = 'return [...document.querySelectorAll("[data-part=live-row] [role=gridcell]")].filter((cell) => cell.textContent.includes("until ")).map((cell) => arguments[0] ? cell.textContent : cell.scrollWidth - cell.clientWidth)';
        $this->page->await(fn(): bool => $this->page->run($cells, true) === $words, 'both times in the list');
        self::assertSame([0, 0], $this->page->run($cells, false), 'nothing cut off');
    }

    public function testTheQuickRowSaysItsPricesAndJoins(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        $this->page->awaitText('[data-action=join-bid]', 'Join bid '.self::price($bid));
        $this->page->pointAt('[data-action=join-bid]');
        $this->page->press();
        $sent = $this->theOrder();
        self::assertSame(['limit', 'buy', self::price($bid), 2], [$sent['kind'], $sent['side'], $sent['price'], $sent['quantity']]);
        $this->page->awaitText('[data-part=chip][data-role=entry]', 'limit · '.$sent['ahead']);
    }

    public function testAnActionKeySaysWhatItWouldSendAndSendsIt(): void
    {
        $bid = $this->quote('bids');
        $this->trader->call('PUT', 'settings/action-keys', ['format' => 'lotrik.action-keys/1', 'tiles' => [
            [
                'name' => 'Three below', 'key' => 'F13',
                'steps' => [[
                    'do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => -3, 'lots' => 1, 'plan' => 'Runner',
                ]],
            ],
            ['name' => 'Too much', 'key' => 'F14', 'steps' => [
                ['do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => -4, 'lots' => 1, 'plan' => 'none'],
                ['do' => 'order', 'side' => 'buy', 'kind' => 'limit', 'from' => 'bid', 'offset' => -5, 'lots' => 900, 'plan' => 'none'],
            ]],
        ]]);
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Action keys');
        $this->page->awaitText('[data-action="tile-Three below"]', 'buy 1 limit '.self::price($bid - 3).' · Runner');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "F13"}))');
        $this->page->await(fn(): bool => $this->chips('draft') === [$bid - 3], 'a draft, with one-click off');
        self::assertSame([], $this->trader->working());
        $this->page->holdKey("\u{E007}", 10);
        $sent = $this->theOrder();
        self::assertSame(
            [self::price($bid - 3), 1, 'Runner', 'by hand, action key Three below'],
            [$sent['price'], $sent['quantity'], $sent['plan'], $sent['why']],
        );
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "F14"}))');
        $this->page->awaitText('[role=alertdialog]', 'Too much: buy 1 limit');
        $this->page->find('[data-name=send-tile]')->click();
        $this->page->awaitText('[data-field=said]', '900 lots are over the order limit');
        self::assertCount(1, $this->trader->working(), 'all steps are checked before the first is sent');
    }

    public function testTheStepsOfAnActionKeyGoOutAsOneCommandAndAreSaidOneByOne(): void
    {
        $this->trader->call('PUT', 'settings/action-keys', ['format' => 'lotrik.action-keys/1', 'tiles' => [
            ['name' => 'Fade', 'key' => 'F13', 'steps' => [
                ['do' => 'cancel-all'],
                ['do' => 'order', 'side' => 'sell', 'kind' => 'limit', 'from' => 'mid', 'offset' => 5, 'lots' => 1, 'plan' => 'chosen'],
                ['do' => 'next-plan'],
            ]],
        ]]);
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::price($this->quote('bids') - 5),
        ]);
        $mid = intdiv($this->quote('bids') + $this->quote('asks'), 2);
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Action keys');
        $this->page->awaitText('[data-action=tile-Fade]', 'cancel all, then sell 1 limit '.self::price($mid + 5).' · Short tide, then next plan');
        $this->page->run('window.posts = []; const real = window.fetch; window.fetch = (a, o) => { if (o?.method === "POST" && !String(a).includes("preview") && !String(a).endsWith("noise")) window.posts.push(String(a)); return real(a, o); }');
        $this->page->find('[data-action=tile-Fade]')->click();
        $this->page->await(fn(): bool => $this->chips('entry') === [$mid + 5], 'the new order in place of the old one');
        $this->page->awaitText('[data-field=said]', 'Fade, step 1 of 2: cancel all');
        $this->page->awaitText('[data-field=said]', 'Fade, step 2 of 2: order');
        self::assertSame(['/api/contracts/'.self::CODE.'/steps'], $this->page->run('return window.posts'));
        self::assertSame('Short tide', $this->trader->working()[0]['plan']);
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-part=plans] [data-state=on]")?.textContent') !== 'Short tide',
            'the next plan, which the page chooses once the engine has taken the rest',
        );
    }

    public function testTwoDraftsGoOutAsAPairAndTheCrossAsksWhich(): void
    {
        $this->enter(oneClick: false);
        $up = $this->quote('asks') + 4;
        $down = $this->quote('bids') - 4;
        $this->click($up, 'buy', 'Buy 2 stop');
        $this->page->await(fn(): bool => $this->chips('draft') === [$up], 'one draft');
        $this->click($down, 'sell', 'Sell 2 stop');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 2, 'two drafts');
        $this->page->holdKey('y', 10);
        $this->page->await(fn(): bool => count($this->chips('entry')) === 2 && $this->chips('draft') === [], 'both sent');
        self::assertSame(['oco', 'oco'], array_column(array_column($this->trader->working(), 'tied'), 'kind'));
        $this->page->awaitText('[data-part=chip][data-role=entry]', 'OCO');
        $this->page->pointAt('[data-part=chip][data-role=entry] button');
        $this->page->press();
        $this->page->awaitText('[role=alertdialog]', 'is tied to order');
        $this->page->find('[role=alertdialog] button:last-child')->click();
        $this->page->await(fn(): bool => $this->chips('entry') === [], 'both to go');
    }

    public function testTwoOrdersAreTiedByKeyAndPress(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        foreach ([4, 7] as $below) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($bid - $below),
            ]);
        }
        $this->page->await(fn(): bool => $this->chips('entry') === [$bid - 4, $bid - 7], 'two chips');
        $this->page->pointAt(self::lane($bid - 4, 'buy').' [data-part=chip] b');
        $this->page->press();
        $this->page->holdKey('t', 10);
        $this->page->awaitText('[data-field=tying]', 'press the order');
        $this->page->pointAt(self::lane($bid - 7, 'buy').' [data-part=chip] b');
        $this->page->press();
        $this->page->awaitText('[data-part=chip][data-role=entry]', 'OCO');
        $this->page->pointAt(self::lane($bid - 4, 'buy').' [data-part=chip] b');
        $this->page->press();
        $this->page->holdKey('t', 10);
        $this->page->await(fn(): bool => array_filter(array_column($this->trader->working(), 'tied')) === [], 'the key to untie them');
    }

    public function testOrdersOfEveryKindAreDragged(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        $ask = $this->quote('asks');
        foreach ([['limit', ['price' => self::price($bid - 3)], $bid - 3, $bid - 6], [
            'stop', ['trigger' => self::price($ask + 3)], $ask + 3, $ask + 5,
        ],
            ['mit', ['trigger' => self::price($bid - 4)], $bid - 4, $bid - 5], [
                'stop-limit', ['trigger' => self::price($ask + 3), 'price' => self::price($ask + 9)], $ask + 3, $ask + 4,
            ]] as [$kind, $levels, $from, $to]) {
            $id = $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => $kind] + $levels)->body['id'];
            $this->page->await(fn(): bool => $this->chips('entry') === [$from], "the $kind");
            $this->drag('[data-part=chip][data-role=entry] b', self::lane($to, 'buy'));
            $this->page->await(fn(): bool => $this->chips('entry') === [$to], "the $kind at its new rung");
            self::assertSame(self::price($to), $this->trader->working()[0][$kind === 'limit' ? 'price' : 'trigger']);
            $this->trader->call('DELETE', "orders/$id", ['client_id' => Trader::id()]);
            $this->page->await(fn(): bool => $this->chips('entry') === [], 'it to go');
        }
    }

    /** In the trader's own time; what cannot be read is said at its field, and nothing can be sent. */
    public function testTimesOfTheTicketAreTypedAsTheyAreSaid(): void
    {
        $this->enter();
        $this->page->holdKey('k', 10);
        $this->page->find('[data-name=cancel]')->sendKeys('soon');
        $this->page->awaitText('[data-means=cancel]', '4 dec 15:00, +90m or close');
        $this->page->await(fn(): bool => $this->page->count('[data-action=ticket-send]:disabled') === 1, 'nothing to send');
        $this->page->find('[data-name=cancel]')->clear()->sendKeys('+90m');
        $this->page->awaitText('[data-means=cancel]', 'Mon 2 Nov, 11:00 UTC');
        $this->page->find('[data-name=price]')->clear()->sendKeys(self::price($this->quote('bids') - 9));
        $this->page->await(fn(): bool => $this->page->count('[data-action=ticket-send]:not(:disabled)') === 1, 'the ticket, ready');
        $this->page->find('[data-action=ticket-send]')->click();
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        self::assertMatchesRegularExpression('/^2026-11-02T1[01]:\d\d:/', $this->trader->working()[0]['cancel_at'], 'ninety minutes after it was typed');
    }

    public function testOneKeyMakesADraftOfTheLastOrder(): void
    {
        $this->enter();
        $this->page->holdKey('/', 10);
        $this->page->awaitText('[data-field=said]', 'No order has been sent in DULZ6');
        $tick = $this->quote('bids') - 5;
        $this->page->holdKey('3', 10);
        $this->page->holdKey('n', 10);
        $this->click($tick, 'buy', 'Buy 3 limit');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=entry]') === 1 && $this->page->count('[data-part=chip][data-role=draft]') === 0, 'the order');
        $this->page->holdKey('1', 10);
        $this->page->holdKey('/', 10);
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the same as a draft, whatever one-click says');
        self::assertCount(1, $this->trader->working());
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'sent');
        $sent = array_map(static fn(array $of): array => [$of['side'], $of['kind'], $of['price'], $of['quantity'], $of['plan']], $this->trader->working());
        self::assertSame($sent[0], $sent[1]);
        self::assertSame([3, 'Two halves'], [$sent[0][3], $sent[0][4]]);
    }

    /** With Shift it goes through the market on purpose, and nothing is asked. */
    public function testALimitDraggedToTheAskWithShiftFills(): void
    {
        $this->enter();
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->quote('bids') - 3),
        ]);
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1, 'the limit');
        $this->dragWith("\u{E008}", '[data-part=chip][data-role=entry] b', self::lane($this->quote('asks'), 'buy'));
        $this->page->awaitText('[data-field=position]', 'Long 1');
    }

    /** A row of the list ends, the next comes under the pointer, and the press that was meant for the first comes down. */
    public function testAButtonThatHasJustComeUnderThePointerTakesNoPress(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $ids = array_map(
            fn(int $off): int => $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($tick - $off),
            ])->body['id'],
            [0, 1, 2],
        );
        $this->page->await(fn(): bool => $this->page->count('[data-part=live-row]') === 3, 'three rows');
        $press = 'const press = () => { const row = [...document.querySelectorAll("[data-part=live-row]")].sort((a, b) => a.getBoundingClientRect().y - b.getBoundingClientRect().y)[0]; const cancel = [...row.querySelectorAll("button")].at(-1); cancel.dispatchEvent(new PointerEvent("pointerdown", {bubbles: true, button: 0})); cancel.click(); };';
        $this->page->run($press.'new MutationObserver((_, watch) => { if (document.querySelectorAll("[data-part=live-row]").length !== 2) return; watch.disconnect(); requestAnimationFrame(press); }).observe(document.querySelector("[data-part=live-room]"), {childList: true, subtree: true})');
        $first = (int) $this->page->run('return Number([...document.querySelectorAll("[data-part=live-row]")].sort((a, b) => a.getBoundingClientRect().y - b.getBoundingClientRect().y)[0].dataset.row)');
        self::assertContains($first, $ids);
        $this->trader->call('DELETE', "orders/$first", ['client_id' => Trader::id()]);
        $this->page->awaitText('[data-field=said]', 'the rows just moved');
        self::assertCount(2, $this->trader->working());
        $this->page->await(function () use ($press): bool {
            $this->page->run($press.'press()');

            return count($this->trader->working()) < 2;
        }, 'a press on rows that stand');
    }

    public function testLotsPriceAndDurationAreChangedInTheList(): void
    {
        $this->enter();
        $level = $this->quote('bids') - 6;
        $id = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::price($level),
        ])->body['id'];
        $this->page->find('[data-part=hints] button')->click();
        $edit = function (string $what, string $typed) use ($id): void {
            $this->page->await(fn(): bool => $this->page->count("[data-row='$id'] button[data-edit=$what]") === 1, "the $what");
            $this->page->find("[data-row='$id'] [data-edit=$what]")->click();
            $this->page->find("[data-row='$id'] [data-part=edit]")->sendKeys($typed."\u{E007}");
        };
        $edit('lots', '5');
        $this->page->await(fn(): bool => $this->trader->working()[0]['quantity'] === 5, 'five lots');
        $edit('price', self::price($level - 2));
        $this->page->await(fn(): bool => $this->chips('entry') === [$level - 2], 'the new price');
        $edit('duration', 'gtc');
        $this->page->await(fn(): bool => $this->trader->working()[0]['tif'] === 'gtc', 'until cancelled');
        $edit('price', '1.23');
        $this->page->awaitText('[data-field=said]', '1.23');
        self::assertSame(self::price($level - 2), $this->trader->working()[0]['price'], 'a price off the grid changes nothing');
    }

    public function testMoreLotsThanTheTradersOwnNumberAreAskedAbout(): void
    {
        $this->setEntry(['confirm_over' => 1]);
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->awaitText('[role=alertdialog]', 'buy 2 limit '.self::price($tick));
        self::assertSame([], $this->trader->working());
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->awaitText('[data-field=said]', 'not confirmed');
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->awaitText('[role=alertdialog]', 'buy 2');
        // The safe answer has the focus: a held Enter, pressed for something else, sends nothing.
        self::assertSame("Don't send", $this->page->run('return document.activeElement.textContent'));
        $this->page->find('[data-name=confirm]')->click();
        self::assertSame(2, $this->theOrder()['quantity']);
    }

    public function testAKeyIsChangedInTheSettingsAndOneThatIsTakenIsSwapped(): void
    {
        $this->enter(oneClick: false);
        $this->page->holdKey('s', 10);
        $this->page->find('[data-field=settings] [role=tab]:nth-child(3)')->click();
        $this->page->find('[data-key=next-plan]')->click();
        $this->page->holdKey('b', 10);
        $this->page->awaitText('[role=alertdialog]', 'B is used for “stops to break-even”. Swap the two? That one gets N.');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'left as they are');
        self::assertSame(['N', 'B'], [$this->page->text('[data-key=next-plan]'), $this->page->text('[data-key=break-even]')]);
        $this->page->find('[data-key=next-plan]')->click();
        $this->page->holdKey('b', 10);
        $this->page->find('[data-name=swap-keys]')->click();
        $this->page->awaitText('[data-key=break-even]', 'N');
        $this->page->awaitText('[data-key=next-plan]', 'B');
        $this->page->find('[data-key=next-plan]')->click();
        $this->page->holdKey(';', 10);
        $this->page->awaitText('[data-key=next-plan]', ';');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->holdKey('b', 10);
        $this->page->holdKey(';', 10);
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        $keys = array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['keys']['keys'];
        self::assertSame([';', 'n'], [$keys['next-plan'], $keys['break-even']]);
    }

    public function testAnActionKeyIsMadeInTheSettingsAndAKeyFileWithUnknownActionsRefused(): void
    {
        $this->enter(oneClick: false);
        $this->page->holdKey('s', 10);
        $this->page->find('[data-field=settings] [role=tab]:nth-child(2)')->click();
        $this->page->find('[data-action=add-tile]')->click();
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-name=tile-name]")?.value') === 'Tile 6',
            'the new tile',
        );
        $this->page->find('[data-name=tile-key]')->click();
        $this->page->run('document.querySelector("[data-name=tile-key]").dispatchEvent(new KeyboardEvent("keydown", {key: "F15", bubbles: true}))');
        $this->page->awaitText('[data-name=tile-key]', 'F15');
        self::assertStringContainsString('Step 1', $this->page->text('[data-field=settings] fieldset'));
        // Two changes of one step, the second before the first has been kept: both stand.
        $this->page->run('for (const [label, value] of [["Side", "sell"], ["Price from", "ask"]]) { const list = document.querySelector(`[data-field=settings] select[aria-label="${label}"]`); list.value = value; list.dispatchEvent(new Event("change", {bubbles: true})); }');
        $step = fn(): array => array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['action-keys']['tiles'][5]['steps'][0];
        $this->page->await(fn(): bool => [$step()['side'], $step()['from']] === ['sell', 'ask'], 'both changes');
        $file = sys_get_temp_dir().'/lotrik-keys-'.getmypid().'.json';
        file_put_contents($file, '{"format":"lotrik.action-keys/1","tiles":[{"name":"Odd","key":null,"steps":[{"do":"teleport"}]}]}');
        $this->page->find('[data-name=import-lotrik-action-keys]')->sendKeys($file);
        $this->page->awaitText('[data-field=settings] [data-part=fault]', 'Tiles 1, steps 1, do: "teleport" is not one of');
        unlink($file);
        $tiles = array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['action-keys']['tiles'];
        self::assertSame(['Tile 6', 'F15'], [$tiles[5]['name'], $tiles[5]['key']]);
    }

    public function testATagGoesWithTheOrder(): void
    {
        $this->enter();
        $this->set('[data-name=tag]', 'opening range');
        $this->click($this->quote('bids') - 5, 'buy', 'Buy 2 limit');
        self::assertSame('opening range', $this->theOrder()['tag']);
    }

    public function testTiesAndExitsByKeyboardAlone(): void
    {
        $this->enter();
        $bid = $this->quote('bids');
        foreach ([6, 9] as $below) {
            $this->trader->place([
                'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($bid - $below),
            ]);
        }
        $this->page->await(fn(): bool => count($this->chips('entry')) === 2, 'two orders');
        $this->page->run('document.querySelector("[data-part=live-table]").focus()');
        foreach (["\u{E015}", "\u{E007}", 't', "\u{E015}", "\u{E007}"] as $key) {
            $this->page->holdKey($key, 10);
        }
        $this->page->awaitText('[data-part=chip][data-role=entry]', 'OCO');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        $this->page->awaitText('[data-field=protected]', '0 of 1');
        $this->page->run('document.activeElement.blur()');
        $this->page->holdKey("\u{E014}", 10);
        foreach (range(1, 3) as $_) {
            $this->page->holdKey("\u{E015}", 10);
        }
        $this->page->holdKey('e', 10);
        $this->page->awaitText('[data-field=protected]', '1 of 1');
        self::assertCount(1, $this->chips('stop'));
    }

    public function testStopsCloserAndCancelsOfOneSideByKey(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 7, $entry - 7], 'the stops');
        $this->page->holdKey('c', 10);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 6, $entry - 6], 'one tick closer');
        $low = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($entry - 12),
        ])->body['id'];
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'sell', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($entry + 14),
        ]);
        $this->page->await(fn(): bool => count($this->chips('entry')) === 1 && count($this->chips('close')) === 1, 'a buy and a sell');
        $this->page->holdKey('[', 450);
        $this->page->await(
            fn(): bool => $this->chips('entry') === [] && count($this->chips('close')) === 1,
            'the buy to go and the sell to stay',
        );
        self::assertSame('cancelled', $this->trader->call('GET', "orders/$low")->body['state']);
        self::assertCount(2, $this->chips('stop'));
    }

    public function testListsAreKeptToTheContractOnTheLadder(): void
    {
        $this->enter();
        $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => self::price($this->quote('bids') - 9),
        ]);
        $this->trader->place(['contract' => 'YUZX6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '1900']);
        $rows = fn(): array => $this->page->run('return [...document.querySelectorAll("[data-part=live-row] [role=gridcell]:nth-child(2)")].map((cell) => cell.textContent)');
        $this->page->await(fn(): bool => $rows() === ['YUZX6', self::CODE], 'both orders');
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=only-this]')->click();
        $this->page->await(fn(): bool => $rows() === [self::CODE], 'only this contract');
        $this->page->find('[data-action=sounds]')->click();
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive()->awaitText('[data-action=sounds]', 'Sounds on');
    }

    public function testSizesOfOneContractAreItsOwn(): void
    {
        $this->setEntry(['contracts' => ['YUZX6' => ['lots_row' => [1, 2, 4, 8, 90], 'lots' => 4, 'plan' => 2, 'kind' => 'stop']]]);
        $this->enter(oneClick: false);
        $this->page->awaitText('[data-part=lots]', '1 12 23 35 410 5');
        $this->page->find('[data-part=contract-tab][title^="Yuzu"]')->click();
        $this->page->awaitText('[data-part=lots] [data-state=on]', '4');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        self::assertSame(
            'true',
            $this->page->find('[data-part=lots] button:last-child')->getAttribute('disabled'),
            '90 lots are over the order limit',
        );
        $this->page->holdKey('k', 10);
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-name=kind]")?.value') === 'stop',
            'the kind of this contract',
        );
    }
}
