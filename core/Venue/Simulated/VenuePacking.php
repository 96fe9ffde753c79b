<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\WorkingOrder;

/**
 * The venue's whole state as plain values, but for the flow's and the price limits of the day.
 *
 * @phpstan-import-type PackedOrder from WorkingOrder
 *
 * @phpstan-type PackedVenue array{
 *     resting: list<array{int, int, int, int, int}>, working: list<PackedOrder>, positions: array<int, int>,
 *     waiting: list<int>, last: array{int, int, string}|null, prints: int, executions?: int,
 *     decided?: array<int, string>, open?: bool, passedWhileShut?: list<int>,
 * }
 */
final class VenuePacking
{
    /** @return array<string, mixed> */
    public static function pack(Matching $matching): array
    {
        $levels = [];
        foreach ([...$matching->book->levels(Side::Buy), ...$matching->book->levels(Side::Sell)] as $level) {
            for ($order = $level->first; $order !== null; $order = $order->behind) {
                $levels[] = [$order->id, $order->account, $order->side === Side::Buy ? 1 : -1, $order->tick, $order->lots];
            }
        }
        $last = $matching->reports->last();

        return [
            'resting' => $levels,
            'working' => array_map(static fn(WorkingOrder $o) => $o->pack(), array_values($matching->orders->all())),
            'positions' => array_filter($matching->orders->positions()),
            'waiting' => $matching->waiting(),
            'last' => $last === null ? null : [$last->tick, $last->lots, $last->aggressor->value],
            'prints' => $matching->reports->prints(),
            'executions' => $matching->reports->executions(),
            'decided' => $matching->groups->pack(),
            'open' => $matching->session->isOpen(),
            'passedWhileShut' => $matching->session->passedWhileShut(),
        ];
    }

    /** @param PackedVenue $packed */
    public static function unpack(array $packed, MarketFeed $feed): Matching
    {
        $last = $packed['last'] === null
            ? null
            : new TradePrint($packed['prints'], $packed['last'][0], $packed['last'][1], Side::from($packed['last'][2]));
        $passed = $packed['passedWhileShut'] ?? [];
        $matching = new Matching(
            $feed, new WorkingOrders($packed['positions']), new Reports($packed['prints'], $packed['executions'] ?? 0, $last),
            new OrderGroups($packed['decided'] ?? []), new VenueSession($packed['open'] ?? true, array_combine($passed, $passed)),
        );
        foreach ($packed['resting'] as [$id, $account, $sign, $tick, $lots]) {
            $matching->book->rest($id, $account, $sign === 1 ? Side::Buy : Side::Sell, $tick, $lots);
        }
        foreach ($packed['working'] as $order) {
            $matching->orders->add(WorkingOrder::unpack($order));
        }
        $matching->resume($packed['waiting']);

        return $matching;
    }
}
