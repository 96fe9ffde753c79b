<?php

declare(strict_types=1);

namespace Tests\Feature;

use Lotrik\Tools\SupervisedProcess;
use PHPUnit\Framework\TestCase;
use Tests\Support\Wait;

require_once __DIR__.'/../../tools/supervisor.php';

/** When bin/start takes a process for dead. */
final class SupervisedProcessTest extends TestCase
{
    private string $folder;

    private ?SupervisedProcess $process = null;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/lotrik-supervised-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        $this->process?->stop();
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /** A slow machine takes long to load the classes, and has no worker meanwhile: ended then, it would never come up. */
    public function testOneThatStillComesUpIsNotDeadAndOneThatLostAWorkerIs(): void
    {
        $script = 'until [ -e go ]; do sleep 0.02; done; sleep 600 & echo $! > first; sleep 600 & echo $! > second; wait';
        $since = microtime(true);
        $process = $this->process = new SupervisedProcess('web', ['sh', '-c', $script], $this->folder, [], "$this->folder/log", 2);
        $process->start();
        // The waits inside the script are children too: it is looked at while there is one and while there is none.
        Wait::until(function () use ($process, $since): bool {
            self::assertTrue($process->isWhole(), 'it still comes up');

            return microtime(true) > $since + 2.5;
        }, 'longer than a quick machine takes');
        touch("$this->folder/go");
        Wait::until(fn(): bool => is_file("$this->folder/second") && (int) file_get_contents("$this->folder/second") > 0, 'both workers');
        self::assertTrue($process->isWhole());
        posix_kill((int) file_get_contents("$this->folder/first"), SIGKILL);
        Wait::until(fn(): bool => ! $process->isWhole(), 'the loss of a worker to be seen');
        self::assertTrue($process->isAlive());
    }
}
