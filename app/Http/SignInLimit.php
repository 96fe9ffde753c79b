<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Support\Facades\RateLimiter;

/** How often a minute somebody may sign in wrongly. */
final class SignInLimit
{
    /** as one user from one network address */
    private const ONE_USER = 10;

    /** Names are counted in so many groups, so that guessing names leaves no endless number of counters behind. */
    private const GROUPS = 4_096;

    /** as anybody from one network address */
    private const ONE_ADDRESS = 60;

    /** links that nobody gave out, from one network address */
    private const LINKS = 30;

    /** @throws ThrottleRequestsException */
    public function check(string $email, string $ip): void
    {
        foreach (self::keys($email, $ip) as $key => $most) {
            if (RateLimiter::tooManyAttempts($key, $most)) {
                throw new ThrottleRequestsException();
            }
        }
    }

    public function failed(string $email, string $ip): void
    {
        foreach (array_keys(self::keys($email, $ip)) as $key) {
            RateLimiter::hit($key);
        }
    }

    /**
     * A link that is open is never held up: nobody guesses one of 24 random bytes, but whoever tries costs a worker's time.
     *
     * @throws ThrottleRequestsException
     */
    public function linkFailed(string $ip): void
    {
        if (RateLimiter::tooManyAttempts("link from $ip", self::LINKS)) {
            throw new ThrottleRequestsException();
        }
        RateLimiter::hit("link from $ip");
    }

    public function succeeded(string $email, string $ip): void
    {
        RateLimiter::clear((string) array_key_first(self::keys($email, $ip)));
    }

    /** @return array<string, int> key → failures a minute */
    private static function keys(string $email, string $ip): array
    {
        return ['sign-in '.(crc32(strtolower($email)) % self::GROUPS)." $ip" => self::ONE_USER, "sign-in from $ip" => self::ONE_ADDRESS];
    }
}
