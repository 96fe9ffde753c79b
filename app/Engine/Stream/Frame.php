<?php

declare(strict_types=1);

namespace App\Engine\Stream;

/** One server-sent event. Source: WHATWG HTML, section 9.2 (server-sent events), the event stream format. */
final class Frame
{
    /** @param array<array-key, mixed> $data */
    public static function of(string $event, array $data, ?int $id = null): string
    {
        return ($id === null ? '' : "id: $id\n")."event: $event\ndata: ".json_encode(
            $data,
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
        )."\n\n";
    }
}
