<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** A text that is no valid price of a contract, and what would be one. */
abstract class InvalidPrice extends \DomainException
{
    /** @param string $expected for messages of the form "found …, expected …" */
    protected function __construct(string $message, public readonly string $expected)
    {
        parent::__construct($message);
    }
}
