<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The venue left the order as it was. */
final readonly class ReplaceRefused implements OfOrder
{
    public const TYPE = 'replace-refused';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        public string $because,
        /** the venue's id of the execution report */
        public ?string $execution = null,
    ) {}

    public function order(): int
    {
        return $this->order;
    }

    public function execution(): ?string
    {
        return $this->execution;
    }
}
