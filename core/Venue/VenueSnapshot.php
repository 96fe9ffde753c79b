<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/** What a venue holds for the traders at one moment. */
final readonly class VenueSnapshot
{
    /**
     * @param array<int, WorkingOrder> $working   by the desk's order id
     * @param array<int, int>          $positions account → net lots; an account that is not in it has none
     */
    public function __construct(public array $working, public array $positions) {}
}
