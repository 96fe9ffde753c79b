<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

/** What a fill does to a position and its exits; see OrderFilled. */
final readonly class FillSplit
{
    /** @param array<string, mixed>|null $exits */
    public function __construct(
        public int $closes,
        public ?array $exits,
        public ?int $joins,
        public ?int $notLooser,
        public ?string $adjusted,
    ) {}
}
