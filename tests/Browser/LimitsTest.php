<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

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
}
