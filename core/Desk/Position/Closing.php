<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

/** How some lots closed: at which tick, when (ms since 1970 UTC), through what, with how much slippage a lot. */
final readonly class Closing
{
    public function __construct(public int $tick, public int $at, public ClosedBy $how, public int $slippageTicks) {}
}
