<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/**
 * Whether PHP's JIT compiles this process. PHP 8.2.36 with `opcache.jit=tracing` gave a sum of lots as a pointer
 * (tests/Feature/EnginePartsTest shows the sum); money is not counted by what can do that.
 */
final class Jit
{
    public static function isOn(): bool
    {
        $status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;

        return is_array($status) && ($status['jit']['on'] ?? false) === true;
    }
}
