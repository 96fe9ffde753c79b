<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** Starts: with what the last one has left, and where something is wrong with it. */
final class StartingTest extends TestCase
{
    public function testAStartOnOtherPortsIsNotAnsweredFromWhatWasCompiledForTheOldOnes(): void
    {
        $desk = RunningDesk::start('--paused');
        try {
            $trader = $desk->trader();
            self::assertStringContainsString(
                ":$desk->streamPort/",
                $trader->call('POST', 'stream-ticket', ['account' => $trader->account])->body['url'],
            );
            $compiled = glob("$desk->data/compiled/*");
            self::assertCount(1, $compiled ?: []);
            // Files that are new are not kept compiled: made to look older, they are by the next process.
            array_map(static fn(string $file): bool => touch($file, time() - 60), glob("$desk->data/cache/*.php") ?: []);
            $desk->killEngine();
            $desk->down();
            // Left by an older build.
            mkdir("$desk->data/compiled/older/below", 0o700, true);
            touch("$desk->data/compiled/older/below/file.bin");

            $free = stream_socket_server('tcp://127.0.0.1:0');
            assert($free !== false);
            $port = (int) substr((string) strrchr((string) stream_socket_get_name($free, false), ':'), 1);
            fclose($free);
            $desk->up('--paused', '--stream-port', (string) $port);
            self::assertStringContainsString(
                ":$port/",
                $trader->call('POST', 'stream-ticket', ['account' => $trader->account])->body['url'],
            );
            self::assertSame($compiled, glob("$desk->data/compiled/*"));
        } finally {
            $desk->stop();
        }
    }

    /** What a request takes is found once for each build; a list that has grown old beside it does no harm. */
    public function testTheWebServerHasItsClassesReadyBeforeTheFirstRequest(): void
    {
        $desk = RunningDesk::start('--paused');
        try {
            [$list] = glob("$desk->data/compiled/*/preload-*.php") ?: ['none'];
            $named = (string) file_get_contents($list);
            foreach ([
                'app/Http/Controllers/OrderController.php',
                'app/Engine/Rpc/EngineClient.php',
                'app/Http/Middleware/KeepSession.php',
            ] as $file) {
                self::assertStringContainsString("/$file'", $named);
            }
            self::assertStringNotContainsString('/app/Console/', $named);
            $desk->down();
            file_put_contents($list, str_replace('array_filter([', "array_filter(['/nowhere/Gone.php', ", $named));
            $desk->up('--paused');
            self::assertSame(200, $desk->trader()->call('GET', 'accounts')->status);
            self::assertStringContainsString('Gone.php', (string) file_get_contents($list), 'it is written once');
            self::assertDoesNotMatchRegularExpression('/warning|error/i', (string) file_get_contents("$desk->data/logs/web.log"));
        } finally {
            $desk->stop();
        }
    }

    public function testTheDataDirectoryIsOnesOwnAndOneStartHasIt(): void
    {
        $desk = RunningDesk::start('--paused');
        try {
            [$status, $line] = $desk->failsToStart('--paused');
            self::assertSame(2, $status);
            self::assertStringContainsString('found another engine running on it', $line);
            $desk->down();
            chmod($desk->data, 0o755);
            chmod("$desk->data/journal.sqlite", 0o644);
            $desk->up('--paused');
            clearstatcache();
            self::assertSame(0o700, fileperms($desk->data) & 0o777);
            foreach (glob("$desk->data/{*,logs/*}", GLOB_BRACE) ?: [] as $path) {
                self::assertSame(0, fileperms($path) & 0o077, $path);
            }
        } finally {
            $desk->stop();
        }
    }

    public function testAMarketsDamagedCheckpointStopsTheStartInOneLine(): void
    {
        $desk = RunningDesk::start('--paused');
        try {
            $desk->down();
            (new \PDO("sqlite:$desk->data/journal.sqlite"))->exec("UPDATE checkpoints SET body = x'00ff' WHERE name = 'market DULZ6'");
            [$status, $line] = $desk->failsToStart('--paused');
            self::assertSame(2, $status);
            self::assertMatchesRegularExpression(
                '/^journal: found a checkpoint of the market of DULZ6 that cannot be read, .*--fresh.*\n$/',
                $line,
            );
        } finally {
            $desk->stop();
        }
    }

    /** What an earlier life has ended with is not told for what ends this one before it can say anything. */
    public function testAFaultOfAnEarlierLifeIsNotToldAgain(): void
    {
        $long = sys_get_temp_dir().'/lotrik-'.str_repeat('x', 100);
        mkdir($long, 0o700);
        try {
            file_put_contents("$long/engine.words", 'an old fault');
            touch("$long/engine.words", time() - 60);
            exec(
                escapeshellarg(dirname(__DIR__, 2).'/bin/start').' --no-setup --port 18999 --stream-port 18998 --data '
                    .escapeshellarg($long).' 2>&1 >/dev/null',
                $lines,
                $status,
            );
            self::assertSame(2, $status);
            self::assertCount(1, $lines);
            self::assertStringContainsString('at most 107', $lines[0]);
        } finally {
            exec('rm -rf '.escapeshellarg($long));
        }
    }
}
