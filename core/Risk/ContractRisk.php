<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\Money;

/** The part that one contract has in what an account has at risk. */
final readonly class ContractRisk
{
    /**
     * @param int   $lots net, positive for long
     * @param Money $open unrealised result, in the contract's currency
     */
    public function __construct(public int $lots, public OpenRisk $risk, public Money $open) {}
}
