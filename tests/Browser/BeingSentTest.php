<?php

declare(strict_types=1);

namespace Tests\Browser;

/** From the press to the answer a command stands at its rung as what it is: on its way, and never as working before it is. */
final class BeingSentTest extends PageCase
{
    /** Calls to such addresses are sent when `window.letGo()` says so, or answered with what it is given. */
    private function hold(string $pattern): void
    {
        $this->page->run(<<<'JS'
            const pattern = new RegExp(arguments[0]);
            window.real ??= window.fetch;
            window.held = [];
            window.fetch = (address, options) => options?.method === 'GET' || !pattern.test(String(address)) ? window.real(address, options) : new Promise((answer) => {
                window.held.push((instead) => answer(instead ?? window.real(address, options)));
            });
            window.letGo = (instead) => { for (const go of window.held.splice(0)) go(instead); };
            JS, $pattern);
    }

    public function testAPressIsSeenBeforeItsAnswerAndTheOrderTakesItsPlace(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->hold('/api/orders$');
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('sending') === [$tick], 'the chip of what is being sent');
        self::assertSame([[], []], [$this->chips('entry'), $this->trader->working()]);
        self::assertStringContainsString('sending', $this->page->text('[data-part=chip][data-role=sending]'));
        $this->page->run('window.seen = []; new MutationObserver(() => window.seen.push(document.querySelectorAll("[data-part=chip]").length)).observe(document.querySelector("[data-part=rungs]"), {subtree: true, childList: true, attributes: true}); window.letGo()');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick] && $this->chips('sending') === [], 'the order in its place');
        self::assertSame([1], array_values(array_unique($this->page->run('return window.seen'))), 'never both, and never none');
    }

    public function testADraftThatIsSentIsADraftNoMore(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->hold('/api/orders$');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => $this->chips('sending') === [$tick] && $this->chips('draft') === [], 'it on its way');
        $this->page->run('window.letGo(new Response(JSON.stringify({code: "order-limit", title: "Refused", detail: "the venue does not want it", status: 422}), {status: 422, headers: {"Content-Type": "application/problem+json"}}))');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft again');
        self::assertStringContainsString('the venue does not want it', (string) $this->page->find('[data-part=chip][data-role=sending]')->getAttribute('title'), 'why, at its rung');
        $this->page->await(fn(): bool => $this->chips('sending') === [], 'the words gone after a while');
        self::assertSame([], $this->trader->working());
    }

    /** Given up while nothing is known of it: it had arrived, and goes. */
    public function testWhatIsGivenUpOnTheWayIsCancelledWhereItHadArrived(): void
    {
        $this->enter();
        $this->hold('/api/orders$');
        $this->click($this->quote('bids') - 5, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=sending] button') === 1, 'its cross');
        $this->page->run('document.querySelector("[data-part=chip][data-role=sending] button").click()');
        $this->page->await(fn(): bool => str_contains($this->page->text('[data-part=chip][data-role=sending]'), 'giving it up'), 'it is given up');
        $this->page->run('window.letGo()');
        $this->page->await(fn(): bool => array_column($this->trader->call('GET', "orders?account={$this->trader->account}&state=final")->body['items'], 'state') === ['cancelled'], 'it had arrived, and was cancelled');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip]') === 0, 'nothing stands there');
    }

    /** Given up, then done, and the page loaded anew before an answer came. */
    public function testWhatWasGivenUpIsTakenBackAfterAReload(): void
    {
        $this->enter();
        $this->page->run('window.real = window.fetch; window.fetch = (address, options) => options?.method === "GET" || !String(address).endsWith("/orders") ? window.real(address, options) : new Promise(() => { window.send = () => void window.real(address, { ...options, signal: undefined }); })');
        $this->click($this->quote('bids') - 5, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=sending] button') === 1, 'its cross');
        $this->page->run('document.querySelector("[data-part=chip][data-role=sending] button").click(); window.send()');
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'it had arrived');
        $this->page->open($this->desk->url())->awaitLive();
        $this->page->await(fn(): bool => array_column($this->trader->call('GET', "orders?account={$this->trader->account}&state=final")->body['items'], 'state') === ['cancelled'], 'taken back');
        self::assertSame([], $this->trader->working());
    }

    public function testWhatIsGivenUpAndNeverArrivedIsNotSentAgain(): void
    {
        $this->enter();
        $this->fates('/api/orders', ['gone']);
        $this->click($this->quote('bids') - 5, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=sending] button') === 1, 'its cross');
        $this->page->run('document.querySelector("[data-part=chip][data-role=sending] button").click()');
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        self::assertSame([], $this->trader->working());
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip]') === 0, 'nothing stands there');
    }

    public function testAMoveStandsAtBothPlacesUntilItIsDone(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick], 'the order');
        $this->hold('/api/orders/\d+$');
        $this->drag('[data-part=chip][data-role=entry] b', self::lane($tick - 3, 'buy'));
        $this->page->await(fn(): bool => $this->chips('sending') === [$tick - 3], 'where it goes');
        self::assertSame([$tick], $this->chips('entry'), 'and where it still works');
        $this->page->run('window.letGo()');
        $this->page->await(fn(): bool => $this->chips('entry') === [$tick - 3] && $this->chips('sending') === [], 'moved');
    }

    /** The engine dies between the press and the answer: asked again, and never left on its way. */
    public function testAKillOfTheEngineLeavesNothingOnItsWay(): void
    {
        $this->enter();
        $tick = $this->quote('bids') - 5;
        $this->hold('/api/orders$');
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('sending') === [$tick], 'it on its way');
        $this->desk->killEngine();
        $this->page->run('window.letGo(); window.fetch = window.real');
        $this->page->await(fn(): bool => $this->chips('sending') === [], 'known what became of it', 60);
        $this->page->await(fn(): bool => count($this->trader->working()) === count($this->chips('entry')), 'the desk as the engine has it', 60);
    }
}
