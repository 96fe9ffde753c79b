<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\JsonBody;
use App\Http\WebRefusal;
use App\Models\AccountRow;
use App\Models\PlanRow;
use Illuminate\Auth\Access\Response;
use Illuminate\Support\Facades\Gate;
use Lotrik\Document\InvalidDocument;
use Lotrik\Refusal\Refusal;

/** A command to the desk, or a question to it, for the account that its body names. What else it says the desk reads. */
class CommandRequest extends ApiRequest
{
    public function authorize(): Response
    {
        return Gate::inspect('use', $this->account());
    }

    /**
     * The body with the documents of the plans that it names by their id; the journal says which version of a plan it was.
     *
     * @return array<array-key, mixed>
     *
     * @throws Refusal
     */
    public function command(): array
    {
        return $this->withPlan($this->fields());
    }

    /**
     * Of what was sent, before a plan's id became its document: sent again it is the same, even if the plan was changed.
     *
     * @param array<string, mixed> $more what the address says
     */
    public function fingerprintOf(string $op, array $more): string
    {
        return JsonBody::fingerprint($op.' '.json_encode($more), $this->fields());
    }

    protected function findAccount(): AccountRow
    {
        $named = $this->fields()['account'] ?? null;

        return $named === null
            ? throw Refusal::unreadable(InvalidDocument::at('/account', 'nothing', 'the number of one of your accounts'))
            : AccountRow::named($named);
    }

    private function withPlansOfStep(mixed $step): mixed
    {
        if (is_array($step) && is_array($step['order'] ?? null)) {
            return ['order' => $this->withPlan($step['order'])] + $step;
        }

        return is_array($step) ? $this->withPlan($step) : $step;
    }

    /**
     * @param array<array-key, mixed> $body
     *
     * @return array<array-key, mixed>
     */
    private function withPlan(array $body): array
    {
        if (is_array($body['orders'] ?? null)) {
            $body['orders'] = array_map(fn(mixed $order): mixed => is_array($order) ? $this->withPlan($order) : $order, $body['orders']);
        }
        if (is_array($body['steps'] ?? null)) {
            $body['steps'] = array_map($this->withPlansOfStep(...), $body['steps']);
        }
        $plan = $body['exit_plan'] ?? null;
        if ($plan === null || is_array($plan)) {
            return $body;
        }
        $stored = is_int($plan) ? PlanRow::findFor($this->trader()->id, $plan) : null;

        return ['exit_plan' => $stored->document ?? throw WebRefusal::unknownPlan($plan), 'plan_version' => $stored->version] + $body;
    }
}
