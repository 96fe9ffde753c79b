<?php

declare(strict_types=1);

return [
    'data' => env('LOTRIK_DATA'),
    'socket' => env('LOTRIK_DATA').'/engine.sock',
    'build' => env('LOTRIK_BUILD', 'unbuilt'),
    'host' => env('LOTRIK_HOST', '127.0.0.1'),
    'port' => (int) env('LOTRIK_PORT', 8000),
    'stream_port' => (int) env('LOTRIK_STREAM_PORT', 8001),
    // While the demo data are in use and the server listens on loopback only, one press enters the demo desk.
    'demo_entry' => in_array(env('LOTRIK_HOST', '127.0.0.1'), ['127.0.0.1', '::1', 'localhost'], true),
];
