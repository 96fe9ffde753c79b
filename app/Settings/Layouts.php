<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Document\Node;

/**
 * Named layouts of the desk: where the panels are, and what each ladder holds. The dock's own part is the page's and
 * is kept as it is; what it names is checked by the page when it is opened.
 */
final class Layouts implements SettingsDocument
{
    public const FORMAT = 'lotrik.layouts/1';

    private const MAX = 20;

    private const MAX_TEXT = 20_000;

    private const MAX_LADDERS = 4;

    public function byDefault(): array
    {
        return ['format' => self::FORMAT, 'opens' => null, 'layouts' => []];
    }

    public function read(Node $document, array $others): array
    {
        if ($document->string('format') !== self::FORMAT) {
            throw $document->fault('format', '"'.self::FORMAT.'"');
        }
        $layouts = [];
        $given = $document->list('layouts');
        if (count($given) > self::MAX) {
            throw $document->fault('layouts', 'at most '.self::MAX.' layouts');
        }
        foreach ($given as $i => $layout) {
            $at = $document->at('layouts')."/$i";
            $layouts[] = self::layout(Node::of($layout, $at));
        }
        $names = array_column($layouts, 'name');
        if (count(array_unique($names)) !== count($names)) {
            throw $document->fault('layouts', 'names that are all different');
        }
        $opens = $document->optionalString('opens', 60);
        if ($opens !== null && ! in_array($opens, $names, true)) {
            throw $document->fault('opens', 'nothing, or the name of one of the layouts');
        }
        $document->done();

        return ['format' => self::FORMAT, 'opens' => $opens, 'layouts' => $layouts];
    }

    /** @return array{name: string, dock: string, ladders: list<array{id: int, code: string, lots: int, plan: int|null}>} */
    private static function layout(Node $node): array
    {
        $dock = $node->string('dock', null, self::MAX_TEXT);
        if (! is_array(json_decode($dock, true)) || ! str_starts_with($dock, '{')) {
            throw $node->fault('dock', 'the text of a JSON object, as the page saved it');
        }
        $ladders = [];
        foreach ($node->list('ladders') as $i => $ladder) {
            $at = $node->at('ladders')."/$i";
            $one = Node::of($ladder, $at);
            $ladders[] = [
                'id' => $one->int('id', 1, 1000), 'code' => $one->string('code', null, 12), 'lots' => $one->int('lots', 1, 100_000),
                'plan' => $one->optionalInt('plan', 0, PHP_INT_MAX),
            ];
            $one->done();
        }
        if ($ladders === [] || count($ladders) > self::MAX_LADDERS) {
            throw $node->fault('ladders', 'one to '.self::MAX_LADDERS.' ladders');
        }
        $layout = ['name' => $node->string('name', null, 60), 'dock' => $dock, 'ladders' => $ladders];
        $node->done();

        return $layout;
    }
}
