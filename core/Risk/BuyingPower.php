<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\Money;

/**
 * What an account has to trade with: its balance, less what is lost on paper, less the margin of all that may come to be open.
 * What is won on paper adds nothing, and makes up for no other contract's loss. In the account's currency.
 */
final readonly class BuyingPower
{
    public Money $left;

    /**
     * @param Money $balance what it was opened with, and what it has made since, after fees
     * @param Money $open    unrealised
     * @param Money $losses  unrealised, of the contracts that have lost; 0 or below
     * @param Money $margin  of the worst case in each contract
     * @param array<string, array{int, Money}> $contracts code → the most lots that may come to be open there, and their margin in its own currency
     */
    public function __construct(public Money $balance, public Money $open, Money $losses, public Money $margin, public array $contracts)
    {
        $this->left = $balance->plus($losses)->minus($margin);
    }
}
