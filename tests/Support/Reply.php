<?php

declare(strict_types=1);

namespace Tests\Support;

/** What the API answered. */
final readonly class Reply
{
    /** @param array<array-key, mixed> $body */
    public function __construct(public int $status, public array $body, public string $type) {}

    public function code(): ?string
    {
        return $this->body['code'] ?? null;
    }
}
