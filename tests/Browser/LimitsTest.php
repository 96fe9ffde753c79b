<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Facebook\WebDriver\WebDriverSelect;

/** Limits as a trader sets them on the page, and as the desk shows what they hold back. */
final class LimitsTest extends PageCase
{
    private function openLimits(): void
    {
        $this->page->find('[data-part=hints] button')->click();
        $this->page->find('[data-action=settings]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=settings] [role=tab]') > 0, 'the settings');
        foreach ($this->page->driver->findElements(WebDriverBy::cssSelector('[data-field=settings] [role=tab]')) as $tab) {
            if ($tab->getText() === 'Limits') {
                $tab->click();
            }
        }
        $this->page->await(fn(): bool => $this->page->count('[data-name="limit-each.order_lots"]') === 1, 'the limits');
    }

    private function type(string $field, string $value): void
    {
        $input = $this->page->find("[data-name=\"limit-$field\"]");
        $input->click();
        $input->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $input->sendKeys($value === '' ? WebDriverKeys::BACKSPACE : $value);
    }

    /** @return array<string, mixed> */
    private function limits(): array
    {
        return $this->trader->call('GET', "accounts/{$this->trader->account}/limits")->body;
    }

    public function testLimitsAreSetLoosenedForTheNextDayAndRefusedWithTheirPlace(): void
    {
        $this->enter();
        $this->openLimits();
        $this->type('each.order_lots', '1');
        $this->type('contracts.DULZ6.position_lots', '3');
        $this->page->find('[data-name=save-limits]')->click();
        $this->page->await(fn(): bool => $this->limits()['now']['each_contract']['order_lots'] === 1, 'the limit');
        self::assertSame(3, $this->limits()['now']['contracts']['DULZ6']['position_lots']);
        self::assertNull($this->limits()['next']);
        $this->type('each.order_lots', '9');
        $this->page->find('[data-name=save-limits]')->click();
        $this->page->awaitText('[data-part=limits-next]', 'order lots 1');
        self::assertSame([1, 9], [$this->limits()['now']['each_contract']['order_lots'], $this->limits()['next']['each_contract']['order_lots']]);
        $this->type('each.order_lots', 'many');
        $this->page->find('[data-name=save-limits]')->click();
        $this->page->awaitText('[data-field=limits-fault]', 'Each contract, order lots: "many" is not a whole number');
        self::assertSame(9, $this->limits()['next']['each_contract']['order_lots']);
        $this->page->holdKey(WebDriverKeys::ESCAPE, 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=settings]') === 0, 'the desk');
        $this->page->pointAt(self::lane($this->quote('bids') - 4, 'buy'));
        $this->page->awaitText('[data-part=strip]', '2 lots are over the order limit of 1');
    }

    public function testAfterALossTooManyTheDeskSaysUntilWhenNothingIsEntered(): void
    {
        $this->trader->call('PUT', "accounts/{$this->trader->account}/limits", ['losses_in_a_row' => 1] + array_diff_key($this->limits()['now'], ['contracts' => 1]));
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $order = ['contract' => self::CODE, 'quantity' => 1, 'kind' => 'market'];
        $this->trader->place(['side' => 'buy'] + $order);
        $this->trader->push(self::CODE, -2);
        $this->trader->place(['side' => 'sell'] + $order);
        $this->page->awaitText('[data-field=stopped]', 'no entries until');
        $this->page->pointAt('[data-part=headline]');
        $this->page->awaitText('[data-part=strip]', '1 losing trade, and the limit is 1');
        $this->page->pointAt(self::lane($this->quote('bids') - 4, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'no new entries until');
        self::assertSame([], $this->trader->working());
    }

    /** What the trader may lose is said, and the lots follow the plan; what is sent is what was shown, and none where not one fits. */
    public function testTheLotsFollowWhatMayBeLostFromTheRowToTheFill(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        (new WebDriverSelect($this->page->find('[data-name=sized-by]')))->selectByValue('money');
        $amount = $this->page->find('[data-name=sized-amount]');
        $this->page->awaitText('[data-field=split]', 'Type how much this trade may lose.');
        self::assertSame(0, $this->page->count('[data-field=split] [data-alarm]'), 'nothing is wrong before something was typed');
        // Half typed, and with a comma.
        $amount->sendKeys('130,');
        $this->page->awaitText('[data-field=sized-lots]', '=6');
        $amount->sendKeys('50');
        // Short tide risks 18.74 a lot, Wide berth 61.24.
        $this->page->awaitText('[data-field=sized-lots]', '=6');
        $this->page->find('[data-part=plans] button[title="Wide berth"]')->click();
        $this->page->awaitText('[data-field=sized-lots]', '=2');
        $this->page->awaitText('[data-field=split]', '2 lots');
        $this->page->find('[data-action=buy-market]')->click();
        $this->page->awaitText('[data-field=position]', 'Long 2');
        $this->page->awaitText('[data-field=protected]', '2 of 2');
        $amount->click();
        $amount->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $amount->sendKeys('9.00');
        $this->page->awaitText('[data-field=split]', 'even one lot is too much for 9.00 EUR');
        $this->page->find('[data-action=join-bid]')->click();
        $this->page->awaitText('[data-field=said]', 'even one lot is too much for 9.00 EUR');
        self::assertSame(['limit', 'stop'], $this->kinds(), 'the exits alone');
        // A size of the row is lots again, whatever risk had said.
        $this->page->find('[data-part=lots] button')->click();
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector("[data-name=sized-by]").value') === 'lots', 'lots again');
        $this->page->awaitText('[data-field=split]', '1 lot');
    }

    /** What is lost if the stops fill, at current depth and after a gap that the trader says, laid over the loss room. */
    public function testThePanelOfRiskTellsEachStopAndWhetherTheDayWouldBeOver(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 4, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->tab('Risk');
        $this->page->awaitText('[data-field=risk-gap]', '+ 100.00 EUR');
        self::assertSame(2, $this->page->count('[data-part=risk-panel] [data-stop]'));
        self::assertStringContainsString('% of the loss room', $this->page->text('[data-field=risk-shares]'));
        $gap = $this->page->find('[data-part=risk-panel] input');
        $gap->click();
        $gap->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $gap->sendKeys('60');
        $this->page->awaitText('[data-part=risk-panel]', 'This would hit your daily loss limit.');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        $this->page->awaitText('[data-part=risk-unprotected]', 'DULZ6: 1 lot unprotected, no limit');
        self::assertStringContainsString(
            'This would hit your daily loss limit.',
            $this->page->text('[data-part=risk-panel]'),
            'the lots that have stops lose too much already: one more that has none cannot make it better',
        );
    }

    /** A stop that was sent by hand protects its lots: no alarm, its loss among the others, and taking it off is asked about. */
    public function testAStopThatWasSentByHandProtectsAndIsToldByItsOrder(): void
    {
        $this->enter(false);
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market']);
        $this->page->await(fn(): bool => $this->page->count('[data-field=alarm]') === 1, 'the alarm of a bare position');
        $tick = (int) round(2 * (float) $this->trader->position(self::CODE)['average_price']) - 8;
        $price = sprintf('%.2f', $tick / 2);
        $order = $this->trader->place(['contract' => self::CODE, 'side' => 'sell', 'quantity' => 2, 'kind' => 'stop', 'trigger' => $price])->body['id'];
        $this->page->awaitText('[data-field=protected]', '2 of 2');
        self::assertSame(0, $this->page->count('[data-field=alarm]'));
        self::assertSame('by order', $this->page->text('[data-part=portion-row] [data-exit^=stop]'));
        $this->page->tab('Risk');
        $this->page->awaitText("[data-part=risk-panel] [data-stop=order-$order]", "order $order, by hand");
        $here = $this->page->text('[data-field=risk-here]');
        $this->page->pointAt('[data-part=chip][data-order="'.$order.'"]');
        $mouse = $this->page->driver->getMouse();
        $mouse->mouseDown();
        $this->page->pointAt(self::lane($tick - 2, 'sell'));
        $this->page->await(fn(): bool => $this->page->text('[data-field=risk-here]') !== $here, 'another total while it is dragged');
        self::assertStringStartsWith(sprintf('%.2f', (float) $here + 10), $this->page->text('[data-field=risk-here]'), 'two ticks of two lots');
        $this->page->pointAt(self::lane($tick, 'sell'));
        $mouse->mouseUp();
        $this->page->find('[data-part=chip][data-order="'.$order.'"] button')->click();
        $this->page->awaitText('[role=alertdialog]', 'Cancelling this stop leaves 2 lots unprotected.');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[role=alertdialog]') === 0, 'Esc keeps the stop');
        $this->page->holdKey("\u{E003}", 450);
        $this->page->awaitText('[data-field=said]', '1 stop kept');
        self::assertSame(['stop'], $this->kinds());
    }

    /** A burst runs over the day's limit: flat, barred, said why, and what only reduces would still be taken. */
    public function testTheLossLimitInABurst(): void
    {
        $this->trader->call('PUT', "accounts/{$this->trader->account}/limits", ['daily_loss' => '60.00'] + array_diff_key($this->limits()['now'], ['contracts' => 1]));
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->call('POST', 'practice/DULZ6', ['mood' => 'burst']);
        try {
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 10, 'kind' => 'market']);
            $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00']);
            // Wherever it runs: against ten lots it need not run far.
            for ($i = 0; $i < 60 && $this->limits()['barred_until'] === null; $i++) {
                $this->trader->steps(self::CODE, 200);
            }
            $this->page->awaitText('[data-field=barred]', 'barred until');
            $this->page->awaitText('[data-field=position]', 'Flat');
            $this->page->await(fn(): bool => $this->trader->working() === [], 'nothing works');
            $this->page->find('[data-name=why-barred]')->click();
            $this->page->awaitText('[data-part=led-to-bar]', 'the loss limit is 60.00');
            $this->page->awaitText('[data-part=limits-met]', 'Barred from new entries');
            $this->page->awaitText('[data-part=limits-met]', 'Flattening: the account is barred; no new entries');
        } finally {
            $this->trader->call('POST', 'practice/DULZ6', ['mood' => 'steady']);
        }
    }

    /** A stop that is dragged moves all totals before it is let go, a draft counts as if it had filled, and let go nothing is left of it. */
    public function testWhatIsDraggedOrDraftedMovesTheTotalsBeforeAnythingIsSent(): void
    {
        $this->enter(false);
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->tab('Risk');
        $this->page->await(fn(): bool => $this->page->count('[data-part=risk-panel] [data-stop]') === 2, 'two stops');
        $here = $this->page->text('[data-field=risk-here]');
        $stop = array_values(array_filter($this->trader->working(), static fn(array $order): bool => $order['role'] === 'stop'))[0];
        $tick = (int) round(2 * (float) $stop['trigger']);
        $this->page->pointAt('[data-part=chip][data-order="'.$stop['id'].'"]');
        $mouse = $this->page->driver->getMouse();
        $mouse->mouseDown();
        $this->page->pointAt(self::lane($tick - 2, 'sell'));
        $this->page->await(fn(): bool => $this->page->count('[data-part=risk-panel][data-what-if=true]') === 1, 'what would be');
        $this->page->await(fn(): bool => $this->page->text('[data-field=risk-here]') !== $here, 'another total');
        self::assertStringStartsWith(sprintf('%.2f', (float) $here + 10), $this->page->text('[data-field=risk-here]'), 'two ticks of each lot: both stops go together');
        self::assertSame(1, $this->page->count('[data-part=room-bar][data-what-if=true]'), 'and in the top bar');
        $this->page->pointAt(self::lane($tick, 'sell'));
        $mouse->mouseUp();
        $this->page->await(fn(): bool => $this->page->count('[data-part=risk-panel][data-what-if=false]') === 1, 'what is');
        $this->page->awaitText('[data-field=risk-here]', $here);
        $this->page->pointAt(self::lane($this->quote('bids') - 6, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'a click makes a draft');
        $this->page->press();
        $this->page->await(fn(): bool => $this->page->count('[data-part=risk-panel][data-what-if=true]') === 1, 'the draft');
        $this->page->awaitText('[data-field=risk-here]', sprintf('%.2f', (float) $here + 37.48));
        $this->page->holdKey(WebDriverKeys::ESCAPE, 10);
        $this->page->awaitText('[data-field=risk-here]', $here);
        self::assertCount(3, $this->trader->working(), 'nothing was sent');
    }

    /** The gap is as far as the contract has jumped, where the trader says so, and is so at the next visit too. */
    public function testTheGapMayBeTheLargestJumpOfTheHour(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => 1]);
        $this->page->tab('Risk');
        $this->page->await(fn(): bool => $this->page->count('[data-name=gap-over]') === 1, 'the gap');
        (new WebDriverSelect($this->page->find('[data-name=gap-over]')))->selectByValue('hour');
        $jump = $this->trader->call('GET', "accounts/{$this->trader->account}/open-risk?gap=hour")->body;
        $this->page->awaitText('[data-field=risk-gap]', '+ '.$jump['totals']['gap']);
        self::assertGreaterThan(0, $jump['contracts'][0]['gap_ticks']);
        self::assertSame(0, $this->page->count('[data-part=risk-panel] input'), 'no ticks to type');
    }

    /** Of entries tried on what has just traded: what came first, on both sides, in the card and by distance in the editor. */
    public function testTheOrderCardSaysWhetherTheStopIsInsideTheNoise(): void
    {
        $this->trader->steps(self::CODE, 1500);
        $this->enter();
        $this->page->await(fn(): bool => str_contains($this->page->text('[data-part=noise] [data-side=buy]'), '%'), 'the figures', 20);
        $document = $this->trader->call('GET', 'exit-plans')->body['items'][0]['document'];
        $asked = ['account' => $this->trader->account, 'contract' => self::CODE, 'document' => $document, 'quantity' => 2, 'minutes' => 30];
        $noise = $this->trader->call('POST', 'exit-plans/noise', $asked)->body;
        foreach (['buy', 'sell'] as $side) {
            $of = $noise['by_stop'][0][$side];
            $this->page->awaitText("[data-side=$side] [data-field=noise-stop]", "{$of['stop_percent']} %");
            $this->page->awaitText("[data-side=$side] [data-field=noise-target]", "{$of['target_percent']} %");
            $this->page->awaitText("[data-side=$side] [data-field=noise-average]", $of['average_ticks'] ?? '—');
            $said = (string) $this->page->find("[data-side=$side] [data-field=noise-average]")->getAttribute('title');
            self::assertSame($of['running'] > 0, str_contains($said, "Average after fees. {$of['running']} of these entries"), $said);
        }
        self::assertSame('false', $this->page->find('[data-side=buy]')->getAttribute('data-enough'), 'so few are grey');
        (new WebDriverSelect($this->page->find('[data-name=noise-minutes]')))->selectByValue('10');
        $this->page->await(fn(): bool => str_contains((string) $this->page->find('[data-part=noise]')->getAttribute('title'), 'one every 5 s of the last 10 min'), 'ten minutes');
        self::assertStringContainsString('History, not advice', (string) $this->page->find('[data-part=noise]')->getAttribute('title'));
        // Without a plan there is nothing to say.
        $this->page->find('[data-name=edit-plans]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-part=noise-curve] [data-own=true]') === 1, 'the curve', 20);
        self::assertSame([4, 5, 7, 9, 11, 14], array_map(
            static fn($point): int => (int) $point->getAttribute('data-stop'),
            $this->page->driver->findElements(WebDriverBy::cssSelector('[data-part=noise-curve] [data-stop]')),
        ));
        self::assertSame('7', $this->page->find('[data-own=true]')->getAttribute('data-stop'));
    }

    /** How the day went, from the day's figure in the top bar; and each position with its time, its best and its ways out. */
    public function testTheDayAndThePositionsTellHowItWent(): void
    {
        $this->enter();
        $this->page->find('[data-part=hints] button')->click();
        $order = ['contract' => self::CODE, 'quantity' => 1, 'kind' => 'market'];
        $this->trader->place(['side' => 'buy'] + $order);
        $this->trader->push(self::CODE, 5);
        $this->trader->place(['side' => 'sell'] + $order);
        $this->trader->place(['side' => 'buy', 'quantity' => 2, 'exit_plan' => 1] + $order);
        $this->trader->place(['side' => 'buy', 'kind' => 'limit', 'price' => '380.00'] + $order);
        $this->trader->push(self::CODE, 3);
        $this->page->tab('Positions');
        $this->page->awaitText('[data-part=list] [data-part=live-row]', '+3');
        self::assertMatchesRegularExpression('/\d:\d\d/', $this->page->text('[data-part=list] [data-part=live-row]'));
        $this->page->find('[data-name=day]')->click();
        $this->page->awaitText('[data-field=day-trades]', '1 trade: 1 won, 0 lost');
        self::assertSame(1, $this->page->count('[data-part=day-curve]'));
        $this->page->awaitText('[data-part=left-over]', 'DULZ6 Long 2: open, under its stops');
        $this->page->awaitText('[data-part=by-contract]', self::CODE);
        $this->page->holdKey(WebDriverKeys::ESCAPE, 10);
        $this->page->await(fn(): bool => $this->page->count('[data-field=day]:not(b)') === 0, 'the desk');
        // Closed: the entry that works goes on working. Flattened: it goes too.
        $this->page->find('[data-name=close-position]')->click();
        $this->page->awaitText('[data-field=position]', 'Flat');
        self::assertSame(['380.00'], array_column($this->trader->working(), 'price'));
        $this->trader->place(['side' => 'buy', 'quantity' => 1, 'exit_plan' => 1] + $order);
        $this->page->await(fn(): bool => $this->page->count('[data-name=flatten-position]') === 1, 'the way out');
        $this->page->find('[data-name=flatten-position]')->click();
        $this->page->await(fn(): bool => $this->trader->working() === [], 'nothing works');
    }

    /** @return list<string> kinds of the orders that work, each once */
    private function kinds(): array
    {
        $kinds = array_unique(array_column($this->trader->working(), 'kind'));
        sort($kinds);

        return $kinds;
    }

    public function testTheOwnerOfTheDeskLiftsWhatALimitHasStopped(): void
    {
        $this->trader->call('PUT', "accounts/{$this->trader->account}/limits", ['losses_in_a_row' => 1] + array_diff_key($this->limits()['now'], ['contracts' => 1]));
        $order = ['contract' => self::CODE, 'quantity' => 1, 'kind' => 'market'];
        $this->trader->place(['side' => 'buy'] + $order);
        $this->trader->push(self::CODE, -2);
        $this->trader->place(['side' => 'sell'] + $order);
        $this->enter();
        $this->page->awaitText('[data-field=stopped]', 'no entries until');
        $this->openLimits();
        $this->page->find('[data-name=lift]')->click();
        $this->page->find('[data-name=lift-it]')->click();
        // This trader is not the first of the desk.
        $this->page->awaitText('[data-field=limits-fault]', 'only the owner of the desk lifts what a limit has stopped');
        self::assertNotNull($this->limits()['stopped_until']);
        $this->owns(true);
        $this->page->find('[data-name=lift]')->click();
        $this->page->find('[data-name=lift-it]')->click();
        $this->page->await(fn(): bool => $this->page->count('[data-field=stopped]') === 0, 'no entry is held back');
        self::assertSame(201, $this->trader->place(['side' => 'buy'] + $order)->status);
        $this->owns(false);
    }

    private function owns(bool $does): void
    {
        (new \PDO("sqlite:{$this->desk->data}/app.sqlite"))->prepare('UPDATE users SET owns_desk = ? WHERE email = ?')
            ->execute([(int) $does, $this->trader->email]);
    }
}
