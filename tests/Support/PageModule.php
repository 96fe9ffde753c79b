<?php

declare(strict_types=1);

namespace Tests\Support;

/** One module of the page, compiled by itself and run in Node: for what needs no browser. */
final class PageModule
{
    /** @var array<string, string> what each file was compiled to, for all tests of a process */
    private static array $compiled = [];

    /**
     * @param string $file   below resources/js; it may import types only
     * @param string $script of a JavaScript module, to which the module's exports are `page` and `$data` is `data`
     *
     * @return list<mixed> what it wrote with console.log, a JSON document a line
     */
    public static function run(string $file, string $script, mixed $data = null): array
    {
        $out = sys_get_temp_dir().'/lotrik-ts-'.bin2hex(random_bytes(4));
        mkdir($out);
        try {
            file_put_contents("$out/page.mjs", self::$compiled[$file] ??= self::compile($file, $out));
            file_put_contents("$out/data.json", json_encode($data, JSON_THROW_ON_ERROR));
            file_put_contents(
                "$out/run.mjs",
                "import { readFileSync } from 'node:fs';\nconst page = await import('file://$out/page.mjs');\nconst data = JSON.parse(readFileSync('$out/data.json', 'utf8'));\n$script\n",
            );
            exec('node '.escapeshellarg("$out/run.mjs").' 2>&1', $written, $status);
            if ($status !== 0) {
                throw new \RuntimeException("$file did not run: ".implode("\n", $written));
            }

            return array_map(static fn(string $line): mixed => json_decode($line, true, 512, JSON_THROW_ON_ERROR), $written);
        } finally {
            exec('rm -rf '.escapeshellarg($out));
        }
    }

    /**
     * A module with all that it imports.
     *
     * @param string $file   below resources/js
     * @param string $before runs before the module does: what it expects of a page
     * @param string $script of a JavaScript module, to which the module's exports are `page` and `$data` is `data`
     *
     * @return list<mixed> what it wrote with console.log, a JSON document a line
     */
    public static function runWhole(string $file, string $before, string $script, mixed $data = null): array
    {
        $root = dirname(__DIR__, 2);
        $folder = "$root/node_modules/.cache/lotrik-".bin2hex(random_bytes(4));
        mkdir($folder, 0o777, true);
        try {
            file_put_contents("$folder/data.json", json_encode($data, JSON_THROW_ON_ERROR));
            file_put_contents("$folder/run.mjs", <<<JS
                import { readFileSync, writeFileSync } from 'node:fs';
                import { rolldown } from 'rolldown';
                const bundle = await rolldown({
                    input: '$root/resources/js/$file', platform: 'node', logLevel: 'silent',
                    resolve: { alias: { '@': '$root/resources/js' } },
                    transform: { define: { 'process.env.NODE_ENV': '"production"' } },
                });
                const { output } = await bundle.generate({ format: 'esm', codeSplitting: false });
                writeFileSync('$folder/page.mjs', output[0].code);
                const data = JSON.parse(readFileSync('$folder/data.json', 'utf8'));
                $before
                const page = await import('file://$folder/page.mjs');
                $script
                JS);
            exec('node '.escapeshellarg("$folder/run.mjs").' 2>&1', $written, $status);
            if ($status !== 0) {
                throw new \RuntimeException("$file did not run: ".implode("\n", $written));
            }

            return array_map(static fn(string $line): mixed => json_decode($line, true, 512, JSON_THROW_ON_ERROR), $written);
        } finally {
            exec('rm -rf '.escapeshellarg($folder));
        }
    }

    private static function compile(string $file, string $out): string
    {
        exec(
            'cd '.escapeshellarg(dirname(__DIR__, 2)).' && node_modules/.bin/tsc --ignoreConfig --target es2023 --module esnext --moduleResolution bundler --skipLibCheck --noCheck --outDir '.escapeshellarg($out).' '.escapeshellarg("resources/js/$file").' 2>&1',
            $lines,
            $status,
        );
        $compiled = trim((string) shell_exec('find '.escapeshellarg($out).' -name '.escapeshellarg(basename($file, '.ts').'.js')));
        if ($status !== 0 || $compiled === '') {
            throw new \RuntimeException("$file did not compile: ".implode("\n", $lines));
        }

        return (string) file_get_contents($compiled);
    }
}
