<?php

declare(strict_types=1);

namespace Lotrik\Desk\Order;

use Brick\Math\BigRational;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\Purpose;
use Lotrik\Order\OrderKind;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/** An order as the desk knows it: what was asked, and what the venue has reported. Prices in ticks. */
final class DeskOrder
{
    private const MAX_PATH = 500;

    private const MAX_EXECUTIONS = 2_000;

    public readonly int $id;

    public readonly int $account;

    public readonly string $contract;

    public readonly ?string $clientId;

    public readonly Side $side;

    public readonly OrderKind $kind;

    public TimeInForce $tif;

    /** an order that waited for another takes its own when it is released */
    public Role $role;

    public readonly Purpose $purpose;

    /** @var array<string, mixed>|null the exit plan document that it was sent with; not kept once it has filled */
    public ?array $plan;

    public readonly ?string $planName;

    public readonly ?int $planVersion;

    /** @var array<string, int>|null frozen average true ranges, see OrderPlaced */
    public readonly ?array $ranges;

    public readonly ?int $entry;

    public readonly ?int $portion;

    public readonly ?int $group;

    public readonly ?string $tag;

    public readonly string $why;

    /** lots beyond flat were asked to open the other side */
    public readonly bool $through;

    public int $quantity;

    public int $filled = 0;

    public ?int $price;

    public ?int $trigger;

    public OrderState $state = OrderState::PendingNew;

    public ?string $reason = null;

    public bool $triggered = false;

    /** what it waits for, or waited for, before it goes to the venue */
    public readonly ?ReleaseCondition $releaseWhen;

    public bool $released = false;

    public ?int $cancelAt;

    public ?int $expiresAt;

    public ?int $dayEnds;

    /** a cancel that is under way is its expiry */
    public bool $expiring = false;

    /** the trader wants it gone, and it is on its way: cancelled when the answer is here */
    public bool $cancelWished = false;

    public ?Tie $tie = null;

    /** lots more, or fewer, that the trader has asked for and the venue has not answered yet */
    public int $asked = 0;

    /** @var list<array{int, int}> where its trigger has stood since when: ms since 1970 UTC, tick; the first and the last of them */
    public array $path = [];

    /** when it came to its final state, ms since 1970 UTC */
    public ?int $endedAt = null;

    /** @var array<array-key, true> ids of the execution reports about it: the newest of them, and more than a venue ever says again */
    private array $executions = [];

    /** Σ lots × price of its fills, in ticks. */
    public int $cost = 0;

    public function __construct(OrderPlaced $placed, public readonly int $createdAt)
    {
        $this->id = $placed->order;
        $this->account = $placed->account;
        $this->contract = $placed->contract;
        $this->clientId = $placed->clientId;
        $this->side = $placed->side;
        $this->kind = $placed->kind;
        $this->tif = $placed->tif;
        $this->role = $placed->role;
        $this->purpose = $placed->purpose;
        $this->plan = $placed->plan;
        $this->planName = is_string($placed->plan['name'] ?? null) ? $placed->plan['name'] : null;
        $this->planVersion = $placed->planVersion;
        $this->ranges = $placed->ranges;
        $this->entry = $placed->entry;
        $this->portion = $placed->portion;
        $this->group = $placed->group;
        $this->tag = $placed->tag;
        $this->why = $placed->why;
        $this->through = $placed->through;
        $this->quantity = $placed->quantity;
        $this->price = $placed->price;
        $this->trigger = $placed->trigger;
        $this->releaseWhen = $placed->hold === null ? null : ReleaseCondition::fromArray($placed->hold);
        $this->cancelAt = $placed->cancelAt;
        $this->expiresAt = $placed->expiresAt;
        $this->dayEnds = $placed->dayEnds;
        if ($this->releaseWhen !== null) {
            $this->become(OrderState::Suspended);
        }
        if ($placed->trigger !== null) {
            $this->path[] = [$createdAt, $placed->trigger];
        }
    }

    /** Lots still to fill: 0 in every final state. */
    public function leaves(): int
    {
        return $this->state->isFinal() ? 0 : $this->quantity - $this->filled;
    }

    /** The most that may still fill of it: what has been asked for and not answered yet counts. */
    public function mayFill(): int
    {
        return $this->leaves() + ($this->state === OrderState::PendingReplace ? max(0, $this->asked) : 0);
    }

    /** The group of orders of which only one can fill; null where it is tied to none. */
    public function ocoGroup(): ?int
    {
        return $this->tie?->oco === true ? $this->tie->group : null;
    }

    public function reported(string $execution): void
    {
        $this->executions[$execution] = true;
        if (count($this->executions) > self::MAX_EXECUTIONS) {
            unset($this->executions[array_key_first($this->executions)]);
        }
    }

