<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;
use Tests\Support\Page;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** What tests of the page share: a trader with a page, and the ladder's rungs, lanes and chips. */
abstract class PageCase extends TestCase
{
    protected const CODE = 'DULZ6';

    protected RunningDesk $desk;

    protected Trader $trader;

    protected Page $page;

    /** One browser for all tests of a process: starting it takes longer than most of them. */
    private static ?Page $browser = null;

    protected function setUp(): void
    {
        $this->desk = RunningDesk::shared();
        $this->trader = $this->desk->trader();
        $this->trader->push(self::CODE, 1);
        $this->trader->push(self::CODE, -1);
        self::$browser ??= (new Page($this->desk->url()))->keep();
        $this->page = self::$browser->forget();
    }

    protected function tearDown(): void
    {
        $complaints = $this->page->complaints();
        // What the browser says of a connection that broke, or of a session that ended, is no fault of the page; a refusal is none
        // either, and comes so that the browser says nothing of it.
        self::assertSame(
            [],
            array_values(array_filter(
                $complaints,
                static fn(string $c): bool => ! str_contains($c, 'net::ERR_')
                    && (! str_contains($c, 'Failed to load resource') || preg_match('~/api/.*status of 4(09|22)~', $c) === 1),
            )),
        );
    }

    protected function enter(bool $oneClick = true): void
    {
        $this->page->open($this->trader->link)->awaitLive();
        if ($oneClick) {
            $this->page->holdKey('o', 10);
            $this->page->awaitText('[data-action=one-click]', 'One-click on');
        }
    }

    /** Changes some of the trader's entry settings, before the page is opened. @param array<string, mixed> $changed */
    protected function setEntry(array $changed): void
    {
        $entry = array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['entry'];
        self::assertSame(200, $this->trader->call('PUT', 'settings/entry', $changed + $entry)->status);
    }

