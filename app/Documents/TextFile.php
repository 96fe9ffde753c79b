<?php

declare(strict_types=1);

namespace App\Documents;

use Lotrik\Document\InvalidLine;

/**
 * The lines of a file, as it is or as gzip (RFC 1952), read bit by bit: whatever it holds, it costs no more memory than
 * a line may be long. A gzip that is cut short, or whose checksum does not fit, is refused as such.
 */
final class TextFile
{
    public const MAX_LINE_BYTES = 65_536;

    /** Of what is read at once. A kilobyte of gzip can become a megabyte of text. */
    private const CHUNK = 1_024;

    private const PLAIN_CHUNK = 65_536;

    private const GZIP = "\x1f\x8b";

    public function __construct(private readonly string $path, private readonly string $name) {}

    /**
     * @return \Generator<int, string> without their line feeds
     *
     * @throws InvalidLine
     */
    public function lines(): \Generator
    {
        $rest = '';
        $number = 0;
        foreach ($this->texts() as $text) {
            $lines = explode("\n", $rest.$text);
            $rest = (string) array_pop($lines);
            foreach ($lines as $line) {
                $number++;
                yield $line;
            }
            if (strlen($rest) > self::MAX_LINE_BYTES) {
                throw InvalidLine::at($this->name, $number + 1, 'more than 64 KiB', 'at most 64 KiB a line');
            }
        }
        if ($rest !== '') {
            yield $rest;
        }
    }

    /** @return \Generator<int, string> */
    private function texts(): \Generator
    {
        $file = fopen($this->path, 'rb');
        if ($file === false) {
            throw InvalidLine::file($this->name, 'a file that cannot be read', 'one that can');
        }
        try {
            $start = (string) fread($file, 2);
            if ($start === self::GZIP) {
                yield from $this->inflated($file, $start);

                return;
            }
            yield $start;
            while (! feof($file)) {
                yield (string) fread($file, self::PLAIN_CHUNK);
            }
        } finally {
            fclose($file);
        }
    }

    /**
     * @param resource $file
     *
     * @return \Generator<int, string>
     */
    private function inflated($file, string $start): \Generator
    {
        $context = $this->context();
        $ended = false;
        while (($chunk = $start.(feof($file) ? '' : (string) fread($file, self::CHUNK))) !== '') {
            $start = '';
            if ($ended) {
                // Another member follows: together they are one file.
                if (! str_starts_with($chunk, self::GZIP[0])) {
                    throw InvalidLine::file($this->name, 'bytes behind the end of the gzip', 'its end');
                }
                $context = $this->context();
            }
            $before = inflate_get_read_len($context);
            $text = @inflate_add($context, $chunk);
            if ($text === false) {
                throw InvalidLine::file($this->name, 'a damaged gzip', 'one whose checksum fits');
            }
            yield $text;
            $ended = inflate_get_status($context) === ZLIB_STREAM_END;
            if ($ended) {
                $start = substr($chunk, inflate_get_read_len($context) - $before);
            }
        }
        if (! $ended) {
            throw InvalidLine::file($this->name, 'a gzip that is cut short', 'all of it');
        }
    }

    private function context(): \InflateContext
    {
        $context = inflate_init(ZLIB_ENCODING_GZIP);
        assert($context !== false);

        return $context;
    }
}
