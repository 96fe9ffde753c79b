<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;
use Tests\Support\Page;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** What a newcomer meets: a market that has traded since the morning, and two accounts that are not mistaken for each other. */
final class FirstSightTest extends TestCase
{
    private static RunningDesk $desk;

    private static Trader $demo;

    private static Page $page;

    public static function setUpBeforeClass(): void
    {
        self::$desk = RunningDesk::startAsUsual('--paused');
        $artisan = escapeshellarg(dirname(__DIR__, 2).'/artisan');
        exec(escapeshellarg(PHP_BINARY)." $artisan lotrik:token --data=".escapeshellarg(self::$desk->data), $said);
        self::$demo = new Trader(self::$desk, 1, (string) end($said), self::$desk->entryLink, '', '');
        self::$page = (new Page(self::$desk->url()))->keep();
        self::$page->open(self::$desk->entryLink)->awaitLive();
        self::$page->find('[data-part=hints] button')->click();
    }

    public static function tearDownAfterClass(): void
    {
        self::$page->close();
        self::$desk->stop();
    }

    public function testNothingOfTheFirstDeskIsBlank(): void
    {
        $page = self::$page->open('/')->awaitLive();
        // Parts of the depth history, from left to right, in which something is drawn.
        $inked = fn(): int => $page->run('const c = document.querySelector("canvas[data-part=picture]"), n = 6, w = Math.floor(c.width / n); return [...Array(n).keys()].filter((i) => c.getContext("2d").getImageData(i * w, 0, w, c.height).data.some((v, at) => at % 4 === 3 && v > 0)).length');
        $page->await(fn(): bool => $inked() >= 5, 'a depth history of minutes');
        $page->tab('Levels');
        $page->await(fn(): bool => $page->count('[aria-label="Marked levels"] [data-part=live-row]') === 2, 'the marked levels');
        $page->tab('Bars');
        $page->await(fn(): bool => preg_match('/^(\d+) bars/', (string) $page->run('return document.querySelector("[data-part=bars-field] canvas")?.getAttribute("aria-label") ?? ""'), $found) === 1 && (int) $found[1] > 230, 'four hours of bars');
        $page->tab('Tape');
        $page->await(fn(): bool => $page->count('[aria-label=Tape] [data-part=live-row]') > 4, 'prints');
        self::assertSame([], $page->complaints());
    }

    public function testTheAccountIsChosenByHandAndSaidWhereverItCounts(): void
    {
        $page = self::$page->open('/')->awaitLive();
        $page->awaitText('[data-part=strip] [data-part=account-mark]', 'Practice 1');
        $choose = fn(string $name): mixed => $page->run('const e = document.querySelector("[data-field=account]"); e.value = [...e.options].find((o) => o.text === arguments[0]).value; e.dispatchEvent(new Event("change", {bubbles: true}))', $name);
        $page->find('[data-action=join-bid]')->click();
        $page->await(fn(): bool => $page->count('[data-part=chip][data-role=draft]') === 1, 'a draft');
        $choose('Practice 2');
        $page->awaitText('[role=alertdialog]', '1 draft to be dropped');
        $page->awaitText('[role=alertdialog] [data-part=account-mark]', 'Practice 1');
        self::assertSame('Stay here', $page->run('return document.activeElement.textContent'));
        $page->holdKey("\u{E00C}", 10);
        $page->await(fn(): bool => $page->count('[role=alertdialog]') === 0, 'nothing asked any more');
        self::assertSame('1', $page->run('return document.querySelector("[data-field=account]").value'), 'it stays');
        $page->holdKey("\u{E00C}", 10);
        // Without a draft it is asked, too: a letter that finds the list in focus moves nothing by itself.
        $page->run('document.querySelector("[data-field=account]").focus()');
        $choose('Practice 2');
        $page->awaitText('[role=alertdialog]', 'This desk will show and trade Practice 2');
        $page->find('[data-name=show-account]')->click();
        $page->await(fn(): bool => $page->text('[data-part=strip] [data-part=account-mark]') === 'Practice 2', 'the other account');
        $page->awaitLive()->awaitText('[data-tab=fills]', '200');
        $page->tab('Fills');
        $page->await(fn(): bool => preg_match('/^\d\d [A-Z][a-z]{2} \d\d:\d\d:\d\d$/', $page->text('[aria-label=Fills] [data-part=live-row] [role=gridcell]')) === 1, 'of which day');
        $page->driver->navigate()->refresh();
        $page->awaitLive()->awaitText('[data-part=strip] [data-part=account-mark]', 'Practice 2');
        $page->holdKey('o', 10);
        $page->awaitText('[data-action=one-click]', 'One-click on');
        $page->find('[data-action=buy-market]')->click();
        $page->awaitText('[data-field=position]', 'Long 2');
        $lots = fn(int $account): array => array_column(array_filter(self::$demo->call('GET', "positions?account=$account")->body['items'], static fn(array $of): bool => $of['quantity'] !== 0), 'quantity');
        self::assertSame([[], [2]], [$lots(1), $lots(2)]);
        $page->holdKey('x', 500);
        $page->awaitText('[data-field=position]', 'Flat');
        // Another's, or none: the first of one's own.
        $page->open('/?account=77')->awaitLive()->awaitText('[data-part=strip] [data-part=account-mark]', 'Practice 1');
        self::assertSame([], $page->complaints());
    }

