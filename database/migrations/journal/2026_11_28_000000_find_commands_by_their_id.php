<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

return new class extends Migration {
    protected $connection = 'journal';

    public function up(): void
    {
        // Whether a client id was ever used: asked for every command that the engine does not remember.
        DB::connection('journal')->statement("CREATE INDEX journal_command ON journal (account, command_id) WHERE type = 'command'");
    }
};
