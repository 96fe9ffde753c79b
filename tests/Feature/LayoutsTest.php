<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;

/** Named layouts of the desk: kept for each user, taken whole or not at all. */
final class LayoutsTest extends DeskCase
{
    /** @return array<string, mixed> */
    private static function layout(string $name = 'Morning'): array
    {
        return [
            'name' => $name, 'dock' => '{"grid":{"root":{}}}',
            'ladders' => [
                ['id' => 1, 'code' => 'DULZ6', 'lots' => 2, 'plan' => 1], ['id' => 3, 'code' => 'DULH7', 'lots' => 1, 'plan' => null],
            ],
        ];
    }

    public function testLayoutsAreKeptForTheirUserAlone(): void
    {
        $document = ['format' => 'lotrik.layouts/1', 'opens' => 'Noon', 'layouts' => [self::layout(), self::layout('Noon')]];
        self::assertEquals($document, $this->trader->call('PUT', 'settings/layouts', $document)->body['document']);
        $mine = array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['layouts'];
        self::assertEquals($document, $mine);
        $other = array_column($this->desk->trader()->call('GET', 'settings')->body['items'], 'document', 'name')['layouts'];
        self::assertSame([], $other['layouts']);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        $with = static fn(array $change): array => ['format' => 'lotrik.layouts/1', 'layouts' => [$change + self::layout()]];
        yield 'another format' => [['format' => 'lotrik.layouts/2', 'layouts' => []], '/format'];
        yield 'two of one name' => [['format' => 'lotrik.layouts/1', 'layouts' => [self::layout(), self::layout()]], '/layouts'];
        yield 'opens one that is not there' => [
            ['format' => 'lotrik.layouts/1', 'opens' => 'Dusk', 'layouts' => [self::layout()]], '/opens',
        ];
        yield 'no name' => [$with(['name' => '']), '/layouts/0/name'];
        yield 'a dock that is no JSON' => [$with(['dock' => '{grid']), '/layouts/0/dock'];
        yield 'a dock that is a list' => [$with(['dock' => '[]']), '/layouts/0/dock'];
        yield 'no ladder' => [$with(['ladders' => []]), '/layouts/0/ladders'];
        yield 'five ladders' => [$with(['ladders' => array_fill(0, 5, self::layout()['ladders'][0])]), '/layouts/0/ladders'];
        yield 'lots that are none' => [$with(['ladders' => [['lots' => 0] + self::layout()['ladders'][0]]]), '/layouts/0/ladders/0/lots'];
        yield 'an unknown field' => [$with(['colour' => 'red']), '/layouts/0/colour'];
        yield 'twenty-one' => [
            ['format' => 'lotrik.layouts/1', 'layouts' => array_map(static fn(int $i): array => self::layout("L$i"), range(1, 21))],
            '/layouts',
        ];
    }

    /** @param array<string, mixed> $document */
    #[DataProvider('wrong')]
    public function testAWrongDocumentIsRefusedWhereItIsWrong(array $document, string $pointer): void
    {
        $reply = $this->trader->call('PUT', 'settings/layouts', $document);
        self::assertSame([422, $pointer], [$reply->status, $reply->body['pointer'] ?? null], (string) ($reply->body['detail'] ?? ''));
        self::assertStringContainsString('expected', $reply->body['detail']);
        self::assertSame([], array_column($this->trader->call('GET', 'settings')->body['items'], 'document', 'name')['layouts']['layouts']);
    }
}
