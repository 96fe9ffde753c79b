<?php

declare(strict_types=1);

namespace Tests\Browser;

use Tests\Support\RunningDesk;

/**
 * In every state and at every size of the window, what protects and what closes is there to be pressed: nothing of it scrolls, is cut
 * or lies under something else. A window at 125 % and 150 % is one that is smaller by as much.
 */
final class RoomTest extends PageCase
{
    private const SIZES = ['usual' => [1280, 800], 'a little lower' => [1280, 770], 'lower' => [1280, 760], '125 %' => [1024, 640], '150 %' => [853, 533], 'half' => [960, 540], 'upright' => [768, 1024]];

    private const ALWAYS = [
        '[data-action=flatten]', '[data-action=buy-market]', '[data-action=sell-market]', '[data-action=join-bid]', '[data-action=join-ask]',
        '[data-part=typed-lots] input', '[data-part=lots] button', '[data-part=plans] [data-state=on]', '[data-field=position]', '[data-field=open]',
        '[data-action=break-even]', '[data-action=break-even-fees]', '[data-action=closer]', '[data-action=half-off]', '[data-action=cancel-all]',
        '[data-action=reverse]', '[data-action=flatten-account]', '[data-action=cancel-account]', '[data-action=one-click]', '[data-field=loss-room]',
        '[data-part=feed]', '[data-action=fold]',
    ];

    private const OPEN = ['[data-field=protected]', '[data-name=all-exits]'];

    private const ON_A_PHONE = ['[data-field=position]', '[data-field=protected]', '[data-action=flatten]', '[data-action=cancel-all]', '[data-action=break-even]', '[data-action=closer]'];

    protected function setUp(): void
    {
        // Its session is cut short: of a desk of its own.
        $this->desk = RunningDesk::start('--seed', '1', '--paused', '--clock', RunningDesk::CLOCK);
        $this->trader = $this->desk->trader();
        $this->page = new \Tests\Support\Page($this->desk->url());
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        $this->page->close();
        $this->desk->stop();
    }

    /** What is out of the window, or under something else, or cut: by its selector. @return list<string> */
    private function outOfReach(string ...$css): array
    {
        return $this->page->run(<<<'JS'
            const wrong = arguments[0].filter((css) => {
                const on = document.querySelector(css), box = on?.getBoundingClientRect();
                if (!box) return true;
                return [[box.left + 4, box.top + 4], [box.right - 4, box.bottom - 4]].some(([x, y]) => !on.contains(document.elementFromPoint(x, y)));
            });
            // The cards scroll nowhere, and neither does the page.
            for (const on of document.querySelectorAll('[data-part=dock-place] section, [data-part=dock-place] section *, aside, html'))
                if (['auto', 'scroll'].includes(getComputedStyle(on).overflowY) && on.scrollHeight > on.clientHeight + 1) wrong.push(`${on.tagName} scrolls`);
            if (document.documentElement.scrollWidth > innerWidth) wrong.push('wider than the window');
            return wrong;
            JS, $css);
    }

    /** @param list<string> $more */
    private function assertInReach(string $state, array $more = []): void
    {
        foreach (self::SIZES as $name => [$width, $height]) {
            $this->page->size($width, $height);
            $must = [...self::ALWAYS, ...$more];
            // The dock takes a frame or two for its new size.
            $this->page->await(fn(): bool => $this->outOfReach(...$must) === [], "$state, $name: ".implode(', ', $this->outOfReach(...$must)));
        }
        $this->page->size(1280, 800);
    }

