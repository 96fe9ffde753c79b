<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Exit;

use Lotrik\Desk\Event\Event;
use Lotrik\Order\Role;

/** The trader gave the lots of one portion a stop or a target that they had not. Level in ticks. */
final readonly class ExitSet implements Event
{
    public const TYPE = 'exit-set';

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
