<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Documents\TextFile;
use Lotrik\Document\InvalidLine;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Files of lines, gzip or not: whatever they hold, memory stays small and what is wrong is said. */
final class TextFileTest extends TestCase
{
    private string $path = '';

    protected function setUp(): void
    {
        $this->path = (string) tempnam(sys_get_temp_dir(), 'lines');
    }

    protected function tearDown(): void
    {
        unlink($this->path);
    }

    /** @return list<string> */
    private function read(string $bytes): array
    {
        file_put_contents($this->path, $bytes);

        return iterator_to_array((new TextFile($this->path, 'tape'))->lines(), false);
    }

    public function testPlainAndGzipReadTheSame(): void
    {
        $lines = array_map(static fn(int $i): string => "line $i ".str_repeat('x', $i % 300), range(1, 5_000));
        $text = implode("\n", $lines)."\n";
        self::assertSame($lines, $this->read($text));
        self::assertSame($lines, $this->read((string) gzencode($text)));
        self::assertSame(
            $lines,
            $this->read(gzencode(substr($text, 0, 70_001)).gzencode(substr($text, 70_001))),
            'gzip in several members is one file',
        );
        self::assertSame(['no line feed at the end'], $this->read('no line feed at the end'));
        self::assertSame([], $this->read(''));
        self::assertSame(['a'], $this->read('a'));
    }

    /** @return iterable<string, array{string, string}> */
    public static function damages(): iterable
    {
        $whole = (string) gzencode(str_repeat("2026-11-02T09:30:00.000Z,DULZ6,412.50,1,buy\n", 4_000));
        yield 'cut in the middle' => [substr($whole, 0, intdiv(strlen($whole), 2)), 'cut short'];
        yield 'cut by its last byte' => [substr($whole, 0, -1), 'cut short'];
        yield 'only its first bytes' => [substr($whole, 0, 4), 'cut short'];
        yield 'a wrong checksum' => [substr($whole, 0, -8).chr(ord($whole[-8]) ^ 1).substr($whole, -7), 'damaged gzip'];
        yield 'a wrong length' => [substr($whole, 0, -4).chr(ord($whole[-4]) ^ 1).substr($whole, -3), 'damaged gzip'];
        yield 'a flipped bit' => [substr($whole, 0, 30).chr(ord($whole[30]) ^ 16).substr($whole, 31), 'gzip'];
        yield 'more behind its end' => [$whole.'and more', 'behind the end'];
        yield 'a line that never ends' => [str_repeat('0', 200_000), 'more than 64 KiB'];
    }

    #[DataProvider('damages')]
    public function testWhatIsWrongIsSaid(string $bytes, string $says): void
    {
        $this->expectException(InvalidLine::class);
        $this->expectExceptionMessage($says);
        $this->read($bytes);
    }

    public function testAnEndlessLineCostsNoMemory(): void
    {
        $context = deflate_init(ZLIB_ENCODING_GZIP);
        assert($context !== false);
        $file = fopen($this->path, 'w');
        assert($file !== false);
        for ($i = 0; $i < 100; $i++) {
            fwrite($file, (string) deflate_add($context, str_repeat("\0", 1_048_576), ZLIB_NO_FLUSH));
        }
        fwrite($file, (string) deflate_add($context, '', ZLIB_FINISH));
        fclose($file);
        $before = memory_get_peak_usage();
        try {
            iterator_to_array((new TextFile($this->path, 'tape'))->lines(), false);
            self::fail('it was read');
        } catch (InvalidLine $fault) {
            self::assertStringContainsString('more than 64 KiB', $fault->getMessage());
        }
        self::assertLessThan(8_000_000, memory_get_peak_usage() - $before);
    }
}