    public function testWhatProtectsAndClosesIsInReachInEveryStateAtEverySize(): void
    {
        for ($i = 1; $i <= 6; $i++) {
            $this->trader->call('POST', 'exit-plans', ['document' => [
                'format' => 'lotrik.exit-plan/1', 'name' => "Plan number $i", 'stop' => ['ticks' => 90],
                'portions' => [['lots' => 1, 'target' => ['ticks' => 80]], ['rest' => true, 'target' => null]],
            ]]);
        }
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->assertInReach('flat, ten plans');
        // Of ten plans the one that a key has chosen is in sight.
        for ($i = 0; $i < 11; $i++) {
            $this->page->holdKey('n', 10);
            $this->page->await(fn(): bool => $this->outOfReach('[data-part=plans] [data-state=on]') === [], "the plan after $i keys");
        }
        $buy = fn(?int $plan, int $lots) => $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => $lots, 'kind' => 'market', 'exit_plan' => $plan]);
        $buy(10, 2);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->assertInReach('an entry of two portions', self::OPEN);
        $buy(9, 2);
        $this->page->awaitText('[data-field=position]', 'Long 4');
        $this->assertInReach('two entries', self::OPEN);
        $this->page->find('[data-tab=bars]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=bars]') === 1, 'the bars');
        $this->page->find('[data-action=grow]')->click();
        $this->page->awaitText('[data-action=grow]', '↓');
        $this->assertInReach('the bars over half of the desk', self::OPEN);
        $this->page->find('[data-action=grow]')->click();
        self::assertSame(422, $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 900, 'kind' => 'market'])->status);
        $buy(null, 1);
        $this->page->await(fn(): bool => $this->page->count('[data-field=alarm]') === 1, 'the alarm');
        $alarm = [...self::OPEN, '[data-field=alarm] button'];
        $this->assertInReach('bare lots and a refusal', $alarm);
        $practice = fn(array $what) => $this->trader->call('POST', 'practice/'.self::CODE, $what);
        $places = fn(): array => $this->page->run('return ["[data-action=flatten]", "[data-part=rung]", "[data-action=join-ask]"].map((css) => document.querySelector(css).getBoundingClientRect().top).concat(document.querySelector("[data-part=rung]").dataset.price)');
        $before = [];
        // The window has just been another one: its places are known once they stand.
        $this->page->await(function () use ($places, &$before): bool {
            [$last, $before] = [$before, $places()];

            return $before === $last && $before[2] < 640;
        }, 'the desk to stand');
        $practice(['closes_in' => 10]);
        $this->trader->steps(self::CODE, 20);
        $this->page->await(fn(): bool => $this->page->count('[data-field=last-minutes]') === 1, 'the last minutes');
        $this->page->await(fn(): bool => $this->outOfReach('[data-action=close-keep]', '[data-action=fold]') === [], 'the line below the lists');
        self::assertSame($before, $places(), 'what comes at the foot moves nothing that is pressed');
        $this->assertInReach('the last minutes', [...$alarm, '[data-action=close-flatten]', '[data-action=close-cancel]', '[data-action=close-keep]']);
        $practice(['closes_in' => 1]);
        $this->trader->steps(self::CODE, 10_000);
        $this->trader->steps(self::CODE, 3_000);
        $this->page->await(fn(): bool => $this->page->count('[data-field=shut]') === 1, 'the shut market');
        $this->assertInReach('a shut market', [...$alarm, '[data-field=shut]', '[data-name=day-summary]']);
        $this->page->size(390, 844)->await(fn(): bool => $this->page->count('[data-part=phone]') === 1, 'the phone page');
        $this->page->await(fn(): bool => $this->outOfReach(...self::ON_A_PHONE) === [], 'on a phone: '.implode(', ', $this->outOfReach(...self::ON_A_PHONE)));
    }

    /** What has no room beside the order card waits behind; whichever is brought in front is in sight. */
    public function testLaddersThatHaveNoRoomWaitBehindTheOneInFront(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=add-ladder]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 2, 'two ladders');
        $this->page->find('[data-front] [data-action=add-ladder]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot]') === 3, 'three ladders');
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot][data-front][data-ladder="3"]') === 1, 'the new one in front');
        $this->assertInReach('three ladders', ['[data-front] [data-action=add-ladder]', '[data-front] [aria-label="Close ladder 3"]']);
        $this->page->size(768, 1024);
        $shown = fn(): array => $this->page->run('return [...document.querySelectorAll("[data-part=ladder-slot]")].filter((slot) => slot.checkVisibility() && slot.getBoundingClientRect().width > 0).map((slot) => slot.dataset.ladder)');
        $this->page->await(fn(): bool => $shown() === ['3'], 'one ladder alone');
        $this->page->find('[data-front] [data-action=hidden-ladders]')->click();
        $this->page->await(fn(): bool => $shown() === ['1'], 'the next one');
        // What stands on a ladder that is out of sight is not sent behind the trader's back.
        $this->page->pointAt("[data-ladder='1'] ".self::lane($this->quote('bids') - 5, 'buy'));
        $this->page->awaitText("[data-ladder='1'] [data-part=strip]", 'Buy 2 limit');
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count("[data-ladder='1'] [data-role=draft]") === 1, 'the draft');
        $this->page->holdKey('i', 10);
        $this->page->await(fn(): bool => $shown() === ['2'], 'another contract in front');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->size(1024, 640);
        $this->page->await(fn(): bool => $shown() === ['2', '3'], 'two beside each other');
        self::assertSame([], $this->trader->working());
        // One that is in sight comes in front where it stands.
        $this->page->find('[data-ladder="3"] [data-field=slot]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=ladder-slot][data-front][data-ladder="3"]') === 1, 'the press brings it in front');
        self::assertSame(['2', '3'], $shown());
        $this->page->size(1280, 800);
        $this->page->await(fn(): bool => $shown() === ['1', '2', '3'], 'all of them again');
        $this->assertInReach('and back');
    }

    /** Each portion of many entries is a press away, beside the card, and the keys stay with the desk. */
    public function testWhatTheCardHasNoRoomForOpensToTheSide(): void
    {
        $this->enter(oneClick: false);
        $this->page->find('[data-part=hints] button')->click();
        foreach ([2, 2, 3] as $plan) {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => $plan]);
        }
        $this->page->awaitText('[data-name=all-exits]', '3 entries');
        $this->page->find('[data-name=all-exits]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=side-list] [data-part=portion-row]') === 5, 'every portion');
        self::assertSame([], $this->outOfReach('[data-action=flatten]', '[data-action=buy-market]', '[data-part=side-list]'), 'beside the card, not over it');
        $this->page->find('[data-part=side-list] [data-name=close-1]')->click();
        $this->page->awaitText('[data-field=position]', 'Long 5');
        self::assertSame('BODY', $this->page->run('return document.activeElement.tagName'), 'the keys are the desk\'s');
        $this->page->holdKey('x', 450);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->await(fn(): bool => $this->page->count('[data-part=side-list]') === 0, 'nothing is left to list');
        // By keys it is walked, and gives the focus back; the first Esc may be for the tip of what has the focus.
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 2]);
        $this->page->await(fn(): bool => $this->page->count('[data-name=all-exits]') === 1, 'another position');
        self::assertSame(0, $this->page->count('[data-part=side-list]'), 'the list does not come back by itself');
        $this->page->run('document.querySelector("[data-name=all-exits]").focus()');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->await(fn(): bool => $this->page->run('return document.activeElement.closest("[data-part=side-list]") !== null') === true, 'the focus in the list');
        $this->page->await(function (): bool {
            $this->page->holdKey("\u{E00C}", 10);

            return $this->page->count('[data-part=side-list]') === 0;
        }, 'the list to close');
        $this->page->await(fn(): bool => $this->page->run('return document.activeElement.dataset.name') === 'all-exits', 'the focus back');
    }
}
