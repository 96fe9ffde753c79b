<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use PHPUnit\Framework\TestCase;
use Symfony\Component\HttpFoundation\Response;

/** What programs go by when something is refused: the codes, all of them documented and all of them in use. */
final class RefusalCodesTest extends TestCase
{
    public function testTheApiDescriptionListsEveryCodeAndNoOther(): void
    {
        $description = json_decode((string) file_get_contents(dirname(__DIR__, 2).'/docs/openapi.json'), true, 512, JSON_THROW_ON_ERROR);
        self::assertEqualsCanonicalizing(
            array_column(RefusalCode::cases(), 'value'),
            $description['components']['schemas']['Problem']['properties']['code']['enum'],
        );
    }

    public function testEveryCodeIsGivenBySomethingAndHasAStatusOfHttp(): void
    {
        $sources = '';
        foreach (['core', 'app'] as $folder) {
            foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(
                dirname(__DIR__, 2)."/$folder",
                \FilesystemIterator::SKIP_DOTS,
            )) as $file) {
                $sources .= $file->getFilename() === 'RefusalCode.php' ? '' : file_get_contents((string) $file);
            }
        }
        foreach (RefusalCode::cases() as $code) {
            self::assertMatchesRegularExpression("/RefusalCode::{$code->name}\\b/", $sources, $code->value);
            // Laravel's own, for a page that was open too long.
            self::assertArrayHasKey($code->status(), Response::$statusTexts + [419 => ''], $code->value);
        }
    }

    /** From the engine to the web it goes as JSON; a code that a newer engine made up is a fault, and never a crash. */
    public function testARefusalComesThroughJsonAsItWas(): void
    {
        $sent = Refusal::wouldUnprotect('order 1001', 3);
        $back = Refusal::fromArray((array) json_decode((string) json_encode($sent->toArray()), true));
        self::assertSame($sent->toArray(), $back->toArray());
        self::assertSame(['unprotected' => 3], $back->facts);
        self::assertSame(RefusalCode::Fault, Refusal::fromArray(['code' => 'of another build', 'detail' => 'words'])->problem);
    }
}
