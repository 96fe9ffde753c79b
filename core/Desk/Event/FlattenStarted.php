<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The contract is being brought to flat: a state that lasts until nothing is open or working. With a reversal, what follows. */
final readonly class FlattenStarted implements Event
{
    public const TYPE = 'flatten-started';

    public function __construct(
        public int $account,
        public string $contract,
        /** @var array{side: string, quantity: int, plan: array<string, mixed>|null}|null */ public ?array $thenEnter = null,
    ) {}
}
