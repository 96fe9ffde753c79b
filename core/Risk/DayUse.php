<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Brick\Math\BigDecimal;
use Brick\Math\RoundingMode;
use Lotrik\Money\Money;
use Lotrik\Risk\Limits\Limits;

/** How much of one limit of the day is used up. Money in the account's currency. */
final readonly class DayUse
{
    public const DAILY_LOSS = 'the daily loss limit';

    public const DRAWDOWN = 'the drawdown limit';

    public const DRAWDOWN_CLOSED = 'the drawdown limit from closed profit';

    public const KEEP = 'the profit to keep';

    /**
     * @param Money      $net  what the day stands at, with what is open
     * @param Money|null $from what it has come from; null for the loss of the day, which counts from nothing
     */
    private function __construct(
        public string $limit,
        public Money $used,
        public Money $of,
        private Money $net,
        private ?Money $from = null,
        private ?BigDecimal $kept = null,
    ) {}

    /**
     * @param Money $net what the day stands at, with what is open
     *
     * @return non-empty-list<self> of each limit that is set
     */
    public static function all(Limits $limits, Money $net, DayBest $best): array
    {
        $uses = [new self(self::DAILY_LOSS, $net->negated(), $limits->dailyLoss, $net)];
        if ($limits->drawdownOpen !== null) {
            $uses[] = new self(self::DRAWDOWN, $best->open->minus($net), $limits->drawdownOpen, $net, $best->open);
        }
        if ($limits->drawdownClosed !== null) {
            $uses[] = new self(self::DRAWDOWN_CLOSED, $best->closed->minus($net), $limits->drawdownClosed, $net, $best->closed);
        }
        if ($limits->keepPercent !== null && $limits->keepFrom !== null && ! $best->open->minus($limits->keepFrom)->isNegative()) {
            $mayGo = $best->open->times($limits->keepPercent->minus(100)->abs()->exactlyDividedBy(100));
            $uses[] = new self(self::KEEP, $best->open->minus($net), $mayGo, $net, $best->open, $limits->keepPercent);
        }

        return $uses;
    }

    /** Why it is reached, once it is. */
    public function words(): string
    {
        $base = $this->net->currency->code;
        if ($this->from === null) {
            return "the day stands at {$this->net->display(true)}, and the loss limit is {$this->of->display()} $base";
        }

        return "the day has come from {$this->from->display(true)} to {$this->net->display(true)} $base, and "
            .($this->kept === null ? "$this->limit is {$this->of->display()}" : "$this->kept % of it were to be kept");
    }

    /**
     * Those of which half or more is used up. Asked at each print for each account, so it looks no closer than it must.
     *
     * @return list<self>
     */
    public static function pressing(Limits $limits, Money $net, DayBest $best): array
    {
        $isPlain = $limits->drawdownOpen === null && $limits->drawdownClosed === null && $limits->keepPercent === null;

        return $isPlain && ! $net->isNegative() ? [] : array_values(array_filter(
            self::all($limits, $net, $best),
            static fn(self $use): bool => $use->used->times(2)->compareTo($use->of) >= 0,
        ));
    }

    public function isReached(): bool
    {
        return $this->used->compareTo($this->of) >= 0;
    }

    /** What may still be lost before it is reached; below 0 where that is past. */
    public function left(): Money
    {
        return $this->of->minus($this->used);
    }

    /** Rounded down; 0 where nothing is used. */
    public function percent(): int
    {
        return ! $this->used->isPositive() ? 0
            : $this->used->dividedBy($this->of)->multipliedBy(100)->toScale(0, RoundingMode::FLOOR)->toInt();
    }
}
