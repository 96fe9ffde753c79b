<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Position\Entry;
use Lotrik\Desk\Question\Level;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;

/** An order request worked out against the account: what it would be, for how many lots, with which exits. */
final readonly class Ticket
{
    /**
     * @param int               $closes  lots of it that would close
     * @param int               $opens   lots of it that would open
     * @param int|null          $at      tick at which it would fill, as far as can be said; null before any price
     * @param ResolvedPlan|null $plan    for the lots that open
     * @param Refusal|null      $refusal why it would not be taken now
     * @param TrueRanges|null       $ranges  frozen with the plan
     * @param Entry|null        $joins   the set of exits that covers the position and takes its lots in
     */
    public function __construct(
        public OrderRequest $request,
        public Role $role,
        public int $quantity,
        public int $closes,
        public int $opens,
        public ?int $at,
        public ?ResolvedPlan $plan,
        public ?Refusal $refusal,
        public ?TrueRanges $ranges = null,
        public ?Entry $joins = null,
    ) {}

    /** Whether it may come to open something: an order that goes through flat may, though it would only close now. */
    public function mayOpen(): bool
    {
        return $this->role === Role::Entry;
    }

    public function refused(?Refusal $refusal): self
    {
        return new self(
            $this->request, $this->role, $this->quantity, $this->closes,
            $this->opens, $this->at, $this->plan, $refusal, $this->ranges, $this->joins,
        );
    }

    /**
     * Where it, and the exits that come with it, would rest or be set off.
     *
     * @return list<Level>
     */
    public function levels(): array
    {
        // A held order is looked at again when it is due.
        if ($this->request->releaseWhen !== null) {
            return [];
        }
        $levels = [];
        foreach (['price' => $this->request->price, 'trigger' => $this->request->trigger] as $field => $tick) {
            if ($tick !== null) {
                $levels[] = new Level($tick, "/$field");
            }
        }
        $sign = $this->request->side->sign();
        foreach ($this->at === null || $this->joins !== null ? [] : $this->plan?->offsets($this->opens) ?? [] as $offset) {
            $levels[] = new Level($this->at + $sign * $offset, '/exit_plan');
        }

        return $levels;
    }

    /** @param string $more said of it beside how it came */
    public function placed(
        int $id,
        int $account,
        ?string $clientId,
        E\Order\Purpose $purpose = E\Order\Purpose::Hand,
        string $more = '',
    ): OrderPlaced {
        $request = $this->request;

        return new OrderPlaced(
            $id, $account, $request->contract->code, $clientId, $request->side, $request->kind, $this->quantity,
            $request->price, $request->trigger, $request->tif, $this->role, $purpose, $request->via.$more,
            $this->role === Role::Entry ? $request->plan?->document : null,
            tag: $request->tag, hold: $request->releaseWhen?->toArray(), cancelAt: $request->cancelAt, expiresAt: $request->expiresAt,
            dayEnds: $request->tif === TimeInForce::Day ? $request->contract->session->closeAfter(max(
                $request->now,
                $request->releaseWhen->releaseAt ?? 0,
            )) : null,
            ranges: $this->role === Role::Entry ? $this->ranges?->toArray() : null,
            planVersion: $this->role === Role::Entry ? $request->planVersion : null,
            through: $request->through === true,
        );
    }
}
