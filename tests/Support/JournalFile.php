<?php

declare(strict_types=1);

namespace Tests\Support;

use App\Engine\Journal\EngineConnection;
use App\Engine\Journal\Head;
use App\Engine\Journal\Journal;
use Illuminate\Database\Capsule\Manager;

/** The engine's journal without the application around it: one at a time, since Eloquent has one set of connections. */
final class JournalFile
{
    private static ?Manager $open = null;

    /** @param string $folder a prepared data directory */
    public static function open(string $folder, bool $hasHead = true): Journal
    {
        self::close();
        $settings = require dirname(__DIR__, 2).'/config/database.php';
        EngineConnection::register();
        self::$open = new Manager();
        self::$open->addConnection(['database' => "$folder/journal.sqlite"] + $settings['connections']['engine'], 'engine');
        self::$open->bootEloquent();

        return new Journal($hasHead ? new Head("$folder/journal.head") : null);
    }

    /** What has not been committed is gone, as when the process had been killed. */
    public static function close(): void
    {
        self::$open?->getConnection('engine')->disconnect();
        self::$open = null;
    }
}
