<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** A start takes compiled PHP from the last one, but never an answer of it. */
final class StartingTest extends TestCase
{
    public function testAStartOnOtherPortsIsNotAnsweredFromWhatWasCompiledForTheOldOnes(): void
    {
        $desk = RunningDesk::start('--paused');
        try {
            $trader = $desk->trader();
            self::assertStringContainsString(":$desk->streamPort/", $trader->call('POST', 'stream-ticket', ['account' => $trader->account])->body['url']);
            $compiled = glob("$desk->data/compiled/*");
            self::assertCount(1, $compiled ?: []);
            // Files that are new are not kept compiled: made to look older, they are by the next process.
            array_map(static fn(string $file): bool => touch($file, time() - 60), glob("$desk->data/cache/*.php") ?: []);
            $desk->killEngine();
            $desk->down();
            // Left by an older build.
            mkdir("$desk->data/compiled/older/below", 0700, true);
            touch("$desk->data/compiled/older/below/file.bin");

            $free = stream_socket_server('tcp://127.0.0.1:0');
            assert($free !== false);
            $port = (int) substr((string) strrchr((string) stream_socket_get_name($free, false), ':'), 1);
            fclose($free);
            $desk->up('--paused', '--stream-port', (string) $port);
            self::assertStringContainsString(":$port/", $trader->call('POST', 'stream-ticket', ['account' => $trader->account])->body['url']);
            self::assertSame($compiled, glob("$desk->data/compiled/*"));
        } finally {
            $desk->stop();
        }
    }
}
