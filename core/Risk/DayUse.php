<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Brick\Math\RoundingMode;
use Lotrik\Money\Money;
use Lotrik\Risk\Limits\Limits;

/** How much of one limit of the day is used up. Money in the account's currency. */
final readonly class DayUse
{
    public const DAILY_LOSS = 'the daily loss limit';

    public const DRAWDOWN = 'the drawdown limit';

    public const DRAWDOWN_CLOSED = 'the drawdown limit from what had closed';

    public const KEEP = 'the profit to keep';

    /** @param string $words why it is reached, once it is */
    private function __construct(public string $limit, public Money $used, public Money $of, public string $words) {}

    /**
     * @param Money $net what the day stands at, with what is open
     *
     * @return list<self> of each limit that is set
     */
    public static function all(Limits $limits, Money $net, DayBest $best): array
    {
        $base = $net->currency->code;
        $uses = [new self(
            self::DAILY_LOSS,
            $net->times(-1),
            $limits->dailyLoss,
            "the day stands at {$net->display(true)}, and the loss limit is {$limits->dailyLoss->display()} $base",
        )];
        $fell = fn(Money $from): string => "the day has come from {$from->display(true)} to {$net->display(true)} $base";
        if ($limits->drawdownOpen !== null) {
            $uses[] = new self(
                self::DRAWDOWN,
                $best->open->minus($net),
                $limits->drawdownOpen,
                "{$fell($best->open)}, and the drawdown limit is {$limits->drawdownOpen->display()}",
            );
        }
        if ($limits->drawdownClosed !== null) {
            $uses[] = new self(
                self::DRAWDOWN_CLOSED,
                $best->closed->minus($net),
                $limits->drawdownClosed,
                "{$fell($best->closed)}, and the drawdown limit from what had closed is {$limits->drawdownClosed->display()}",
            );
        }
        if ($limits->keepPercent !== null && $limits->keepFrom !== null && ! $best->open->minus($limits->keepFrom)->isNegative()) {
            $mayGo = $best->open->times($limits->keepPercent->minus(100)->abs()->exactlyDividedBy(100));
            $uses[] = new self(
                self::KEEP,
                $best->open->minus($net),
                $mayGo,
                "{$fell($best->open)}, and {$limits->keepPercent} % of it were to be kept",
            );
        }

        return $uses;
    }

    public function isReached(): bool
    {
        return ! $this->of->minus($this->used)->isPositive();
    }

    /** Whether half of it or more is used up: told apart quickly, since it is asked at each print. */
    public function isHalf(): bool
    {
        return ! $this->of->minus($this->used->times(2))->isPositive();
    }

    /** Rounded down; 0 where nothing is used. */
    public function percent(): int
    {
        return ! $this->used->isPositive() ? 0
            : $this->used->amount->dividedBy($this->of->amount)->multipliedBy(100)->toScale(0, RoundingMode::FLOOR)->toInt();
    }
}
