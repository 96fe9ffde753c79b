<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Quote;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A change that a trader asks for on a working order. Prices in ticks; null leaves as it is. */
final readonly class Modification
{
    private const WOULD_TRADE = 'would_trade';

    private const WOULD_OPEN = 'would_open';

    /** @param list<string> $refuseIf what the change is not to do: {@see WOULD_TRADE}, {@see WOULD_OPEN} */
    private function __construct(
        public ?int $price,
        public ?int $trigger,
        public ?int $quantity,
        public bool $handBack,
        public TimeInForce $tif,
        public ?int $expiresAt,
        public bool $leaveUnprotected,
        private array $refuseIf,
    ) {}

    /** @throws \DomainException where the body is wrong; the order's id and client id have been read */
    public static function read(Node $node, DeskOrder $order, Contract $contract, int $at): self
    {
        $price = $node->raw('price') === null
            ? null
            : OrderRequest::level($node, 'price', $contract, $order->kind->hasPrice(), $order->kind);
        $trigger = $node->raw('trigger') === null
            ? null
            : OrderRequest::level($node, 'trigger', $contract, $order->kind->hasTrigger() && ! $order->triggered, $order->kind);
        if ($order->kind === OrderKind::StopLimit && ! $order->triggered) {
            // The limit stays as far beyond the trigger as it was, unless it is given too.
            $price ??= $trigger === null ? null : (int) $order->price + $trigger - (int) $order->trigger;
            OrderRequest::limitMustNotLieBehind($node, $order->side, $trigger ?? (int) $order->trigger, $price ?? (int) $order->price);
        }
        $quantity = $node->optionalInt('quantity', 1, 1_000_000);
        $tif = $node->raw('tif') === null ? null : $node->enum('tif', TimeInForce::class);
        if ($tif?->isImmediate() && $tif !== $order->tif) {
            throw $node->fault('tif', 'day, gtc or gtd: a working order cannot become immediate');
        }
        if ($order->role->isExit() && $tif !== null && $tif !== $order->tif) {
            throw $node->fault('tif', "\"{$order->tif->value}\": an exit lives as long as the lots that it covers");
        }
        // A new date for a GTD order needs no tif beside it.
        $expiresAt = $tif === null && $node->raw('expires_at') === null
            ? $order->expiresAt
            : OrderRequest::expiry($node, $tif ?? $order->tif, $at);
        $leave = $node->bool('leave_unprotected', false);
        $refuseIf = [];
        foreach ($node->has('refuse_if') ? $node->list('refuse_if') : [] as $what) {
            if ($what !== self::WOULD_TRADE && $what !== self::WOULD_OPEN) {
                throw $node->fault('refuse_if', 'a list of "'.self::WOULD_TRADE.'" and "'.self::WOULD_OPEN.'"');
            }
            $refuseIf[] = $what;
        }
        $steering = $node->raw('steering');
        if ($steering !== null && $steering !== 'plan') {
            throw $node->fault('steering', '"plan", which hands a stop back to its ratchets');
        }
        $node->done();
        $change = new self($price, $trigger, $quantity, $steering === 'plan', $tif ?? $order->tif, $expiresAt, $leave, $refuseIf);
        if (
            $price === null
            && $trigger === null
            && $quantity === null
            && ! $change->handBack
            && ! $node->has('tif')
            && ! $node->has('expires_at')
        ) {
            throw Refusal::nothingToChange();
        }

        return $change;
    }

    /** @return Refusal|null where the order's exit plan would not work for what the change makes of it */
    private function planRefusal(DeskOrder $order, DeskState $state, Quote $quote): ?Refusal
    {
        if ($order->plan === null || $order->filled > 0 || $this->isNothing($order)) {
            return null;
        }
        $tick = $order->kind->hasTrigger()
            ? $this->trigger ?? $order->trigger
            : $this->price ?? $order->price ?? $quote->touch($order->side) ?? 1;
        try {
            ExitPlan::fromArray($order->plan)->resolve(PlanTicks::basis(
                $state, $order->account, $order->contract, (int) $tick, $order->quantity + $this->lotsChange($order),
                TrueRanges::fromArray($order->ranges),
            ));
        } catch (InvalidPlan $fault) {
            return self::planWouldNotFit(
                (string) $order->planName,
                $fault,
                $this->lotsChange($order) !== 0 ? '/quantity' : ($this->trigger === null ? '/price' : '/trigger'),
            );
        }

        return null;
    }

    /**
     * Why the order cannot be what the change would make of it; null where it can.
     *
     * @param int $at ms since 1970 UTC
     */
    public function refusal(DeskOrder $order, CommandContext $context, Account $account, int $at): ?Refusal
    {
        $quote = $context->quote($order->contract);
        $lots = $this->lotsRefusal($order, $context->state->holding($order->account, $order->contract))
            ?? $this->planRefusal($order, $context->state, $quote);
        if ($lots !== null) {
            return $lots;
        }
        $more = $this->lotsChange($order);
        $to = $context->intake->changed($order, $this, $order->quantity + $more, $quote, $at);
        // A stop with a date protects until then, and nobody can say that it is still needed then.
        $lasts = $this->tif !== TimeInForce::GoodTillDate;
        $proposal = $context->asking->ofChange($order, $to, $more, $order->filled > 0, $lasts, $account, $quote);
        $refusal = $context->asking->question->refusal($proposal);
        if ($refusal !== null) {
            return $refusal;
        }

        return $proposal->unprotects() > 0 && ! $this->leaveUnprotected
            ? Refusal::wouldUnprotect("changing order {$order->id}", $proposal->unprotects())
            : $this->unwanted($order, $context->state->contracts[$order->contract], $quote);
    }

    /** A client may say what its change must not do; only here is it known whether it would. */
    private function unwanted(DeskOrder $order, Contract $contract, Quote $quote): ?Refusal
    {
        if (in_array(self::WOULD_OPEN, $this->refuseIf, true) && $this->wouldOpen($order)) {
            return self::opens($order->id);
        }
        if (in_array(self::WOULD_TRADE, $this->refuseIf, true) && $this->tradesAtOnce($order, $quote)) {
            return self::trades($order->id, self::atMarket($order, $contract, $quote));
        }

        return null;
    }

    /** Why it cannot have so many lots, whatever they might open or lose. */
    private function lotsRefusal(DeskOrder $order, AccountPosition $holding): ?Refusal
    {
        if ($this->quantity === null || $this->quantity === $order->quantity) {
            return null;
        }
        if ($order->role->isExit()) {
            return self::exitLots($order->role->value);
        }
        if ($this->quantity <= $order->filled) {
            return self::belowFilled($order->filled);
        }
        if ($order->role === Role::Close && $this->quantity - $order->filled > abs($holding->position->lots)) {
            return self::moreThanPosition(abs($holding->position->lots));
        }
        $uncovered = $order->role === Role::Close && $order->kind->isStop() ? $holding->coverage()->uncovered() : PHP_INT_MAX;

        return $this->lotsChange($order) > $uncovered ? self::moreThanUncovered($order->quantity + $uncovered) : null;
    }

    /** Whether the new level is at or beyond the market. */
    public function wouldTrade(DeskOrder $order, Quote $quote): bool
    {
        $touch = $quote->touch($order->side);

        return $order->kind->hasTrigger() && ! $order->triggered ? $this->trigger !== null && $quote->isPassed(
            $order->kind->triggerSide($order->side),
            $this->trigger,
        )
            : $this->price !== null && $touch !== null && $order->side->sign() * ($this->price - $touch) >= 0;
    }

    /** The same of an order that the venue has: one that is held does nothing yet. */
    public function tradesAtOnce(DeskOrder $order, Quote $quote): bool
    {
        return $this->wouldTrade($order, $quote) && ! $order->isHeld();
    }

    /** Such as "trades at once, the market is at 414.50". */
    public static function atMarket(DeskOrder $order, Contract $contract, Quote $quote): string
    {
        $touch = $quote->touch($order->side);

        return 'trades at once'.($touch === null ? '' : ', the market is at '.$contract->write($touch));
    }

    /** Whether it raises what an entry may bring, or the chance that it does: more lots, or a level that is nearer to the market. */
    public function wouldOpen(DeskOrder $order): bool
    {
        if ($order->role !== Role::Entry) {
            return false;
        }
        $sign = $order->side->sign();
        $waits = $order->kind->hasTrigger() && ! $order->triggered;
        $nearer = $waits && $this->trigger !== null && $this->trigger !== $order->trigger
            // A stop waits beyond the market and comes nearer by going back, one that is touched waits behind it.
            ? $order->kind->triggerSide($order->side)->sign() * ((int) $order->trigger - $this->trigger)
            : $sign * (($this->price ?? (int) $order->price) - (int) $order->price);

        return $this->lotsChange($order) > 0 || $nearer > 0;
    }

    /** Another price, or more lots, go to the end of the queue; fewer lots stay where they are. */
    public function keepsPlace(DeskOrder $order): bool
    {
        return $this->lotsChange($order) <= 0 && ($this->price ?? $order->price) === $order->price
            && ($this->trigger ?? $order->trigger) === $order->trigger;
    }

    public function changesDuration(DeskOrder $order): bool
    {
        return $this->tif !== $order->tif || $this->expiresAt !== $order->expiresAt;
    }

    public function lotsChange(DeskOrder $order): int
    {
        return $this->quantity === null ? 0 : $this->quantity - $order->quantity;
    }

    public function isNothing(DeskOrder $order): bool
    {
        return $this->lotsChange($order) === 0
            && ($this->price ?? $order->price) === $order->price
            && ($this->trigger ?? $order->trigger) === $order->trigger;
    }

    private static function opens(int $order): Refusal
    {
        return new Refusal(
            RefusalCode::WouldOpen,
            "order $order would move nearer to the market or grow; leave would_open out of refuse_if to allow that",
            '/refuse_if',
        );
    }

    /** @param string $words as {@see atMarket()} gives them */
    private static function trades(int $order, string $words): Refusal
    {
        return new Refusal(RefusalCode::WouldTrade, "order $order $words", '/refuse_if');
    }

    private static function planWouldNotFit(string $plan, \DomainException $fault, string $pointer): Refusal
    {
        return new Refusal(RefusalCode::PlanDoesNotFit, "$plan would not work with that: {$fault->getMessage()}", $pointer);
    }

    /** @param string $role stop or target */
    private static function exitLots(string $role): Refusal
    {
        return new Refusal(RefusalCode::ExitLots, "the lots of a $role follow its portion; change its price, or cancel it", '/quantity');
    }

    private static function belowFilled(int $filled): Refusal
    {
        return new Refusal(
            RefusalCode::BelowFilled,
            "$filled lots have filled already; the total must be more, or cancel the order",
            '/quantity',
        );
    }

    private static function moreThanPosition(int $lots): Refusal
    {
        return new Refusal(RefusalCode::MoreThanPosition, "a close is never for more than the position of $lots", '/quantity');
    }

    /** @param int $most the whole quantity that the closing stop may have */
    private static function moreThanUncovered(int $most): Refusal
    {
        return new Refusal(RefusalCode::MoreThanPosition, "other stops cover the lots beyond $most already", '/quantity');
    }
}
