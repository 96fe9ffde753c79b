<?php

declare(strict_types=1);

namespace App\Demo\Scene;

/**
 * What an engine had in its journal and its markets at a certain moment, to be put into a new data directory as if that
 * moment were now. It ships with the product, so its file holds plain values only; events stand in it as a journal has
 * them, with their versions, and later builds read them as they read an old journal.
 *
 * It has several moments to choose from, some seconds apart: times move by whole minutes, and what is nearest to now is taken.
 *
 * An event: at, client id of its command, type, version, body. A moment: when (ms since 1970 UTC) and at which step of the markets; contract → its market's checkpoint and its closed
 * bars of a minute, JSON; kind → contract → number of the newest that is remembered by then.
 *
 * @phpstan-type SceneEvent array{int, string|null, string, int, string}
 * @phpstan-type Moment array{at: int, step: int, markets: array<string, string>, bars: array<string, string>, newest: array<string, array<string, int>>}
 */
final readonly class Scene
{
    private const FORMAT = 'lotrik.scene/1';

    /**
     * @param int                      $seed      that the markets' flow began with
     * @param list<string>             $contracts codes in the order in which the demo lists them
     * @param list<list<SceneEvent>>   $turns     events in order, those of one turn together
     * @param non-empty-list<Moment>   $moments   within one minute, in order
     * @param list<array{string, string, int, string}> $memory contract, kind, number of the newest, packed; oldest first
     * @param list<array{string, int, int, string, string, int}> $levels contract, low, high, name, tone, since (ms)
     */
    public function __construct(
        public int $seed,
        public array $contracts,
        public array $turns,
        public array $moments,
        public array $memory,
        public array $levels,
    ) {}

    public static function file(): string
    {
        return dirname(__DIR__, 3).'/resources/demo/morning.scene';
    }

    public function write(string $path): void
    {
        file_put_contents($path, (string) gzencode(serialize(['format' => self::FORMAT] + get_object_vars($this)), 9));
    }

    /** @throws \RuntimeException for a file that is none */
    public static function read(string $path): self
    {
        $text = @gzdecode((string) @file_get_contents($path));
        $fields = $text === false ? null : @unserialize($text, ['allowed_classes' => false]);
        if (! is_array($fields) || ($fields['format'] ?? null) !== self::FORMAT) {
            throw new \RuntimeException("$path: found a file that is no scene, expected one in the format ".self::FORMAT);
        }
        unset($fields['format']);

        return new self(...$fields);
    }
}
