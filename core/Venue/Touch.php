<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/**
 * The best prices at one moment and the lots there.
 *
 * @phpstan-type PackedTouch array{int|null, int, int|null, int}
 */
final readonly class Touch
{
    /** @param int|null $bid in ticks, as the ask; null where that side is empty */
    public function __construct(public ?int $bid, public int $bidLots, public ?int $ask, public int $askLots) {}

    /** @return PackedTouch bid, lots there, ask, lots there */
    public function pack(): array
    {
        return [$this->bid, $this->bidLots, $this->ask, $this->askLots];
    }

    /** @param PackedTouch $packed */
    public static function unpack(array $packed): self
    {
        return new self(...$packed);
    }
}
