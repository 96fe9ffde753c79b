<?php

declare(strict_types=1);

$sqlite = static fn(string $file): array => [
    'driver' => 'sqlite',
    'database' => env('LOTRIK_DATA').'/'.$file,
    'prefix' => '',
    'foreign_key_constraints' => true,
    'busy_timeout' => 5000,
    'journal_mode' => 'WAL',
];

return [
    'default' => 'app',
    'connections' => [
        // The web's own: users, sessions, tokens, plans.
        'app' => $sqlite('app.sqlite') + ['synchronous' => 'NORMAL'],
        // Written by the engine alone, over a connection of its own; over this one it can only be read (but for its migrations).
        'journal' => $sqlite('journal.sqlite') + ['synchronous' => 'FULL', 'pragmas' => ['query_only' => 1]],
        // The engine's. After a checkpoint of SQLite's own the write-ahead log is cut back to this many bytes.
        'engine' => $sqlite('journal.sqlite') + ['synchronous' => 'FULL', 'pragmas' => ['journal_size_limit' => 8_388_608]],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
