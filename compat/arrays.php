<?php

declare(strict_types=1);

/*
 * The framework uses two functions of PHP 8.5. Their polyfill (symfony/polyfill-php85) is declared under
 * `replace` in composer.json because the project's package registry does not hold it. Where the full registry
 * is at hand: drop the `replace` entry and this file, and run `composer update`.
 */

if (! function_exists('array_first')) {
    /** @param array<array-key, mixed> $array */
    function array_first(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_first($array)];
    }
}

if (! function_exists('array_last')) {
    /** @param array<array-key, mixed> $array */
    function array_last(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_last($array)];
    }
}
