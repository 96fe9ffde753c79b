<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What is said stays to be read, what is loud is heard, and a busy server is no refusal. */
final class CalmTest extends PageCase
{
    /** The pitch of each note that is played, in Hz, in `window.notes`. */
    private function listen(): void
    {
        $this->page->run(<<<'JS'
            window.notes = [];
            const end = { connect: () => end };
            window.AudioContext = class {
                currentTime = 0;
                destination = end;
                createGain() { return { ...end, gain: { setValueAtTime() {}, linearRampToValueAtTime() {} } }; }
                createOscillator() { return { ...end, frequency: { set value(pitch) { window.notes.push(pitch); } }, start() {}, stop() {} }; }
            };
            JS);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=sounds]')->click();
        $this->page->awaitText('[data-action=sounds]', 'Sounds on');
        $this->page->await(fn(): bool => $this->page->run('return window.notes.length') > 0, 'a sound to show that they are on');
        $this->page->run('window.notes.length = 0');
    }

    public function testABarredAccountIsHeardAndNewLinesStandOutForAWhileOnly(): void
    {
        $this->enter();
        $this->listen();
        $this->page->run('window.real = window.setTimeout; window.later = []; window.setTimeout = (act, ms, ...a) => ms === 7000 ? (window.later.push(act), 0) : window.real(act, ms, ...a)');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 20, 'kind' => 'market']);
        $this->page->awaitText('[data-field=position]', 'Long 20');
        $this->trader->push(self::CODE, -12);
        $this->page->awaitText('[data-field=barred]', 'barred until');
        $this->page->await(fn(): bool => array_slice($this->page->run('return window.notes'), -4) === [520, 390, 520, 390], 'the alarm, whatever else comes with it');
        self::assertGreaterThan(0, $this->page->count('[data-field=said] [data-fresh]'));
        $this->page->run('window.setTimeout = window.real; for (const act of window.later) act()');
        $this->page->await(fn(): bool => $this->page->count('[data-field=said] [data-fresh]') === 0, 'nothing standing out any more');
        self::assertGreaterThan(0, $this->page->count('[data-field=said] li'), 'the lines stay');
        $this->trader->push(self::CODE, 12);
    }

    /** Too many questions in a moment, or an engine that is coming back. */
    public function testABusyServerIsNoRefusalOfTheOrder(): void
    {
        $this->enter(oneClick: false);
        $this->page->run('window.real = window.fetch; window.asked = 0; window.fetch = async (address, options) => String(address).endsWith("/orders/preview") ? (window.asked++, new Response("{}", {status: window.asked % 2 ? 429 : 503})) : window.real(address, options)');
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->await(fn(): bool => $this->page->run('return window.asked') > 2, 'asked again');
        self::assertSame(0, $this->page->count('[data-part=strip][data-refused], [data-part=note][data-kind=refused]'));
        self::assertStringNotContainsString('answered', $this->page->text('[data-part=strip]'));
        $this->page->run('window.fetch = window.real');
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
    }

    /** A pointer that runs over the rungs asks for where it stays, and never more than ten times a second. */
    public function testPreviewsAreAskedForAtMostTenTimesASecond(): void
    {
        $this->enter(oneClick: false);
        $this->page->run('window.real = window.fetch; window.askedAt = []; window.fetch = (address, options) => { if (String(address).endsWith("/orders/preview")) window.askedAt.push(performance.now()); return window.real(address, options); }');
        $middles = $this->page->run('return [...document.querySelectorAll("[data-part=rung] [data-lane=buy]")].map((lane) => { const b = lane.getBoundingClientRect(); return [Math.round(b.x + b.width / 2), Math.round(b.y + b.height / 2)]; })');
        $moves = [];
        for ($round = 0; $round < 3; $round++) {
            foreach ($middles as [$x, $y]) {
                $moves[] = ['type' => 'pointerMove', 'duration' => 15, 'x' => $x, 'y' => $y];
            }
        }
        $this->page->mouse($moves);
        $this->page->await(fn(): bool => $this->page->run('return window.askedAt.length') > 0, 'a preview');
        $at = $this->page->run('return window.askedAt');
        self::assertLessThan(count($moves) / 2, count($at));
        foreach (array_slice($at, 1) as $i => $next) {
            self::assertGreaterThan(90, $next - $at[$i], 'between two questions, ms');
        }
    }

    /** That an order was not sent was pushed out of sight within a second by stops that trailed in a burst. */
    public function testARefusalStaysToBeReadWhileStopsTrail(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 4]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        // Far enough for the stop to trail; from there each push is one line more.
        $this->page->awaitSequence($this->trader->push(self::CODE, 24)->body['sequence']);
        $this->page->holdKey('j', 10);
        $this->page->awaitText('[data-field=said]', 'There is no manual stop');
        // No more than go by while the refusal is new, on a slow machine too.
        for ($i = 0; $i < 6; $i++) {
            $this->page->awaitSequence($this->trader->push(self::CODE, 2)->body['sequence']);
        }
        self::assertStringContainsString('Stop of portion', $this->page->text('[data-field=said]'));
        self::assertStringContainsString('There is no manual stop', $this->page->text('[data-field=said]'));
        self::assertSame(4, $this->page->count('[data-field=said] li'));
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => 'flat', 'account' => $this->trader->account]);
    }

    /** Eight words of levels in a row took the lines of fills and stop moves. */
    public function testWordsOfLevelsTakeNoLineOfAFillAndASecondComesOnlyOnceTheLevelWasLeft(): void
    {
        $this->enter();
        $last = $this->last();
        foreach (range(1, 5) as $at) {
            $this->trader->call('POST', 'levels', ['contract' => self::CODE, 'low' => self::price($last + 6 + $at), 'name' => "lid $at"]);
        }
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        $this->page->awaitText('[data-field=said]', '1 filled at');
        $this->trader->push(self::CODE, 9);
        $this->page->awaitText('[data-field=said]', 'lid');
        self::assertStringContainsString('1 filled at', $this->page->text('[data-field=said]'));
        self::assertLessThanOrEqual(1, substr_count($this->page->text('[data-field=said]'), 'lid'));
        $told = fn(): array => array_values(array_filter(
            $this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'],
            static fn(array $row): bool => $row['type'] === 'level-told' && str_contains($row['words'], 'lid 1'),
        ));
        $before = count($told());
        self::assertGreaterThan(0, $before);
        foreach ([-1, 1, -1, 1] as $by) {
            $this->page->awaitSequence($this->trader->push(self::CODE, $by)->body['sequence']);
        }
        self::assertCount($before, $told(), 'the market has not left it');
    }

    public function testChangesThatAreNotSavedAreAskedAboutOnThePageItself(): void
    {
        $this->enter();
        $this->page->holdKey('g', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=plans-screen] [data-name=plan-name]') === 1, 'the editor');
        $this->page->find('[data-part=plans-screen] [data-name=plan-name]')->sendKeys(' two');
        $this->page->run('[...document.querySelectorAll("[data-part=plan-list] [data-part=plan-name]")].find((b) => b.textContent.includes("Wide berth")).click()');
        $this->page->awaitText('[role=alertdialog]', 'has changes that are not saved');
        self::assertSame('Go on writing', $this->page->run('return document.activeElement.textContent'));
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'nothing left');
        self::assertStringEndsWith(' two', (string) $this->page->run('return document.querySelector("[data-name=plan-name]").value'));
    }
}
