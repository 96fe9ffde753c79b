<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** A tape that is not what its format says. */
final class TapeFault extends \DomainException
{
    public static function at(string $name, int $line, string $found, string $expected): self
    {
        return new self("$name line $line: found $found, expected $expected");
    }

    public static function noQuotes(string $name): self
    {
        return new self("$name: found no bid and ask columns, expected them, since the plan watches the exit quote");
    }
}
