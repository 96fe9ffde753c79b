<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\Account\PlansInUse;
use Lotrik\Desk\Steps\OrderStep;
use Lotrik\Desk\TradingSystem;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Bars\Bar;
use Lotrik\Watching\Bars\BarSize;

/** What would come of something before it is sent. */
final readonly class Previews
{
    public function __construct(private TradingSystem $system, private Orders $orders) {}

    /** @return array<string, mixed> */
    public function order(Asked $asked, int $at): array
    {
        return $this->system->desk->queries->preview($asked->account->id, $asked->request->body, $at);
    }

    /** @return array<string, mixed> */
    public function change(Asked $asked, int $at): array
    {
        $ahead = $this->orders->ahead($asked->int('order'));

        return $this->system->desk->queries->previewChange($asked->account->id, $asked->request->body, $ahead, $at);
    }

    /** @return array<string, mixed> */
    public function size(Asked $asked, int $at): array
    {
        return $this->system->desk->queries->size($asked->account->id, $asked->request->body, $at);
    }

    /** @return array<string, mixed> what the orders of action keys would be now */
    public function steps(Asked $asked): array
    {
        $contract = $asked->contract();
        $quote = $this->system->desk->quote($contract->code);
        $position = $this->system->desk->state->holding($asked->account->id, $contract->code)->position;
        $pointed = $asked->request->body['pointed'] ?? null;
        $pointed = is_int($pointed) ? $pointed : null;
        $lots = $asked->int('lots', 1);

        return ['steps' => array_map(static function (mixed $step) use ($contract, $quote, $position, $lots, $pointed): array {
            $node = Node::of($step);
            $node->raw('do');

            return OrderStep::fromNode($node)->now($contract, $quote, $position, $lots, $pointed);
        }, array_values($asked->list('steps')))];
    }

    /** @return array<string, mixed> what the market says about a plan (average true ranges, ranges of minutes, the last price) and the balance */
    public function planBasis(Asked $asked, int $at): array
    {
        $quote = $this->system->desk->quote($asked->contract()->code);
        try {
            $ranges = TrueRanges::for(ExitPlan::fromArray($asked->list('document')), $quote->bars, $at)->toArray();
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/document');
        }

        return [
            'ranges' => $ranges,
            'minutes' => array_map(static fn(Bar $b): int => $b->range(), $quote->bars->closed(BarSize::OneMinute, $at)),
            'last' => $quote->last, 'balance' => Balance::of($asked->account, $this->system->desk->state)->exact(),
        ];
    }

    /** @return array{names: array<string, string>} */
    public function plansUsed(Asked $asked): array
    {
        return ['names' => PlansInUse::of($asked->account->id, $this->system->desk->state)];
    }
}
