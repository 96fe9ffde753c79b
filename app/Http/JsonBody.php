<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use Lotrik\Document\DoubledKey;
use Lotrik\Refusal\Refusal;

/** The request's body as a JSON object. */
final class JsonBody
{
    private const MAX_BYTES = 262_144;

    private const MAX_FILE_BYTES = 8_388_608;

    /**
     * @param string|null $file the one field that holds the lines of a file; all other texts are one line each
     *
     * @return array<array-key, mixed>
     *
     * @throws Refusal where it is none
     */
    public static function of(Request $request, ?string $file = null): array
    {
        $text = $request->getContent();
        $most = $file === null ? self::MAX_BYTES : self::MAX_FILE_BYTES;
        if (strlen($text) > $most) {
            throw WebRefusal::bodyTooLarge(strlen($text), $most);
        }
        $text = str_starts_with($text, "\xEF\xBB\xBF") ? substr($text, 3) : $text;
        try {
            $body = json_decode($text === '' ? '{}' : $text, true, 32, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw WebRefusal::invalidJson('the body could not be read as JSON ('.lcfirst($e->getMessage()).')');
        }
        if (! is_array($body) || (array_is_list($body) && $body !== [])) {
            throw WebRefusal::invalidJson('the body is no JSON object');
        }

        $doubled = $text === '' ? null : DoubledKey::in($text);
        if ($doubled !== null) {
            throw WebRefusal::invalidJson(
                ($doubled[0] === '' ? 'the body' : $doubled[0])." has the key \"$doubled[1]\" twice",
                'send each key once',
            );
        }
        foreach ($body as $field => $value) {
            self::check($value, "/$field", $field === $file);
        }

        return $body;
    }

    private static function check(mixed $value, string $at, bool $isFile): void
    {
        if (
            preg_match('/[\x00-\x1f\x7f]/', $at) === 1
            || (is_string($value) && ! $isFile && preg_match('/[\x00-\x1f\x7f]/', $value) === 1)
        ) {
            throw WebRefusal::controlCharacters($at);
        }
        if (is_float($value) && ! is_finite($value)) {
            throw WebRefusal::invalidJson("$at has a number that is too large to be one", 'send whole numbers and decimal strings', $at);
        }
        foreach (is_array($value) ? $value : [] as $field => $inner) {
            self::check($inner, "$at/$field", false);
        }
    }

    /**
     * A fingerprint of what was sent, whatever the order of its fields: the same command again has the same one.
     *
     * @param array<array-key, mixed> $body
     */
    public static function fingerprint(string $what, array $body): string
    {
        return hash('sha256', $what."\n".json_encode(self::sorted($body), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));
    }

    private static function sorted(mixed $value): mixed
    {
        if (! is_array($value)) {
            return $value;
        }
        if (! array_is_list($value)) {
            ksort($value);
        }

        return array_map(self::sorted(...), $value);
    }
}
