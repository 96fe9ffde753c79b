<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Engine\Rpc\EngineClient;
use App\Http\PlanSample;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\ExitPlan\Study\PlanStudy;
use Lotrik\Refusal\Refusal;

/** A plan, kept or not, that is looked at for a sample order. */
final class StudyRequest extends CommandRequest
{
    private const MAX_BEST = 2_000;

    /** How far the curve goes where it is not said, in ticks. */
    private const BEST = 60;

    /**
     * @return array<string, mixed> as PlanStudy gives it
     *
     * @throws Refusal
     */
    public function study(EngineClient $engine): array
    {
        $node = Node::of($this->fields());
        try {
            $sample = PlanSample::fromNode($node, $engine->for($this->trader(), $this->account()->id), $this->account()->account());
            $best = $node->optionalInt('best', 1, self::MAX_BEST) ?? self::BEST;
            $node->done();

            return PlanStudy::of($sample->plan, $sample->basis, $sample->side, $best, $sample->minutes);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/document');
        }
    }
}
