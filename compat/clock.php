<?php

declare(strict_types=1);

/*
 * Carbon's clock interface extends Symfony's, and symfony/clock is declared under `replace` in composer.json
 * because the project's package registry does not hold it. Only the interface is needed. Where the full
 * registry is at hand: drop the `replace` entry and this file, and run `composer update`.
 */

namespace Symfony\Component\Clock;

if (! interface_exists(ClockInterface::class)) {
    interface ClockInterface extends \Psr\Clock\ClockInterface
    {
        public function sleep(float|int $seconds): void;

        public function withTimeZone(\DateTimeZone|string $timezone): static;
    }
}
