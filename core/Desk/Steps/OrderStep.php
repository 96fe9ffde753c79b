<?php

declare(strict_types=1);

namespace Lotrik\Desk\Steps;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Quote;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Position\Position;

/**
 * The order of an action key as its trader has written it down: so many ticks from a price of the market, for lots that may
 * depend on the position. What it is at a moment, {@see now()} says.
 *
 * @phpstan-type OrderNow array{quantity: int, closes: int, tick: int|null, price: string|null, trigger: string|null, words: string,
 *     missing: string|null}
 */
final readonly class OrderStep
{
    /** What a price is counted from. */
    private const REFERENCES = ['bid', 'ask', 'last', 'mid', 'pointed', 'average'];

    private const MAX_OFFSET = 1000;

    /**
     * @param string|null $from   one of the references; null for a market order
     * @param int         $offset in ticks
     * @param int|string  $lots   a number, or `chosen`, `position`, `half`
     * @param string      $plan   `chosen`, `none` or a plan's name
     */
    private function __construct(
        public Side $side,
        public OrderKind $kind,
        public ?string $from,
        public int $offset,
        public int|string $lots,
        public string $plan,
    ) {}

    /**
     * @param Node $step of which `do` has been read
     *
     * @throws InvalidDocument
     */
    public static function fromNode(Node $step): self
    {
        $kind = $step->enum('kind', OrderKind::class);
        if ($kind === OrderKind::StopLimit) {
            throw $step->fault('kind', 'market, limit, stop or mit');
        }
        $from = $step->optionalString('from');
        if ($kind === OrderKind::Market ? $from !== null : ! in_array($from, self::REFERENCES, true)) {
            throw $step->fault(
                'from',
                $kind === OrderKind::Market ? 'nothing, since a market order has no price' : implode(', ', self::REFERENCES),
            );
        }
        $lots = $step->raw('lots');
        if (! in_array($lots, ['chosen', 'position', 'half'], true) && (! is_int($lots) || $lots < 1)) {
            throw $step->fault('lots', '"chosen", "position", "half" or a whole number');
        }
        $read = new self(
            $step->enum('side', Side::class), $kind, $from, $step->optionalInt('offset', -self::MAX_OFFSET, self::MAX_OFFSET) ?? 0, $lots,
            $step->string('plan', 'chosen', 60),
        );
        $step->done();

        return $read;
    }

    /** @return array<string, mixed> as a settings document has it */
    public function toArray(): array
    {
        return [
            'do' => StepAction::Order->value, 'side' => $this->side->value, 'kind' => $this->kind->value, 'from' => $this->from,
            'offset' => $this->offset, 'lots' => $this->lots, 'plan' => $this->plan,
        ];
    }

    /**
     * @param int      $chosen  lots
     * @param int|null $pointed tick of the rung that is pointed at
     *
     * @return OrderNow `missing` says what is not there for it; then there is nothing to send
     */
    public function now(Contract $contract, Quote $quote, Position $position, int $chosen, ?int $pointed): array
    {
        $held = abs($position->lots);
        $lots = match ($this->lots) {
            'chosen' => $chosen,
            'position' => $held,
            'half' => intdiv($held, 2),
            default => (int) $this->lots,
        };
        $from = $this->reference($quote, $position, $pointed);
        $missing = match (true) {
            $lots < 1 => $this->lots === 'half' ? 'no position to halve' : 'no position',
            $this->from === null || $from !== null => null,
            default => $this->from === 'pointed' ? 'point at a rung' : "no {$this->from}",
        };
        $tick = $this->from === null || $from === null ? null : $from + $this->offset;
        $closes = $position->closedBy($this->side, $lots);
        $level = $tick === null ? null : $contract->price($tick);

        return [
            'quantity' => $lots, 'closes' => $closes, 'tick' => $tick, 'price' => $this->kind->hasPrice() ? $level : null,
            'trigger' => $this->kind->hasTrigger() ? $level : null,
            'words' => $missing ?? lcfirst(EventText::order($this->side, $lots, $this->kind, $tick, $tick, $contract))
                .($closes === 0 ? '' : " · closes $closes of $held"),
            'missing' => $missing,
        ];
    }

    private function reference(Quote $quote, Position $position, ?int $pointed): ?int
    {
        return match ($this->from) {
            'bid' => $quote->bid,
            'ask' => $quote->ask,
            'last' => $quote->last,
            // Between two ticks it is the lower one.
            'mid' => $quote->bid === null || $quote->ask === null
                ? null
                : intdiv($quote->bid + $quote->ask - (($quote->bid + $quote->ask) & 1), 2),
            'average' => $position->lots === 0 ? null : $position->average->toScale(0, RoundingMode::HALF_UP)->toInt(),
            'pointed' => $pointed,
            default => null,
        };
    }
}
