<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\PlanSample;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Refusal\Refusal;
use Lotrik\Rehearsal\Noise\NoiseStudy;

/** A plan, kept or not, that is asked whether its stop was inside the noise of what has just traded. */
final class NoiseRequest extends CommandRequest
{
    private const MINUTES = 30;

    /**
     * @return array<string, mixed>
     *
     * @throws Refusal
     */
    public function noise(EngineClient $engine): array
    {
        $node = Node::of($this->fields());
        try {
            $node->raw('account');
            $plan = ExitPlan::fromNode($node->node('document'));
            $contract = self::listed($node->string('contract'))->contract();
            $quantity = $node->int('quantity', 1, PlanSample::MAX_LOTS);
            $minutes = $node->optionalInt('minutes', NoiseStudy::MIN_MINUTES, NoiseStudy::MAX_MINUTES) ?? self::MINUTES;
            $byStop = $node->bool('by_stop', false);
            $node->done();
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }

        return $engine->for($this->trader(), $this->account()->id)->call(Operation::Noise, [
            'contract' => $contract->code, 'document' => $plan->document, 'quantity' => $quantity, 'minutes' => $minutes,
            'by_stop' => $byStop,
        ])['body'];
    }
}
