<?php

declare(strict_types=1);

return [
    'driver' => 'file',
    'lifetime' => 60 * 24,
    'expire_on_close' => false,
    'encrypt' => false,
    'files' => storage_path('framework/sessions'),
    'lottery' => [2, 100],
    // Cookies ignore ports: a name of its own for each data directory lets several run side by side.
    'cookie' => 'lotrik_'.substr(hash('sha256', (string) env('LOTRIK_DATA')), 0, 10),
    'path' => '/',
    'domain' => null,
    'secure' => (bool) env('SESSION_SECURE_COOKIE', false),
    'http_only' => true,
    'same_site' => 'strict',
    'partitioned' => false,
];
