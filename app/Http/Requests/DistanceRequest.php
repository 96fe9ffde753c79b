<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Engine\Rpc\EngineClient;
use App\Http\PlanSample;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Distance;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Refusal\Refusal;

/** A distance of a plan that is to be written in another unit, for a sample order. */
final class DistanceRequest extends CommandRequest
{
    /**
     * @return array{distance: array<string, int|string>}
     *
     * @throws Refusal
     */
    public function converted(EngineClient $engine): array
    {
        $fields = $this->fields();
        $node = Node::of($fields);
        try {
            [$from, $to] = [$node->node('distance'), $node->node('as')];
            [$distance, $unit] = [Distance::fromNode($from), Distance::fromNode($to)];
            $from->done();
            $to->done();
            // The market is asked for what a plan with both of them needs to know.
            $plan = [
                'format' => 'lotrik.exit-plan/1', 'name' => 'Distance', 'stop' => $distance->toArray(),
                'portions' => [['rest' => true, 'target' => $unit->toArray()]],
            ];
            $sample = PlanSample::fromNode(
                $rest = Node::of(['document' => $plan] + array_diff_key($fields, ['distance' => true, 'as' => true])),
                $engine->for($this->trader(), $this->account()->id),
                $this->account()->account(),
            );
            $rest->done();

            return ['distance' => $distance->in($unit, $sample->basis)->toArray()];
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/distance');
        }
    }
}
