<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\AtRisk\RiskAtEntry;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Excursion;
use Lotrik\Money\Money;

/** The open P/L in what else it can be counted in, written; rounded against the trader. */
final class OpenWords
{
    /**
     * @param BigRational|null $open ticks × lots; null while flat, and before any price
     *
     * @return array{ticks: string, percent: string|null, r: string|null, since: string|null, best: string|null, worst: string|null}
     *     ticks a lot, percent of the margin, times the risk at entry; when it was opened; best and worst so far in ticks a
     *     lot; null where there is none of it
     */
    public static function of(AccountPosition $holding, Contract $contract, ?BigRational $open): array
    {
        $lots = abs($holding->position->lots);
        if ($open === null || $lots === 0) {
            return ['ticks' => '', 'percent' => null, 'r' => null, 'since' => null, 'best' => null, 'worst' => null];
        }
        $each = $open->dividedBy($lots)->simplified();
        $money = BigRational::of($contract->money($open)->exact());
        $margin = BigRational::of(Money::of($contract->dayMargin, $contract->currency)->times($lots)->exact());
        $risk = RiskAtEntry::of($holding, $contract);
        $soFar = Excursion::of($holding);

        return [
            'ticks' => self::ticks($each).($each->abs()->isEqualTo(1) ? ' tick' : ' ticks'),
            'percent' => $margin->isZero() ? null : self::signed($money->multipliedBy(100)->dividedBy($margin), 1).' %',
            'r' => $risk === null || ! $risk->isPositive() ? null : self::signed($money->dividedBy($risk->exact()), 2).' R',
            'since' => $soFar->since === null ? null : Time::iso($soFar->since),
            'best' => $soFar->best === null ? null : self::ticks($soFar->best),
            'worst' => $soFar->worst === null ? null : self::ticks($soFar->worst),
        ];
    }

    private static function ticks(BigRational $each): string
    {
        return self::signed($each, $each->getDenominator()->isEqualTo(1) ? 0 : 1);
    }

    private static function signed(BigRational $number, int $decimals): string
    {
        $text = (string) $number->toScale($decimals, RoundingMode::FLOOR);

        return str_starts_with($text, '-') || $number->isZero() ? $text : "+$text";
    }
}
