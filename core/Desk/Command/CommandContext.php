<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Contract\Contract;
use Lotrik\Contract\Hours;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Intake\Intake;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Desk\Question\Asking;
use Lotrik\Desk\Question\Order\NotFlattening;
use Lotrik\Desk\Question\Order\SessionOpen;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Quotes;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** What every command has at hand: the state, the market as the desk sees it, and the look-ups that all of them make. */
final class CommandContext
{
    public function __construct(
        public readonly DeskState $state,
        public readonly EventRecorder $recorder,
        public readonly Intake $intake,
        public readonly Quotes $quotes,
        public readonly Asking $asking,
    ) {}

    /**
     * Whether something may be that leaves the orders as they are: a stop that is set, moved or taken off, a plan, what is untied.
     *
     * @param bool $asked whether the trader knows that it leaves lots unprotected
     *
     * @throws Refusal
     */
    public function mayBe(Proposal $proposal, string $what, bool $asked): void
    {
        $refusal = $this->asking->question->refusal($proposal);
        if ($refusal !== null) {
            throw $refusal;
        }
        if ($proposal->unprotects() > 0 && ! $asked) {
            throw Refusal::wouldUnprotect($what, $proposal->unprotects());
        }
    }

    public function quote(string $contract): Quote
    {
        return $this->quotes->of($contract);
    }

    public function restoreQuote(string $contract, Quote $quote): void
    {
        $this->quotes->restore($contract, $quote);
    }

    /** @param int $at ms since 1970 UTC */
    public function hours(string $contract, int $at): Hours
    {
        return $this->state->contracts[$contract]->session->at($at);
    }

    /**
     * Moves the stop or target of one portion by hand. Where its order is on its way the move is done as soon as the
     * answer is here; {@see busyExits()} says which those are.
     */
    public function moveExit(AccountPosition $holding, OpenPortion $of, Role $role, int $level, string $why): void
    {
        $order = $of->order($holding, $role);
        if ($order === null || $order->state->isPending()) {
            $this->recorder->note(new E\Exit\ExitMoved(
                $holding->account, $holding->contract, $of->entry->order, $of->slot->portion->number, $of->slot->group, $role, $level,
            ));
        } elseif ($role === Role::Target) {
            $this->recorder->note(new E\Order\ReplaceRequested($order->id, 0, $level, null, $why, true));
        } else {
            // A protective stop-limit keeps its limit as far beyond its trigger as it was.
            $limit = $order->price === null ? null : $level + $order->price - (int) $order->trigger;
            $this->recorder->note(new E\Order\ReplaceRequested($order->id, 0, $limit, $level, $why, true));
        }
    }

    /**
     * @param array<OpenPortion> $exits
     *
     * @return list<int> those of their orders that are on their way
     */
    public function busyExits(AccountPosition $holding, array $exits, Role $role): array
    {
        $orders = array_map(
            static fn(OpenPortion $of): ?DeskOrder => $of->order($holding, $role),
            $exits,
        );

        return array_values(array_map(
            static fn(DeskOrder $o): int => $o->id,
            array_filter($orders, static fn(?DeskOrder $o): bool => $o?->state->isPending() === true),
        ));
    }

    /** Takes an order back by hand. One that is on its way is cancelled as soon as the answer is here. */
    public function cancelByHand(DeskOrder $order, string $why): void
    {
        if (! $order->state->isPending()) {
            $this->recorder->cancel($order, $why, true);
        } elseif ($order->state !== OrderState::PendingCancel) {
            $this->recorder->note($order->role->isExit()
                ? new E\Exit\ExitTakenOff(
                    $order->account, $order->contract, (int) $order->entry, (int) $order->portion, (int) $order->group, $order->role,
                )
                : new E\Order\CancelWished($order->id, $why));
        }
    }

    /** @return list<OpenPortion> those with a stop that has not been set off, those whose order is on its way among them */
    public static function withStop(AccountPosition $holding): array
    {
        return array_values(array_filter($holding->portions(), static function (OpenPortion $of) use ($holding): bool {
            $order = $of->order($holding, Role::Stop);

            return $of->slot->wantsStop() && $order?->triggered !== true && $order?->state !== OrderState::PendingCancel;
        }));
    }

