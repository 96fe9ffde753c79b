<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * The look is utilities in components: a stylesheet by hand stands beside the one panel that it is for, so that no class
 * name is shared by two of them, and none is left behind.
 */
final class StylesheetsTest extends TestCase
{
    private const PAGE = __DIR__.'/../../resources';

    public function testEachClassIsThatOfOnePanel(): void
    {
        $found = 0;
        foreach (self::files('css') as $sheet) {
            // What is named in comments and imports is no rule.
            $css = (string) preg_replace('~/\*.*?\*/|^@[^{;]*;~ms', '', (string) file_get_contents($sheet));
            preg_match_all('/\.([a-z][a-z-]*)(?=[^{}]*\{)/', $css, $classes);
            foreach (array_unique($classes[1]) as $class) {
                if (str_starts_with($class, 'dv-') || str_starts_with($class, 'dockview-')) {
                    continue;
                }
                $found++;
                $users = array_filter(self::files('tsx'), static fn(string $file): bool => preg_match(
                    '/(className=(\{`|\{clsx\(\s*\'|")|\bclsx\(\s*\')([^"`\']*\s)?'.preg_quote($class, '/').'[\s"`\']/',
                    (string) file_get_contents($file),
                ) === 1);
                self::assertNotEmpty($users, "$sheet names .$class, which nothing has");
                self::assertSame([dirname($sheet)], array_values(array_unique(array_map(dirname(...), $users))), ".$class");
            }
        }
        self::assertGreaterThan(10, $found);
    }

    /** @return iterable<string, array{string}> */
    public static function browserTests(): iterable
    {
        foreach (glob(__DIR__.'/../Browser/*.php') ?: [] as $file) {
            yield basename($file) => [$file];
        }
    }

    /** What a class looks like may change at any time; what a test finds by it would be lost, or found for another reason. */
    #[DataProvider('browserTests')]
    public function testBrowserTestsFindNothingByItsLooks(string $file): void
    {
        $found = [];
        foreach (\PhpToken::tokenize((string) file_get_contents($file)) as $token) {
            if ($token->is([T_CONSTANT_ENCAPSED_STRING, T_ENCAPSED_AND_WHITESPACE])) {
                preg_match_all('/(?<=^|[\'"`(, >])\.(?!dv-|json)[a-z][a-z-]*(?=[\[ :>,\'"`]|$)/', trim($token->text, '\'"'), $classes);
                preg_match_all('/(?:\b(?:button|canvas|dialog|input|span)|[a-z0-9-]\]|\'\])\.(?!click|focus)[a-z-]+(?=[\[ :"\'`])/', $token->text, $elements);
                array_push($found, ...$classes[0], ...$elements[0]);
            }
        }
        self::assertSame([], $found);
    }

    /** @return list<string> */
    private static function files(string $ending): array
    {
        $found = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(self::PAGE, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && $file->getExtension() === $ending) {
                $found[] = (string) $file->getRealPath();
            }
        }

        return $found;
    }
}
