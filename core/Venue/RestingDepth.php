<?php

declare(strict_types=1);

namespace Lotrik\Venue;

use Lotrik\Order\Side;

/** What rests in a market now, for those who ask how far an order would go. */
interface RestingDepth
{
    /**
     * Lots that an order of a side would meet, best price first. Those of the account itself are left out: it does not trade with
     * itself.
     *
     * @return list<array{int, int}> tick and lots
     */
    public function facing(Side $side, int $account): array;
}
