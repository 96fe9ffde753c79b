<?php

declare(strict_types=1);

namespace Lotrik\Document;

use Brick\Math\BigDecimal;

/**
 * One object of a JSON document, read field by field; every fault names its JSON pointer (RFC 6901).
 *
 * Fields that nobody asked for are faults too: {@see done()}.
 */
final class Node
{
    private const BYTE_ORDER_MARK = "\xEF\xBB\xBF";

    /** @var array<string, true> */
    private array $read = [];

    /** @param array<array-key, mixed> $fields */
    private function __construct(private readonly array $fields, public readonly string $pointer) {}

    /** @throws InvalidDocument where the text is no JSON object */
    public static function parse(string $json): self
    {
        $json = str_starts_with($json, self::BYTE_ORDER_MARK) ? substr($json, 3) : $json;
        try {
            $value = json_decode($json, true, 64, JSON_THROW_ON_ERROR | JSON_BIGINT_AS_STRING);
        } catch (\JsonException $e) {
            throw InvalidDocument::at('', 'text that is no JSON ('.lcfirst($e->getMessage()).')', 'a JSON object');
        }

        $doubled = DoubledKey::in($json);
        if ($doubled !== null) {
            throw InvalidDocument::at($doubled[0], "the key \"$doubled[1]\" twice", 'each key once');
        }

        return self::of($value);
    }

    public static function of(mixed $value, string $pointer = ''): self
    {
        if (! is_array($value) || (array_is_list($value) && $value !== [])) {
            throw InvalidDocument::at($pointer, InvalidDocument::show($value), 'an object');
        }

        return new self($value, $pointer);
    }

    public function has(string $field): bool
    {
        return array_key_exists($field, $this->fields);
    }

    public function raw(string $field): mixed
    {
        $this->read[$field] = true;

        return $this->fields[$field] ?? null;
    }

    public function fault(string $field, string $expected): InvalidDocument
    {
        $found = $this->has($field) ? InvalidDocument::show($this->fields[$field]) : 'nothing';

        return InvalidDocument::at($this->at($field), $found, $expected);
    }

    public function string(string $field, ?string $default = null, int $most = 200): string
    {
        $value = $this->raw($field) ?? $default;
        if (! is_string($value) || $value === '' || mb_strlen($value) > $most || ! mb_check_encoding($value, 'UTF-8')) {
            throw $this->fault($field, "a text of 1 to $most characters");
        }

        return $value;
    }

    public function optionalString(string $field, int $most = 200): ?string
    {
        return $this->raw($field) === null ? null : $this->string($field, null, $most);
    }

    public function int(string $field, int $least, int $most): int
    {
        $value = $this->raw($field);
        if (! is_int($value) || $value < $least || $value > $most) {
            throw $this->fault($field, "a whole number from $least to $most");
        }

        return $value;
    }

    public function optionalInt(string $field, int $least, int $most): ?int
    {
        return $this->raw($field) === null ? null : $this->int($field, $least, $most);
    }

    public function bool(string $field, bool $default): bool
    {
        $value = $this->raw($field) ?? $default;
        if (! is_bool($value)) {
            throw $this->fault($field, 'true or false');
        }

        return $value;
    }

    /** A decimal string such as "412.50"; JSON numbers are refused, since they would be read as floats. */
    public function decimal(string $field, bool $positive = true): BigDecimal
    {
        $value = $this->raw($field);
        $expected = ($positive ? 'a positive decimal' : 'a decimal')
            .' as a string, such as "2.50", with at most 15 digits before the point and 9 behind it';
        if (! is_string($value) || ! preg_match('/^-?\d{1,15}(\.\d{1,9})?$/', $value)) {
            throw $this->fault($field, $expected);
        }
        $decimal = BigDecimal::of($value);
        if ($positive && $decimal->isNegativeOrZero()) {
            throw $this->fault($field, $expected);
        }

        return $decimal;
    }

    /** A moment in ISO 8601, UTC, such as "2026-11-02T14:30:00.000Z", in ms since 1970. */
    public function optionalTime(string $field): ?int
    {
        $value = $this->raw($field);
        if ($value === null) {
            return null;
        }
        $time = is_string($value) && preg_match('/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/', $value)
            ? date_create_immutable($value)
            : false;
        if ($time === false || ! str_starts_with((string) $value, $time->format('Y-m-d\TH:i:s'))) {
            throw $this->fault($field, 'a time in UTC such as "2026-11-02T14:30:00.000Z"');
        }

        return (int) $time->format('Uv');
    }

    public function optionalDecimal(string $field, bool $positive = true): ?BigDecimal
    {
        return $this->raw($field) === null ? null : $this->decimal($field, $positive);
    }

    /**
     * @template T of \BackedEnum
     *
     * @param class-string<T> $enum
     * @param T|null          $default
     *
     * @return T
     */
    public function enum(string $field, string $enum, ?\BackedEnum $default = null): \BackedEnum
    {
        $value = $this->raw($field);
        if ($value === null && $default !== null) {
            return $default;
        }
        $case = is_string($value) ? $enum::tryFrom($value) : null;
        if ($case === null) {
            throw $this->fault($field, 'one of '.implode(', ', array_map(static fn(\BackedEnum $c) => (string) $c->value, $enum::cases())));
        }

        return $case;
    }

    public function node(string $field): self
    {
        return self::of($this->raw($field), $this->at($field));
    }

    /** @return list<mixed> */
    public function list(string $field): array
    {
        $value = $this->raw($field);
        if (! is_array($value) || ! array_is_list($value)) {
            throw $this->fault($field, 'a list');
        }

        return $value;
    }

    public function at(string|int $field): string
    {
        return $this->pointer.'/'.str_replace(['~', '/'], ['~0', '~1'], (string) $field);
    }

    /** @throws InvalidDocument naming the first field that the format does not know */
    public function done(): void
    {
        foreach (array_keys($this->fields) as $field) {
            if (! isset($this->read[(string) $field])) {
                throw InvalidDocument::at($this->at($field), 'an unknown field', 'only '.implode(', ', array_keys($this->read)));
            }
        }
    }
}
