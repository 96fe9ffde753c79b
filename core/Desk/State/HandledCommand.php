<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

/** What is remembered of a command that was taken, by its client id. */
final readonly class HandledCommand
{
    /** @param array<string, mixed> $answer */
    public function __construct(public string $op, public string $fingerprint, public array $answer) {}

    /** Tens of thousands of them are kept: one string each. */
    public function pack(): string
    {
        return json_encode([$this->op, $this->fingerprint, $this->answer], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
    }

    public static function unpack(string $packed): self
    {
        /** @var array{string, string, array<string, mixed>} $fields */
        $fields = json_decode($packed, true, 512, JSON_THROW_ON_ERROR);

        return new self(...$fields);
    }
}
