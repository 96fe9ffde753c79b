<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Steps\Step;
use Lotrik\Desk\Steps\StepsUnderWay;
use Lotrik\Document\InvalidDocument;
use Lotrik\Order\OrderState;
use Lotrik\Refusal\Refusal;

/**
 * Takes the steps of an action key: the next one only when the venue has answered the one before, and only while that came
 * out as it was meant. Where it did not, what is left is dropped and the trader hears at which step.
 */
final class StepKeeper
{
    /** Commands after which nothing that was planned before them is done any more. */
    private const OVERRIDES = ['flatten', 'flatten-account', 'cancel-many', 'half-off', 'close-part', 'reverse'];

    /** @param array<string, Command> $commands by operation */
    public function __construct(private readonly CommandContext $context, private readonly array $commands) {}

    public function advance(AccountPosition $holding): void
    {
        while ($holding->steps !== null && ! self::waits($holding)) {
            $this->step($holding, $holding->steps);
        }
    }

    /** The trader has done something else since: that counts. */
    public function overridden(string $op, int $account, ?string $contract): void
    {
        if (! in_array($op, self::OVERRIDES, true)) {
            return;
        }
        foreach ($contract === null ? array_keys($this->context->state->contracts) : [$contract] as $code) {
            $this->drop($this->context->state->holding($account, $code), 'you flattened, closed or cancelled meanwhile');
        }
    }

    public function drop(AccountPosition $holding, string $because): void
    {
        $steps = $holding->steps;
        if ($steps !== null) {
            $this->context->recorder->note($steps->next() === null
                ? new E\Command\StepsDone($holding->account, $holding->contract, $steps->name)
                : new E\Command\StepsStopped($holding->account, $holding->contract, $steps->name, $steps->number(), $because));
        }
    }

    /** Whether something of the step before is still on its way. */
    private static function waits(AccountPosition $holding): bool
    {
        return $holding->isClosingDown()
            || array_filter($holding->working, static fn(DeskOrder $order): bool => $order->state->isPending()) !== [];
    }

    private function step(AccountPosition $holding, StepsUnderWay $steps): void
    {
        $next = $steps->next();
        $because = $next === null ? '' : $this->hindrance($holding, $steps, $next);
        if ($next === null || $because !== null) {
            $this->drop($holding, (string) $because);

            return;
        }
        $lots = $holding->position->lots;
        $op = $next->do->op();
        $head = new CommandHead($op, $this->context->state->accounts[$holding->account], "{$steps->clientId}#{$steps->number()}", '');
        try {
            $answer = $this->commands[$op]->handle($head, $next->on($holding->contract));
        } catch (Refusal|InvalidDocument $fault) {
            $this->drop($holding, $fault->getMessage());

            return;
        }
        $order = $answer['order'] ?? null;
        $words = "{$steps->name}, step {$steps->number()} of ".count($steps->steps).": {$next->do->words()}";
        $this->context->recorder->note(
            new E\Command\StepTaken($holding->account, $holding->contract, $words, $lots, is_int($order) ? $order : null),
        );
    }

    /** Why the next step is not what was meant any more; null where it is. */
    private function hindrance(AccountPosition $holding, StepsUnderWay $steps, Step $next): ?string
    {
        $filled = abs($holding->position->lots - $steps->lotsBefore);
        $before = $this->context->state->orders[$steps->order ?? 0] ?? null;

        return match (true) {
            $steps->newest()?->do->cancels() === true && $filled > 0 => "$filled filled before the cancel came through",
            $before?->state === OrderState::Rejected => "order {$before->id} was rejected: {$before->reason}",
            $next->do->mayOpen() && $steps->isTooLate($this->context->recorder->at) => 'it would have come too long after the press',
            default => null,
        };
    }
}
