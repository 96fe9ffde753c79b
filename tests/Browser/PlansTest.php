<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Remote\DriverCommand;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** Exit plans in the page: written with handles and values, tried, nudged for one order, and steered on a position. */
final class PlansTest extends PageCase
{
    private const THREE = [
        'name' => 'Three parts', 'stop' => ['ticks' => 6],
        'portions' => [
            ['lots' => 1, 'target' => ['ticks' => 5]], ['lots' => 1, 'target' => ['ticks' => 9]], ['rest' => true, 'target' => null],
        ],
        'ratchets' => [['at' => 3, 'lock' => 0], ['at' => 10, 'trail' => 4]],
    ];

    public function testHandlesOfTheCurveAreMovedByMouseAndByKeyboardAndSaved(): void
    {
        $this->openPlans();
        $this->page->find('[data-handle=stop]')->sendKeys(WebDriverKeys::ARROW_UP.WebDriverKeys::ARROW_UP.WebDriverKeys::ARROW_DOWN);
        $this->page->await(fn(): bool => $this->value('stop') === '6', 'the stop one tick nearer');
        $this->page->find('[data-handle=ratchet-1]')->sendKeys(WebDriverKeys::ARROW_RIGHT.WebDriverKeys::ARROW_UP);
        $this->page->await(
            fn(): bool => $this->value('ratchet-1-at').'/'.$this->value('ratchet-1-lock') === '6/1',
            'the lock moved both ways',
        );
        $this->page->awaitText('[data-means=stop]', '6 ticks');
        $this->page->await(
            fn(): bool => str_contains((string) $this->page->find('[data-handle=stop]')->getAttribute('aria-valuetext'), '-6'),
            'the handle has followed',
        );

        [$x, $y] = $this->page->middle('[data-handle=target-1]');
        $this->page->mouse([
            ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
            ['type' => 'pointerMove', 'duration' => 100, 'x' => $x + 60, 'y' => $y], ['type' => 'pointerUp', 'button' => 0],
        ]);
        $this->page->await(fn(): bool => (int) $this->value('portion-1-target') > 9, 'the target farther');
        $target = (int) $this->value('portion-1-target');
        $this->page->find('[data-name=save-plan]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-name=save-plan]:disabled:not([aria-busy=true])') === 1, 'it is saved');
        $document = $this->trader->call('GET', 'exit-plans/1')->body['document'];
        self::assertSame(
            [6, ['at' => 6, 'lock' => 1], $target],
            [$document['stop']['ticks'], $document['ratchets'][0], $document['portions'][0]['target']['ticks']],
        );

        // And the desk sends with it.
        $this->page->find('[data-name=to-desk]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 0, 'the ladder');
        $this->page->awaitText('[data-field=split]', "2 lots: 1 at +$target, 1 runs · risk 30.00");
    }

    /** Eight lots by risk became "1 at +9, 7 run": a portion can be a share of whatever is ordered. */
    public function testAPortionIsAShareOfTheOrder(): void
    {
        $this->openPlans();
        $this->page->run('const by = document.querySelector("[data-name=portion-1-by]"); by.value = "percent"; by.dispatchEvent(new Event("change", {bubbles: true}))');
        $this->page->await(fn(): bool => $this->value('portion-1-lots') === '50', 'half of the order');
        $this->page->find('[data-name=save-plan]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-name=save-plan]:disabled:not([aria-busy=true])') === 1, 'it is saved');
        self::assertSame(
            [['percent', 'target'], ['rest', 'target']],
            array_map(array_keys(...), $this->trader->call('GET', 'exit-plans/1')->body['document']['portions']),
        );
        $this->page->find('[data-name=to-desk]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 0, 'the ladder');
        $this->page->awaitText('[data-field=split]', '2 lots: 1 at +9, 1 runs');
        $this->page->holdKey('5', 10);
        $this->page->awaitText('[data-field=split]', '10 lots: 5 at +9, 5 run');
    }

    /** The market has only begun: the plan is kept, and refused at the order until it can be measured. */
    public function testAPlanInAverageTrueRangesIsSavedBeforeThereAreEnoughBars(): void
    {
        $this->openPlans();
        $this->choose('stop-unit', 'atr');
        $this->page->awaitText('[data-field=plan-fault]', 'closed so far');
        $this->page->awaitText('[data-part=plan-curve]', 'cannot be measured');
        $this->page->find('[data-name=save-plan]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-name=save-plan]:disabled:not([aria-busy=true])') === 1, 'it is saved');
        self::assertArrayHasKey('atr', $this->trader->call('GET', 'exit-plans/1')->body['document']['stop']);
        $order = ['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1];
        self::assertSame('plan-does-not-fit', $this->trader->place($order)->code());
    }

