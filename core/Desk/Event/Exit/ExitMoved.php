<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;
use Lotrik\Order\Role;

/** The trader moved a stop or target whose order is on its way: it goes to the level, in ticks, as soon as the answer is here. */
final readonly class ExitMoved implements Event
{
    public const TYPE = 'exit-moved';

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        public int $portion,
        public int $group,
        public Role $role,
        public int $level,
    ) {}
}
