<?php

declare(strict_types=1);

namespace Lotrik\Desk;

/** A command that the desk does not take: a code for programs, words that say what would be right, the field. */
final class Refusal extends \DomainException
{
    /** @param array<string, mixed> $facts further members of the problem, such as the lots that would be unprotected */
    public function __construct(
        public readonly string $problem,
        string $words,
        public readonly ?string $pointer = null,
        public readonly array $facts = [],
    ) {
        parent::__construct($words);
    }

    /** @return array{code: string, detail: string, pointer: string|null} */
    public function toArray(): array
    {
        return ['code' => $this->problem, 'detail' => $this->getMessage(), 'pointer' => $this->pointer] + $this->facts;
    }
}
