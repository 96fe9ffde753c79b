<?php

declare(strict_types=1);

namespace App\Settings;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/** Which key does what on the desk. Everything that has a key is in this list; the page's sheet is made from it. */
final class KeyMap implements SettingsDocument
{
    public const FORMAT = 'lotrik.keys/1';

    /** id → the key that it has at first, what it does, and whether it is held since it cannot be taken back */
    private const ACTIONS = [
        'send' => ['Enter', 'sends the chosen draft; adds raised lots as a second order', false],
        'send-itself' => ['Shift+Enter', 'raises the chosen order itself, which loses its place', false],
        'drop' => ['Escape', 'drops the chosen draft or change; lets go of what is dragged', false],
        'place' => ['p', 'presses on the rung that is pointed at, by pointer or by arrow keys', false],
        'again' => ['/', 'the last order of this contract once more, as a draft', false],
        'pair' => ['y', 'sends two drafts as a pair: one cancels the other', false],
        'tie' => ['t', 'ties the chosen order to the one pressed next, or unties it', false],
        'ticket' => ['k', 'opens the ticket for an exact order', false],
        'more-lots' => ['+', 'one lot more on the chosen draft or order', false],
        'fewer-lots' => ['-', 'one lot less on the chosen draft or order', false],
        'up' => ['Alt+ArrowUp', 'the chosen draft or order one tick up', false],
        'down' => ['Alt+ArrowDown', 'the chosen draft or order one tick down', false],
        'one-click' => ['o', 'one-click on or off', false],
        'stop-limit' => ['z', 'held down it makes a click a stop-limit, as Alt and Shift do', false],
        'buy-market' => ['F2', 'buys the chosen lots at the market', false],
        'sell-market' => ['F4', 'sells the chosen lots at the market', false],
        'join-bid' => ['F8', 'a buy limit at the bid', false],
        'join-ask' => ['F9', 'a sell limit at the ask', false],
        'lots-1' => ['1', 'first lots of the row', false],
        'lots-2' => ['2', 'second lots of the row', false],
        'lots-3' => ['3', 'third lots of the row', false],
        'lots-4' => ['4', 'fourth lots of the row', false],
        'lots-5' => ['5', 'fifth lots of the row', false],
        'next-plan' => ['n', 'next exit plan', false],
        'contract-before' => [',', 'previous contract', false],
        'contract-after' => ['.', 'next contract', false],
        'next-ladder' => ['i', 'brings the next ladder in front', false],
        'centre' => ['Space', 'centres the ladder', false],
        'break-even' => ['b', 'stops to break-even', false],
        'break-even-fees' => ['f', 'stops to break-even plus fees', false],
        'exit-here' => ['e', 'a stop or a target for the position at the rung that is pointed at', false],
        'mark' => ['m', 'makes a level of the price that is pointed at', false],
        'closer' => ['c', 'tighten stops 1 tick', false],
        'let-run' => ['l', 'takes the next target off: its portion runs', false],
        'give-back' => ['j', 'returns manual stops to their plan', false],
        'cover' => ['v', 'puts the chosen plan on the open position', false],
        'uncover' => ['u', 'takes the plan off the open position', true],
        'close-portion' => ['q', 'closes at the market the lots that a stop-limit missed, else the first open portion', true],
        'close-entry' => ['w', 'closes the oldest entry at the market', true],
        'flatten' => ['x', 'flattens this contract', true],
        'flatten-account' => ['0', 'flattens every contract', true],
        'half-off' => ['h', 'closes half', true],
        'reverse' => ['r', 'reverses under the chosen plan', true],
        'cancel-all' => ['Backspace', 'cancels entries and hand-made orders, keeps the stops', true],
        'cancel-buys' => ['[', 'cancels the buys among them', true],
        'cancel-sells' => [']', 'cancels the sells among them', true],
        'cancel-account' => ['Shift+Backspace', 'cancels them in every contract', true],
        'arrange' => ['a', 'arranges the panels of the desk', false],
        'plans' => ['g', 'opens the exit plans', false],
        'settings' => ['s', 'opens the settings', false],
        'sheet' => ['?', 'this sheet', false],
    ];

    /** @return list<array{id: string, key: string, words: string, held: bool}> for the page */
    public static function actions(): array
    {
        return array_map(
            static fn(string $id, array $of): array => ['id' => $id, 'key' => $of[0], 'words' => $of[1], 'held' => $of[2]],
            array_keys(self::ACTIONS),
            array_values(self::ACTIONS),
        );
    }

    /**
     * A map that an older build saved, with the actions that have come since. Where the trader uses such an action's key for
     * something else, it gets one that nobody presses by chance: a hand must never find another meaning under a known key.
     *
     * @param array<array-key, mixed> $saved id → key
     * @param array<mixed>            $tiles keys of the action keys
     *
     * @return array<string, string>
     */
    public static function withNew(array $saved, array $tiles): array
    {
        $keys = array_filter($saved, is_string(...));
        foreach (self::ACTIONS as $id => [$key]) {
            if (! isset($keys[$id])) {
                $used = [...$keys, ...array_filter($tiles, is_string(...))];
                $free = array_diff([$key, ...array_map(static fn(int $n): string => "F$n", range(24, 13))], $used);
                $keys[$id] = array_values($free)[0] ?? '';
            }
        }

        /** @var array<string, string> $keys */
        return $keys;
    }

    public function byDefault(): array
    {
        return ['format' => self::FORMAT, 'keys' => array_map(static fn(array $of): string => $of[0], self::ACTIONS)];
    }

    public function read(Node $document, array $others): array
    {
        if ($document->string('format') !== self::FORMAT) {
            throw $document->fault('format', '"'.self::FORMAT.'"');
        }
        $node = $document->node('keys');
        $document->done();
        $given = $document->raw('keys');
        $keys = $this->byDefault()['keys'];
        assert(is_array($given) && is_array($keys));
        foreach ($given as $id => $key) {
            if (! isset(self::ACTIONS[$id])) {
                throw InvalidDocument::at($node->at($id), "the action \"$id\"", 'one of '.implode(', ', array_keys(self::ACTIONS)));
            }
            $keys[$id] = Keys::read($key, $node->at($id));
        }
        $users = [];
        foreach ($keys as $id => $key) {
            if (isset($users[$key])) {
                throw InvalidDocument::at($node->at($id), "\"$key\"", "a key that is free: \"{$users[$key]}\" has it");
            }
            $users[$key] = $id;
        }
        foreach ((array) ($others['action-keys']['tiles'] ?? []) as $tile) {
            if (is_array($tile) && isset($users[$tile['key'] ?? ''])) {
                throw InvalidDocument::at(
                    $node->at($users[$tile['key']]),
                    "\"{$tile['key']}\"",
                    "a key that is free: the action key \"{$tile['name']}\" has it",
                );
            }
        }

        return ['format' => self::FORMAT, 'keys' => $keys];
    }
}