    /** Each is made from what the one before has left: the second does not take the first back. */
    public function testTwoQuickChangesOfTheSettingsBothStand(): void
    {
        $this->openPlans();
        $this->page->run('for (const code of ["DULZ6", "FRXZ6"]) document.querySelector(`[data-part=defaults] [data-name=default-${code}]`).click()');
        $kept = fn(): array => array_keys(array_filter(
            array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['entry']['contracts'],
            static fn(array $own): bool => ($own['plan'] ?? null) === 1,
        ));
        $this->page->await(fn(): bool => $kept() === ['DULZ6', 'FRXZ6'], 'both');
    }

    public function testEachPlanOfTheListOpens(): void
    {
        $this->openPlans();
        foreach (['Two halves', 'Wide berth', 'Runner', 'Short tide'] as $i => $name) {
            $this->page->find('[data-part=plan-list] li:nth-child('.(($i + 1) % 4 + 1).') [data-part=plan-name]')->click();
            $this->page->await(fn(): bool => $this->value('plan-name') === $name, $name);
            $this->page->await(
                fn(): bool => $this->page->text('[data-field=plan-fault]') === '' && $this->page->count('[data-handle=stop]') === 1,
                "the curve of $name",
            );
        }
    }

    public function testAPlanIsWrittenInOtherUnitsTriedAndRefusedWhereItIsWrong(): void
    {
        $this->openPlans();
        $this->page->find('[data-name=new-plan]')->click();
        $this->type('plan-name', 'By money');
        // The unit is another, the distance is the same: 8 ticks of 2.50.
        $this->choose('stop-unit', 'money');
        $this->page->await(fn(): bool => $this->value('stop') === '20.00', 'eight ticks in money');
        $this->choose('stop-unit', 'points');
        $this->page->await(fn(): bool => $this->value('stop') === '4.00', 'and in points');
        $this->choose('stop-unit', 'money');
        $this->page->await(fn(): bool => $this->value('stop') === '20.00', 'and back');
        $this->type('stop', '18.00');
        $this->page->awaitText('[data-means=stop]', '7.20 rounded to 7 ticks');
        $this->page->awaitText('[data-field=plan-risk]', '35.00 EUR');
        $this->type('portion-1-target', '6');
        $this->page->awaitText('[data-part=warnings]', 'the lock at +6 can never act: portion 1 is out at +6');
        $this->type('ratchet-1-at', '4');
        $this->page->await(fn(): bool => $this->page->count('[data-part=warnings]') === 0, 'nothing is odd any more');
        // The drawn line: to its target, and never back.
        $this->type('line', '0, 3, 7');
        $this->page->awaitText('[data-field=result]', '12 ticks · +30.00 − 2.48 fees = +27.52 EUR');
        $this->page->awaitText('[data-field=step]', 'trade 8 of 8 · 0 open');
        $this->page->find('[data-name=step]')->sendKeys(WebDriverKeys::HOME.WebDriverKeys::ARROW_RIGHT);
        $this->page->awaitText('[data-field=step]', 'trade 2 of 8 · 2 open');
        $this->type('stop', '0.10');
        $this->page->awaitText('[data-field=plan-fault]', 'is under one tick');
        self::assertFalse($this->page->find('[data-name=save-plan]')->isEnabled(), 'what cannot work is not saved');
        $this->type('stop', '18.00');
        $this->page->await(fn(): bool => $this->page->find('[data-name=save-plan]')->isEnabled(), 'it can be saved');
        $this->page->find('[data-name=save-plan]')->click();
        $this->page->await(fn(): bool => str_contains($this->page->text('[data-part=plan-list]'), 'By money'), 'the new plan in the list');
        $names = array_map(static fn(array $p): string => $p['document']['name'], $this->trader->call('GET', 'exit-plans')->body['items']);
        self::assertSame(['Short tide', 'Two halves', 'Wide berth', 'Runner', 'By money'], $names);
    }

