<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

/** What a distance may be written in; the values are the keys of the exit plan document. */
enum DistanceUnit: string
{
    case Ticks = 'ticks';
    case Points = 'points';
    case Money = 'money';
    case OrderMoney = 'order_money';
    case Percent = 'percent';
    case AccountPercent = 'account_percent';
    case AverageTrueRange = 'atr';
}
