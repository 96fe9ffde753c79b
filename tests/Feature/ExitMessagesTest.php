<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Console\ExitMessage;
use App\Console\ExitMessageFile;
use App\Engine\Journal\Journal;
use App\Engine\Journal\JournalDamaged;
use Lotrik\Tools\Setup;
use PHPUnit\Framework\TestCase;
use Tests\Support\JournalFile;

require_once __DIR__.'/../../tools/setup.php';

/** What ends a process is said in one line that names the place, what was found, and what can be done. */
final class ExitMessagesTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/lotrik-faults-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /** @param callable(string): mixed $do given a path for a database */
    private function fault(callable $do): \Throwable
    {
        try {
            $do("$this->folder/journal.sqlite");
        } catch (\Throwable $fault) {
            return $fault;
        }
        self::fail('nothing was thrown');
    }

    private static function open(string $path): \PDO
    {
        return new \PDO("sqlite:$path");
    }

    public function testAFullDisk(): void
    {
        $fault = $this->fault(static function (string $path): void {
            $pdo = self::open($path);
            $pdo->exec('CREATE TABLE t (body TEXT); PRAGMA max_page_count = 4;');
            $pdo->prepare('INSERT INTO t VALUES (?)')->execute([str_repeat('x', 100_000)]);
        });
        self::assertSame(
            "$this->folder/journal.sqlite: found no room to write, expected some; free space on its disk and start again",
            ExitMessage::of($fault, $this->folder),
        );
        $response = \App\Http\Problem::of($fault)->response();
        self::assertSame(503, $response->getStatusCode(), 'whoever asked asks again');
        self::assertStringContainsString('"outcome-unknown"', (string) $response->getContent());
    }

    /** PHP asks nobody when its memory is used up: what is left in its hands is the last error. */
    public function testMemoryThatIsUsedUp(): void
    {
        $last = ['type' => E_ERROR, 'message' => 'Allowed memory size of 1073741824 bytes exhausted (tried to allocate 64 bytes)', 'file' => '/a/Depth.php', 'line' => 7];
        self::assertStringStartsWith(
            'Lotrik itself: found its memory of 1024 MB used up in Depth.php:7, expected less; nothing that was acknowledged is lost',
            (string) ExitMessage::ofNoMemory($last, $this->folder),
        );
        self::assertNull(ExitMessage::ofNoMemory(null, $this->folder));
        self::assertNull(ExitMessage::ofNoMemory(['message' => 'Uncaught Error'] + $last, $this->folder));
        $script = 'require "vendor/autoload.php"; '
            .'(new ReflectionMethod(App\Console\Commands\EngineCommand::class, "tellOfNoMemory"))->invoke(null, new App\Console\ExitMessageFile($argv[1]), "data");'
            .'$all = []; while (true) { $all[] = str_repeat("x", 100_000); }';
        exec(escapeshellarg(PHP_BINARY).' -d memory_limit=16M -r '.escapeshellarg($script)." $this->folder/words 2>/dev/null", $out, $status);
        self::assertSame(255, $status);
        self::assertStringContainsString('found its memory of 16 MB used up', (string) file_get_contents("$this->folder/words"));
    }

    public function testADatabaseThatCannotBeOpened(): void
    {
        mkdir("$this->folder/journal.sqlite");
        $line = ExitMessage::of($this->fault(fn(): Journal => JournalFile::open($this->folder)), $this->folder);
        self::assertStringContainsString('journal.sqlite: found a file or directory that cannot be written', $line);
        self::assertStringContainsString('its permissions', $line);
    }

    public function testADatabaseThatIsDamaged(): void
    {
        file_put_contents("$this->folder/journal.sqlite", str_repeat('no database ', 5_000));
        $fault = $this->fault(fn(): Journal => JournalFile::open($this->folder));
        self::assertInstanceOf(JournalDamaged::class, $fault);
        self::assertStringContainsString('put the data directory back from a copy', ExitMessage::of($fault, $this->folder));
    }

    public function testADatabaseThatIsHeldMayBeFreeAgain(): void
    {
        $fault = $this->fault(static function (string $path): void {
            $holder = self::open($path);
            $holder->exec('CREATE TABLE t (a); BEGIN EXCLUSIVE;');
            $pdo = self::open($path);
            $pdo->exec('PRAGMA busy_timeout = 0; INSERT INTO t VALUES (1)');
        });
        self::assertTrue(ExitMessage::mayPass($fault));
        self::assertStringContainsString('found it locked by another process', ExitMessage::of($fault, $this->folder));
    }

    public function testAFaultOfOurOwnIsOneLineToo(): void
    {
        $line = ExitMessage::of(new \LogicException("first\nsecond"), $this->folder);
        self::assertStringStartsWith('Lotrik itself: found LogicException (first second) in ExitMessagesTest.php:', $line);
    }

    /** On a full disk a file can be written over, but does not grow. */
    public function testTheMessageTakesNoRoom(): void
    {
        $words = new ExitMessageFile("$this->folder/engine.words");
        $before = filesize("$this->folder/engine.words");
        $words->say('a disk that is full');
        clearstatcache();
        self::assertSame($before, filesize("$this->folder/engine.words"));
        self::assertSame('a disk that is full', trim((string) file_get_contents("$this->folder/engine.words")));
        new ExitMessageFile("$this->folder/engine.words");
        self::assertSame('', trim((string) file_get_contents("$this->folder/engine.words")), 'another life has said nothing yet');
    }

    public function testAPageThatIsNotAllThereIsNotServed(): void
    {
        mkdir("$this->folder/public/build/assets", 0o700, true);
        $setup = Setup::at($this->folder);
        self::assertFalse($setup->isPageWhole(), 'no manifest');
        file_put_contents("$this->folder/public/build/manifest.json", '{"resources/js/app.tsx": {"file": "assets/app.js"}}');
        self::assertFalse($setup->isPageWhole(), 'no script');
        file_put_contents("$this->folder/public/build/assets/app.js", 'all of it');
        self::assertTrue($setup->isPageWhole());
        file_put_contents("$this->folder/public/build/.lotrik-built", 'another hash');
        self::assertFalse($setup->isPageWhole(), 'a script that was changed since it was built');
        file_put_contents("$this->folder/public/build/manifest.json", '{"resources/js');
        self::assertFalse($setup->isPageWhole(), 'a manifest that is cut');
    }
}
