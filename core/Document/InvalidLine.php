<?php

declare(strict_types=1);

namespace Lotrik\Document;

/** A file of lines that is not what its format says: which line, what was found, what was expected. */
final class InvalidLine extends \DomainException
{
    /** The file as a whole is not what it should be. */
    public static function file(string $name, string $found, string $expected): self
    {
        return new self("$name: found $found, expected $expected");
    }

    public static function at(string $name, int $line, string $found, string $expected): self
    {
        return new self("$name line $line: found $found, expected $expected");
    }
}
