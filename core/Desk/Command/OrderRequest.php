<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Refusal;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/** What a trader asks for when placing or previewing an order: read and checked field by field, prices in ticks. */
final readonly class OrderRequest
{
    /** Larger than any limit an account may have. */
    private const MOST_LOTS = 1_000_000;

    private const TIMED = ['expires_at', 'release_at', 'cancel_at'];

    /** @param bool $through on the closing side: lots beyond flat open the other side */
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
    ) {}

    /**
     * @param Node $body of which `client_id` and `account` have been read
     *
     * @throws Refusal
     * @throws DocumentFault
     */
    public static function fromNode(Node $body, DeskState $state): self
    {
        $contract = $state->contracts[$body->string('contract')]
            ?? throw new Refusal('unknown-contract', "no contract {$body->string('contract')} is listed; GET /api/contracts lists them", $body->at('contract'));
        $side = $body->enum('side', Side::class);
        $quantity = $body->int('quantity', 1, self::MOST_LOTS);
        $kind = $body->enum('kind', OrderKind::class);
        $price = self::level($body, 'price', $contract, $kind->hasPrice(), $kind);
        $trigger = self::level($body, 'trigger', $contract, $kind->hasTrigger(), $kind);
        if ($kind === OrderKind::StopLimit && $side->sign() * ((int) $price - (int) $trigger) < 0) {
            throw $body->fault('price', $side === Side::Buy ? 'a limit at or above the trigger' : 'a limit at or below the trigger');
        }
        $tif = $body->enum('tif', TimeInForce::class, TimeInForce::Day);
        foreach (self::TIMED as $field) {
            if ($body->raw($field) !== null) {
                throw $body->fault($field, 'nothing: timed orders are not offered yet');
            }
        }
        $plan = null;
        if ($body->raw('exit_plan') !== null) {
            $plan = ExitPlan::fromNode($body->node('exit_plan'));
        }
        $closing = $body->raw('closing');
        if (! in_array($closing, [null, 'close', 'through'], true)) {
            throw $body->fault('closing', '"close" or "through"');
        }
        $request = new self($contract, $side, $quantity, $kind, $price, $trigger, $tif, $plan, $closing === null ? null : $closing === 'through', $body->optionalString('tag', 60));
        $body->done();

        return $request;
    }

    public static function marketEntry(Contract $contract, Side $side, int $quantity, ?ExitPlan $plan): self
    {
        return new self($contract, $side, $quantity, OrderKind::Market, null, null, TimeInForce::Day, $plan, true, null);
    }

    /**
     * @throws Refusal
     * @throws DocumentFault
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
            throw new Refusal('price-off-grid', $e->getMessage(), $body->at($field));
        }
    }
}
