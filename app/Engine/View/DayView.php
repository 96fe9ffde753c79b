<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Watching\TradingDay;

/** What a contract has traded today, as it goes out: levels in ticks, null before the first trade. */
final class DayView
{
    /**
     * @param list<int>|null $ticks where lots were traded that are to be told; null for all, which is a full picture
     *
     * @return array<string, mixed>
     */
    public static function of(Contract $contract, TradingDay $day, ?array $ticks): array
    {
        $average = $day->average();
        $limits = $day->limits($contract->priceLimitTicks);
        $traded = $day->traded();

        return [
            'contract' => $contract->code, 'full' => $ticks === null, 'began' => $day->began === 0 ? null : Time::iso($day->began),
            'settlement' => $day->settlement, 'open' => $day->open, 'high' => $day->high, 'low' => $day->low, 'lots' => $day->lots,
            'reference' => $day->reference(),
            // The rung that it is nearest to, and the price itself to a tenth of a tick, as data and for the screen.
            'average' => $average === null ? null : [
                'level' => $average->toScale(0, RoundingMode::HALF_UP)->toInt(),
                'price' => $contract->averagePrice($tenths = $average->toScale(1, RoundingMode::HALF_UP)->toBigRational()),
                'words' => $contract->writeAverage($tenths),
            ],
            'limits' => $limits === null ? null : [$limits->low, $limits->high],
            'traded' => array_map(static fn(int $tick): array => [$tick, ...$traded[$tick] ?? [0, 0]], $ticks ?? array_keys($traded)),
        ];
    }
}
