<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

use Brick\Math\BigDecimal;
use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;

/** What an account may do in one contract. Null where nothing limits it. */
final readonly class ContractLimits
{
    public const MOST = Contract::MAX_LOTS;

    /**
     * @param int|null        $orderLots     in one order
     * @param int|null        $positionLots  open and working on one side together
     * @param int|null        $workingOrders entries that work at the same time
     * @param Money|null      $tradeRisk     of one order at its stops with fees, in the account's currency
     * @param BigDecimal|null $riskPercent   the same in percent of the account's balance
     * @param int|null        $bandTicks     how much worse than the market an entry may be filled
     * @param bool            $stopRequired  whether each lot that is entered has a protective stop, which is not taken off
     */
    private function __construct(
        public ?int $orderLots,
        public ?int $positionLots,
        public ?int $workingOrders,
        public ?Money $tradeRisk,
        public ?BigDecimal $riskPercent,
        public ?int $bandTicks,
        public bool $stopRequired,
    ) {}

    public static function of(?int $orderLots, ?int $positionLots): self
    {
        return new self($orderLots, $positionLots, null, null, null, null, false);
    }

    public static function fromNode(Node $node, Currency $base): self
    {
        $risk = $node->raw('trade_risk') === null ? null : $node->node('trade_risk');
        $limits = new self(
            $node->optionalInt('order_lots', 1, self::MOST),
            $node->optionalInt('position_lots', 1, self::MOST),
            $node->optionalInt('working_orders', 1, 10_000),
            $risk === null ? null : Amount::optional($risk, 'money', $base),
            $risk === null ? null : Amount::percent($risk, 'percent'),
            $node->optionalInt('band_ticks', 1, self::MOST),
            $node->bool('stop_required', false),
        );
        $risk?->done();
        $node->done();
        if ($risk !== null && $limits->tradeRisk === null && $limits->riskPercent === null) {
            throw InvalidDocument::at($risk->pointer, 'neither money nor percent', 'one of the two, or both');
        }

        return $limits;
    }

    /** Whichever of the two lets less through, one by one. */
    public function and(self $other): self
    {
        return new self(
            Tighter::least($this->orderLots, $other->orderLots),
            Tighter::least($this->positionLots, $other->positionLots),
            Tighter::least($this->workingOrders, $other->workingOrders),
            Tighter::leastMoney($this->tradeRisk, $other->tradeRisk),
            Tighter::leastDecimal($this->riskPercent, $other->riskPercent),
            Tighter::least($this->bandTicks, $other->bandTicks),
            $this->stopRequired || $other->stopRequired,
        );
    }

    public function limitsRisk(): bool
    {
        return $this->tradeRisk !== null || $this->riskPercent !== null;
    }

    /** The most that one order may risk; null where nothing limits it. */
    public function mostRisk(Money $balance): ?Money
    {
        $share = $this->riskPercent === null ? null : $balance->times($this->riskPercent->exactlyDividedBy(100));

        return Tighter::leastMoney($this->tradeRisk, $share);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'order_lots' => $this->orderLots, 'position_lots' => $this->positionLots, 'working_orders' => $this->workingOrders,
            'trade_risk' => $this->tradeRisk === null && $this->riskPercent === null ? null : array_filter([
                'money' => $this->tradeRisk?->exact(), 'percent' => $this->riskPercent === null ? null : (string) $this->riskPercent,
            ], is_string(...)),
            'band_ticks' => $this->bandTicks, 'stop_required' => $this->stopRequired,
        ];
    }
}
