<?php

declare(strict_types=1);

namespace Lotrik\Document;

/** A document that is not what its format says: where (JSON pointer), what was found, what was expected. */
final class InvalidDocument extends \DomainException
{
    private function __construct(public readonly string $pointer, string $message)
    {
        parent::__construct($message);
    }

    public static function at(string $pointer, string $found, string $expected): self
    {
        return new self($pointer, sprintf('%s: found %s, expected %s', $pointer === '' ? '(document)' : $pointer, $found, $expected));
    }

    /** A value as a reader of the message would write it, cut to a readable length. */
    public static function show(mixed $value): string
    {
        $text = match (true) {
            is_float($value) => 'the number with a fraction or exponent '.json_encode($value),
            $value === [] => 'nothing in it',
            is_array($value) => array_is_list($value) ? 'a list' : 'an object',
            default => (string) json_encode($value, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE),
        };

        return mb_strlen($text) > 80 ? mb_substr($text, 0, 77).'…' : $text;
    }
}
