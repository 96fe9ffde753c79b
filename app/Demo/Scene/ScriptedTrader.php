<?php

declare(strict_types=1);

namespace App\Demo\Scene;

use App\Demo\KestrelBay;
use Lotrik\Contract\Contract;
use Lotrik\Desk\TradingSystem;
use Lotrik\Refusal\Refusal;

/**
 * Trades on one account by a few rules of its own, through the same commands as everybody: one contract and one exit plan
 * after the other, with or against the last half minute, at the market or at the touch.
 */
final class ScriptedTrader
{
    /** Steps of 10 ms. */
    private const LOOKS_EVERY = 50;

    private const LOOKS_BACK = 3_000;

    private const RESTS = 8_000;

    private const WAITS_FOR_ENTRY = 6_000;

    private const HOLDS = 24_000;

    private int $trades = 0;

    private int $commands = 0;

    private int $since = 0;

    private ?Contract $contract = null;

    private bool $hasEntered = false;

    private bool $hasActed = false;

    private bool $isDone = false;

    /** @var array<string, array<int, int>> contract → look → last price in ticks */
    private array $seen = [];

    /** @param list<Contract> $contracts that it trades in turn */
    public function __construct(private readonly TradingSystem $system, private readonly int $account, private readonly array $contracts) {}

    public function step(int $at): void
    {
        $step = $this->system->steps();
        if ($step % self::LOOKS_EVERY !== 0) {
            return;
        }
        foreach ($this->contracts as $contract) {
            $seen = &$this->seen[$contract->code];
            $seen[$step] = (int) $this->system->desk->quote($contract->code)->last;
            unset($seen[$step - self::LOOKS_BACK - self::LOOKS_EVERY], $seen);
        }
        $waited = $step - $this->since;
        if ($this->contract === null) {
            if ($waited >= self::RESTS && ! $this->isDone) {
                $this->enter($at, $step);
            }

            return;
        }
        $holding = $this->system->desk->state->holding($this->account, $this->contract->code);
        $lots = $holding->position->lots;
        if ($lots === 0 && $this->hasEntered && $holding->working === []) {
            $this->contract = null;
            $this->since = $step;
        } elseif ($lots === 0 && ! $this->hasEntered && $waited >= self::WAITS_FOR_ENTRY) {
            $this->send('flatten', ['contract' => $this->contract->code], $at);
            $this->hasEntered = true;
        } elseif ($lots !== 0) {
            $this->hasEntered = true;
            $this->manage($at, $waited);
        }
    }

    public function wakeUp(): void
    {
        $this->isDone = false;
    }

    public function goHome(int $at): void
    {
        $this->send('flatten-account', [], $at);
    }

    private function enter(int $at, int $step): void
    {
        $number = $this->trades++;
        $contract = $this->contracts[$number % count($this->contracts)];
        $quote = $this->system->desk->quote($contract->code);
        $seen = $this->seen[$contract->code];
        $rises = (int) $quote->last >= $seen[array_key_first($seen)];
        // With what has just moved twice out of three times, against it the third.
        $buys = $rises === ($number % 3 !== 2);
        $touch = $buys ? $quote->bid : $quote->ask;
        $plans = KestrelBay::plans();
        $order = ['contract' => $contract->code, 'side' => $buys ? 'buy' : 'sell', 'quantity' => 1 + $number % 3,
            'exit_plan' => $plans[intdiv($number, 2) % count($plans)]];
        $order += $number % 4 === 1 && $touch !== null ? ['kind' => 'limit', 'price' => $contract->price($touch)] : ['kind' => 'market'];
        $this->since = $step;
        if ($this->send('place', $order, $at)) {
            [$this->contract, $this->hasEntered, $this->hasActed] = [$contract, false, false];
        } else {
            // Barred for the day, or too large for what is left of it.
            $this->isDone = true;
        }
    }

    /** Now and then a hand on it: what the plan does by itself is most of it. */
    private function manage(int $at, int $waited): void
    {
        assert($this->contract !== null);
        $of = ['contract' => $this->contract->code];
        if ($waited >= self::HOLDS) {
            $this->send('flatten', $of, $at);
        } elseif (! $this->hasActed && $waited >= self::HOLDS / 3) {
            $this->hasActed = true;
            match ($this->trades % 6) {
                1 => $this->send('break-even', $of, $at),
                3 => $this->send('half-off', $of, $at),
                5 => $this->send('tighten', $of + ['ticks' => 1], $at),
                default => null,
            };
        }
    }

    /** @param array<string, mixed> $body */
    private function send(string $op, array $body, int $at): bool
    {
        $id = 'week-'.++$this->commands;
        try {
            $fingerprint = hash('sha256', json_encode([$op, $body], JSON_THROW_ON_ERROR));
            $this->system->handle($op, $this->account, ['client_id' => $id] + $body, $fingerprint, $at);

            return true;
        } catch (Refusal) {
            return false;
        }
    }
}