    public function testPlansAreImportedDuplicatedOrderedDeletedAndChosenByThemselves(): void
    {
        $this->openPlans();
        $file = tempnam(sys_get_temp_dir(), 'plan').'.json';
        file_put_contents($file, json_encode(['stop' => ['ticks' => 2.5]] + self::THREE, JSON_THROW_ON_ERROR));
        $import = '[data-name^=import-]';
        $this->page->find($import)->sendKeys($file);
        $this->page->awaitText('[data-part=file-row] [data-part=fault]', 'Stop, ticks: the number with a fraction or exponent 2.5 is not');
        file_put_contents($file, json_encode(self::THREE, JSON_THROW_ON_ERROR));
        $this->page->find($import)->sendKeys($file);
        $this->page->await(fn(): bool => $this->page->text('[data-part=plan-list] [data-plan]:has([aria-current]) b') === 'Three parts', 'the imported plan');
        unlink($file);
        $id = (int) $this->page->find('[data-part=plan-list] [data-plan]:has([aria-current])')->getAttribute('data-plan');

        $this->page->find("[data-part=plan-list] [data-plan='$id'] [aria-label='Three parts up']")->click();
        $this->page->await(
            fn(): bool => $this->page->run('return [...document.querySelectorAll("[data-part=plan-name] b")].map((b) => b.textContent)') === [
                'Short tide', 'Two halves', 'Wide berth', 'Three parts', 'Runner',
            ],
            'one place up',
        );
        $this->page->run('document.querySelectorAll("[data-part=defaults] [role=checkbox]")[2].click()');
        $this->page->await(
            fn(): bool
                => ($this->trader->call('GET', 'settings')->body['items'][2]['document']['contracts']['TIDX6']['plan'] ?? null) === $id,
            'chosen by itself',
        );

        $this->page->run(
            'document.querySelector(`[data-plan="${arguments[0]}"] [data-part=plan-acts] button:nth-child(3)`).click()',
            $id,
        );
        $this->page->await(fn(): bool => $this->value('plan-name') === 'Three parts 2', 'a copy, not saved yet');
        $this->page->find('[data-name=to-desk]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=rung]') > 0, 'the ladder');
        $this->page->find('[data-part=contract-tab]:nth-child(3)')->click();
        $this->page->await(fn(): bool => $this->page->text('[data-part=plans] [data-state=on]') === 'Three parts', 'the plan of that contract');

