<?php

declare(strict_types=1);

namespace App\Http;

use App\Engine\View\Time;
use App\Models\JournalRow;
use Brick\Math\BigDecimal;
use Lotrik\Desk\Flatten\ClosingTrigger;

/** What the journal says of an account's trading day: its trades, the limits that it met, and the lines that led to a bar. */
final class DayReport
{
    /** A day has no more trades than that which are told of. */
    private const MOST = 5_000;

    /** Lines before a bar. */
    private const LED = 12;

    private const MET = ['limit-neared', 'account-barred', 'entries-stopped'];

    private const FLATTENED = 'flatten-started';

    private const LEADS = ['order-filled', 'trade-ended', 'limit-neared', 'limits-set'];

    /**
     * @param int $from  ms since 1970 UTC
     * @param int $until not itself
     *
     * @return array{trades: array<string, mixed>, met: list<array<string, mixed>>, led_to_bar: list<array<string, mixed>>}
     */
    public static function of(int $account, int $from, int $until): array
    {
        $rows = self::rows($account, $from, $until, ['trade-ended', self::FLATTENED, ...self::MET], self::MOST);
        $met = array_values(array_filter($rows, self::isMet(...)));
        $bars = array_filter($met, static fn(JournalRow $row): bool => $row->type === 'account-barred');
        $bar = end($bars);
        $ended = array_filter($rows, static fn(JournalRow $row): bool => $row->type === 'trade-ended');

        return [
            'trades' => self::trades(array_values(array_map(
                static fn(JournalRow $row): BigDecimal => BigDecimal::of((string) $row->body['net']),
                $ended,
            ))),
            'met' => array_map(self::line(...), $met),
            'led_to_bar' => $bar === false ? [] : array_map(
                self::line(...),
                self::rows($account, $from, $bar->at + 1, [...self::LEADS, 'account-barred'], self::LED, $bar->sequence),
            ),
        ];
    }

    /** A limit that was met, or what the desk flattened by itself. */
    private static function isMet(JournalRow $row): bool
    {
        return $row->type === self::FLATTENED
            ? ClosingTrigger::tryFrom((string) ($row->body['trigger'] ?? ''))?->isAutomatic() === true
            : $row->type !== 'trade-ended';
    }

    /**
     * @param list<string> $types
     *
     * @return list<JournalRow> the last ones of a time, oldest first
     */
    private static function rows(int $account, int $from, int $until, array $types, int $most, int $last = PHP_INT_MAX): array
    {
        /** @var list<JournalRow> $rows */
        $rows = JournalRow::query()->where('account', $account)->where('sequence', '<=', $last)
            ->where('at', '>=', $from)->where('at', '<', $until)->whereIn('type', $types)
            ->orderByDesc('sequence')->limit($most)->get()->all();

        return array_reverse($rows);
    }

    /**
     * @param list<BigDecimal> $nets of each trade, after fees, oldest first
     *
     * @return array{count: int, won: int, lost: int, net: string, best: string|null, worst: string|null}
     */
    private static function trades(array $nets): array
    {
        return [
            'count' => count($nets),
            'won' => count(array_filter($nets, static fn(BigDecimal $net): bool => $net->isPositive())),
            'lost' => count(array_filter($nets, static fn(BigDecimal $net): bool => $net->isNegative())),
            'net' => (string) ($nets === [] ? BigDecimal::of('0.00') : BigDecimal::sum(...$nets)),
            'best' => $nets === [] ? null : (string) BigDecimal::max(...$nets),
            'worst' => $nets === [] ? null : (string) BigDecimal::min(...$nets),
        ];
    }

    /** @return array{sequence: int, time: string, contract: string|null, words: string} */
    private static function line(JournalRow $row): array
    {
        return ['sequence' => $row->sequence, 'time' => Time::iso($row->at), 'contract' => $row->contract, 'words' => $row->words];
    }
}
