<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** Prints of one contract in time order: a tape, what was recorded lately, or a line that somebody drew. */
interface Prints
{
    /** @return iterable<int, TapePrint> */
    public function prints(): iterable;

    /** Whether bid and ask come with them; known once reading has begun. */
    public function hasQuotes(): bool;
}
