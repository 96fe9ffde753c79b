<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Order\ReleaseCondition;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\PlanChange;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;

/** What a trader asks for when placing or previewing an order: read and checked field by field, prices in ticks. */
final readonly class OrderRequest
{
    /** Larger than any limit an account may have. */
    private const MAX_LOTS = 1_000_000;

    private const DAY = 86_400_000;

    /**
     * @param bool     $through   on the closing side: lots beyond flat open the other side
     * @param int|null $cancelAt  ms since 1970 UTC: what has not filled by then is cancelled
     * @param int|null $expiresAt ms since 1970 UTC: the date of a GTD order
     * @param int      $now       ms since 1970 UTC
     * @param TrueRanges|null $ranges  average true ranges that were frozen earlier; null takes those of now
     * @param bool     $cutsToBand a market order that would go beyond the price band is sent for the lots that stay within it
     */
    private function __construct(
        public Contract $contract,
        public Side $side,
        public int $quantity,
        public OrderKind $kind,
        public ?int $price,
        public ?int $trigger,
        public TimeInForce $tif,
        public ?ExitPlan $plan,
        public ?bool $through,
        public ?string $tag,
        public ?ReleaseCondition $releaseWhen = null,
        public ?int $cancelAt = null,
        public ?int $expiresAt = null,
        public ?Contract $watched = null,
        public string $via = 'by hand',
        public int $now = 0,
        public ?int $planVersion = null,
        public ?TrueRanges $ranges = null,
        public bool $cutsToBand = false,
    ) {}

    /** A stop-limit whose limit lay behind its trigger could not be filled where it is set off. */
    public static function limitMustNotLieBehind(Node $body, Side $side, int $trigger, int $limit): void
    {
        if ($side->sign() * ($limit - $trigger) < 0) {
            throw $body->fault('price', $side === Side::Buy ? 'a limit at or above the trigger' : 'a limit at or below the trigger');
        }
    }

    /**
     * @param Node $body of which `client_id` and `account` have been read
     * @param int  $at   ms since 1970 UTC: times lie after it
     *
     * @throws Refusal
     * @throws InvalidDocument
     */
    public static function fromNode(Node $body, DeskState $state, int $at): self
    {
        $contract = $state->contracts[$body->string('contract')]
            ?? throw Refusal::unknownContract($body->string('contract'), $body->at('contract'));
        $side = $body->enum('side', Side::class);
        $quantity = $body->int('quantity', 1, self::MAX_LOTS);
        $kind = $body->enum('kind', OrderKind::class);
        $price = self::level($body, 'price', $contract, $kind->hasPrice(), $kind);
        $trigger = self::level($body, 'trigger', $contract, $kind->hasTrigger(), $kind);
        if ($kind === OrderKind::StopLimit) {
            self::limitMustNotLieBehind($body, $side, (int) $trigger, (int) $price);
        }
        $tif = $body->enum('tif', TimeInForce::class, TimeInForce::Day);
        if ($tif->isImmediate() && $kind->hasTrigger()) {
            throw $body->fault('tif', "day, gtc or gtd: a {$kind->word()} order waits for its trigger, and {$tif->value} does not wait");
        }
        $expiresAt = self::expiry($body, $tif, $at);
        $cancelAt = self::future($body, 'cancel_at', $at);
        $releaseWhen = self::releaseWhen($body, $state, $at);
        if ($cancelAt !== null && $releaseWhen?->releaseAt !== null && $releaseWhen->releaseAt >= $cancelAt) {
            throw $body->fault('release_at', 'a time before cancel_at');
        }
        $plan = null;
        if ($body->raw('exit_plan') !== null) {
            $plan = ExitPlan::fromNode($body->node('exit_plan'));
        }
        if ($body->raw('this_order') !== null) {
            $plan = PlanChange::fromNode($body->node('this_order'))->of($plan ?? throw $body->fault(
                'this_order',
                'an exit_plan beside it that it changes',
            ));
        }
        $closing = $body->raw('closing');
        if (! in_array($closing, [null, 'close', 'through'], true)) {
            throw $body->fault('closing', '"close" or "through"');
        }
        $planVersion = $body->optionalInt('plan_version', 1, PHP_INT_MAX);
        $cuts = self::cutsToBand($body, $kind, $releaseWhen);
        $request = new self(
            $contract, $side, $quantity, $kind, $price, $trigger, $tif, $plan, $closing === null ? null : $closing === 'through',
            $body->optionalString('tag', 60), $releaseWhen, $cancelAt, $expiresAt, $state->contracts[$releaseWhen->contract ?? ''] ?? null,
            'by hand'.($body->raw('via') === null ? '' : ', '.$body->string('via', null, 60)), $at, $planVersion,
            cutsToBand: $cuts,
        );
        $body->done();

        return $request;
    }

    /** @throws InvalidDocument */
    private static function cutsToBand(Node $body, OrderKind $kind, ?ReleaseCondition $releaseWhen): bool
    {
        $over = $body->raw('over_band');
        if (! in_array($over, [null, 'refuse', 'cut'], true)) {
            throw $body->fault('over_band', '"refuse" or "cut"');
        }
        if ($over === 'cut' && ($kind !== OrderKind::Market || $releaseWhen !== null)) {
            throw $body->fault('over_band', '"refuse": only a market order that is sent now can be cut to the price band');
        }

        return $over === 'cut';
    }

    public static function marketEntry(
        Contract $contract,
        Side $side,
        int $quantity,
        ?ExitPlan $plan,
        int $now,
        ?int $planVersion = null,
        ?TrueRanges $ranges = null,
    ): self {
        return new self(
            $contract, $side, $quantity, OrderKind::Market, null, null, TimeInForce::Day, $plan, true, null,
            via: 'the other half of a reversal', now: $now, planVersion: $planVersion, ranges: $ranges,
        );
    }

    /** What a held order asks for now that it is due. */
    public static function ofHeld(DeskOrder $order, Contract $contract, int $now): self
    {
        return new self(
            $contract, $order->side, $order->leaves(), $order->kind, $order->price, $order->trigger, $order->tif, null, null, $order->tag,
            now: $now,
        );
    }

    /** What an order asks for once it has been changed; null leaves a level as it is. */
    public static function ofChanged(DeskOrder $order, Contract $contract, int $lots, ?int $price, ?int $trigger, int $now): self
    {
        return new self(
            $contract, $order->side, $lots, $order->kind, $price ?? $order->price, $trigger ?? $order->trigger, $order->tif, null, null,
            $order->tag, $order->isHeld() ? $order->releaseWhen : null, now: $now,
        );
    }

    /** The date of a GTD order, which no other has. */
    public static function expiry(Node $body, TimeInForce $tif, int $at): ?int
    {
        $expires = self::future($body, 'expires_at', $at);
        if ($tif === TimeInForce::GoodTillDate && $expires === null) {
            throw $body->fault('expires_at', 'the time until which the gtd order works, such as "2026-11-02T14:30:00.000Z"');
        }
        if ($tif !== TimeInForce::GoodTillDate && $expires !== null) {
            throw $body->fault('expires_at', "nothing, since only a gtd order has a date and this one is {$tif->value}");
        }

        return $expires;
    }

    /** A moment to come: a whole one, or a time of day, which is the next such moment in UTC. */
    private static function future(Node $body, string $field, int $at): ?int
    {
        $written = $body->raw($field);
        if (is_string($written) && preg_match('/^([01]\d|2[0-3]):([0-5]\d)(?::([0-5]\d))?$/', $written, $of) === 1) {
            $time = intdiv($at, self::DAY) * self::DAY + (((int) $of[1] * 60 + (int) $of[2]) * 60 + (int) ($of[3] ?? 0)) * 1000;

            return $time > $at ? $time : $time + self::DAY;
        }
        $time = $body->optionalTime($field);
        if ($time !== null && $time <= $at) {
            throw $body->fault($field, 'a time after now, which is '.gmdate('Y-m-d\TH:i:s\Z', intdiv($at, 1000)));
        }

        return $time;
    }

    private static function releaseWhen(Node $body, DeskState $state, int $at): ?ReleaseCondition
    {
        $releaseAt = self::future($body, 'release_at', $at);
        $after = $body->optionalInt('after', 1, PHP_INT_MAX);
        $watched = $level = null;
        $rising = true;
        if ($body->raw('condition') !== null) {
            $condition = $body->node('condition');
            $watched = $state->contracts[$condition->string('contract')]
                ?? throw Refusal::unknownContract($condition->string('contract'), $condition->at('contract'));
            $rising = match ($condition->raw('last')) {
                'at-or-above' => true,
                'at-or-below' => false,
                default => throw $condition->fault('last', '"at-or-above" or "at-or-below"'),
            };
            $level = self::level($condition, 'price', $watched, true, OrderKind::Limit);
            $condition->done();
        }
        $releaseWhen = new ReleaseCondition($releaseAt, $watched?->code, $level, $rising, $after);

        return $releaseWhen->isNothing() ? null : $releaseWhen;
    }

    /**
     * @throws Refusal
     * @throws InvalidDocument
     */
    public static function level(Node $body, string $field, Contract $contract, bool $needed, OrderKind $kind): ?int
    {
        if (! $needed) {
            if ($body->raw($field) !== null) {
                throw $body->fault($field, "nothing, since a {$kind->value} order has no $field");
            }

            return null;
        }
        $text = $body->raw($field);
        if (! is_string($text)) {
            throw $body->fault($field, 'a price as a decimal string such as "'.$contract->price(825).'"');
        }
        try {
            return $contract->ticks($text);
        } catch (\DomainException $e) {
            throw Refusal::priceOffGrid($e, $body->at($field));
        }
    }
}
