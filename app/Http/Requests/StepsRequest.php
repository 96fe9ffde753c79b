<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Lotrik\Desk\Steps\OrderStep;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** Orders of action keys, of which is asked what they would be now. */
final class StepsRequest extends CommandRequest
{
    private const MOST = 120;

    private const MAX_LOTS = 1_000_000;

    /**
     * @return array{lots: int, pointed: int|null, steps: list<array<string, mixed>>} the steps as settings have them
     *
     * @throws Refusal
     */
    public function steps(): array
    {
        try {
            $node = Node::of($this->fields());
            $node->raw('account');
            $list = $node->list('steps');
            if (count($list) > self::MOST) {
                throw InvalidDocument::at('/steps', count($list).' steps', 'at most '.self::MOST);
            }
            $steps = [];
            foreach ($list as $i => $step) {
                $of = Node::of($step, "/steps/$i");
                if ($of->raw('do') !== 'order') {
                    throw $of->fault('do', '"order"');
                }
                $steps[] = OrderStep::fromNode($of)->toArray();
            }
            $asked = [
                'lots' => $node->int('lots', 1, self::MAX_LOTS),
                'pointed' => $node->optionalInt('pointed', -self::MAX_LOTS * 1_000, self::MAX_LOTS * 1_000), 'steps' => $steps,
            ];
            $node->done();

            return $asked;
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }
}
