<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\DeliberateBreaks;

/**
 * The other tests of the core notice when an exit rule is broken. Every fourteenth break is tried here, all by bin/breaks, and
 * none that makes the core go round for ever, which takes four minutes to be seen.
 */
final class DeliberateBreaksTest extends TestCase
{
    private const EVERY = 14;

    private const FROM = 2;

    /** @return iterable<string, array{string, string, string}> */
    public static function breaks(): iterable
    {
        $all = array_diff_key(DeliberateBreaks::all(), array_flip(DeliberateBreaks::ENDLESS));
        foreach (array_keys($all) as $i => $name) {
            if ($i % self::EVERY === self::FROM) {
                yield $name => $all[$name];
            }
        }
    }

    #[DataProvider('breaks')]
    public function testTheTestsNotice(string $class, string $stands, string $instead): void
    {
        self::assertNotSame('', DeliberateBreaks::noticed($class, $stands, $instead), 'nobody noticed');
    }

    public function testEveryPlaceToBreakIsThereOnce(): void
    {
        self::assertSame([], array_diff(DeliberateBreaks::ENDLESS, array_keys(DeliberateBreaks::all())));
        foreach (DeliberateBreaks::all() as $name => [$class, $stands]) {
            $code = (string) file_get_contents(DeliberateBreaks::file($class));
            self::assertSame(1, substr_count($code, $stands), $name);
        }
    }

    public function testTheTestsPassWithNothingBroken(): void
    {
        [$status, $out] = DeliberateBreaks::run('None:none');
        self::assertSame(0, $status, $out);
    }
}
