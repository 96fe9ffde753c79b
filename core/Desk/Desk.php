<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Command\OrderRequest;
use Lotrik\Desk\Event as E;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\ResolvedPlan;
use Lotrik\ExitPlan\Watch;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\TradePrint;

/**
 * The one door to all trading state: commands and what the venue says go in, events come out. It has no clock and
 * no I/O, and it never reaches into a book: what it wants from the venue it says in its events.
 *
 * A command is checked whole before its first event. A refusal is an event too, and changes nothing else.
 */
final class Desk
{
    private readonly Scribe $scribe;

    private readonly Intake $intake;

    private readonly ExitKeeper $exits;

    private readonly Flattening $flattening;

    /** @var array<string, Quote> */
    private array $quotes = [];

    public function __construct(public readonly DeskState $state = new DeskState())
    {
        $this->scribe = new Scribe($state);
        $this->intake = new Intake($state);
        $this->exits = new ExitKeeper($this->scribe);
        $this->flattening = new Flattening($this->scribe);
    }

    public function quote(string $contract): Quote
    {
        return $this->quotes[$contract] ??= new Quote();
    }

    public function restoreQuote(string $contract, Quote $quote): void
    {
        $this->quotes[$contract] = $quote;
    }

    /** What has been recorded and not yet been fetched with {@see events()}, for the one who carries it to the venue. */
    public function scribe(): Scribe
    {
        return $this->scribe;
    }

    /** @return list<Recorded> */
    public function events(): array
    {
        return $this->scribe->fetch();
    }

    public function openAccount(Account $account, int $at): void
    {
        $this->scribe->at = $at;
        $this->scribe->note(new E\AccountOpened($account->id, $account->document));
    }

    public function list(Contract $contract, int $at): void
    {
        $this->scribe->at = $at;
        $this->scribe->note(new E\ContractListed($contract->code, $contract->toArray()));
    }

    /**
     * One command of a trader.
     *
     * @param string                  $op          place, modify, cancel, cancel-many, flatten, flatten-account, reverse, cover, break-even or half-off
     * @param array<array-key, mixed> $body        as formats.md says, `client_id` and `account` in it
     * @param string                  $fingerprint of what was sent: the same client id with another one is refused
     *
     * @throws Refusal
     */
    public function take(string $op, int $accountId, array $body, string $fingerprint, int $at): Answer
    {
        $this->scribe->at = $at;
        $account = $this->state->accounts[$accountId] ?? throw new Refusal('unknown-account', "there is no account $accountId");
        $node = Node::of($body);
        $clientId = null;
        try {
            $node->raw('account');
            $clientId = $node->string('client_id', null, 64);
            $known = $this->state->taken[$accountId][$clientId] ?? null;
            if ($known !== null) {
                return $known->op === $op && $known->fingerprint === $fingerprint
                    ? new Answer($known->answer, true)
                    : throw new Refusal('client-id-reused', "client_id \"$clientId\" was used for another command; use a new one for each command", '/client_id');
            }
            $this->scribe->commandId = $clientId;
            $command = new CommandHead($op, $account, $clientId, $fingerprint);

            return new Answer(match ($op) {
                'place' => $this->place($command, OrderRequest::fromNode($node, $this->state)),
                'modify' => $this->modify($command, $node),
                'cancel' => $this->cancel($command, $node),
                'cancel-many' => $this->cancelMany($command, $node),
                'flatten' => $this->flatten($command, [$this->contractOf($node)], $node),
                'flatten-account' => $this->flatten($command, array_values($this->state->contracts), $node),
                'reverse' => $this->reverse($command, $node),
                'cover' => $this->cover($command, $node),
                'break-even' => $this->breakEven($command, $node),
                'half-off' => $this->halfOff($command, $node),
                default => throw new \LogicException("no command $op"),
            }, false);
        } catch (DocumentFault $fault) {
            throw $this->refused($op, $accountId, $clientId, $body, new Refusal('invalid', $fault->getMessage(), $fault->pointer));
        } catch (Refusal $refusal) {
            throw $this->refused($op, $accountId, $clientId, $body, $refusal);
        } finally {
            $this->scribe->commandId = null;
        }
    }

    /**
     * What an order would be, without sending it.
     *
     * @param array<array-key, mixed> $body as for placing, without `client_id`
     *
     * @return array<string, mixed>
     *
     * @throws Refusal for a body that cannot be read; a check that fails is part of the preview
     */
    public function preview(int $accountId, array $body): array
    {
        $account = $this->state->accounts[$accountId] ?? throw new Refusal('unknown-account', "there is no account $accountId");
        $node = Node::of($body);
        $node->raw('account');
        try {
            $request = OrderRequest::fromNode($node, $this->state);
        } catch (DocumentFault $fault) {
            throw new Refusal('invalid', $fault->getMessage(), $fault->pointer);
        }
        $ticket = $this->intake->work($request, $account, $this->quote($request->contract->code));

        return Preview::of($ticket, $this->state->holding($accountId, $request->contract->code));
    }

