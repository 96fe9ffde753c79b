<?php

declare(strict_types=1);

namespace Tests\Browser;

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
            $page->awaitText('[data-field=last-minutes]', 'DULZ6 closes in 6 min: long 2, 2 orders work');
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
}