    public function testAnAccountIsOpenedWithItsMoneyResetAndClosed(): void
    {
        $page = self::$page->open('/')->awaitLive();
        $accounts = static fn(): array => array_column(self::$demo->call('GET', 'accounts')->body['items'], null, 'id');
        $page->holdKey('s', 10);
        $page->await(fn(): bool => $page->count('[role=tab]') > 3, 'the settings');
        $page->run('[...document.querySelectorAll("[role=tab]")].find((t) => t.textContent === "Accounts").dispatchEvent(new MouseEvent("mousedown", {bubbles: true, button: 0}))');
        $page->await(fn(): bool => $page->count('[data-part=accounts]') === 1, 'the accounts');
        $page->find('[data-name=account-balance]')->clear()->sendKeys('1.005');
        $page->find('[data-name=account-name]')->sendKeys('Small');
        $page->find('[data-name=open-account]')->click();
        $page->awaitText('[data-field=accounts-fault]', 'at most 2 decimals');
        self::assertCount(2, $accounts());
        $page->find('[data-name=account-balance]')->clear()->sendKeys('1500');
        $page->find('[data-name=open-account]')->click();
        $page->await(fn(): bool => str_contains($page->text('[data-part=strip] [data-part=account-mark]'), 'Small'), 'the desk of the new account');
        $page->awaitLive();
        $id = max(array_keys($accounts()));
        self::assertSame('1500.00', $accounts()[$id]['balance']);
        $page->find('[data-action=buy-market]')->click();
        $page->holdKey("\u{E007}", 10);
        $page->awaitText('[data-field=position]', 'Long 2');
        $open = function () use ($page): void {
            $page->holdKey('s', 10);
            $page->run('[...document.querySelectorAll("[role=tab]")].find((t) => t.textContent === "Accounts")?.dispatchEvent(new MouseEvent("mousedown", {bubbles: true, button: 0}))');
            $page->await(fn(): bool => $page->count('[data-part=accounts]') === 1, 'the accounts');
        };
        $open();
        $page->find("[data-name=reset-$id]")->click();
        $page->awaitText('[role=alertdialog]', 'another of this name begins with 1500.00 EUR');
        $page->find('[data-name=reset-account]')->click();
        $page->awaitText('[data-field=accounts-fault]', 'Small is not flat');
        $page->holdKey("\u{E00C}", 10);
        $page->holdKey('x', 500);
        $page->awaitText('[data-field=position]', 'Flat');
        $open();
        $page->find("[data-name=reset-$id]")->click();
        $page->find('[data-name=reset-account]')->click();
        $page->await(fn(): bool => str_contains((string) $page->driver->getCurrentURL(), 'account='.($id + 1)), 'the account that goes on');
        $page->awaitLive()->awaitText('[data-part=strip] [data-part=account-mark]', 'Small');
        self::assertSame([true, false], [$accounts()[$id]['closed'], $accounts()[$id + 1]['closed']]);
        // The old one is read, and takes nothing.
        $page->open("/?account=$id")->awaitLive()->awaitText('[data-part=strip] [data-part=account-mark]', 'Small, closed');
        $page->find('[data-action=buy-market]')->click();
        $page->holdKey("\u{E007}", 10);
        $page->awaitText('[data-field=said]', 'Small is closed');
        self::assertSame([], $page->complaints());
    }
}
