<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Loop\CommandRate;
use Lotrik\Desk\Command\Answer;
use Lotrik\Desk\Flatten\FlattenProgress;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\TradingSystem;
use Lotrik\Refusal\Refusal;

/** The commands that {@see \Lotrik\Desk\Desk} takes, and how its answers are written. */
final readonly class TradingCommands
{
    public function __construct(private TradingSystem $system, private Orders $orders, private CommandRate $rate) {}

    /**
     * @param int $at ms since 1970 UTC
     *
     * @return callable(): array{status: int, body: array<array-key, mixed>}
     *
     * @throws Refusal
     */
    public function run(Asked $asked, int $at): callable
    {
        [$request, $account] = [$asked->request, $asked->account->id];
        $this->rate->count($request->op->value, $account, $request->body, $this->system->desk->state, hrtime(true) / 1e9);
        $answer = $this->system->handle($request->op->value, $account, $request->body, $request->fingerprint, $at);

        return fn(): array => $this->answer($request->op, $account, $answer);
    }

    /** @return array{status: int, body: array<array-key, mixed>} */
    private function answer(Operation $op, int $account, Answer $answer): array
    {
        $body = $answer->body;
        $sequence = $this->system->desk->state->sequence;
        if ($op === Operation::Recall) {
            $given = $body['op'] === null
                ? null
                : $this->answer(Operation::from($body['op']), $account, new Answer($body['answer'], true))['body'];

            return ['status' => 200, 'body' => ['arrived' => $body['arrived'], 'answer' => $given, 'sequence' => $sequence]];
        }
        $isNew = in_array($op, [Operation::Place, Operation::PlacePair], true) && ! $answer->repeated;
        if (isset($body['order'])) {
            return ['status' => $isNew ? 201 : 200, 'body' => $this->orders->now((int) $body['order'])];
        }
        if (isset($body['orders'])) {
            return [
                'status' => $isNew ? 201 : 200,
                'body' => ['orders' => array_map($this->orders->now(...), $body['orders']), 'sequence' => $sequence],
            ];
        }
        if (isset($body['contracts'])) {
            $body['contracts'] = array_map(
                fn(string $code): array => $this->flattening($this->system->desk->state->holding($account, $code)),
                $body['contracts'],
            );
        }

        return ['status' => 200, 'body' => $body + ['sequence' => $sequence]];
    }

    /** @return array<string, mixed> how far a flatten has come */
    private function flattening(AccountPosition $holding): array
    {
        $progress = new FlattenProgress($holding, $this->system->desk->state->contracts[$holding->contract]);

        return [
            'contract' => $holding->contract, 'quantity' => $holding->position->lots, 'flattening' => $progress->isUnderWay,
            'stops' => $progress->stops, 'words' => $progress->words,
        ];
    }
}
