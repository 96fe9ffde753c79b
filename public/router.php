<?php

declare(strict_types=1);

/* For PHP's built-in server: files of the build are sent as they are, all else goes to the application. */

$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
// A path with a NUL in it is no file's; realpath() would throw.
$file = str_contains($path, "\0") ? false : realpath(__DIR__.$path);
if ($file !== false && is_file($file) && str_starts_with($file, __DIR__.'/') && ! str_ends_with($file, '.php')) {
    return false;
}
$_SERVER['SCRIPT_FILENAME'] = __DIR__.'/index.php';
$_SERVER['SCRIPT_NAME'] = '/index.php';
require __DIR__.'/index.php';
