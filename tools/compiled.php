<?php

declare(strict_types=1);

namespace Lotrik\Tools;

/** Compiled PHP kept in the data directory, one folder for each build: a process that has died is back without compiling all of it again. */
final class CompiledCode
{
    /** Longer than anybody's engine runs, in s: a file that is changed meanwhile is not mixed with what runs. */
    private const NEVER = 31_536_000;

    /**
     * The options of PHP that keep it. A file is taken from there only where its time of change is still the same; one
     * that was changed within the last 2 s is not kept at all (opcache.file_update_protection).
     *
     * @return list<string>
     */
    public static function options(string $data, string $build): array
    {
        $folder = "$data/compiled/$build";
        foreach (glob("$data/compiled/*") ?: [] as $old) {
            if ($old !== $folder) {
                self::remove($old);
            }
        }
        @mkdir($folder, 0o700, true);

        return [
            '-d',
            'opcache.enable_cli=1',
            '-d',
            "opcache.file_cache=$folder",
            '-d',
            'opcache.validate_timestamps=1',
            '-d',
            'opcache.revalidate_freq='.self::NEVER,
        ];
    }

    /** The file that names what the web server has ready before the first request; `lotrik:prepare` writes it once for each build. */
    public static function preload(string $data, string $build): string
    {
        // Another checkout of the same build has its files elsewhere.
        return "$data/compiled/$build/preload-".hash('crc32b', __DIR__).'.php';
    }

    /** @return list<string> options of PHP; none where no list could be written, and all works as before, more slowly */
    public static function preloading(string $data, string $build): array
    {
        $file = self::preload($data, $build);
        $user = posix_getpwuid(posix_geteuid())['name'] ?? null;

        return is_file($file) && $user !== null ? ['-d', "opcache.preload=$file", '-d', "opcache.preload_user=$user"] : [];
    }

    private static function remove(string $folder): void
    {
        $inside = new \RecursiveIteratorIterator(
            new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS),
            \RecursiveIteratorIterator::CHILD_FIRST,
        );
        foreach ($inside as $path) {
            assert($path instanceof \SplFileInfo);
            $path->isDir() && ! $path->isLink() ? rmdir((string) $path) : unlink((string) $path);
        }
        rmdir($folder);
    }
}
