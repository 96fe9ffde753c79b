<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\PlanTicks;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Quote;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;

/** An entry that works, or would: what may still fill of it, where, and under which plan. Prices in ticks. */
final readonly class WorkingEntry
{
    /**
     * @param int                        $lots  that may still fill
     * @param int                        $whole lots of the whole order, those that have filled among them
     * @param int|null                   $at    where it would fill, as far as can be said
     * @param int|null                   $sent  where it fills as soon as it arrives, see {@see Reach::enters()}
     * @param bool                       $covers whether its plan covers the position
     * @param \Closure(): ?ResolvedPlan  $plan  worked out where a rule asks for it
     */
    private function __construct(
        public int $id,
        public Side $side,
        public int $lots,
        public int $whole,
        public ?int $at,
        public ?int $group,
        public ?int $sent,
        public bool $covers,
        private \Closure $plan,
    ) {}

    public static function ofOrder(DeskOrder $order, DeskState $state, Quote $quote): self
    {
        $filled = $state->holdings[$order->contract][$order->account]->entries[$order->id] ?? null;
        $at = $order->level() ?? $quote->touch($order->side);

        return new self(
            $order->id, $order->side, $order->mayFill(), $order->filled + $order->mayFill(), $at, $order->ocoGroup(),
            Reach::sentAs($order),
            self::coversPosition($order, $state),
            // What has filled has its plan in ticks; what has not gets it at its first fill.
            static fn(): ?ResolvedPlan => $filled?->exits->plan
                ?? ($order->plan === null ? null : PlanTicks::atFill($order, $at ?? 1, $state)->plan),
        );
    }

    public static function coversPosition(DeskOrder $order, DeskState $state): bool
    {
        $filled = $state->holdings[$order->contract][$order->account]->entries[$order->id] ?? null;

        return ($order->plan['covers'] ?? null) === PlanScope::Position->value || $filled?->exits->plan->covers === PlanScope::Position;
    }

    /** @param int $id that no order has */
    public static function ofTicket(Ticket $ticket, int $id, ?int $group = null): self
    {
        $request = $ticket->request;

        return new self(
            $id, $request->side, $ticket->quantity, $ticket->quantity, $ticket->at, $group,
            $request->kind === OrderKind::Market && $request->releaseWhen === null ? Reach::LAST : null,
            $request->plan?->covers === PlanScope::Position, static fn(): ?ResolvedPlan => $ticket->plan,
        );
    }

    /**
     * The same once it has been changed.
     *
     * @param ResolvedPlan|null $plan for what it would be then; null where it has none, or it has filled in part and keeps its own
     */
    public function changed(int $more, ?int $at, ?ResolvedPlan $plan): self
    {
        return new self(
            $this->id, $this->side, $this->lots + $more, $this->whole + $more, $at, $this->group, $this->sent, $this->covers,
            $plan === null ? $this->plan : static fn(): ResolvedPlan => $plan,
        );
    }

    public function alone(): self
    {
        return new self($this->id, $this->side, $this->lots, $this->whole, $this->at, null, $this->sent, $this->covers, $this->plan);
    }

    /** @return array<int, array{int, int|null}> portion → lots of what may still fill, and the distance of their stop; null where they would have none */
    public function stops(): array
    {
        $plan = ($this->plan)();
        if ($plan === null) {
            return [1 => [$this->lots, null]];
        }
        $filled = $plan->split($this->whole - $this->lots);
        $stops = [];
        foreach ($plan->split($this->whole) as $number => $lots) {
            $left = $lots - $filled[$number];
            if ($left > 0) {
                $stops[$number] = [$left, $plan->portion($number)->stop?->distance];
            }
        }

        return $stops;
    }
}
