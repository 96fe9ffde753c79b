<?php

declare(strict_types=1);

namespace Lotrik\Logbook;

use Lotrik\Contract\Contract;
use Lotrik\Order\Side;

/** A fill that another program tells of. It moves no position here. */
final readonly class OutsideFill
{
    /**
     * @param int    $at  ms since 1970 UTC
     * @param string $key the same for the same fill in another file
     */
    public function __construct(
        public int $at,
        public Contract $contract,
        public Side $side,
        public int $quantity,
        public int $tick,
        public string $key,
    ) {}
}
