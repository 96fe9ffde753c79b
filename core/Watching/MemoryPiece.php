<?php

declare(strict_types=1);

namespace Lotrik\Watching;

/** Some prints or columns of one contract, packed, that followed each other. */
final readonly class MemoryPiece
{
    /**
     * @param string $kind   what is in it: `prints`, or the length of its columns
     * @param int    $number of the newest item
     */
    public function __construct(public string $kind, public int $number, public string $body) {}
}
