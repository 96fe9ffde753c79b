<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitMessage;
use App\Console\PreloadList;
use App\Demo\KestrelBay;
use App\Demo\Scene\Scene;
use App\Demo\Scene\SceneLoader;
use App\Engine\Journal\EngineConnection;
use App\Engine\Journal\Head;
use App\Models\EntryLinkRow;
use App\Models\JournalRow;
use App\Models\LevelRow;
use App\Models\PlanRow;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Support\Facades\DB;

/** Brings both databases of a data directory up to date, puts the demo user and plans in, and prints an entry link. */
final class PrepareCommand extends Command
{
    protected $signature = 'lotrik:prepare {--data=} '
        .'{--preload= : file that is to name the classes of a request, where it does not yet} '
        .'{--morning : where there is no journal yet, a market that has traded since the morning}';

    protected $description = 'Prepare a data directory (bin/start does this)';

    public function handle(Kernel $kernel): int
    {
        try {
            return $this->prepare($kernel);
        } catch (\Throwable $fault) {
            $this->line(ExitMessage::of($fault, (string) config('lotrik.data')));

            return 2;
        }
    }

    private function prepare(Kernel $kernel): int
    {
        foreach (['app', 'journal'] as $connection) {
            $this->migrate($connection);
        }
        $user = User::query()->firstOrCreate(
            ['email' => 'demo@kestrel-bay.invalid'],
            ['name' => 'Demo trader', 'password' => bin2hex(random_bytes(16)), 'demo' => true],
        );
        if (PlanRow::query()->doesntExist()) {
            foreach (KestrelBay::plans() as $i => $document) {
                PlanRow::query()->create(['position' => $i, 'document' => $document]);
            }
        }
        if ($this->option('morning')) {
            $this->openOnTheMorning($user);
        }
        $this->callSilently('config:cache');
        $this->callSilently('route:cache');
        $this->callSilently('event:cache');
        $preload = (string) $this->option('preload');
        if ($preload !== '' && ! is_file($preload)) {
            PreloadList::write($kernel, $user, $preload);
        }
        $this->line('http://'.config('lotrik.host').':'.config('lotrik.port').'/enter/'.EntryLinkRow::issue($user));

        return 0;
    }

    private function openOnTheMorning(User $user): void
    {
        // A journal that was acknowledged and has lost its rows is for the engine to say, and not to be filled with something else.
        if (JournalRow::query()->exists() || (new Head(config('lotrik.data').'/journal.head'))->read() !== null) {
            return;
        }
        EngineConnection::register();
        $loader = new SceneLoader(Scene::read(Scene::file()), (int) (microtime(true) * 1000));
        if ($loader->load((string) config('lotrik.build'))) {
            foreach ($loader->levels() as $level) {
                LevelRow::query()->create(['user_id' => $user->id] + $level);
            }
        }
        DB::purge(EngineConnection::NAME);
    }

    /**
     * With the note that it was done, or not at all: a kill in between would leave tables that the next start could not read.
     * Foreign keys are let go before, since no transaction does that: a table that is made anew would take with it what points to it.
     */
    private function migrate(string $connection): void
    {
        $settings = config("database.connections.$connection");
        is_file((string) $settings['database']) || touch((string) $settings['database']);
        config(["database.connections.$connection" => ['foreign_key_constraints' => false, 'pragmas' => []] + $settings]);
        DB::purge($connection);
        DB::connection($connection)->transaction(fn() => $this->callSilently('migrate', [
            '--force' => true, '--database' => $connection, '--path' => "database/migrations/$connection",
        ]));
        config(["database.connections.$connection" => $settings]);
        DB::purge($connection);
    }
}
