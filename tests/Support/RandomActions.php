<?php

declare(strict_types=1);

namespace Tests\Support;

use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * A random but repeatable afternoon of one trader, as a list of small documents: entries, closes, hand moves, cancels,
 * reversals, plan changes, pushes, sweeps, restarts, a next day with its price limits. Prices are relative to the last trade and orders are counted, so
 * that a list from which some are left out can still be played.
 */
final class RandomActions
{
    /** Exit plans by number; null is no plan. */
    public const PLANS = [
        null,
        '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[{"at":5,"lock":0},{"at":7,"lock":2},{"at":11,"trail":6,"by":2}]',
        '"stop":{"ticks":4}',
        '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":3}},{"lots":1,"target":{"ticks":6}},{"rest":true,"target":null}],"ratchets":[{"at":2,"lock":0},{"at":4,"trail":3,"by":1}]',
        '"portions":[{"rest":true,"target":{"ticks":5}}]',
        '"stop":{"ticks":5},"portions":[{"lots":2,"target":{"ticks":2}},{"rest":true,"target":{"ticks":9}}],"ratchets":[{"at":3,"lock":"fees"},{"at":6,"trail":4,"by":2}],"watch":"exit-quote","after_target":"keep-entry"',
        '"stop":{"ticks":5,"kind":"stop-limit","limit_ticks":2},"ratchets":[{"at":3,"lock":1}]',
        '"stop":{"ticks":6},"portions":[{"lots":2,"target":{"ticks":4}},{"rest":true,"target":null,"stop":{"ticks":3}}],"ratchets":[{"at":3,"lock":0},{"at":5,"trail":4,"by":1}],"covers":"position","after_target":"keep-entry"',
        '"stop":{"ticks":8},"portions":[{"lots":1,"target":{"ticks":5}},{"lots":1,"target":null,"ratchets":[{"at":2,"trail":2}]},{"rest":true,"target":{"ticks":12}}],"covers":"position"',
    ];

    private readonly Randomizer $dice;

    private function __construct(int $seed)
    {
        $this->dice = new Randomizer(new Mt19937($seed));
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
        $roll = $this->dice->getInt(0, 99);

        return match (true) {
            $roll < 13 => $this->enter('market', null),
            $roll < 24 => $this->enter('limit', $this->between(-6, 2)),
            $roll < 28 => $this->enter('stop', $this->between(1, 6)),
            $roll < 29 => $this->enter('mit', $this->between(-6, -1)),
            $roll < 31 => $this->enter('limit', $this->between(-3, 2)) + $this->timed(),
            $roll < 35 => $this->enter('market', null) + ['closing' => 'through'],
            $roll < 43 => [
                'do' => 'modify', 'nth' => $this->between(0, 9), 'by' => $this->between(-5, 5),
            ] + ($this->oneIn(3) ? ['lots' => $this->between(-1, 2)] : []),
            $roll < 49 => ['do' => 'cancel', 'nth' => $this->between(0, 9)] + ($this->oneIn(4) ? ['leave_unprotected' => true] : []),
            $roll < 50 => ['do' => 'hand-back', 'nth' => $this->between(0, 9)],
            $roll < 53 => ['do' => 'flatten'],
            $roll < 56 => ['do' => 'reverse', 'plan' => $this->plan()],
            $roll < 58 => ['do' => 'cancel-many'] + ($this->oneIn(3) ? ['exits' => true, 'leave_unprotected' => true] : []),
            $roll < 59 => ['do' => 'break-even', 'plus_fees' => $this->oneIn(2)],
            $roll < 60 => ['do' => 'half-off'],
            $roll < 62 => [
                'do' => 'close-part', 'nth' => $this->between(0, 4),
            ] + ($this->oneIn(3) ? [] : ['portion' => $this->between(1, 3)]),
            $roll < 63 => ['do' => 'tighten', 'ticks' => $this->between(1, 3)],
            $roll < 65 => [
                'do' => 'cover', 'close_now' => $this->oneIn(2), 'leave_unprotected' => $this->oneIn(2), 'plan' => $this->plan(),
            ] + ($this->oneIn(2) ? ['only' => 'unprotected'] : []),
            $roll < 66 => ['do' => 'set-exit', 'role' => $this->oneIn(2) ? 'stop' : 'target', 'beyond' => $this->between(-8, 8)],
            $roll < 67 => ['do' => 'set-exit', 'stop_beyond' => $this->between(-8, 8), 'target_beyond' => $this->between(-8, 8)],
            $roll < 69 => ['do' => 'tie', 'nth' => $this->between(0, 9), 'with' => $this->between(0, 9)],
            $roll < 71 => ['do' => 'restart'],
            $roll < 72 => $this->oneIn(3) ? ['do' => 'next-day'] : ['do' => 'mood', 'mood' => $this->oneIn(2) ? 'burst' : 'thin'],
            $roll < 74 => ['do' => 'sweep', 'side' => $this->side(), 'quantity' => $this->between(5, 20)],
            $roll < 86 => ['do' => 'push', 'ticks' => $this->between(-9, 9)],
            default => ['do' => 'step', 'steps' => $this->between(1, 12)],
        };
    }

    /** @return array<string, mixed> */
    private function enter(string $kind, ?int $beyond): array
    {
        return ['do' => 'place', 'side' => $this->side(), 'quantity' => $this->between(1, 6), 'kind' => $kind, 'plan' => $this->plan()]
            + ($beyond === null ? [] : ['beyond' => $beyond]) + ($this->oneIn(12) ? ['this_order' => ['stop' => $this->between(2, 9)]] : []);
    }

    /** @return array<string, mixed> times in ms from then */
    private function timed(): array
    {
        return match ($this->between(0, 3)) {
            0 => ['tif' => 'ioc'],
            1 => ['tif' => 'fok'],
            2 => ['release_in' => $this->between(10, 200), 'cancel_in' => $this->between(210, 500)],
            default => ['tif' => 'gtd', 'expires_in' => $this->between(10, 300)],
        };
    }

    private function plan(): int
    {
        return $this->between(0, count(self::PLANS) - 1);
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
