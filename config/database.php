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
        // Written by the engine alone; the web only reads it (Models/JournalModel).
        'journal' => $sqlite('journal.sqlite') + ['synchronous' => 'FULL'],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
