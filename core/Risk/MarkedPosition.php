<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Position\Position;

/** A position in one contract, with the price that it is valued at and what protects it. */
final readonly class MarkedPosition
{
    /**
     * @param int|null     $mark    in ticks; null before any price
     * @param AtStops|null $atStops null where nobody asks what protects it
     */
    public function __construct(public Contract $contract, public Position $position, public ?int $mark, public ?AtStops $atStops = null) {}
}
