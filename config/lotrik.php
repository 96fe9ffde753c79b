<?php

declare(strict_types=1);

$host = env('LOTRIK_HOST', '127.0.0.1');
$loopback = ['127.0.0.1', 'localhost', '[::1]'];
$isLocal = in_array($host, ['127.0.0.1', '::1', 'localhost'], true);

return [
    'data' => env('LOTRIK_DATA'),
    'socket' => env('LOTRIK_DATA').'/engine.sock',
    'build' => env('LOTRIK_BUILD', 'unbuilt'),
    'host' => $host,
    // The names that page and stream answer to.
    'names' => array_values(array_unique(array_filter([
        str_contains($host, ':') ? "[$host]" : $host, ...($isLocal ? $loopback : []), ...explode(',', (string) env('LOTRIK_NAMES', '')),
    ]))),
    'loopback' => $loopback,
    // Whether everybody may steer the practice market, or only the first user.
    'open_practice' => (bool) env('LOTRIK_OPEN_PRACTICE', false),
    'port' => (int) env('LOTRIK_PORT', 8000),
    'stream_port' => (int) env('LOTRIK_STREAM_PORT', 8001),
    // Of one user; what protects, closes or cancels does not count.
    'calls_a_minute' => (int) env('LOTRIK_CALLS_A_MINUTE', 6_000),
    // While the demo data are in use and the server listens on loopback only, one press enters the demo desk.
    'demo_entry' => $isLocal,
];
