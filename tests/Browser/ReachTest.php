<?php

declare(strict_types=1);

namespace Tests\Browser;

/** However much there is to say, what buys, sells and flattens is there to be pressed. */
final class ReachTest extends PageCase
{
    /** Names of what cannot be pressed where it stands: out of the window, or under something else. @return list<string> */
    private function outOfReach(string ...$css): array
    {
        return $this->page->run(<<<'JS'
            return arguments[0].filter((css) => {
                const on = document.querySelector(css), box = on?.getBoundingClientRect();
                if (!box) return true;
                return [[box.left + 5, box.top + 5], [box.right - 5, box.bottom - 5]].some(([x, y]) => !on.contains(document.elementFromPoint(x, y)));
            });
            JS, $css);
    }

    public function testTenPlansSeveralEntriesAndBareLotsPushNothingOutOfReach(): void
    {
        for ($i = 1; $i <= 6; $i++) {
            $this->trader->call('POST', 'exit-plans', ['document' => [
                'format' => 'lotrik.exit-plan/1', 'name' => "Plan number $i", 'stop' => ['ticks' => 7], 'portions' => [['rest' => true, 'target' => null]],
            ]]);
        }
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $must = [
            '[data-action=flatten]', '[data-action=buy-market]', '[data-action=sell-market]', '[data-action=join-bid]', '[data-action=join-ask]',
            '[data-part=typed-lots] input', '[data-part=lots] button', '[data-part=plans] [data-state=on]', '[data-field=position]', '[data-field=open]',
        ];
        self::assertSame([], $this->outOfReach(...$must), 'flat');
        // What takes back and what closes a part, beside Flatten, whatever the alarm has to say.
        array_push($must, '[data-action=break-even]', '[data-action=half-off]', '[data-action=cancel-all]', '[data-field=protected]');
        foreach ([[1, 2], [1, 4], [2, 6], [null, 8]] as [$plan, $lots]) {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => $plan]);
            $this->page->awaitText('[data-field=position]', "Long $lots");
            self::assertSame([], $this->outOfReach(...$must), "long $lots");
            $this->trader->push(self::CODE, 1);
        }
        $this->page->await(fn(): bool => $this->page->count('[data-field=alarm]') === 1, 'the alarm');
        self::assertSame([], $this->outOfReach('[data-field=alarm] button', ...$must), 'with bare lots');
        // Of ten plans the one that a key has chosen is in sight.
        for ($i = 0; $i < 9; $i++) {
            $this->page->holdKey('n', 10);
            $this->page->await(fn(): bool => $this->outOfReach('[data-part=plans] [data-state=on]') === [], "the plan after $i keys");
        }
    }
}
