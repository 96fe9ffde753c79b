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
        $this->page->awaitText('[data-field=limits-fault]', '/each_contract/order_lots');
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
        $amount->sendKeys('130.00');
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
        $this->page->awaitText('[data-field=split]', 'not one lot fits into 9.00 EUR');
        $this->page->find('[data-action=join-bid]')->click();
        $this->page->awaitText('[data-field=said]', 'not one lot fits into 9.00 EUR');
        self::assertSame(['limit', 'stop'], $this->kinds(), 'the exits alone');
        // A size of the row is lots again, whatever risk had said.
        $this->page->find('[data-part=lots] button')->click();
        $this->page->await(fn(): bool => $this->page->run('return document.querySelector("[data-name=sized-by]").value') === 'lots', 'lots again');
        $this->page->awaitText('[data-field=split]', '1 lot');
    }

    /** What is lost if the stops fill, in the depth of now and after a gap that the trader says, laid over the loss room. */
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
        $this->page->awaitText('[data-part=risk-panel]', 'The day would be over.');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market']);
        $this->page->awaitText('[data-part=risk-unprotected]', 'DULZ6: 1 lot unprotected, no limit');
        self::assertStringNotContainsString('The day would be over.', $this->page->text('[data-part=risk-panel]'), 'without a limit there is no such sum');
    }

    /** @return list<string> kinds of the orders that work, each once */
    private function kinds(): array
    {
        $kinds = array_unique(array_column($this->trader->working(), 'kind'));
        sort($kinds);

        return $kinds;
    }
}
