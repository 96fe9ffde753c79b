<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;
use Lotrik\Order\Role;

/** The trader took a stop or target off whose order is on its way: it is cancelled as soon as the answer is here. */
final readonly class ExitTakenOff implements Event
{
    public const TYPE = 'exit-taken-off';

    public function __construct(
        public int $account,
        public string $contract,
        public int $entry,
        public int $portion,
        public int $group,
        public Role $role,
    ) {}
}
