<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\TestCase;
use Tests\Support\Page;
use Tests\Support\RunningDesk;

/** The last quarter of an hour of a session, on the demo's own hours. */
final class LastMinutesTest extends TestCase
{
    public function testWhatIsLeftBeforeTheCloseIsSaidKeptAndFlattenedInOnePress(): void
    {
        // Dulse closes at 18:30 in Lisbon, which has UTC in November.
        $desk = RunningDesk::start('--seed', '1', '--paused', '--demo-hours', '--clock', '2026-11-02T18:24:52.000Z');
        $page = null;
        try {
            $trader = $desk->trader();
            $page = (new Page($desk->url()))->open($trader->link)->awaitLive();
            $page->find('[data-part=hints] button')->click();
            self::assertSame(0, $page->count('[data-field=last-minutes]'), 'nothing is open, nothing is said');
            $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 3]);
            $page->awaitText('[data-field=last-minutes]', 'DULZ6 closes in 6 min: long 2, 2 working orders');
            $page->find('[data-action=close-keep]')->click();
            $page->await(static fn(): bool => $page->count('[data-field=last-minutes]') === 0, 'it is kept');
            $trader->call('POST', 'practice/DULZ6', ['steps' => 1_500]);
            $page->awaitText('[data-field=last-minutes]', 'DULZ6 closes in 5 min: long 2');
            $page->awaitText('[data-field=said]', 'DULZ6 closes in 5 minutes: long 2');
            $page->find('[data-action=close-flatten]')->click();
            $page->awaitText('[data-field=position]', 'Flat');
            $page->await(static fn(): bool => $page->count('[data-field=last-minutes]') === 0, 'nothing is left');
            self::assertSame([], $page->complaints());
        } finally {
            $page?->close();
            $desk->stop();
        }
    }

    /** A session made short on the page: its hours in the trader's zone too, its end, and the day's summary after it. */
    public function testAShortSessionEndsAndTheDayIsSummedUp(): void
    {
        $desk = RunningDesk::start('--seed', '1', '--paused', '--clock', RunningDesk::CLOCK);
        $page = null;
        try {
            $trader = $desk->trader();
            $page = (new Page($desk->url()))->open($trader->link)->awaitLive();
            $page->find('[data-part=hints] button')->click();
            $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => 3]);
            $page->find('[data-action=settings]')->click();
            $page->await(static fn(): bool => $page->count('[data-field=settings] [role=tab]') > 0, 'the settings');
            foreach ($page->driver->findElements(WebDriverBy::cssSelector('[data-field=settings] [role=tab]')) as $tab) {
                if ($tab->getText() === 'Calendar') {
                    $tab->click();
                }
            }
            $page->awaitText('[data-part=calendar]', 'No such day is set.');
            $minutes = $page->find('[data-part=calendar] input[type=number]');
            $minutes->click();
            $minutes->sendKeys([WebDriverKeys::CONTROL, 'a']);
            $minutes->sendKeys('1');
            $page->find('[data-name=shorten]')->click();
            $page->awaitText('[data-part=calendar]', 'Short practice session');
            $page->awaitText('[data-part=hours]', 'DULZ6 open until 09:3');
            $page->holdKey(WebDriverKeys::ESCAPE, 10);
            $page->awaitText('[data-field=last-minutes]', 'DULZ6 closes in 2 min: long 1');
            $page->await(static fn(): bool => str_ends_with((string) $page->find('[data-field=clock]')->getAttribute('title'), ' here'), 'the trader\'s own zone');
            $trader->steps('DULZ6', 10_000);
            $trader->steps('DULZ6', 3_000);
            $page->awaitText('[data-field=shut]', 'DULZ6 is shut, opens Tue 3 Nov 00:00');
            $page->find('[data-name=day-summary]')->click();
            $page->awaitText('[data-part=left-over]', 'DULZ6 Long 1: open, under its stops');
            $page->awaitText('[data-field=day-trades]', 'no trade ended');
            self::assertSame([], $page->complaints());
        } finally {
            $page?->close();
            $desk->stop();
        }
    }
}
