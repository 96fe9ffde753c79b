<?php

declare(strict_types=1);

namespace Tests\Support;

use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * A random but repeatable day of two traders in three contracts of three currencies, as a list of small documents: all
 * kinds and durations, plans in every unit, pairs and ties, conditions and release times, flattens, reversals, falls that
 * reach the loss limit, the close and the next open, kills. Prices are relative to the last trade and orders are counted,
 * so that a list from which some are left out can still be played.
 */
final class WideActions
{
    private readonly Randomizer $dice;

    private readonly RandomPlans $plans;

    private function __construct(int $seed)
    {
        $this->dice = new Randomizer(new Mt19937($seed));
        $this->plans = new RandomPlans($this->dice);
    }

    /** @return list<array<string, mixed>> */
    public static function of(int $seed, int $count): array
    {
        $random = new self($seed);

        return array_map(static fn(): array => $random->one(), range(1, $count));
    }

    /** @return array<string, mixed> */
    private function one(): array
    {
        $where = ['account' => $this->oneIn(4) ? 2 : 1, 'contract' => $this->oneIn(3) ? $this->between(1, 2) : 0];
        $roll = $this->between(0, 99);

        return match (true) {
            $roll < 2 => ['do' => 'limits', 'limits' => $this->limits()] + $where,
            $roll < 3 => $this->house() + $where,
            $roll < 34 => ['do' => 'place'] + $where + $this->order(),
            $roll < 36 => ['do' => 'place-pair', 'first' => $this->order(), 'second' => $this->order()] + $where,
            $roll < 43 => ['do' => 'modify', 'nth' => $this->between(0, 9)] + $where + $this->change(),
            $roll < 48 => [
                'do' => 'cancel', 'nth' => $this->between(0, 9), 'tied' => $this->oneIn(4), 'leave_unprotected' => $this->oneIn(3),
            ] + $where,
            $roll < 49 => ['do' => 'hand-back', 'nth' => $this->between(0, 9)] + $where,
            $roll < 52 => ['do' => 'flatten'] + $where,
            $roll < 53 => ['do' => 'flatten-account'] + $where,
            $roll < 56 => ['do' => 'reverse', 'exit_plan' => $this->plans->one()] + $where,
            $roll < 58 => ['do' => 'cancel-many'] + $where + ($this->oneIn(3) ? [
                'exits' => true, 'leave_unprotected' => true,
            ] : []) + ($this->oneIn(3) ? ['sides' => [$this->side()]] : []),
            $roll < 60 => ['do' => 'break-even', 'plus_fees' => $this->oneIn(2)] + $where,
            $roll < 61 => ['do' => 'half-off'] + $where,
            $roll < 63 => [
                'do' => 'close-part', 'nth' => $this->between(0, 4),
            ] + $where + ($this->oneIn(3) ? [] : ($this->oneIn(3) ? ['portions' => [3, 1]] : ['portion' => $this->between(1, 3)])),
            $roll < 65 => ['do' => 'tighten', 'ticks' => $this->between(1, 3)] + $where,
            $roll < 68 => [
                'do' => 'cover', 'close_now' => $this->oneIn(2), 'leave_unprotected' => $this->oneIn(2), 'exit_plan' => $this->plans->one(),
            ] + $where + ($this->oneIn(2) ? ['only' => 'unprotected'] : []),
            $roll < 70 => ['do' => 'set-exit', 'role' => $this->oneIn(2) ? 'stop' : 'target', 'beyond' => $this->between(-8, 8)] + $where,
            $roll < 72 => ['do' => 'tie', 'nth' => $this->between(0, 9), 'with' => $this->between(0, 9)] + $where,
            $roll < 73 => ['do' => 'untie', 'nth' => $this->between(0, 9)] + $where,
            $roll < 75 => ['do' => 'preview'] + $where + $this->order(),
            $roll < 78 => ['do' => 'restart'],
            $roll < 79 => ['do' => 'jump', 'to' => $this->oneIn(2) ? 'close' : 'open'],
            $roll < 80 => ['do' => 'mood', 'mood' => $this->oneIn(2) ? 'burst' : 'thin'] + $where,
            $roll < 82 => ['do' => 'sweep', 'side' => $this->side(), 'quantity' => $this->between(5, 20)] + $where,
            $roll < 90 => ['do' => 'push', 'ticks' => $this->oneIn(6) ? $this->between(-24, 24) : $this->between(-9, 9)] + $where,
            $roll < 98 => ['do' => 'step', 'steps' => $this->between(1, 12)],
            default => ['do' => 'steps', 'steps' => array_map($this->keyStep(...), range(1, $this->between(2, 3)))] + $where,
        };
    }

    /** @return array<string, mixed> what is set rather than traded, or only asked */
    private function house(): array
    {
        return match ($this->between(0, 7)) {
            0, 1 => ['do' => 'rates', 'rates' => ['EUR' => '1.0'.$this->between(1, 9), 'USD' => '0.9'.$this->between(1, 9), 'JPY' => '0.006'.$this->between(1, 9)]],
            2 => ['do' => 'account-reset'],
            3 => ['do' => 'account-open'],
            6 => ['do' => 'account-lift'],
            4 => ['do' => 'calendar', 'days' => [['date' => '2026-11-0'.$this->between(2, 4), 'close' => '18:'.$this->between(10, 29), 'contracts' => ['DULZ6']]]],
            5 => ['do' => 'size', 'order' => $this->order(), 'risk' => ['money' => $this->between(10, 200).'.00']],
            default => ['do' => 'what-if', 'order' => $this->order()],
        };
    }

