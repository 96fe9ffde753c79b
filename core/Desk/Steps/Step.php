<?php

declare(strict_types=1);

namespace Lotrik\Desk\Steps;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;

/**
 * One step of an action key with all that its command needs, frozen when the key was pressed.
 *
 * @phpstan-type PackedStep array{do: string, body: array<string, mixed>}
 */
final readonly class Step
{
    /** An action key has at most so many. */
    public const MOST = 3;

    private const MAX_CLOSER = 1000;

    /** @param array<string, mixed> $body of its command, without `client_id`, `account` and `contract` */
    private function __construct(public StepAction $do, public array $body) {}

    /**
     * @param Node $step `{"do":"order","order":{…}}`, `{"do":"reverse","exit_plan":…}`, `{"do":"closer","ticks":1}`, or `do` alone;
     *                   what an order says is read by the order itself
     *
     * @throws InvalidDocument
     */
    public static function fromNode(Node $step): self
    {
        $do = $step->enum('do', StepAction::class);
        $body = match ($do) {
            StepAction::Order => (array) $step->raw('order'),
            StepAction::Reverse => ['exit_plan' => $step->raw('exit_plan'), 'plan_version' => $step->raw('plan_version')],
            StepAction::Closer => ['ticks' => $step->int('ticks', 1, self::MAX_CLOSER)],
            StepAction::CancelBuys => ['sides' => ['buy']],
            StepAction::CancelSells => ['sides' => ['sell']],
            default => [],
        };
        $step->done();
        /** @var array<string, mixed> $body */

        return new self($do, $body);
    }

    /**
     * The plan that a reversal goes under.
     *
     * @throws InvalidDocument
     */
    public function plan(string $pointer): ?ExitPlan
    {
        $node = Node::of($this->body, $pointer);

        return $node->raw('exit_plan') === null ? null : ExitPlan::fromNode($node->node('exit_plan'));
    }

    /** Its command's body. */
    public function on(string $contract): Node
    {
        return Node::of(['contract' => $contract] + $this->body);
    }

    /** @return PackedStep as the journal holds it */
    public function toArray(): array
    {
        return ['do' => $this->do->value, 'body' => $this->body];
    }

    /** @param PackedStep $packed */
    public static function fromArray(array $packed): self
    {
        return new self(StepAction::from($packed['do']), $packed['body']);
    }
}