    /**
     * What one action of a venue did: reports and prints in their order. Resting orders filled and stops triggered at
     * their old levels in it; only then do best prices count and ratchets move.
     *
     * @param list<ExecutionReport|TradePrint> $outcomes
     */
    public function report(string $contract, array $outcomes, int $at): void
    {
        $this->scribe->at = $at;
        $quote = $this->quote($contract);
        foreach ($outcomes as $outcome) {
            if ($outcome instanceof ExecutionReport) {
                $this->executed($outcome);
            } else {
                $quote->last = $outcome->tick;
                $this->observe($contract, Watch::Last, $outcome->tick, $outcome->tick, $outcome->number);
            }
        }
    }

    /** The best bid and ask after an action, in ticks. */
    public function quoted(string $contract, ?int $bid, ?int $ask): void
    {
        $quote = $this->quote($contract);
        $quote->bid = $bid;
        $quote->ask = $ask;
        $this->observe($contract, Watch::ExitQuote, $bid, $ask, PHP_INT_MAX);
    }

    /** Moves ratchets, keeps exits and goes on with flattening where the last action gave reason to. */
    public function react(string $contract, int $at): void
    {
        $this->scribe->at = $at;
        foreach ($this->state->holdings[$contract] ?? [] as $holding) {
            if ($holding->entries === [] && ! $holding->flattening) {
                continue;
            }
            $this->exits->ratchet($holding);
            $this->exits->reconcile($holding, $this->quote($contract));
            $this->flattening->advance($holding);
        }
    }

    /** @return array<string, mixed> */
    private function place(CommandHead $command, OrderRequest $request): array
    {
        $ticket = $this->intake->work($request, $command->account, $this->quote($request->contract->code));
        if ($ticket->refusal !== null) {
            throw $ticket->refusal;
        }
        $id = $this->state->lastOrder + 1;
        $holding = $this->state->holding($command->account->id, $request->contract->code);
        $words = Preview::of($ticket, $holding)['words'];
        assert(is_string($words));
        $this->taken($command, $request->contract->code, ['order' => $id], "Placed: $words");
        $this->scribe->note(new E\OrderPlaced(
            $id, $command->account->id, $request->contract->code, $command->clientId, $request->side, $request->kind, $ticket->quantity,
            $request->price, $request->trigger, $request->tif, $ticket->role, 'by hand', $ticket->role === Role::Entry ? $request->plan?->document : null, tag: $request->tag,
        ));

        return ['order' => $id];
    }

    /** @return array<string, mixed> */
    private function modify(CommandHead $command, Node $node): array
    {
        $order = $this->orderOf($command, $node);
        $contract = $this->state->contracts[$order->contract];
        $this->mustBeFree($order);
        $change = Modification::read($node, $order, $contract);
        if ($change->handBack) {
            return $this->handBack($command, $order);
        }
        $refusal = $change->refusal($order, $this->state->holding($order->account, $order->contract), $command->account, $this->quote($order->contract), $contract);
        if ($refusal !== null) {
            throw $refusal;
        }
        $this->taken($command, $order->contract, ['order' => $order->id], 'Change '.Words::named($order, $contract));
        if (! $change->isNothing($order)) {
            // A protective stop-limit keeps its limit as far beyond its trigger as it was.
            $price = $order->role === Role::Stop && $order->price !== null && $change->trigger !== null ? $order->price + $change->trigger - (int) $order->trigger : $change->price;
            $this->scribe->note(new E\ReplaceRequested($order->id, $change->lotsChange($order), $price, $change->trigger, 'by hand', true));
        }

        return ['order' => $order->id];
    }

    /** @return array<string, mixed> */
    private function handBack(CommandHead $command, DeskOrder $order): array
    {
        if ($order->role !== Role::Stop) {
            throw new Refusal('not-a-stop', 'only the stop of a portion can be handed back to its ratchets', '/steering');
        }
        $this->taken($command, $order->contract, ['order' => $order->id], "Hand the stop of portion {$order->portion} back");
        $this->scribe->note(new E\SteeringHandedBack($order->account, $order->contract, (int) $order->entry, (int) $order->portion, (int) $order->group));

        return ['order' => $order->id];
    }

