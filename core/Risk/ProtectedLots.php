<?php

declare(strict_types=1);

namespace Lotrik\Risk;

/** Lots of a position that a live stop protects. */
final readonly class ProtectedLots
{
    /** @param int $stop its trigger, in ticks */
    public function __construct(public int $lots, public int $stop) {}
}
