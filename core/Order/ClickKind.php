<?php

declare(strict_types=1);

namespace Lotrik\Order;

/**
 * Which order a click on a rung means, by how far the rung lies beyond the touch in the direction of the trade (for a
 * buy: rung − ask, for a sell: bid − rung). The page reads this table and decides nothing itself.
 */
final class ClickKind
{
    /** A plain click stays a limit up to this many ticks beyond the touch. */
    private const LIMIT_UP_TO = 1;

    /** How far beyond its trigger the limit of a stop-limit stands, in ticks. */
    private const LIMIT_TICKS = 2;

    /**
     * The first row whose `up_to` is not passed counts.
     *
     * @return list<array{up_to: int|null, plain: string, shift: string|null, alt_shift: string|null, limit_ticks: int}>
     */
    public static function table(): array
    {
        return [
            [
                'up_to' => self::LIMIT_UP_TO, 'plain' => OrderKind::Limit->value, 'shift' => OrderKind::IfTouched->value,
                'alt_shift' => null, 'limit_ticks' => self::LIMIT_TICKS,
            ],
            [
                'up_to' => null, 'plain' => OrderKind::Stop->value, 'shift' => OrderKind::Limit->value,
                'alt_shift' => OrderKind::StopLimit->value, 'limit_ticks' => self::LIMIT_TICKS,
            ],
        ];
    }
}