    /** @return array<string, mixed> some of a limits document; each with a fair chance to bind */
    private function limits(): array
    {
        $lots = $this->between(1, 6);

        return array_filter([
            'losses_in_a_row' => $this->oneIn(2) ? $this->between(1, 3) : null,
            'pause' => $this->oneIn(3) ? ['loss' => '10.00', 'minutes' => $this->between(1, 3)] : null,
            'orders_a_minute' => $this->oneIn(3) ? $this->between(2, 9) : null,
            'drawdown' => $this->oneIn(3) ? ['open' => $this->between(40, 300).'.00'] : null,
            'no_entries' => $this->oneIn(4) ? array_map(fn(int $n): array => [
                'days' => [1], 'from' => '18:'.$this->between(10, 20), 'until' => '18:2'.$this->between(1, 9),
            ], range(1, $this->oneIn(4) ? 30 : 1)) : null,
            'each_contract' => [
                'order_lots' => $this->oneIn(3) ? null : $lots, 'position_lots' => $this->oneIn(3) ? null : $lots + $this->between(0, 6),
                'working_orders' => $this->oneIn(3) ? $this->between(1, 3) : null, 'band_ticks' => $this->oneIn(3) ? $this->between(1, 5) : null,
                'stop_required' => $this->oneIn(3), 'trade_risk' => $this->oneIn(4) ? ['money' => $this->between(20, 200).'.00'] : null,
            ],
        ], static fn(mixed $of): bool => $of !== null);
    }

    /** @return array<string, mixed> one of an action key */
    private function keyStep(): array
    {
        return match ($this->between(0, 8)) {
            0 => ['do' => 'cancel-all'],
            1 => ['do' => 'cancel-buys'],
            2 => ['do' => 'flatten'],
            3 => ['do' => 'half-off'],
            4 => ['do' => 'break-even'],
            5 => ['do' => 'closer', 'ticks' => $this->between(1, 3)],
            6 => ['do' => 'reverse', 'exit_plan' => $this->plans->one()],
            default => ['do' => 'order', 'order' => $this->order()],
        };
    }

    /** @return array<string, mixed> */
    private function order(): array
    {
        $kind = ['market', 'market', 'market', 'limit', 'limit', 'stop', 'stop-limit', 'mit'][$this->between(0, 7)];
        $beyond = match ($kind) {
            'market' => [],
            'limit' => ['beyond' => $this->between(-6, 3)],
            'stop' => ['beyond' => $this->between(1, 6)],
            'stop-limit' => ['beyond' => $this->between(1, 6), 'limit' => $this->between(0, 3)],
            default => ['beyond' => $this->between(-6, -1)],
        };

        return ['side' => $this->side(), 'quantity' => $this->between(1, 6), 'kind' => $kind, 'exit_plan' => $this->plans->one()] + $beyond
            + ($this->oneIn(4) ? $this->duration() : []) + ($this->oneIn(4) ? ['closing' => 'through'] : []) + ($this->oneIn(12) ? ['this_order' => ['stop' => $this->between(2, 9)]] : [])
            + ($kind === 'market' && $this->oneIn(4) ? ['over_band' => 'cut'] : []);
    }

    /** @return array<string, mixed> times in ms from then */
    private function duration(): array
    {
        return match ($this->between(0, 7)) {
            0 => ['tif' => 'ioc'],
            1 => ['tif' => 'fok'],
            2 => ['release_in' => $this->between(10, 200), 'cancel_in' => $this->between(210, 500)],
            3 => ['tif' => 'gtd', 'expires_in' => $this->between(10, 300)],
            4 => ['tif' => 'gtc'],
            5 => ['condition_on' => $this->between(0, 2), 'condition_beyond' => $this->between(-5, 5), 'rising' => $this->oneIn(2)],
            6 => ['after_nth' => $this->between(0, 5)],
            default => ['release_in' => $this->between(10, 200)],
        };
    }

    /** @return array<string, mixed> */
    private function change(): array
    {
        return match ($this->between(0, 4)) {
            0 => ['lots' => $this->between(-2, 3)] + ($this->oneIn(3) ? ['leave_unprotected' => true] : []),
            1 => ['by' => $this->between(-5, 5), 'lots' => $this->between(-1, 2)],
            2 => $this->oneIn(2) ? ['expires_in' => $this->between(10, 300)] : ['tif' => $this->oneIn(2) ? 'gtc' : 'day'],
            default => ['by' => $this->between(-5, 5)],
        };
    }

    private function side(): string
    {
        return $this->oneIn(2) ? 'buy' : 'sell';
    }

    private function oneIn(int $n): bool
    {
        return $this->dice->getInt(1, $n) === 1;
    }

    private function between(int $least, int $most): int
    {
        return $this->dice->getInt($least, $most);
    }
}