    /** Whether this report has been here: after a lost line a venue may say things again. */
    public function knows(string $execution): bool
    {
        return isset($this->executions[$execution]);
    }

    public function fill(int $lots, int $tick): void
    {
        $this->filled += $lots;
        $this->cost += $lots * $tick;
        if ($this->filled === $this->quantity) {
            $this->become(OrderState::Filled);
        } elseif (! $this->state->isPending() || $this->state === OrderState::PendingNew) {
            $this->become(OrderState::PartiallyFilled);
        }
    }

    /** Whether the FIX matrices know the change was asked before the event was made. */
    public function become(OrderState $state, ?string $reason = null): void
    {
        $this->state = $state;
        $this->reason = $reason ?? $this->reason;
    }

    /**
     * It was held, and is on its way to the venue now.
     *
     * @param Role|null $role     where it is not what it was when it was placed
     * @param int|null  $quantity lots of it then
     */
    public function release(?Role $role, ?int $quantity): void
    {
        $this->role = $role ?? $this->role;
        $this->quantity = $quantity ?? $this->quantity;
        $this->released = true;
        $this->become(OrderState::PendingNew);
    }

    /** Its time is up: what comes back of its cancel counts as expired. */
    public function expire(string $because): void
    {
        $this->expiring = true;
        $this->become($this->isHeld() ? OrderState::Expired : OrderState::PendingCancel, $because);
    }

    /** @param bool $stays beyond the time at which it was to be cancelled */
    public function lasts(TimeInForce $tif, ?int $expiresAt, ?int $dayEnds, bool $stays): void
    {
        [$this->tif, $this->expiresAt, $this->dayEnds] = [$tif, $expiresAt, $dayEnds];
        $this->cancelAt = $stays ? null : $this->cancelAt;
    }

    /** The venue, or for a held order the desk, has changed it. */
    public function replaced(int $leaves, ?int $price, ?int $trigger, int $at): void
    {
        if ($trigger !== $this->trigger) {
            $this->path[] = [$at, (int) $trigger];
            if (count($this->path) > self::MAX_PATH) {
                array_splice($this->path, 1, 1);
            }
        }
        $this->quantity = $this->filled + $leaves;
        $this->price = $price;
        $this->trigger = $trigger;
        $this->workAgain();
    }

    /** In a final state. What can fill no more needs its plan no more; of a cancelled order a late fill might still come. */
    public function end(int $at): void
    {
        $this->endedAt ??= $at;
        $this->plan = $this->state === OrderState::Filled ? null : $this->plan;
    }

    /** Working again after a command was answered. */
    public function workAgain(): void
    {
        if (! $this->state->isFinal() && $this->state !== OrderState::PendingCancel && ! $this->isHeld()) {
            $this->become($this->filled > 0 ? OrderState::PartiallyFilled : OrderState::New);
        }
    }

    /** Fill-weighted mean in ticks, null before the first fill. */
    public function average(): ?BigRational
    {
        return self::averageOf($this->cost, $this->filled);
    }

    /** @param int $cost Σ lots × price, in ticks */
    public static function averageOf(int $cost, int $filled): ?BigRational
    {
        return $filled === 0 ? null : BigRational::nd($cost, $filled);
    }

    /** It waits at the desk: the venue does not know of it. */
    public function isHeld(): bool
    {
        return $this->releaseWhen !== null && ! $this->released && ! $this->state->isFinal();
    }

    /** A closing stop-limit that has triggered and rests: the market is beyond its limit, and its lots stand unprotected. */
    public function isLeftBehind(): bool
    {
        return $this->role->isReduceOnly() && $this->kind === OrderKind::StopLimit && $this->triggered && ! $this->state->isFinal();
    }

    /** A day order of a contract whose session ends. */
    private function endsWithDay(): bool
    {
        return $this->tif === TimeInForce::Day && $this->dayEnds !== null;
    }

    /** When it expires, ms since 1970 UTC: at its date, or with its session; null where it does not. */
    public function ends(): ?int
    {
        return $this->endsWithDay() ? $this->dayEnds : $this->expiresAt;
    }

    /** Orders of one portion of one entry are a pair, a close of it too: OUO at the venue. Lower numbers give way first. */
    public function pair(): ?int
    {
        return $this->entry !== null ? $this->entry * 1_000_000 + $this->portion * 10_000 + $this->group : null;
    }

    /** The price it stands at on the ladder: its trigger, or its limit. */
    public function level(): ?int
    {
        return $this->kind->hasTrigger() && ! $this->triggered ? $this->trigger : $this->price ?? $this->trigger;
    }
}
