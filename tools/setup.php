<?php

declare(strict_types=1);

/*
 * Sets up what is missing, for bin/start and bin/test. Plain PHP, since nothing is installed yet when it runs. What
 * is there already is known by stamps: hashes of the files that it was made from.
 */

namespace Lotrik\Tools;

final class Setup
{
    private const EXTENSIONS = [
        'pdo_sqlite' => 'sqlite3',
        'curl' => 'curl',
        'zip' => 'zip',
        'mbstring' => 'mbstring',
        'dom' => 'xml',
        'xmlwriter' => 'xml',
    ];

    /** what the built page hashed to; beside the page, so that it goes when the page does */
    private const BUILT = 'public/build/.lotrik-built';

    private function __construct(private readonly string $root) {}

    public static function at(string $root): self
    {
        return new self($root);
    }

    /** @param array<string, string> $programs Debian package of each program that must be on the path */
    public function debian(array $programs = []): self
    {
        $php = PHP_MAJOR_VERSION.'.'.PHP_MINOR_VERSION;
        $missing = [];
        foreach (self::EXTENSIONS as $extension => $package) {
            if (! extension_loaded($extension)) {
                $missing["php$php-$package"] = true;
            }
        }
        foreach ($programs as $program => $package) {
            if (self::which($program) === null) {
                $missing[$package] = true;
            }
        }
        if ($missing !== []) {
            $list = implode(' ', array_keys($missing));
            if (posix_geteuid() !== 0 || self::which('apt-get') === null) {
                $this->fail("missing Debian packages: found none of $list, expected them installed; run as root: apt-get install $list");
            }
            $this->say("installing $list");
            $this->run('apt-get update -qq', "apt-get update failed; install by hand: $list");
            $this->run(
                "DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $list",
                "apt-get install failed; install by hand: $list",
            );
        }
        foreach (['composer' => 'Composer 2', 'node' => 'Node 20', 'npm' => 'npm'] as $program => $name) {
            if (self::which($program) === null) {
                $this->fail("$name: found no program \"$program\" on the path, expected it installed");
            }
        }

        return $this;
    }

    public function packages(): self
    {
        $this->unlessStamped('vendor', $this->hash(['composer.json']), 'installing Composer packages', function (): void {
            $this->run(
                'COMPOSER_ALLOW_SUPERUSER=1 composer update --no-interaction --no-progress --prefer-dist --quiet',
                'Composer could not install the packages of composer.json',
            );
        });
        $this->unlessStamped('node_modules', $this->hash([
            'package.json',
            'package-lock.json',
            'tools/openapi/package.json',
            'tests/Reference/oracles/package.json',
        ]), 'installing npm packages', function (): void {
            $this->run('npm ci --no-audit --no-fund --loglevel=error', 'npm could not install the packages of package-lock.json');
        });

        return $this;
    }

    public function frontEnd(): self
    {
        if (! $this->isPageWhole()) {
            @unlink("$this->root/public/build/.lotrik-stamp");
        }
        $this->unlessStamped('public/build', $this->hash([
            'resources',
            'vite.config.ts',
            'package-lock.json',
            'tsconfig.json',
        ]), 'building the page', function (): void {
            $this->run('npx vite build --logLevel error', 'the page could not be built');
            file_put_contents("$this->root/".self::BUILT, $this->hash(['public/build/assets', 'public/build/manifest.json']));
        });

        return $this;
    }

    /** Whether the page is as it was built. One that was built by hand has no record of that; there its parts must be there. */
    public function isPageWhole(): bool
    {
        $manifest = json_decode((string) @file_get_contents("$this->root/public/build/manifest.json"), true);
        if (! is_array($manifest) || $manifest === []) {
            return false;
        }
        foreach ($manifest as $part) {
            if (! is_array($part) || ! is_file("$this->root/public/build/".($part['file'] ?? ''))) {
                return false;
            }
        }
        $built = @file_get_contents("$this->root/".self::BUILT);

        return $built === false || $built === $this->hash(['public/build/assets', 'public/build/manifest.json']);
    }

    /** A fingerprint of the code that both processes run. */
    public function build(): string
    {
        return substr($this->hash(['core', 'app', 'bootstrap/app.php', 'config', 'routes', 'compat', 'composer.json']), 0, 16);
    }

    public static function which(string $program): ?string
    {
        foreach (explode(':', (string) getenv('PATH')) as $folder) {
            if (is_executable("$folder/$program")) {
                return "$folder/$program";
            }
        }

        return null;
    }

    /** @param list<string> $paths */
    private function hash(array $paths): string
    {
        $files = [];
        foreach ($paths as $path) {
            $full = "$this->root/$path";
            if (is_file($full)) {
                $files[] = $full;
            } elseif (is_dir($full)) {
                foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($full, \FilesystemIterator::SKIP_DOTS)) as $file) {
                    $files[] = (string) $file;
                }
            }
        }
        sort($files);
        $hash = hash_init('sha256');
        foreach ($files as $file) {
            hash_update($hash, substr($file, strlen($this->root)).hash_file('sha256', $file));
        }

        return hash_final($hash);
    }

    private function unlessStamped(string $folder, string $stamp, string $doing, callable $do): void
    {
        $file = "$this->root/$folder/.lotrik-stamp";
        if (is_file($file) && file_get_contents($file) === $stamp) {
            return;
        }
        $this->say($doing);
        $do();
        file_put_contents($file, $stamp);
    }

    private function run(string $command, string $otherwise): void
    {
        passthru('cd '.escapeshellarg($this->root)." && $command 1>&2", $status);
        if ($status !== 0) {
            $this->fail("$otherwise (\"$command\" ended with status $status)");
        }
    }

    private function say(string $line): void
    {
        fwrite(STDERR, "setup: $line\n");
    }

    private function fail(string $line): never
    {
        fwrite(STDERR, "$line\n");
        exit(2);
    }
}