    protected function last(): int
    {
        return self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body['last']['price']);
    }

    protected function quote(string $side): int
    {
        return self::ticks($this->trader->call('GET', 'contracts/'.self::CODE.'/book')->body[$side][0][0]);
    }

    protected static function ticks(string $price): int
    {
        return (int) \Brick\Math\BigDecimal::of($price)->multipliedBy(2)->toInt();
    }

    protected static function price(int $ticks): string
    {
        return (string) \Brick\Math\BigDecimal::ofUnscaledValue($ticks * 50, 2);
    }

    protected function pushTo(int $tick): void
    {
        $this->page->awaitSequence($this->trader->push(self::CODE, $tick - $this->last())->body['sequence']);
    }

    protected static function lane(int $tick, string $side): string
    {
        return "[data-part=rung][data-tick='$tick'] [data-lane=$side]";
    }

    /** The tick of each chip of a role, as the ladder shows them. @return list<int> */
    protected function chips(string $role): array
    {
        return $this->page->run(
            'return [...document.querySelectorAll(`[data-part=chip][data-role=${arguments[0]}]`)].map((c) => Number(c.closest("[data-part=rung]").dataset.tick))',
            $role,
        );
    }

    /** Points at a rung until the ghost speaks, then presses. */
    protected function click(int $tick, string $side, string $says): void
    {
        $this->page->await(fn(): bool => $this->page->count(self::lane($tick, $side)) === 1, "rung $tick");
        $this->page->pointAt(self::lane($tick, $side));
        $this->page->awaitText('[data-part=strip]', $says);
        $this->awaitSettled();
        $this->page->press();
    }

    /** Rungs that have just moved take no order: the page says when they stand. */
    protected function awaitSettled(): void
    {
        $this->page->await(fn(): bool => $this->page->count('[data-part=rungs][data-settled=true]') === 1, 'the rungs to stand');
    }

    protected function buyTwo(): int
    {
        $this->click($this->quote('asks'), 'buy', 'risk 35.00 + 2.48 fees');
        $this->page->awaitText('[data-field=position]', 'Long 2');

        return self::ticks($this->trader->position(self::CODE)['average_price']);
    }

    protected function drag(string $from, string $to, bool $escape = false): void
    {
        [$x, $y] = $this->page->middle($from);
        [$tox, $toy] = $this->page->middle($to);
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 60, 'x' => $tox, 'y' => $toy],
        ]);
        if ($escape) {
            $this->page->driver->executeScript('window.dispatchEvent(new KeyboardEvent("keydown", {key: "Escape"}))');
        }
        $this->page->mouse([['type' => 'pointerUp', 'button' => 0]]);
    }

    /** The same with a key held down. */
    protected function dragWith(string $key, string $from, string $to): void
    {
        [$x, $y] = $this->page->middle($from);
        [$tox, $toy] = $this->page->middle($to);
        $pause = ['type' => 'pause'];
        $this->page->driver->execute(\Facebook\WebDriver\Remote\DriverCommand::ACTIONS, ['actions' => [
            ['type' => 'key', 'id' => 'keys', 'actions' => [
                ['type' => 'keyDown', 'value' => $key], $pause, $pause, $pause, $pause, ['type' => 'keyUp', 'value' => $key],
            ]],
            ['type' => 'pointer', 'id' => 'mouse', 'parameters' => ['pointerType' => 'mouse'], 'actions' => [
                $pause, ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
                ['type' => 'pointerMove', 'duration' => 60, 'x' => $tox, 'y' => $toy], ['type' => 'pointerUp', 'button' => 0],
            ]],
        ]]);
    }

    /** As the Tab key would give it the keys. */
    protected function focus(string $css): void
    {
        $this->page->await(
            fn(): bool => $this->page->run('const e = document.querySelector(arguments[0]); e?.focus(); return e !== null && document.activeElement === e', $css) === true,
            "$css to have the keys",
        );
    }

    protected function topRung(): int
    {
        return (int) $this->page->run('return Number(document.querySelector("[data-part=rung]").dataset.tick)');
    }

    /** Turns the wheel over an element; up is negative. */
    protected function wheel(string $css, int $by): void
    {
        [$x, $y] = $this->page->middle($css);
        $this->page->driver->execute(\Facebook\WebDriver\Remote\DriverCommand::ACTIONS, ['actions' => [['type' => 'wheel', 'id' => 'wheel', 'actions' => [
            ['type' => 'scroll', 'x' => $x, 'y' => $y, 'deltaX' => 0, 'deltaY' => $by, 'duration' => 0, 'origin' => 'viewport'],
        ]]]]);
    }

    /** Two keys together, the first held. */
    protected function chord(string $held, string $key): void
    {
        $this->page->driver->execute(\Facebook\WebDriver\Remote\DriverCommand::ACTIONS, ['actions' => [['type' => 'key', 'id' => 'keys', 'actions' => [
            ['type' => 'keyDown', 'value' => $held], ['type' => 'keyDown', 'value' => $key], ['type' => 'keyUp', 'value' => $key],
            ['type' => 'keyUp', 'value' => $held],
        ]]]]);
    }

    /** A key as the browser tells of it. @param array<string, mixed> $with */
    protected function key(string $type, string $key, string $code, array $with = [], string $on = 'body'): void
    {
        $this->page->run(
            'const [type, on, fields] = arguments; document.querySelector(on).dispatchEvent(new KeyboardEvent(type, {bubbles: true, cancelable: true, ...fields}))',
            $type,
            $on,
            ['key' => $key, 'code' => $code] + $with,
        );
    }

    /** @return int lots of the test contract that the account has */
    protected function lots(string $code = self::CODE): int
    {
        return $this->trader->position($code)['quantity'] ?? 0;
    }

    /**
     * What happens to calls whose address ends so: `lost` is done and its answer dropped, `gone` never arrives.
     *
     * @param list<string> $fates in turn; the last one goes on, and `ok` is as usual
     */
    protected function fates(string $ending, array $fates): void
    {
        $this->page->run(<<<'JS'
            const [ending, fates] = arguments;
            window.real ??= window.fetch;
            const seen = window.sent = [];
            window.fetch = async (address, options) => {
                if (!String(address).endsWith(ending)) return window.real(address, options);
                const fate = fates[Math.min(seen.push(JSON.parse(options.body).client_id) - 1, fates.length - 1)];
                if (fate === "gone") throw new TypeError("it never arrived");
                const answer = await window.real(address, options);
                if (fate === "lost") throw new TypeError("its answer was lost");
                return answer;
            };
            JS, $ending, $fates);
    }

    protected function draftAt(int $below): int
    {
        $tick = $this->quote('bids') - $below;
        $this->click($tick, 'buy', 'Buy 2 limit');
        $this->page->await(fn(): bool => $this->chips('draft') === [$tick], 'the draft');

        return $tick;
    }
}