        $this->page->holdKey('g', 10);
        $this->page->await(fn(): bool => $this->page->count("[data-part=plan-list] [data-plan='$id']") === 1, 'the list');
        $this->page->run(
            'document.querySelector(`[data-plan="${arguments[0]}"] [data-part=plan-acts] button:nth-child(4)`).click()',
            $id,
        );
        $this->page->awaitText('[role=alertdialog]', 'Delete the plan');
        self::assertSame('Keep it', $this->page->run('return document.activeElement.textContent'), 'the safe answer has the focus');
        $this->page->find('[data-name=delete-plan]')->click();
        $this->page->await(fn(): bool => $this->page->count("[data-part=plan-list] [data-plan='$id']") === 0, 'it is gone');
    }

    public function testTheNextOrderAloneIsNudgedAndOnePortionRuns(): void
    {
        $this->enter();
        $this->page->await(fn(): bool => $this->page->count('[data-part=this-order] [data-name=stop] button') === 2, 'the nudges');
        $this->page->find('[data-part=this-order] [data-name=stop] button:last-child')->click();
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $this->page->find('[data-name=runs-1]')->click();
        $this->page->awaitText('[data-field=split]', '2 lots: 1 runs, 1 runs · risk 40.00');
        $this->page->run('document.querySelector("[data-action=buy-market]").click()');
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $level = self::ticks($this->trader->position(self::CODE)['average_price']);
        self::assertSame([self::price($level - 8), self::price($level - 8)], $this->trader->stops());
        self::assertSame([], array_filter($this->trader->working(), static fn(array $o): bool => $o['role'] === 'target'));
        $this->page->awaitText('[data-part=entry-head]', 'Short tide, stop 8 instead of 7');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 7');
    }

    public function testAThreePortionPlanFromEntryToTheLastRunnerThroughAReloadAndAKill(): void
    {
        $this->enter(false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market', 'exit_plan' => self::THREE]);
        $this->page->awaitText('[data-field=position]', 'Long 3');
        $at = self::ticks($this->trader->position(self::CODE)['average_price']);
        self::assertSame(3, $this->page->count('[data-part=portion-row]'));
        $this->pushTo($at + 3);
        $this->page->awaitText('[data-portion~="3"]', 'stop '.self::price($at));
        $this->page->driver->navigate()->refresh();
        $this->page->awaitLive();
        $this->page->await(fn(): bool => $this->page->count('[data-part=portion-row]') === 3, 'all three after the reload');
        $this->pushTo($at + 5);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->awaitPassing('[data-field=feed]', 'away', fn() => $this->desk->killEngine());
        $this->page->awaitLive();
        $this->pushTo($at + 9);
        $this->page->awaitText('[data-field=position]', 'Long 1');
        $this->pushTo($at + 12);
        $this->page->awaitText('[data-portion~="3"]', 'stop '.self::price($at + 8));
        $this->page->awaitText('[data-field=said]', 'locked in');
        $this->pushTo($at + 8);
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame([], $this->trader->working());
    }

    public function testPortionsThatGoAlikeAreOneLineAndAreClosedTogether(): void
    {
        $this->enter(false);
        $alike = ['name' => 'Alike', 'stop' => ['ticks' => 9], 'portions' => [['lots' => 1, 'target' => ['ticks' => 8]], ['lots' => 1, 'target' => null], ['rest' => true, 'target' => null]]];
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 4, 'kind' => 'market', 'exit_plan' => $alike]);
        $this->page->awaitText('[data-field=position]', 'Long 4');
        $this->page->awaitText('[data-portion="2 3"]', '3');
        self::assertSame(2, $this->page->count('[data-part=portion-row]'));
        $at = self::ticks($this->trader->position(self::CODE)['average_price']);
        $this->page->find('[data-exit="stop-2-3"]')->click();
        $this->page->find('[aria-label="New stop of portions 2 and 3"]')->sendKeys("5\u{E007}");
        $this->page->awaitText('[data-portion="2 3"]', 'stop '.self::price($at - 5));
        self::assertSame([self::price($at - 9), self::price($at - 5), self::price($at - 5)], $this->trader->stops());
        $this->page->find('[data-name="close-2-3"]')->click();
        $this->page->awaitText('[data-field=position]', 'Long 1');
        self::assertSame([self::price($at - 9)], $this->trader->stops());
    }

    public function testAStopMovedByHandShowsAHandAndIsGivenBackWithOnePress(): void
    {
        $this->enter(false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 3, 'kind' => 'market', 'exit_plan' => self::THREE]);
        $this->page->awaitText('[data-field=position]', 'Long 3');
        $at = self::ticks($this->trader->position(self::CODE)['average_price']);
        $this->pushTo($at + 3);
        $stop = array_values(array_filter(
            $this->trader->working(),
            static fn(array $o): bool => $o['role'] === 'stop' && $o['portion'] === 3,
        ))[0];
        $moved = $this->trader->call('PATCH', "orders/{$stop['id']}", ['client_id' => Trader::id(), 'trigger' => self::price($at - 4)]);
        self::assertSame('hand', $moved->body['steering']);
        $this->page->await(fn(): bool => $this->page->count('[data-part=by-hand] [data-part=hand]') === 1, 'the hand');
        $this->page->await(fn(): bool => $this->page->count('[data-part=chip][data-role=stop] [data-part=hand]') === 1, 'a hand on its chip');
        $this->page->awaitText('[data-part=by-hand]', 'manual; its ratchets would have it at '.self::price($at));
        $this->page->find('[data-name=give-back-3]')->click();
        $this->page->awaitText('[data-portion~="3"]', 'stop '.self::price($at));
        $this->page->await(fn(): bool => $this->page->count('[data-part=hand]') === 0, 'no hand any more');

        // One portion runs, one is closed, by button and by key.
        $this->page->find('[data-name=run-1]')->click();
        $this->page->awaitText('[data-portion~="1"]', 'no target');
        $this->page->find('[data-name=close-2]')->click();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->holdKey('q', 400);
        $this->page->awaitText('[data-field=position]', 'Long 1');
        $this->page->holdKey('f', 10);
        $this->page->awaitText('[data-portion~="3"]', 'stop '.self::price($at + 1));
    }

    public function testADragFromTheAverageWithShiftMakesAStopAndATargetAsAPair(): void
    {
        $this->enter(false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        $this->page->awaitText('[data-field=protected]', '0 of 2');
        $at = self::ticks($this->trader->position(self::CODE)['average_price']);
        [$x, $y] = $this->page->middle('[data-average]');
        [$tox, $toy] = $this->page->middle(self::lane($at + 6, 'sell'));
        $pause = ['type' => 'pause', 'duration' => 0];
        $this->page->driver->execute(DriverCommand::ACTIONS, ['actions' => [
            [
                'type' => 'key', 'id' => 'keys',
                'actions' => [
                    ['type' => 'keyDown', 'value' => WebDriverKeys::SHIFT], $pause, $pause, $pause, $pause,
                    ['type' => 'keyUp', 'value' => WebDriverKeys::SHIFT],
                ],
            ],
            ['type' => 'pointer', 'id' => 'mouse', 'parameters' => ['pointerType' => 'mouse'], 'actions' => [
                $pause, ['type' => 'pointerMove', 'duration' => 0, 'x' => $x, 'y' => $y], ['type' => 'pointerDown', 'button' => 0],
                ['type' => 'pointerMove', 'duration' => 60, 'x' => $tox, 'y' => $toy], ['type' => 'pointerUp', 'button' => 0], $pause,
            ]],
        ]]);
        $this->page->await(
            fn(): bool => $this->chips('target') === [$at + 6] && $this->chips('stop') === [$at - 6],
            'both, as far from the average',
        );
        $this->page->awaitText('[data-field=protected]', '2 of 2');
    }

    public function testUnprotectedLotsAlarmAndOneKeyCoversThem(): void
    {
        $this->enter(false);
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 4]);
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->await(fn(): bool => $this->chips('stop') !== [], 'the stop');
        $this->page->run('document.querySelector("[data-part=chip][data-role=stop] button").click()');
        $this->page->awaitText('[data-part=question]', 'leaves 2 lots unprotected');
        $this->page->run('document.querySelectorAll("[data-part=question] button")[1].click()');
        $this->page->awaitText('[data-field=alarm]', '2 lots unprotected');
        self::assertStringStartsWith('! 2 unprotected', $this->page->driver->getTitle());
        self::assertSame('+2!', $this->page->text('[data-part=contract-tab][data-state=on] em'));
        $this->page->holdKey('v', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=alarm]') === 0, 'the alarm is over');
        self::assertSame(0, $this->trader->position(self::CODE)['unprotected']);
        self::assertSame('Short tide', $this->trader->position(self::CODE)['entries'][0]['plan']);
        // Taking it off asks first.
        $this->page->holdKey('u', 400);
        $this->page->awaitText('[data-part=question]', 'Removing the plan leaves 2 lots unprotected.');
        $this->page->run('document.querySelector("[data-name=cover-anyway]").click()');
        $this->page->awaitText('[data-field=alarm]', '2 lots unprotected');
    }

    public function testThePanicKeysActOnceFromTheExitPlansAndTheOthersDoNot(): void
    {
        $this->enter();
        $entry = $this->buyTwo();
        $this->page->await(fn(): bool => $this->chips('stop') === [$entry - 7, $entry - 7], 'the stops');
        $this->page->holdKey('g', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-part=plans-screen]') === 1, 'the exit plans');
        $this->page->holdKey('b', 10);
        $this->page->holdKey('h', 450);
        $this->page->holdKey('x', 450);
        $this->page->await(
            fn(): bool => ($this->trader->position(self::CODE)['quantity'] ?? 0) === 0 && $this->trader->working() === [],
            'flat',
        );
        $types = array_column($this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'], 'type');
        self::assertSame(1, count(array_keys($types, 'flatten-started', true)), implode(' ', $types));
        self::assertNotContains('stop-moved', $types, 'no break-even from there');
    }

    public function testAShutMarketSaysSoAndWhenItOpens(): void
    {
        $desk = RunningDesk::start('--seed', '1', '--paused', '--demo-hours', '--clock', '2026-11-02T18:29:58.000Z');
        try {
            $trader = $desk->trader();
            $page = new \Tests\Support\Page($desk->url());
            $page->open($trader->link)->awaitLive();
            $page->awaitText('[data-field=clock]', 'closes in 1 min');
            $trader->steps(self::CODE, 300);
            $page->awaitText('[data-field=shut]', 'DULZ6 is shut, opens Tue 3 Nov 08:00 Europe/Lisbon');
            $refused = $trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
            self::assertSame([422, 'market-closed'], [$refused->status, $refused->body['code']]);
            $page->awaitText('[data-field=said]', 'set "Release at" to queue an order for the open');
            $page->close();
        } finally {
            $desk->stop();
        }
    }

    private function openPlans(): void
    {
        $this->enter(false);
        $this->page->holdKey('g', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-handle=stop]') === 1, 'the curve');
    }

    private function value(string $name): string
    {
        return (string) $this->page->run(
            'return document.querySelector(`[data-part=plans-screen] [data-name="${arguments[0]}"]`)?.value ?? ""',
            $name,
        );
    }

    private function type(string $name, string $text): void
    {
        $field = $this->page->find("[data-part=plans-screen] [data-name=$name]");
        $field->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $field->sendKeys($text);
    }

    private function choose(string $name, string $value): void
    {
        $this->page->run(
            'const s = document.querySelector(`[data-part=plans-screen] [data-name="${arguments[0]}"]`); s.value = arguments[1]; s.dispatchEvent(new Event("change", {bubbles: true}))',
            $name,
            $value,
        );
    }
}
