<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\TestCase;
use Tests\Support\Page;
use Tests\Support\RunningDesk;

/** axe-core (WCAG 2.1 A and AA rules) finds nothing serious on any view, on paper and at night. */
final class AccessibilityTest extends TestCase
{
    private Page $page;

    protected function tearDown(): void
    {
        $this->page->close();
    }

    /** @return list<string> */
    private function findings(): array
    {
        $this->page->run((string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js'));
        $found = $this->page->driver->executeAsyncScript('const done = arguments[arguments.length - 1]; axe.run(document, {runOnly: {type: "tag", values: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]}, rules: {"page-has-heading-one": {enabled: true}, "empty-table-header": {enabled: true}}}).then((r) => done(r.violations.filter((v) => ["serious", "critical"].includes(v.impact) || ["page-has-heading-one", "empty-table-header"].includes(v.id)).map((v) => v.id + ": " + v.nodes.slice(0, 3).map((n) => n.html.slice(0, 140) + " " + (n.any[0]?.message ?? "")).join(" | "))))');

        return is_array($found) ? array_values($found) : ['axe did not answer'];
    }

    public function testEveryView(): void
    {
        $desk = RunningDesk::shared();
        $trader = $desk->trader();
        $this->page = new Page($desk->url());
        $this->page->open('/sign-in');
        self::assertSame([], $this->findings(), 'sign-in');
        $this->page->open($trader->link)->awaitLive();
        self::assertSame([], $this->findings(), 'first visit');
        $this->page->size(390, 844)->await(fn(): bool => $this->page->count('[data-part=phone]') === 1, 'the phone page');
        self::assertSame([], $this->findings(), 'a phone');
        $this->page->size(1280, 800)->await(fn(): bool => $this->page->count('[data-part=rung]') > 10, 'the desk again');
        $this->page->find('[data-part=hints] button')->click();
        $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00']);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        self::assertSame([], $this->findings(), 'a position on paper');
        $this->page->find('[data-action=history-scale]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-name=import-fills]') === 1, 'the history\'s settings');
        self::assertSame([], $this->findings(), 'the history\'s settings');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->find('[data-action=theme]')->click();
        $this->page->find('[data-action=theme]')->click();
        $this->page->await(fn(): bool => str_contains((string) $this->page->find('[data-action=theme]')->getAttribute('aria-description'), 'night'), 'night');
        self::assertSame([], $this->findings(), 'a position at night');
        $this->page->holdKey('?', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 1, 'the sheet');
        self::assertSame([], $this->findings(), 'the sheet of keys');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=ticket]') === 1, 'the ticket');
        self::assertSame([], $this->findings(), 'the ticket');
        $this->page->holdKey('k', 10);
        foreach (['Fills', 'Positions', 'Risk', 'Contracts', 'Bars', 'Levels', 'Tape', 'Journal', 'Action keys'] as $tab) {
            $this->page->tab($tab);
            self::assertSame([], $this->findings(), "list $tab");
        }
        $this->page->holdKey('a', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=panel-acts]') >= 2, 'arranging');
        self::assertSame([], $this->findings(), 'the desk being arranged');
        $this->page->holdKey('a', 10);
        $this->page->holdKey('s', 10);
        foreach ([1, 2, 3, 4, 5, 6, 7] as $tab) {
            $this->page->find("[data-field=settings] [role=tab]:nth-child($tab)")->click();
            if ($tab === 6) {
                $this->page->await(fn(): bool => $this->page->count('[data-name=save-limits]') === 1, 'the limits');
            } elseif ($tab === 7) {
                $this->page->await(fn(): bool => $this->page->count('[data-name=shorten]') === 1, 'the calendar');
            }
            self::assertSame([], $this->findings(), "settings, page $tab");
        }
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->find('[data-name=day]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=day-curve]') === 1, 'the day');
        self::assertSame([], $this->findings(), 'the trading day');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 0, 'the desk');
        $this->page->holdKey('u', 400);
        $this->page->await(fn(): bool => $this->page->count('[data-part=question]') === 1, 'the question');
        self::assertSame([], $this->findings(), 'the question before a plan is taken off');
        $this->page->run('document.querySelector("[data-name=cover-anyway]").click()');
        $this->page->await(fn(): bool => $this->page->count('[data-field=alarm]') === 1, 'the alarm');
        self::assertSame([], $this->findings(), 'the alarm');
        $this->page->holdKey('g', 10);
        $this->page->await(
            fn(): bool => $this->page->count('[data-handle=stop]') === 1 && $this->page->text('[data-field=result]') !== '',
            'the exit plans',
        );
        self::assertSame([], $this->findings(), 'the exit plans at night');
    }
}
