<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\User;
use Illuminate\Console\Command;

/** Prints a bearer token for the demo account. */
final class TokenCommand extends Command
{
    protected $signature = 'lotrik:token {--data=}';

    protected $description = 'Print a bearer token for the demo account';

    public function handle(): int
    {
        try {
            $user = User::query()->where('demo', true)->first();
        } catch (\Illuminate\Database\QueryException) {
            $user = null;
        }
        if ($user === null) {
            fwrite(STDERR, config('lotrik.data').": found no demo account, expected a data directory that bin/start has set up\n");

            return 2;
        }
        $this->line($user->createToken('console')->plainTextToken);

        return 0;
    }
}