    /** @return array<string, mixed> */
    private function cancel(CommandHead $command, Node $node): array
    {
        $order = $this->orderOf($command, $node);
        $leave = $node->bool('leave_unprotected', false);
        $node->done();
        if ($order->state === OrderState::PendingCancel) {
            $this->taken($command, $order->contract, ['order' => $order->id], 'Cancel again');

            return ['order' => $order->id];
        }
        $this->mustBeFree($order);
        if ($order->role === Role::Stop && ! $leave) {
            throw self::wouldUnprotect($order->leaves(), "order {$order->id}");
        }
        $this->taken($command, $order->contract, ['order' => $order->id], 'Cancel '.Words::named($order, $this->state->contracts[$order->contract]));
        $this->scribe->note(new E\CancelRequested($order->id, 'by hand', true));

        return ['order' => $order->id];
    }

    /**
     * Entries and hand-made orders; the exits of an open position stay unless they are asked for.
     *
     * @return array<string, mixed>
     */
    private function cancelMany(CommandHead $command, Node $node): array
    {
        $contracts = $node->has('contract') ? [$this->contractOf($node)->code] : array_keys($this->state->contracts);
        $sides = [];
        foreach ($node->raw('sides') === null ? [] : $node->list('sides') as $i => $side) {
            $sides[] = (is_string($side) ? Side::tryFrom($side) : null)
                ?? throw DocumentFault::at($node->at('sides')."/$i", DocumentFault::show($side), 'buy or sell');
        }
        $exits = $node->bool('exits', false);
        $leave = $node->bool('leave_unprotected', false);
        $node->done();
        $goes = [];
        $kept = $unprotected = 0;
        foreach ($contracts as $code) {
            foreach ($this->state->holding($command->account->id, $code)->working as $order) {
                if (($sides !== [] && ! in_array($order->side, $sides, true)) || $order->state->isPending()) {
                    continue;
                }
                if ($order->role->isExit() && ! $exits) {
                    $kept += $order->role === Role::Stop ? 1 : 0;
                } else {
                    $goes[] = $order;
                    $unprotected += $order->role === Role::Stop ? $order->leaves() : 0;
                }
            }
        }
        if ($unprotected > 0 && ! $leave) {
            throw self::wouldUnprotect($unprotected, 'the exits');
        }
        $answer = ['cancelled' => array_map(static fn(DeskOrder $o): int => $o->id, $goes), 'stops_kept' => $kept];
        $this->taken($command, count($contracts) === 1 ? $contracts[0] : null, $answer, sprintf('Cancel all: %d cancelled, %d stops kept', count($goes), $kept));
        foreach ($goes as $order) {
            $this->scribe->note(new E\CancelRequested($order->id, 'cancel all', true));
        }

        return $answer;
    }

    /**
     * @param list<Contract> $contracts
     *
     * @return array<string, mixed>
     */
    private function flatten(CommandHead $command, array $contracts, Node $node): array
    {
        $node->raw('contract');
        $node->done();
        $starts = [];
        $codes = [];
        foreach ($contracts as $contract) {
            $holding = $this->state->holding($command->account->id, $contract->code);
            if ($holding->position->lots !== 0 || $holding->working !== []) {
                $codes[] = $contract->code;
                $starts = $holding->flattening ? $starts : [...$starts, $contract->code];
            }
        }
        $answer = ['contracts' => $codes];
        $this->taken($command, count($contracts) === 1 ? $contracts[0]->code : null, $answer, $codes === [] ? 'Flatten: nothing open or working' : 'Flatten '.implode(', ', $codes));
        foreach ($starts as $code) {
            $this->scribe->note(new E\FlattenStarted($command->account->id, $code));
        }

        return $answer;
    }

    /** @return array<string, mixed> */
    private function reverse(CommandHead $command, Node $node): array
    {
        $contract = $this->contractOf($node);
        $plan = $node->raw('exit_plan') === null ? null : ExitPlan::fromNode($node->node('exit_plan'));
        $node->done();
        $holding = $this->state->holding($command->account->id, $contract->code);
        $lots = $holding->position->lots;
        if ($lots === 0) {
            throw new Refusal('flat', "{$contract->code} is flat; there is nothing to reverse, place an order instead");
        }
        if ($holding->flattening) {
            throw new Refusal('flattening', "{$contract->code} is already being flattened; wait until it is flat");
        }
        $side = Side::ofPosition($lots)->opposite();
        $flat = new Holding($command->account->id, $contract->code);
        $ticket = $this->intake->work(OrderRequest::marketEntry($contract, $side, abs($lots), $plan), $command->account, $this->quote($contract->code), $flat);
        if ($ticket->refusal !== null) {
            throw $ticket->refusal;
        }
        $answer = ['contracts' => [$contract->code]];
        $words = Words::order($side, abs($lots), OrderKind::Market, null, null, $contract);
        $this->taken($command, $contract->code, $answer, "Reverse {$contract->code}: flat, then $words under ".($plan->name ?? 'no exit plan'));
        $this->scribe->note(new E\FlattenStarted($command->account->id, $contract->code, ['side' => $side->value, 'quantity' => abs($lots), 'plan' => $plan?->document]));

        return $answer;
    }

