<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Event\Level\LevelsWatched;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Levels\MarkedLevel;
use Lotrik\Watching\Levels\WatchedLevel;

/** Which marked levels an account is told about. The whole list each time: the same list again changes nothing, so it needs no client id. */
final class WatchLevels
{
    private const MOST = 200;

    private const WITHIN = 3;

    private const FARTHEST = 1_000;

    private const HIGHEST = 1_000_000_000;

    public function __construct(private readonly DeskState $state, private readonly EventRecorder $recorder) {}

    /**
     * @param Node $body `levels`, each with `id`, `contract`, `low` and `high` in ticks, `name`; and `within`, ticks, which left
     *                   out stays as it was
     *
     * @return int from how many ticks on the market counts as near
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function handle(Account $account, Node $body): int
    {
        $within = $body->optionalInt('within', 0, self::FARTHEST) ?? $this->state->bookOf($account->id)->levelsWithin ?? self::WITHIN;
        $list = $body->list('levels');
        if (count($list) > self::MOST) {
            throw InvalidDocument::at('/levels', count($list).' levels', 'at most '.self::MOST);
        }
        $packed = $wanted = [];
        foreach ($list as $i => $one) {
            $node = Node::of($one, "/levels/$i");
            $code = $node->string('contract');
            if (! isset($this->state->contracts[$code])) {
                throw Refusal::unknownContract($code, $node->at('contract'));
            }
            $low = $node->int('low', 1, self::HIGHEST);
            $packed[] = $level = [
                'id' => $node->int('id', 1, PHP_INT_MAX), 'contract' => $code, 'low' => $low,
                'high' => $node->int('high', $low, self::HIGHEST), 'name' => $node->raw('name') === ''
                    ? ''
                    : $node->string('name', null, 60),
            ];
            $node->done();
            $wanted[$code][] = new WatchedLevel($level['id'], $level['name'], new MarkedLevel($low, $level['high'], 0), $within);
        }
        $body->done();
        $isAsItWas = $within === ($this->state->bookOf($account->id)->levelsWithin ?? self::WITHIN)
            && $this->isWatched($account->id, $wanted);
        if (! $isAsItWas) {
            $this->recorder->note(new LevelsWatched($account->id, $packed, $within));
        }

        return $within;
    }

    /** @param array<string, list<WatchedLevel>> $wanted */
    private function isWatched(int $account, array $wanted): bool
    {
        foreach (array_keys($this->state->contracts) as $code) {
            $watched = array_values($this->state->levels[$code][$account] ?? []);
            $of = $wanted[$code] ?? [];
            if (count($watched) !== count($of)) {
                return false;
            }
            foreach ($of as $i => $level) {
                if (! $level->isAs($watched[$i])) {
                    return false;
                }
            }
        }

        return true;
    }
}
