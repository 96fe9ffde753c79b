<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Rpc\EngineClient;
use App\Http\JsonBody;
use App\Http\WebRefusal;
use App\Models\StoredPlan;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Document\DocumentFault;
use Lotrik\Refusal\Refusal;

/** What the trading controllers share: whose account it is, the engine in its name, and plans by their id. */
abstract class ApiController
{
    public function __construct(protected readonly EngineClient $engine) {}

    protected function user(Request $request): User
    {
        $user = $request->user();
        assert($user instanceof User);

        return $user;
    }

    /** @throws Refusal where the account is missing or somebody else's */
    protected function account(Request $request, mixed $account): int
    {
        $mine = $this->user($request)->accounts();
        if ($account === null) {
            return (int) ($mine->value('id') ?? throw WebRefusal::noAccount());
        }
        if (! is_int($account) && ! (is_string($account) && ctype_digit($account))) {
            throw Refusal::invalid('account', $account, 'the number of one of your accounts');
        }
        if (! $mine->where('id', (int) $account)->exists()) {
            throw Refusal::unknownAccount($account);
        }

        return (int) $account;
    }

    /** @param array<array-key, mixed> $body */
    protected function accountIn(Request $request, array $body): int
    {
        if (($body['account'] ?? null) === null) {
            throw Refusal::unreadable(DocumentFault::at('/account', 'nothing', 'the number of one of your accounts'));
        }

        return $this->account($request, $body['account']);
    }

    /**
     * @param array<array-key, mixed> $body
     *
     * @throws Refusal naming the first field that the address does not take
     */
    protected function mustKnow(array $body, string ...$fields): void
    {
        foreach (array_keys($body) as $field) {
            if (! in_array($field, $fields, true)) {
                throw Refusal::unreadable(DocumentFault::at("/$field", 'an unknown field', 'only '.implode(', ', $fields)));
            }
        }
    }

    /**
     * A command to the engine. Its fingerprint is of what was sent, before a plan's id became its document.
     *
     * @param array<array-key, mixed> $body
     * @param array<string, mixed>    $more what the address says
     */
    protected function command(Request $request, string $op, int $account, array $body, array $more = []): JsonResponse
    {
        $fingerprint = JsonBody::fingerprint($op.' '.json_encode($more), $body);
        $reply = $this->engine->for($this->user($request), $account)->call($op, $more + $this->withPlan($request, $body), $fingerprint);

        return new JsonResponse($reply['body'], $reply['status']);
    }

    /** @param array<string, mixed> $body */
    protected function ask(Request $request, string $op, int $account, array $body = []): JsonResponse
    {
        return new JsonResponse($this->engine->for($this->user($request), $account)->call($op, $body)['body']);
    }

    /**
     * @param array<array-key, mixed> $body
     *
     * @return array<array-key, mixed>
     */
    protected function withPlan(Request $request, array $body): array
    {
        if (is_array($body['orders'] ?? null)) {
            $body['orders'] = array_map(fn(mixed $order): mixed => is_array($order) ? $this->withPlan($request, $order) : $order, $body['orders']);
        }
        $plan = $body['exit_plan'] ?? null;
        if ($plan === null || is_array($plan)) {
            return $body;
        }
        $stored = is_int($plan) ? StoredPlan::findFor($this->user($request)->id, $plan) : null;
        if ($stored === null) {
            throw WebRefusal::unknownPlan($plan);
        }

        // The journal says which version of the plan it was.
        return ['exit_plan' => $stored->document, 'plan_version' => $stored->version] + $body;
    }
}
