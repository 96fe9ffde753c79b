<?php

declare(strict_types=1);

namespace Lotrik\Desk\Flatten;

use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\Order\Side;

/**
 * The other half of a reversal: what goes in at the market once the position is flat.
 *
 * @phpstan-type PackedReversal array{side: string, quantity: int, plan: array<string, mixed>|null,
 *     ranges?: array<string, int>|null, planVersion?: int|null}
 */
final readonly class ReversalEntry
{
    /**
     * @param array<string, mixed>|null $plan   the exit plan document, read when its turn comes
     * @param TrueRanges|null           $ranges frozen when it was asked for
     */
    public function __construct(
        public Side $side,
        public int $quantity,
        public ?array $plan,
        public ?TrueRanges $ranges,
        public ?int $planVersion,
    ) {}

    /** @return PackedReversal as the journal holds it */
    public function toArray(): array
    {
        return [
            'side' => $this->side->value, 'quantity' => $this->quantity, 'plan' => $this->plan,
            'ranges' => $this->ranges?->toArray(), 'planVersion' => $this->planVersion,
        ];
    }

    /** @param PackedReversal $packed */
    public static function fromArray(array $packed): self
    {
        return new self(
            Side::from($packed['side']),
            $packed['quantity'],
            $packed['plan'],
            TrueRanges::fromArray($packed['ranges'] ?? null),
            $packed['planVersion'] ?? null,
        );
    }
}