    /**
     * Puts a plan on the open position, swaps it, or takes it off.
     *
     * @return array<string, mixed>
     */
    private function cover(CommandHead $command, Node $node): array
    {
        $contract = $this->contractOf($node);
        $plan = $node->raw('exit_plan') === null ? null : ExitPlan::fromNode($node->node('exit_plan'));
        $closeNow = $node->bool('close_now', false);
        $leave = $node->bool('leave_unprotected', false);
        $node->done();
        $holding = $this->state->holding($command->account->id, $contract->code);
        if ($holding->position->lots === 0) {
            throw new Refusal('flat', "{$contract->code} is flat; there is nothing to put a plan on");
        }
        if ($holding->flattening) {
            throw new Refusal('flattening', "{$contract->code} is being flattened; it needs no plan any more");
        }
        $resolved = $this->intake->fitted($plan, $command->account, $contract, $holding);
        $passed = $resolved === null || $closeNow ? null : $this->firstPassed($resolved, $holding);
        if ($passed !== null) {
            throw new Refusal('stop-passed', "the stop would stand at {$contract->price($passed)}, which the market has passed; say \"close_now\": true to close those lots at the market", '/exit_plan');
        }
        $bare = abs($holding->position->lots) - ($resolved?->protectedLots(abs($holding->position->lots)) ?? 0);
        if ($bare > $holding->unprotected() && ! $leave) {
            throw self::wouldUnprotect($bare, 'the present exits');
        }
        $answer = ['contracts' => [$contract->code]];
        $this->taken($command, $contract->code, $answer, 'Put '.($plan->name ?? 'no exit plan').' on the position');
        $this->scribe->note(new E\PlanPutOn($command->account->id, $contract->code, $this->state->lastOrder + 1, $plan?->document));

        return $answer;
    }

    /**
     * Stops that stand on the losing side go to the position's average, rounded to the profit side. The ratchets stay on.
     *
     * @return array<string, mixed>
     */
    private function breakEven(CommandHead $command, Node $node): array
    {
        [$contract, $holding] = $this->open($command, $node);
        $sign = $holding->position->lots <=> 0;
        $level = $holding->position->anchor();
        $moves = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Stop && ! $o->triggered
            && ! $o->state->isPending() && $sign * ($level - (int) $o->trigger) > 0);
        if ($moves === []) {
            throw new Refusal('nothing-to-move', 'no stop stands on the losing side of the average');
        }
        if ($this->quote($contract->code)->isPassed(Side::ofPosition($sign)->opposite(), $level)) {
            throw new Refusal('stop-passed', "a stop at {$contract->price($level)} is already passed by the market; flatten, or wait until the position is ahead");
        }
        $answer = ['contracts' => [$contract->code]];
        $this->taken($command, $contract->code, $answer, "Stops to break-even at {$contract->write($level)}");
        foreach ($moves as $order) {
            $limit = $order->price === null ? null : $level + $order->price - (int) $order->trigger;
            $this->scribe->note(new E\ReplaceRequested($order->id, 0, $limit, $level, 'to break-even', true));
        }

