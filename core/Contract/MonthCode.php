<?php

declare(strict_types=1);

namespace Lotrik\Contract;

/** Delivery months as single letters. Common practice of the trade, no source. */
enum MonthCode: string
{
    case January = 'F';
    case February = 'G';
    case March = 'H';
    case April = 'J';
    case May = 'K';
    case June = 'M';
    case July = 'N';
    case August = 'Q';
    case September = 'U';
    case October = 'V';
    case November = 'X';
    case December = 'Z';

    /** @param int $month 1 to 12 */
    public static function ofMonth(int $month): self
    {
        return self::cases()[$month - 1] ?? throw new \DomainException("$month is no month; 1 to 12 are");
    }
}
