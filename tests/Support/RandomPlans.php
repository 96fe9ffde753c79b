<?php

declare(strict_types=1);

namespace Tests\Support;

use Random\Randomizer;

/** Random exit plans in every unit, with portions, stops and ratchets of their own. Some of them cannot work. */
final class RandomPlans
{
    public function __construct(private readonly Randomizer $dice) {}

    /** @return array<string, mixed>|null a document; null is no plan */
    public function one(): ?array
    {
        if ($this->oneIn(6)) {
            return null;
        }
        $portions = [];
        for ($n = $this->between(1, 3); $n > 1; $n--) {
            // Two shares of at most 49 are never more than all.
            $portions[] = ($this->oneIn(3) ? ['percent' => $this->between(1, 49)] : ['lots' => $this->between(1, 3)]) + $this->portion();
        }
        $portions[] = ['rest' => true] + $this->portion();
        $stop = $this->oneIn(8) ? null : $this->stop();

        return [
            'name' => 'Plan '.$this->between(1, 9), 'stop' => $stop, 'portions' => $portions,
            'ratchets' => $stop === null || $this->oneIn(3) ? [] : $this->ratchets(),
            'watch' => $this->oneIn(4) ? 'exit-quote' : 'last', 'covers' => $this->oneIn(4) ? 'position' : 'entry',
            'after_target' => $this->oneIn(3) ? 'keep-entry' : 'cancel-entry',
        ];
    }

    /** @return array<string, mixed> */
    private function portion(): array
    {
        $own = $this->oneIn(6) ? ['stop' => $this->stop()] : [];

        return ['target' => $this->oneIn(3) ? null : $this->distance(1, 10)] + $own + ($own !== [] && $this->oneIn(2) ? ['ratchets' => $this->ratchets()] : []);
    }

    /** @return array<string, mixed> */
    private function stop(): array
    {
        return $this->distance(2, 9) + ($this->oneIn(6) ? ['kind' => 'stop-limit', 'limit_ticks' => $this->between(0, 3)] : []);
    }

    /** @return list<array<string, mixed>> */
    private function ratchets(): array
    {
        $ratchets = [];
        $at = $this->between(0, 3);
        for ($n = $this->between(1, 3); $n > 0; $n--) {
            $ratchets[] = ['at' => $at] + match (true) {
                $this->oneIn(3) => ['trail' => $this->oneIn(4) ? $this->distance(1, 6) : $this->between(1, 6)] + ($this->oneIn(2) ? ['by' => $this->between(1, 3)] : []),
                $this->oneIn(5) => ['lock' => 'fees'],
                default => ['lock' => $this->between(-3, $at - 1)],
            };
            $at += $this->between(1, 4);
        }

        return $ratchets;
    }

    /** @return array<string, mixed> */
    private function distance(int $least, int $most): array
    {
        $ticks = $this->between($least, $most);
        $about = static fn(float $value, int $decimals = 2): string => number_format($value, $decimals, '.', '');

        // For dulse at 412.50: a tick is 0.50 points, 2.50 EUR, 0.12 % of the price, 0.025 % of the account.
        return match ($this->between(0, 11)) {
            0 => ['points' => $about($ticks * 0.5 + ($this->oneIn(2) ? 0.2 : 0.0), 1)],
            1 => ['money' => $about($ticks * 2.5 + $this->between(0, 2))],
            2 => ['order_money' => $about($ticks * 2.5 * $this->between(1, 4))],
            3 => ['percent' => $about($ticks * 0.13, 3)],
            4 => ['account_percent' => $about($ticks * 0.025 * $this->between(1, 4), 3)],
            5 => ['atr' => $about($ticks / 2, 1), 'bar' => '1m', 'length' => 1],
            default => ['ticks' => $ticks],
        };
    }

    private function oneIn(int $n): bool
    {
        return $this->dice->getInt(1, $n) === 1;
    }

    private function between(int $least, int $most): int
    {
        return $this->dice->getInt($least, max($least, $most));
    }
}
