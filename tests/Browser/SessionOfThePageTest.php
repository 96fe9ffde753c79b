<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\Page;

/** Ways in and out, and a session that ends while the desk is open. */
final class SessionOfThePageTest extends PageCase
{
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

    public function testAnAddressThatIsNotThereLooksLikeTheRest(): void
    {
        $this->page->open('/nowhere');
        self::assertStringContainsString('There is nothing at this address', $this->page->text('main'));
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

    public function testWithAPositionOpenSigningOutIsAskedFirst(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->page->find('form[action="/sign-out"] button')->click();
        $this->page->awaitText('[role=alertdialog]', 'You have 1 open position');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'the desk');
        self::assertSame(2, $this->lots());
        $this->page->find('form[action="/sign-out"] button')->click();
        $this->page->find('[data-name=sign-out]')->click();
        $this->page->await(fn(): bool => $this->page->count('form[action="/demo"]') === 1, 'the sign-in page');
        self::assertNotSame([], $this->trader->stops(), 'the stop goes on');
    }

    public function testACommandWithoutTheCsrfTokenIsRefused(): void
    {
        $this->enter();
        $answer = $this->page->driver->executeAsyncScript('const done = arguments[arguments.length - 1]; fetch("/api/contracts/DULZ6/flatten", {method: "POST", headers: {"Content-Type": "application/json"}, body: "{}"}).then(async (r) => done([r.status, (await r.json()).code]))');
        self::assertSame([419, 'csrf'], $answer);
    }

    public function testTheSignInIsAskedForOverTheDeskAndDraftsStay(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->page->run('window.real ??= window.fetch; window.fetch = async () => new Response("{}", {status: 401})');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->run('document.querySelector("meta[name=csrf-token]").content = "old"; window.fetch = window.real');
        $this->page->find('[data-name=go-on]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 0, 'the desk again');
        self::assertSame([$tick], $this->chips('draft'));
        $this->page->await(fn(): bool => $this->page->text('[data-field=feed]') === 'live', 'the feed');
        $this->page->awaitText('[data-part=strip]', 'Enter sends');
        // An Enter that comes as the dialog goes may be taken for the dialog's; one that is heard sends the draft once.
        $this->page->await(function (): bool {
            if ($this->chips('draft') !== []) {
                $this->page->holdKey("\u{E007}", 10);
            }

            return count($this->trader->working()) > 0;
        }, 'sent with the new token');
        self::assertCount(1, $this->trader->working());
    }

    /** An answer that was on its way while the session was renewed is about the one before. */
    public function testALateRefusalOfTheOldSessionDoesNotCloseTheDeskAgain(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->page->run('window.real ??= window.fetch; window.late = null; window.ended = false; window.fetch = (address, options) => String(address).endsWith("/orders") ? new Promise((answer) => { window.late = () => answer(new Response("{}", {status: 419})); }) : window.ended ? Promise.resolve(new Response("{}", {status: 401})) : window.real(address, options)');
        $this->page->holdKey("\u{E007}", 10);
        // A question that is asked again by itself would have closed the desk before the order went out.
        $this->page->await(fn(): bool => $this->page->run('return window.late !== null'), 'the order on its way');
        $this->page->run('window.ended = true');
        $this->page->pointAt(self::lane($tick + 1, 'buy'));
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->run('const hold = window.fetch; window.fetch = (a, o) => String(a).endsWith("/orders") ? hold(a, o) : window.real(a, o)');
        $this->page->find('[data-name=go-on]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 0, 'the desk again');
        $this->page->run('window.late()');
        $this->page->awaitText('[data-field=said]', 'Not sent: you are signed out');
        self::assertSame(0, $this->page->count('[data-field=signed-out]'));
    }

    /** A question in the background finds the session gone just before the hand's Enter: that Enter opened a second tab. */
    public function testAnEnterThatWasMeantForTheDraftDoesNothingInTheDialog(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->page->run('window.real ??= window.fetch; window.fetch = async () => new Response("{}", {status: 401})');
        $this->page->pointAt(self::lane($tick - 2, 'buy'));
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 1, 'the dialog');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey(' ', 10);
        self::assertSame('signed-out', $this->page->run('return document.activeElement.dataset.field'), 'the dialog itself has the focus');
        self::assertCount(1, $this->page->driver->getWindowHandles(), 'no second tab');
        $this->page->run('window.fetch = window.real');
        $this->page->find('[data-name=go-on]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=signed-out]') === 0, 'the desk again');
        $this->page->pointAt('[data-part=top-bar]');
        $this->page->awaitText('[data-part=strip]', 'risk 35.00 + 2.48 fees · draft: Enter sends');
        self::assertStringNotContainsString('signed out', $this->page->text('[data-part=strip]'), 'a question that was not answered refuses nothing');
    }

    /** A window that nobody sees draws no frames. */
    public function testWhatAHiddenTabRefusesIsSaidWithoutAFrame(): void
    {
        $this->enter();
        $this->page->run('window.requestAnimationFrame = () => 0; Object.defineProperty(document, "hidden", {configurable: true, value: true}); document.dispatchEvent(new Event("visibilitychange"))');
        $this->page->run('window.dispatchEvent(new KeyboardEvent("keydown", {key: "F2", code: "F2"}))');
        $this->page->awaitText('[data-field=said]', 'this tab was hidden');
        self::assertSame([[], 0], [$this->trader->working(), $this->lots()]);
    }
}
