<?php

declare(strict_types=1);

namespace Lotrik\Desk\Order;

/** An order's place in a group of two made by the trader. */
final readonly class Tie
{
    /**
     * @param int  $group number that both share
     * @param int  $other the other order
     * @param bool $oco   FIX ContingencyType 1, a fill or trigger of one cancels the other; else 3, a fill of one lowers the other
     */
    public function __construct(public int $group, public int $other, public bool $oco) {}
}
