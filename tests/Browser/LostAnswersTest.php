<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What becomes of a command whose answer, or whose engine, is gone: nothing goes out twice, and nothing is said not to have been done that may have been. */
final class LostAnswersTest extends PageCase
{
    /** Asked until the engine answers at all. */
    private function flat(): bool
    {
        $reply = $this->trader->call('GET', "positions?account={$this->trader->account}");

        return $reply->status === 200 && array_filter($reply->body['items'], static fn(array $of): bool => $of['quantity'] !== 0) === [];
    }

    public function testALostAnswerDoesNotDoubleTheOrder(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->fates('/api/orders', ['lost', 'ok']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => $this->chips('entry') !== [] && $this->chips('draft') === [], 'the order in place of its draft');
        self::assertCount(1, $this->trader->working());
        self::assertCount(1, array_unique($this->page->run('return window.sent')), 'one id from the press to the answer');
    }

    public function testWhatIsNotKnownToHaveArrivedIsAskedForAndFound(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->fates('/api/orders', ['lost', 'gone']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=unheard]', 'Checking whether it arrived');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'Confirmed: ');
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'the draft gone');
        $this->page->await(fn(): bool => $this->page->count('[data-field=unheard]') === 0, 'nothing more to check');
        self::assertCount(1, $this->trader->working());
    }

    /** The packet that was held up comes after all: by then the trader has gone on. */
    public function testWhatNeverArrivedIsGivenUpAndItsDraftStays(): void
    {
        $this->enter(oneClick: false);
        $tick = $this->draftAt(5);
        $this->fates('/api/orders', ['gone']);
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        self::assertSame([$tick], $this->chips('draft'));
        $late = $this->trader->call('POST', 'orders', [
            'client_id' => $this->page->run('return window.sent[0]'), 'account' => $this->trader->account, 'contract' => self::CODE,
            'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => self::price($tick), 'exit_plan' => 1,
        ]);
        self::assertSame(409, $late->status);
        self::assertSame([], $this->trader->working());
        $this->page->run('window.fetch = window.real');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'sent anew');
    }

    /** The order was done, its answer lost, and then the session ends: "not sent" would be a lie that costs a second order. */
    public function testALostAnswerIsNotTakenForNotSentWhenTheSessionEnds(): void
    {
        $this->enter(oneClick: false);
        $this->draftAt(5);
        $this->page->run('const real = window.real = window.fetch; let n = 0; window.fetch = async (address, options) => { if (!String(address).includes("/api/")) return real(address, options); if (n > 0) return new Response("{}", {status: n++ % 2 ? 401 : 429}); if (!String(address).endsWith("/orders")) return real(address, options); n = 1; await real(address, options); throw new TypeError("lost"); }');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=signed-out]', 'You are signed out');
        $this->page->awaitText('[data-field=unheard]', 'Checking whether it arrived');
        self::assertStringNotContainsString('Not sent', $this->page->text('[data-field=said]'));
        $this->page->run('window.fetch = window.real');
        $this->page->find('[data-name=go-on]')->click();
        // Sent again with its id, or asked for: either way it is found.
        $this->page->await(fn(): bool => $this->chips('draft') === [], 'the draft gone');
        self::assertStringNotContainsString('Not sent', $this->page->text('[data-field=said]'));
        self::assertCount(1, $this->trader->working());
    }

    public function testALostAnswerToAFlattenClosesOnce(): void
    {
        $this->enter();
        $this->buyTwo();
        $this->fates('/flatten', ['gone', 'lost', 'ok']);
        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $closes = array_filter(
            $this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'],
            static fn(array $order): bool => $order['role'] === 'close',
        );
        self::assertCount(1, $closes);
        self::assertSame(0, $this->lots());
    }

    /** X goes down in the moment in which the engine is gone: it waits for it, and is done once. */
    public function testAFlattenPressedWhileTheEngineIsAwayIsDoneWhenItIsBack(): void
    {
        $this->enter();
        $this->buyTwo();
        posix_kill($this->desk->enginePid(), SIGKILL);
        $this->page->holdKey('x', 350);
        $this->page->await(fn(): bool => $this->flat(), 'flat once the engine is back');
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame(0, $this->page->count('[data-field=unheard]'));
    }

    /** The page is loaded anew before the answer is here: what it did not hear of is asked for, and a draft that was sent is none any more. */
    public function testAReloadBeforeTheAnswerForgetsNoCommandAndNoDraft(): void
    {
        $this->enter(oneClick: false);
        $other = $this->draftAt(7);
        $tick = $this->quote('bids') - 5;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 2, 'two drafts');
        // It is done, and its answer never comes.
        $this->page->run('window.real ??= window.fetch; window.fetch = async (address, options) => { const answer = await window.real(address, options); return String(address).endsWith("/orders") ? new Promise(() => {}) : answer; }');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
        $this->page->awaitText('[data-field=said]', 'Confirmed: buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('draft') === [$other], 'the draft that was not sent alone');
        self::assertSame([$tick], $this->chips('entry'));
        // It never leaves the page: what could come later is not done any more, and the draft is one again.
        $this->page->run('window.fetch = ((real) => (address, options) => String(address).endsWith("/orders") ? new Promise(() => {}) : real(address, options))(window.fetch)');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[data-field=unheard]', 'Checking whether it arrived');
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        $this->page->await(fn(): bool => $this->chips('draft') === [$other], 'the draft again');
        self::assertCount(1, $this->trader->working());
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'sent, once');
    }
}
