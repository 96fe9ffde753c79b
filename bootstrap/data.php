<?php

declare(strict_types=1);

/*
 * All that a run keeps lies under one data directory, so that several run side by side from one checkout. Laravel
 * reads these places from the environment, so they are set before it boots.
 */

return (static function (): string {
    umask(0o077);
    $root = dirname(__DIR__);
    $data = getenv('LOTRIK_DATA') ?: null;
    foreach ($_SERVER['argv'] ?? [] as $i => $argument) {
        if (PHP_SAPI === 'cli' && is_string($argument) && str_starts_with($argument, '--data')) {
            $data = str_contains($argument, '=') ? substr($argument, 7) : ($_SERVER['argv'][$i + 1] ?? null);
        }
    }
    $data = is_string($data) && $data !== '' ? $data : $root.'/storage/desk';
    if ($data[0] !== '/') {
        $data = getcwd().'/'.$data;
    }
    foreach ([
        '', '/web/framework/sessions', '/web/framework/views', '/web/framework/cache/data', '/web/logs', '/web/app', '/cache',
    ] as $folder) {
        if (! is_dir($data.$folder) && ! @mkdir($data.$folder, 0o700, true) && ! is_dir($data.$folder)) {
            fwrite(
                fopen('php://stderr', 'w'),
                "data directory $data: found a place that cannot be written, expected a writable directory; give another one with --data\n",
            );
            exit(2);
        }
    }
    $data = realpath($data);
    $key = $data.'/app.key';
    if (! is_file($key)) {
        $new = $key.'.'.getmypid();
        touch($new);
        chmod($new, 0o600);
        file_put_contents($new, 'base64:'.base64_encode(random_bytes(32)));
        @link($new, $key);
        unlink($new);
    }
    $settings = [
        'LOTRIK_DATA' => $data,
        'LARAVEL_STORAGE_PATH' => $data.'/web',
        'APP_CONFIG_CACHE' => $data.'/cache/config.php',
        'APP_ROUTES_CACHE' => $data.'/cache/routes.php',
        'APP_EVENTS_CACHE' => $data.'/cache/events.php',
        'APP_PACKAGES_CACHE' => $data.'/cache/packages.php',
        'APP_SERVICES_CACHE' => $data.'/cache/services.php',
        'APP_KEY' => (string) file_get_contents($key),
    ];
    foreach ($settings as $name => $value) {
        putenv("$name=$value");
        $_ENV[$name] = $_SERVER[$name] = $value;
    }

    return $data;
})();
