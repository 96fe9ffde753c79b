<?php

declare(strict_types=1);

namespace App\Http;

use App\Models\JournalRow;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;
use Lotrik\Refusal\Refusal;

/** A list, newest first, a page at a time: `next` is the cursor to send as `?cursor=`, null at the end. */
final class Page
{
    private const ROWS = 200;

    /**
     * @param Builder<covariant Model>    $rows
     * @param class-string<JsonResource> $resource that writes each of them
     */
    public static function of(Builder $rows, Request $request, string $resource): JsonResponse
    {
        $cursor = self::number($request, 'cursor');
        $key = $rows->getModel()->getKeyName();
        if ($cursor !== null) {
            $rows->where($key, '<', $cursor);
        }
        $found = $rows->orderByDesc($key)->limit(self::ROWS + 1)->get();
        $page = $found->take(self::ROWS);

        return new JsonResponse([
            'items' => $resource::collection($page)->resolve($request),
            'next' => $found->count() > self::ROWS ? (string) $page->last()?->getKey() : null,
            'sequence' => self::sequence(),
        ]);
    }

    public static function sequence(): int
    {
        return (int) JournalRow::query()->max('sequence');
    }

    public static function number(Request $request, string $name): ?int
    {
        $value = $request->query($name);
        if ($value === null) {
            return null;
        }
        if (! is_string($value) || ! preg_match('/^\d{1,15}$/', $value)) {
            throw Refusal::invalid($name, $value, 'a whole number');
        }

        return (int) $value;
    }
}