    /** What would trade at once is refused outside the session. @throws Refusal */
    public function mustBeOpen(Contract $contract): void
    {
        $hours = $contract->session->at($this->recorder->at);
        if (! $hours->open) {
            throw SessionOpen::marketClosed($contract->code, $hours->words($this->recorder->at), 'flatten closes at the open');
        }
    }

    /** @param array<string, mixed> $answer */
    public function accept(CommandHead $command, ?string $contract, array $answer, string $words): void
    {
        $this->recorder->note(new E\Command\CommandTaken(
            $command->account->id, $contract, $command->op, $command->clientId, $command->fingerprint, $answer, $words,
        ));
    }

    /**
     * An order worked out and checked.
     *
     * @param AccountPosition|null $holding what the account has; another one to ask "what if it were so"
     * @param int                  $sent    entries that the same command has sent before
     *
     * @throws Refusal
     */
    public function worked(CommandHead $command, OrderRequest $request, ?AccountPosition $holding = null, int $sent = 0): Ticket
    {
        $this->mustHaveParent($command, $request);
        $ticket = $this->intake->work($request, $command->account, $this->quote($request->contract->code), $holding, $sent);

        return $ticket->refusal === null ? $ticket : throw $ticket->refusal;
    }

    /** @throws Refusal where it waits for an order that nothing can come of */
    public function mustHaveParent(CommandHead $command, OrderRequest $request): void
    {
        $after = $request->releaseWhen?->after;
        if ($after !== null) {
            $parent = $this->state->orders[$after] ?? null;
            if ($parent === null || $parent->account !== $command->account->id || $parent->state->isFinal() || $parent->role->isExit()) {
                throw self::nothingToWaitFor($after);
            }
        }
    }

    /**
     * The other half of a reversal, worked out and checked as if the position were flat already.
     *
     * @throws Refusal
     */
    public function reversed(CommandHead $command, AccountPosition $holding, ?ExitPlan $plan): Ticket
    {
        $contract = $this->state->contracts[$holding->contract];
        $lots = $holding->position->lots;
        if ($lots === 0) {
            throw Refusal::flat($contract->code, 'there is nothing to reverse, place an order instead');
        }
        $request = OrderRequest::marketEntry($contract, Side::ofPosition($lots)->opposite(), abs($lots), $plan, $this->recorder->at);

        return $this->worked($command, $request, new AccountPosition($holding->account, $holding->contract));
    }

    public function contractOf(Node $node): Contract
    {
        return $this->state->contracts[$node->string('contract')]
            ?? throw Refusal::unknownContract($node->string('contract'), '/contract');
    }

    public function orderOf(CommandHead $command, Node $node): DeskOrder
    {
        $id = $node->int('order', 1, PHP_INT_MAX);
        $order = $this->state->orders[$id] ?? null;
        if ($order === null || $order->account !== $command->account->id) {
            throw Refusal::orderNotFound($id);
        }
        if ($order->state->isFinal()) {
            throw self::orderFinal($id, $order->state->value);
        }

        return $order;
    }

    public function mustBeFree(DeskOrder $order): void
    {
        if ($order->state->isPending()) {
            throw self::orderBusy($order->id, $order->state->value);
        }
    }

    /**
     * @return array{Contract, AccountPosition} of a contract with an open position that is not being flattened
     *
     * @throws Refusal
     */
    public function openPosition(CommandHead $command, Node $node): array
    {
        $contract = $this->contractOf($node);
        $node->done();
        $holding = $this->state->holding($command->account->id, $contract->code);
        if ($holding->position->lots === 0) {
            throw Refusal::flat($contract->code, 'there is no position to act on');
        }
        if ($holding->isClosingDown()) {
            throw NotFlattening::flattening($contract->code, 'it needs no more exits');
        }

        return [$contract, $holding];
    }

    private static function nothingToWaitFor(int $order): Refusal
    {
        return new Refusal(
            RefusalCode::NothingToWaitFor,
            "order $order is not a working entry or close of this account; give the id of one that works",
            '/after',
        );
    }

    private static function orderFinal(int $order, string $state): Refusal
    {
        return new Refusal(RefusalCode::OrderFinal, "order $order is $state; only a working order can be changed or cancelled");
    }

    private static function orderBusy(int $order, string $state): Refusal
    {
        return new Refusal(RefusalCode::OrderBusy, "order $order is $state; try again once the venue has answered");
    }
}
