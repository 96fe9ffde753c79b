<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Demo\Scene\Scene;
use App\Demo\Scene\SceneMaker;
use Illuminate\Console\Command;

/** Makes the morning that the demo opens with, and the week of the second account. */
final class SceneCommand extends Command
{
    protected $signature = 'lotrik:scene {--seed=1}';

    protected $description = 'Run desk and markets by a script and write what the demo opens with (minutes)';

    public function handle(): int
    {
        ini_set('memory_limit', '4G');
        $began = microtime(true);
        $scene = (new SceneMaker((int) $this->option('seed')))->make(
            fn(string $words) => $this->line(sprintf('%4d s  %s', microtime(true) - $began, $words)),
        );
        $scene->write(Scene::file());
        $this->line(
            sprintf(
                '%s: %.2f MB, %d turns, %d s', Scene::file(), filesize(Scene::file()) / 1e6, count($scene->turns), microtime(true) - $began,
            ),
        );

        return 0;
    }
}
