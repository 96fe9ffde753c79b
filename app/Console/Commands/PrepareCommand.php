<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\FaultLine;
use App\Demo\KestrelBay;
use App\Models\EntryLink;
use App\Models\StoredPlan;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** Brings both databases of a data directory up to date, puts the demo user and plans in, and prints an entry link. */
final class PrepareCommand extends Command
{
    protected $signature = 'lotrik:prepare {--data=}';

    protected $description = 'Prepare a data directory (bin/start does this)';

    public function handle(): int
    {
        try {
            return $this->prepare();
        } catch (\Throwable $fault) {
            $this->line(FaultLine::of($fault, (string) config('lotrik.data')));

            return 2;
        }
    }

    private function prepare(): int
    {
        config(['database.connections.journal.pragmas' => []]);
        foreach (['app', 'journal'] as $connection) {
            $file = (string) config("database.connections.$connection.database");
            is_file($file) || touch($file);
        }
        $this->migrate('app');
        // With the note that it was done, or not at all: a kill in between would leave tables that the next start could not
        // read. Not so for the web's own, whose foreign keys must be let go while a table is made anew, which no transaction does.
        DB::connection('journal')->transaction(fn() => $this->migrate('journal'));
        $user = User::query()->firstOrCreate(
            ['email' => 'demo@kestrel-bay.invalid'],
            ['name' => 'Demo trader', 'password' => bin2hex(random_bytes(16)), 'demo' => true],
        );
        if (StoredPlan::query()->doesntExist()) {
            foreach (KestrelBay::plans() as $i => $document) {
                StoredPlan::query()->create(['position' => $i, 'document' => $document]);
            }
        }
        $this->callSilently('config:cache');
        $this->callSilently('route:cache');
        $this->callSilently('event:cache');
        $this->line('http://'.config('lotrik.host').':'.config('lotrik.port').'/enter/'.EntryLink::issue($user));

        return 0;
    }

    private function migrate(string $connection): void
    {
        $this->callSilently('migrate', ['--force' => true, '--database' => $connection, '--path' => "database/migrations/$connection"]);
    }
}
