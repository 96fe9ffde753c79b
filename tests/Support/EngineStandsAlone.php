<?php

declare(strict_types=1);

namespace Tests\Support;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** The engine can answer through any door: checked by PHPStan with phpat (see phpstan-app.neon). */
final class EngineStandsAlone
{
    public function testTheEngineKnowsNothingOfHttp(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::inNamespace('App\Engine'))
            ->shouldNot()->dependOn()
            ->classes(Selector::inNamespace('App\Http'), Selector::inNamespace('Illuminate\Http'))
            ->because('what it answers is written the same for the web, the stream and the console');
    }
}
