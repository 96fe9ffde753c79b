<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Refusal\Refusal;

/** One reason why something may not be: it names the figure, the limit and what would pass. */
interface Rule
{
    public function refuse(Proposal $proposal): ?Refusal;
}
