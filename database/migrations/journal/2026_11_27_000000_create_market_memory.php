<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration {
    protected $connection = 'journal';

    public function up(): void
    {
        // The last prints and the depth history of each contract, in pieces; what is too old is taken out with each new one.
        DB::connection('journal')->statement(
            'CREATE TABLE market_memory (contract TEXT NOT NULL, kind TEXT NOT NULL, number INTEGER NOT NULL, body BLOB NOT NULL, '
                .'PRIMARY KEY (contract, kind, number)) WITHOUT ROWID',
        );
    }
};
