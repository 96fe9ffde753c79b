<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\Page;

/** The page after a reload, a kill, a silence: it shows what is, and says what was missed. */
final class BackAgainTest extends PageCase
{
    public function testReloadInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 5);
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry, $entry], 'the stops where they were');
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Journal');
        $this->page->awaitText('[data-part=live-table]', 'lock at best +5');
        $fills = count($this->trader->call('GET', "fills?account={$this->trader->account}")->body['items']);
        self::assertStringContainsString("Fills $fills", $this->page->text('.dv-tabs-container:has([data-tab=working])'));
    }

    public function testEngineKilledInTheMiddleOfAPosition(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->pushTo($entry + 7);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 2, $entry + 2], 'the lock');
        $this->page->await(
            fn(): bool => $this->page->run('return document.querySelector("[data-part=curve] circle")?.dataset.best') === '7',
            'the best profit on the curve',
        );
        $pid = $this->desk->enginePid();
        // Where the rungs stand is looked at on every frame while the engine goes and comes: they must not move.
        $this->page->run('window.places = new Set(); window.sawBanner = false; const look = () => { window.places.add(document.querySelector("[data-part=rungs]").getBoundingClientRect().y); window.sawBanner ||= document.querySelector("[data-part=banner]") !== null; requestAnimationFrame(look); }; look();');
        posix_kill($pid, SIGKILL);
        $this->page->await(fn(): bool => (bool) $this->page->run('return window.sawBanner'), 'the banner');
        self::assertSame(1, $this->page->run('return window.places.size'), 'the banner moved the rungs');
        $this->desk->awaitEngineOtherThan($pid);
        $this->page->awaitLive()->awaitText('[data-field=position]', 'Long 2');
        self::assertSame([$entry + 2, $entry + 2], $this->chips('stop'));
        $this->pushTo($entry + 11);
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry + 5], 'the trail goes on');
    }

    public function testTheContractWithTheOpenPositionStandsInFrontAfterAReload(): void
    {
        $this->enter();
        $this->trader->place(['contract' => 'DULH7', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->open($this->desk->url())->awaitLive();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        self::assertSame(1, $this->page->count('[data-part=ladder][aria-label="Ladder DULH7"]'));
    }

    /** The stream has been away for too long to go on where it was. A stop filled meanwhile: the position shows it, and the lists have to say how. */
    public function testWhatWasDoneWhileNothingWasHeardIsFetchedOnceThereIsAPictureAgain(): void
    {
        $this->enter();
        $this->page->tab('Fills');
        $this->page->run('window.Real = EventSource; window.EventSource = class { constructor() { setTimeout(() => this.onerror?.(), 50); } addEventListener() {} close() {} }');
        $this->desk->killEngine();
        $this->page->awaitText('[data-part=banner]', 'The engine is away');
        $this->page->awaitText('[data-part=strip]', 'a click sends nothing until the feed is live');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market']);
        $this->page->run('window.EventSource = class extends Real { constructor(url) { super(url.replace(/after=[0-9]+/, "after=1")); } }');
        $this->page->awaitText('[data-field=position]', 'Long 3');
        $this->page->awaitText('[aria-label=Fills]', 'Bought');
        $this->page->awaitText('[data-field=said]', 'lines were missed');
        $this->page->tab('Journal');
        $this->page->awaitText('[aria-label=Journal]', 'Placed: Buy 3 market');
    }

    /** The lists are the last that is asked for: without them there is a desk all the same, and without an engine one is waited for. */
    public function testADeskWhoseEngineGoesWhileItOpensOpensByItself(): void
    {
        $this->enter();
        $tools = new \Facebook\WebDriver\Chrome\ChromeDevToolsDriver($this->page->driver);
        $kept = $tools->execute('Page.addScriptToEvaluateOnNewDocument', ['source' => 'const real = window.fetch; window.refused = 0; window.fetch = (address, options) => { const path = String(address); const isList = path.includes("journal?") || path.includes("orders?"); if (isList || (path.includes("positions?") && window.refused++ < 2)) return Promise.resolve(new Response(JSON.stringify({code: "engine-away", detail: "the engine is away"}), {status: 503})); return real(address, options); };']);
        try {
            $this->page->open('/')->awaitLive();
            self::assertGreaterThanOrEqual(3, $this->page->run('return window.refused'));
            $this->page->holdKey('o', 10);
            $this->page->awaitText('[data-action=one-click]', 'One-click on');
            $this->page->find('[data-action=buy-market]')->click();
            $this->page->awaitText('[data-field=position]', 'Long 2');
        } finally {
            $tools->execute('Page.removeScriptToEvaluateOnNewDocument', ['identifier' => $kept['identifier']]);
        }
    }

    /** A line that went dead without an end (a lost cell, a machine that slept) gives no error: the page gives it up by itself. */
    public function testAStreamThatSaysNothingIsOpenedAnew(): void
    {
        $this->enter();
        $this->page->run('window.Real = EventSource; window.opened = 0; window.EventSource = class { constructor() { window.opened++; } addEventListener() {} close() {} }');
        $this->desk->killEngine();
        $this->page->await(fn(): bool => $this->page->run('return window.opened') >= 2, 'the silent stream to be given up');
        $this->page->run('window.EventSource = window.Real');
        $this->page->awaitLive();
    }

    /** A page that was held up hears of the press late, and of its own timers later still. */
    public function testASilentFeedIsJudgedAtThePress(): void
    {
        $this->enter();
        $this->page->find('[data-action=buy-market]');
        $this->page->run('const now = performance.now.bind(performance); performance.now = () => now() + 2500; document.querySelector("[data-action=buy-market]").click(); performance.now = now;');
        $this->page->awaitText('[data-field=said]', 'the feed is not live');
        self::assertSame(0, $this->lots());
    }

    public function testALongDayIsThereWholeWhenThePageIsOpened(): void
    {
        // The spread is paid so often that an account with the usual limit may be barred on the way.
        $this->trader = $this->desk->traderWhoMayLose('9000.00');
        $micro = $this->trader->call('GET', 'contracts?q=micro')->body['items'][0]['code'];
        for ($i = 0; $i < 204; $i++) {
            self::assertSame(
                201,
                $this->trader->place([
                    'contract' => $micro, 'side' => $i % 2 === 0 ? 'buy' : 'sell', 'quantity' => 1, 'kind' => 'market',
                ])->status,
            );
        }
        $newest = '';
        for ($after = 0; $after !== null; $after = $rows['next']) {
            $rows = $this->trader->call('GET', "journal?account={$this->trader->account}&after=$after")->body;
            $newest = end($rows['items'])['words'];
        }
        $this->enter(false);
        $this->page->await(
            fn(): bool => (int) preg_replace('/\D/', '', $this->page->text('[data-tab=fills]')) >= 204,
            'more fills than one answer holds',
        );
        $this->page->tab('Journal');
        $this->page->awaitText('[data-part=list] [data-part=live-row]', $newest);
    }
}
