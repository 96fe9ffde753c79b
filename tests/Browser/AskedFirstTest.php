<?php

declare(strict_types=1);

namespace Tests\Browser;

/** What is said of an order before it is sent, and what belongs to this order alone. */
final class AskedFirstTest extends PageCase
{
    public function testAPriceThroughTheMarketThatIsTypedInTheListAsksFirst(): void
    {
        $this->enter();
        $price = self::price($this->quote('bids') - 6);
        $id = $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => $price])->body['id'];
        $this->page->find('[data-part=hints] button')->click();
        $this->page->tab('Orders');
        $this->page->await(fn(): bool => $this->page->count("[data-row='$id'] [data-edit=price]") === 1, 'the order in the list');
        $this->page->find("[data-row='$id'] [data-edit=price]")->click();
        $this->page->find("[data-row='$id'] [data-part=edit]")->sendKeys(self::price($this->quote('asks') + 5));
        $this->page->awaitText("[data-row='$id'] [role=status]", 'trades at once, the market is at');
        $this->page->holdKey("\u{E007}", 10);
        $this->page->awaitText('[role=alertdialog]', "Order $id trades at once");
        self::assertSame($price, $this->trader->working()[0]['price']);
        $this->page->find('[data-name=change-through]')->click();
        $this->page->await(fn(): bool => $this->lots() === 2, 'bought at the market');
    }

    public function testTheTicketAsksBeforeItSendsMoreLotsThanAreToBeConfirmed(): void
    {
        $this->setEntry(['confirm_over' => 1]);
        $this->enter();
        $this->page->holdKey('k', 10);
        $this->page->await(fn(): bool => $this->page->count('[data-action=ticket-send]:not(:disabled)') === 1, 'the ticket, ready');
        $this->page->find('[data-action=ticket-send]')->click();
        $this->page->awaitText('[role=alertdialog]', 'more than 1 lots. Send it?');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->awaitText('[data-field=said]', 'it was not confirmed');
        self::assertSame([], $this->trader->working());
        $this->page->find('[data-action=ticket-send]')->click();
        $this->page->find('[data-name=confirm]')->click();
        $this->page->await(fn(): bool => count($this->trader->working()) + $this->lots() > 0, 'sent once it is confirmed');
    }

    public function testAnOrderOverTheLossRoomSaysSoBeforeItIsSent(): void
    {
        $this->enter(oneClick: false);
        $this->page->run('document.querySelector("[data-part=typed-lots] input").focus()');
        $this->page->find('[data-part=typed-lots] input')->clear()->sendKeys('20');
        $this->page->pointAt(self::lane($this->quote('bids') - 3, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 20 limit');
        self::assertStringNotContainsString('loss room', $this->page->text('[data-part=strip]'), '374.80 at risk, 500.00 are left');
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 20, 'kind' => 'market']);
        $this->trader->push(self::CODE, -5);
        $this->trader->call('POST', 'contracts/'.self::CODE.'/flatten', ['client_id' => 'f', 'account' => $this->trader->account]);
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('[data-part=strip]', 'over the loss room of');
        $this->page->awaitText('[data-part=rungs]', 'over the loss room');
    }

    /** What is different for this order stands in the ghost that is pressed, and stays where the order is refused. */
    public function testWhatIsDifferentForThisOrderIsShownAndNotLostByARefusal(): void
    {
        $this->enter();
        $this->page->await(fn(): bool => $this->page->count('[data-part=this-order] [data-name=stop] button') === 2, 'the nudges');
        $this->page->find('[data-part=this-order] [data-name=stop] button:last-child')->click();
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $tick = $this->quote('bids') - 4;
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip]', 'Buy 2 limit '.self::price($tick));
        $this->page->awaitText('[data-part=strip]', 'risk 40.00');
        $this->fates('/api/orders', ['gone']);
        $this->awaitSettled();
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'Not received, will not execute');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $this->page->run('window.fetch = window.real');
        $this->awaitSettled();
        $this->page->press();
        $this->page->await(fn(): bool => count($this->trader->working()) === 1, 'the order');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 7');
    }

    public function testWhatIsDifferentForThisOrderGoesWithAPairAndNoFurther(): void
    {
        $this->enter(oneClick: false);
        $this->page->await(fn(): bool => $this->page->count('[data-part=this-order] [data-name=stop] button') === 2, 'the nudges');
        $this->page->find('[data-part=this-order] [data-name=stop] button:last-child')->click();
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 8');
        $this->click($this->quote('asks') + 4, 'buy', 'Buy 2 stop');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 1, 'one draft');
        $this->click($this->quote('bids') - 4, 'sell', 'Sell 2 stop');
        $this->page->await(fn(): bool => count($this->chips('draft')) === 2, 'two drafts');
        $this->page->holdKey('y', 10);
        $this->page->await(fn(): bool => count($this->trader->working()) === 2, 'the pair');
        $this->page->awaitText('[data-part=this-order] [data-name=stop]', 'stop 7');
    }

    public function testLotsAndPlanBelongToTheContractAndComeBackWithIt(): void
    {
        $this->enter();
        $this->page->holdKey('4', 10);
        $this->page->holdKey('n', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '5');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
        $this->page->holdKey('.', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '2');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Short tide');
        $this->page->holdKey('.', 10);
        $this->page->holdKey('3', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $front = $this->page->run('return document.querySelector("[data-part=ladder]").getAttribute("aria-label")');
        $this->page->open($this->desk->url())->awaitLive();
        self::assertSame($front, $this->page->run('return document.querySelector("[data-part=ladder]").getAttribute("aria-label")'));
        $this->page->awaitText('[data-part=lots] [data-state=on]', '3');
        $this->page->holdKey(',', 10);
        $this->page->holdKey(',', 10);
        $this->page->awaitText('[data-part=lots] [data-state=on]', '5');
        $this->page->awaitText('[data-part=plans] [data-state=on]', 'Two halves');
    }

    public function testARefusalSpeaksUpOnThePage(): void
    {
        $this->enter();
        $touch = $this->quote('asks');
        $refused = $this->trader->place([
            'contract' => self::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'stop', 'trigger' => self::price($touch - 6),
        ]);
        self::assertSame('stop-passed', $refused->code());
        $this->page->awaitText('[data-field=said]', 'already passed');
    }

    public function testABarredAccountSaysSoAndWhatIsStillTaken(): void
    {
        $this->enter();
        $this->trader->place(['contract' => self::CODE, 'side' => 'buy', 'quantity' => 20, 'kind' => 'market']);
        $this->page->awaitText('[data-field=position]', 'Long 20');
        $this->trader->push(self::CODE, -12);
        $this->page->awaitText('[data-field=barred]', 'barred until 00:00 UTC');
        // Pressed it tells what led there.
        $this->page->find('[data-name=why-barred]')->click();
        $this->page->awaitText('[data-part=led-to-bar]', 'the loss limit is');
        $this->page->holdKey("\u{E00C}", 10);
        $this->page->await(fn(): bool => $this->page->count('[data-modal]') === 0, 'the desk');
        $this->page->awaitText('[data-part=strip]', 'Orders that only reduce are taken');
        $this->page->awaitText('[data-field=position]', 'Flat');
        $this->page->awaitText('[data-field=loss-room]', 'of 500');
        $tick = $this->quote('bids') - 5;
        $this->page->await(fn(): bool => $this->page->count(self::lane($tick, 'buy')) === 1, "rung $tick");
        $this->page->pointAt(self::lane($tick, 'buy'));
        $this->page->awaitText('[data-part=strip][data-refused]', 'no new entries until');
        $this->awaitSettled();
        $this->page->press();
        $this->page->awaitText('[data-field=said]', 'no new entries');
        self::assertSame([], $this->trader->working());
        $this->trader->push(self::CODE, 12);
    }
}
