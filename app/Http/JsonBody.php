<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use Lotrik\Desk\Refusal;
use Lotrik\Document\DoubledKey;

/** The request's body as a JSON object. */
final class JsonBody
{
    /**
     * @return array<array-key, mixed>
     *
     * @throws Refusal where it is none
     */
    public static function of(Request $request): array
    {
        $text = $request->getContent();
        $text = str_starts_with($text, "\xEF\xBB\xBF") ? substr($text, 3) : $text;
        try {
            $body = json_decode($text === '' ? '{}' : $text, true, 32, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw new Refusal('invalid-json', 'the body could not be read as JSON ('.lcfirst($e->getMessage()).'); send one JSON object');
        }
        if (! is_array($body) || (array_is_list($body) && $body !== [])) {
            throw new Refusal('invalid-json', 'the body is no JSON object; send one such as {"client_id": "…"}');
        }

        $doubled = $text === '' ? null : DoubledKey::in($text);
        if ($doubled !== null) {
            throw new Refusal('invalid-json', ($doubled[0] === '' ? 'the body' : $doubled[0])." has the key \"$doubled[1]\" twice; send each key once");
        }
        array_walk_recursive($body, static function (mixed $value): void {
            if (is_float($value) && ! is_finite($value)) {
                throw new Refusal('invalid-json', 'the body has a number that is too large to be one; send whole numbers and decimal strings');
            }
        });

        return $body;
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
