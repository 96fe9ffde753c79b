<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Desk\Steps\OrderStep;
use Lotrik\Desk\Steps\Step;
use Lotrik\Desk\Steps\StepAction;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/** The deck of action keys: labelled tiles, each with up to three steps, and a key of its own where it has one. */
final class ActionKeys implements SettingsDocument
{
    public const FORMAT = 'lotrik.action-keys/1';

    private const MAX_TILES = 40;

    /** What only the page does: it is done there, once the engine has taken the rest. */
    private const AT_THE_PAGE = ['tie', 'next-plan', 'next-lots'];

    public function byDefault(): array
    {
        $order = static fn(
            string $name,
            string $side,
            string $kind,
            ?string $from,
            int $offset,
        ): array => ['name' => $name, 'key' => null, 'steps' => [
            [
                'do' => 'order', 'side' => $side, 'kind' => $kind, 'from' => $from, 'offset' => $offset, 'lots' => 'chosen',
                'plan' => 'chosen',
            ],
        ]];

        return ['format' => self::FORMAT, 'tiles' => [
            $order('Join the bid', 'buy', 'limit', 'bid', 0),
            $order('Join the ask', 'sell', 'limit', 'ask', 0),
            $order('Buy the break', 'buy', 'stop', 'ask', 4),
            $order('Sell the break', 'sell', 'stop', 'bid', -4),
            ['name' => 'Tidy up', 'key' => null, 'steps' => [['do' => 'cancel-all'], ['do' => 'break-even']]],
        ]];
    }

    public function read(Node $document, array $others): array
    {
        if ($document->string('format') !== self::FORMAT) {
            throw $document->fault('format', '"'.self::FORMAT.'"');
        }
        $list = $document->list('tiles');
        $document->done();
        if (count($list) > self::MAX_TILES) {
            throw InvalidDocument::at($document->at('tiles'), count($list).' tiles', 'at most '.self::MAX_TILES);
        }
        $users = array_flip(array_filter((array) ($others['keys']['keys'] ?? (new KeyMap())->byDefault()['keys']), is_string(...)));
        $tiles = [];
        foreach ($list as $i => $tile) {
            $node = Node::of($tile, $document->at('tiles')."/$i");
            $name = $node->string('name', null, 24);
            $key = $node->raw('key') === null ? null : Keys::read($node->raw('key'), $node->at('key'));
            if ($key !== null && isset($users[$key])) {
                throw InvalidDocument::at($node->at('key'), "\"$key\"", "a key that is free: \"{$users[$key]}\" has it");
            }
            if ($key !== null) {
                $users[$key] = $name;
            }
            $steps = $node->list('steps');
            if ($steps === [] || count($steps) > Step::MOST) {
                throw InvalidDocument::at($node->at('steps'), count($steps).' steps', 'one to '.Step::MOST);
            }
            $read = [];
            foreach ($steps as $n => $step) {
                $read[] = self::step(Node::of($step, $node->at('steps')."/$n"));
            }
            $node->done();
            $tiles[] = ['name' => $name, 'key' => $key, 'steps' => $read];
        }

        return ['format' => self::FORMAT, 'tiles' => $tiles];
    }

    /** @return array<string, mixed> */
    private static function step(Node $step): array
    {
        $do = $step->raw('do');
        if ($do !== StepAction::Order->value) {
            $actions = [...array_map(static fn(StepAction $action): string => $action->value, StepAction::cases()), ...self::AT_THE_PAGE];
            if (! in_array($do, $actions, true)) {
                throw $step->fault('do', 'one of '.implode(', ', $actions));
            }
            $ticks = $do === 'closer' ? ['ticks' => $step->optionalInt('ticks', 1, 1000) ?? 1] : [];
            $step->done();

            return ['do' => $do] + $ticks;
        }

        return OrderStep::fromNode($step)->toArray();
    }
}
