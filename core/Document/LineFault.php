<?php

declare(strict_types=1);

namespace Lotrik\Document;

/** A file of lines that is not what its format says: which line, what was found, what was expected. */
final class LineFault extends \DomainException
{
    public static function at(string $name, int $line, string $found, string $expected): self
    {
        return new self("$name line $line: found $found, expected $expected");
    }
}
