<?php

declare(strict_types=1);

namespace Tests\Support;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** The rules know no framework, no I/O and no clock: checked by PHPStan with phpat (see phpstan.neon). */
final class CoreStandsAlone
{
    public function testCoreDependsOnNothingButExactNumbers(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('Lotrik'))
            ->canOnly()->dependOn()
            ->classes(Selector::inNamespace('Lotrik'), Selector::inNamespace('Brick\Math'), Selector::inNamespace('Psr\Clock'), Selector::inNamespace('Random'), Selector::isStandardClass(), Selector::classname('/^\\\\?(DateTime.*|Reflection.*|.*Exception|.*Error|BackedEnum|Generator|Throwable|JsonException)$/', true))
            ->because('the rules run the same in the engine, the rehearsal and the tests');
    }
}