        return $answer;
    }

    /**
     * Closes half of the position at the market, rounded down.
     *
     * @return array<string, mixed>
     */
    private function halfOff(CommandHead $command, Node $node): array
    {
        [$contract, $holding] = $this->open($command, $node);
        $lots = $holding->position->lots;
        if (abs($lots) === 1) {
            throw new Refusal('no-half', 'one lot has no half; flatten closes it');
        }
        $id = $this->state->lastOrder + 1;
        $half = intdiv(abs($lots), 2);
        $this->taken($command, $contract->code, ['contracts' => [$contract->code]], "Half off: $half of ".abs($lots));
        $this->scribe->note(new E\OrderPlaced($id, $command->account->id, $contract->code, $command->clientId, Side::ofPosition($lots)->opposite(), OrderKind::Market, $half, null, null, TimeInForce::Day, Role::Close, 'half off'));

        return ['contracts' => [$contract->code]];
    }

    /**
     * @return array{Contract, Holding} of a contract with an open position that is not being flattened
     *
     * @throws Refusal
     */
    private function open(CommandHead $command, Node $node): array
    {
        $contract = $this->contractOf($node);
        $node->done();
        $holding = $this->state->holding($command->account->id, $contract->code);
        if ($holding->position->lots === 0) {
            throw new Refusal('flat', "{$contract->code} is flat; there is no position to act on");
        }
        if ($holding->flattening) {
            throw new Refusal('flattening', "{$contract->code} is already being flattened");
        }

        return [$contract, $holding];
    }

    /** @return int|null the tick of the first stop that the market has passed */
    private function firstPassed(ResolvedPlan $plan, Holding $holding): ?int
    {
        $side = Side::ofPosition($holding->position->lots);
        foreach (array_filter($plan->split(abs($holding->position->lots))) as $number => $lots) {
            $stop = $plan->portion($number)->stop;
            $level = $stop === null ? null : $holding->position->anchor() - $side->sign() * $stop->distance;
            if ($level !== null && $this->quote($holding->contract)->isPassed($side->opposite(), $level)) {
                return $level;
            }
        }

        return null;
    }

    private function executed(ExecutionReport $report): void
    {
        $order = $this->state->order($report->order);
        $this->scribe->note(match ($report->type) {
            ExecType::Accepted => new E\OrderAccepted($order->id),
            ExecType::Triggered => new E\OrderTriggered($order->id),
            ExecType::Filled => new E\OrderFilled($order->id, $this->state->lastFill + 1, $report->lots, (int) $report->price, $report->print,
                $order->trigger === null ? 0 : $order->side->sign() * ((int) $report->price - $order->trigger)),
            ExecType::Reduced => new E\OrderReduced($order->id, $report->lots, $report->because),
            ExecType::Replaced => new E\OrderReplaced($order->id, $report->lots, $report->price, $report->trigger),
            ExecType::ReplaceRefused => new E\ReplaceRefused($order->id, $report->because),
            ExecType::Cancelled => new E\OrderCancelled($order->id, $report->because),
            ExecType::Refused => new E\OrderRejected($order->id, $report->because),
        });
    }

    private function observe(string $contract, Watch $watch, ?int $forLongs, ?int $forShorts, int $print): void
    {
        foreach ($this->state->holdings[$contract] ?? [] as $holding) {
            foreach ($holding->entries as $entry) {
                $tick = $entry->exits->side === Side::Buy ? $forLongs : $forShorts;
                if ($tick !== null && $entry->exits->plan->watch === $watch) {
                    $entry->exits->observe($tick, $print);
                }
            }
        }
    }

    /** @param array<string, mixed> $answer */
    private function taken(CommandHead $command, ?string $contract, array $answer, string $words): void
    {
        $this->scribe->note(new E\CommandTaken($command->account->id, $contract, $command->op, $command->clientId, $command->fingerprint, $answer, $words));
    }

    /** @param array<array-key, mixed> $body */
    private function refused(string $op, int $account, ?string $clientId, array $body, Refusal $refusal): Refusal
    {
        $contract = $body['contract'] ?? null;
        $this->scribe->note(new E\CommandRefused($account, is_string($contract) && isset($this->state->contracts[$contract]) ? $contract : null, $op, $clientId ?? '', $refusal->problem, $refusal->getMessage(), $refusal->pointer));

        return $refusal;
    }

    private function contractOf(Node $node): Contract
    {
        return $this->state->contracts[$node->string('contract')]
            ?? throw new Refusal('unknown-contract', "no contract {$node->string('contract')} is listed; GET /api/contracts lists them", '/contract');
    }

    private function orderOf(CommandHead $command, Node $node): DeskOrder
    {
        $id = $node->int('order', 1, PHP_INT_MAX);
        $order = $this->state->orders[$id] ?? null;
        if ($order === null || $order->account !== $command->account->id) {
            throw new Refusal('not-found', "there is no order $id in this account");
        }
        if ($order->state->isFinal()) {
            throw new Refusal('order-final', "order $id is {$order->state->value}; only a working order can be changed or cancelled");
        }

        return $order;
    }

    private function mustBeFree(DeskOrder $order): void
    {
        if ($order->state->isPending()) {
            throw new Refusal('order-busy', "order {$order->id} is {$order->state->value}; try again once the venue has answered");
        }
    }

    private static function wouldUnprotect(int $lots, string $what): Refusal
    {
        return new Refusal('would-unprotect', "cancelling $what leaves $lots lots without a stop; say \"leave_unprotected\": true to do it all the same", null, ['unprotected' => $lots]);
    }
}
