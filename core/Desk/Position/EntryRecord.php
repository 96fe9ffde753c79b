<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\Open\StopRisk;
use Lotrik\Order\Side;

/**
 * What is known of an entry only while it is open, and what the logbook will want to know of it. Prices in ticks, times
 * in ms since 1970 UTC. The prints that it sees are not journaled: its extremes are kept beside the market's checkpoint.
 */
final class EntryRecord
{
    /** Ratchet moves that are told one by one; of more only the count is kept. */
    private const MAX_RATCHETS = 100;

    private int $lots = 0;

    /** Σ lots × price of its fills */
    private int $cost = 0;

    private int $closed = 0;

    /** Σ lots × price of what has closed */
    private int $closedCost = 0;

    private ?int $openedAt = null;

    private int $closedAt = 0;

    /**
     * Between these prices a print tells nothing new: they have been seen since the last fill, and lots that close give no
     * more than they would have given at the best or worst of them.
     */
    private int $highest = PHP_INT_MIN;

    private int $lowest = PHP_INT_MAX;

    /** @var array{int, int}|null best price seen while open, and when */
    private ?array $best = null;

    /** @var array{int, int}|null */
    private ?array $worst = null;

    /** P/L of the whole entry, what has closed included, in ticks × lots: never below 0 here, never above it there */
    private int $mostProfit = 0;

    private int $mostLoss = 0;

    /** in ticks × lots, positive against the trader */
    private int $slippageIn = 0;

    private int $slippageOut = 0;

    /** @var array<int, int> portion → where its stop first stood */
    private array $firstStops = [];

    /** the most that its open lots would have lost at their stops right after one of its fills, in ticks × lots */
    private int $risk = 0;

    private int $unstopped = 0;

    /** @var list<array{portion: int, because: string, best: int, to: int, at: int}> */
    private array $ratchets = [];

    private int $ratchetMoves = 0;

    private bool $byHand = false;

    /** @var array<int, array<string, int>> portion → how it ended → lots */
    private array $ends = [];

    public function __construct(private readonly Side $side, private readonly ?string $plan, private readonly ?int $planVersion) {}

    public function opened(int $lots, int $tick, int $slippageTicks, int $at): void
    {
        $this->forgetWhatWasSeen();
        $this->lots += $lots;
        $this->cost += $lots * $tick;
        $this->openedAt ??= $at;
        $this->slippageIn += $lots * $slippageTicks;
    }

    /** When its first lot filled, ms since 1970 UTC; null before. */
    public function since(): ?int
    {
        return $this->openedAt;
    }

    /** @return list<int> the best and the worst price that has been seen while it was open, in ticks */
    public function seen(): array
    {
        return array_values(array_unique(array_column(array_filter([$this->best, $this->worst]), 0)));
    }

    /** Average price of its fills; null before the first. */
    public function average(): ?BigRational
    {
        return $this->lots === 0 ? null : BigRational::nd($this->cost, $this->lots);
    }

    public function atRisk(StopRisk $now): void
    {
        $this->risk = max($this->risk, $now->loss);
        $this->unstopped = max($this->unstopped, $now->unprotected);
    }

    public function stopPlaced(int $portion, int $tick): void
    {
        $this->firstStops[$portion] ??= $tick;
    }

    public function ratcheted(int $portion, string $because, int $best, int $to, int $at): void
    {
        $this->ratchetMoves++;
        if (count($this->ratchets) < self::MAX_RATCHETS) {
            $this->ratchets[] = ['portion' => $portion, 'because' => $because, 'best' => $best, 'to' => $to, 'at' => $at];
        }
    }

    public function steeredByHand(): void
    {
        $this->byHand = true;
    }

    /** A print: it counts while the entry is open. */
    public function saw(int $tick, int $at): void
    {
        if (($tick >= $this->lowest && $tick <= $this->highest) || $this->closed === $this->lots) {
            return;
        }
        $this->lowest = min($this->lowest, $tick);
        $this->highest = max($this->highest, $tick);
        $sign = $this->side === Side::Buy ? 1 : -1;
        $result = $sign * ($this->closedCost + $tick * ($this->lots - $this->closed) - $this->cost);
        if ($result > $this->mostProfit) {
            $this->mostProfit = $result;
        } elseif ($result < $this->mostLoss) {
            $this->mostLoss = $result;
        }
        if ($this->best === null || $sign * ($tick - $this->best[0]) > 0) {
            $this->best = [$tick, $at];
        }
        if ($this->worst === null || $sign * ($tick - $this->worst[0]) < 0) {
            $this->worst = [$tick, $at];
        }
    }

    public function closed(int $portion, int $lots, Closing $by): void
    {
        $this->saw($by->tick, $by->at);
        $this->closed += $lots;
        $this->closedCost += $lots * $by->tick;
        $this->closedAt = $by->at;
        $this->slippageOut += $lots * $by->slippageTicks;
        $this->ends[$portion][$by->how->value] = ($this->ends[$portion][$by->how->value] ?? 0) + $lots;
    }

    /** Open lots of another entry are from now on this one's: what was seen of them goes along. */
    public function absorb(self $other, int $lots): void
    {
        $open = $other->lots - $other->closed;
        if ($lots <= 0 || $open <= 0) {
            return;
        }
        $cost = $lots === $open ? $other->cost - $other->closedCostAtEntry() : intdiv($other->cost * $lots, $other->lots);
        $this->forgetWhatWasSeen();
        $other->forgetWhatWasSeen();
        $this->lots += $lots;
        $this->cost += $cost;
        $this->openedAt = min($this->openedAt ?? PHP_INT_MAX, $other->openedAt ?? PHP_INT_MAX);
        $this->byHand = $this->byHand || $other->byHand;
        foreach ([$other->best, $other->worst] as $seen) {
            if ($seen !== null) {
                $this->saw($seen[0], $seen[1]);
            }
        }
        $other->lots -= $lots;
        $other->cost -= $cost;
    }

    private function forgetWhatWasSeen(): void
    {
        $this->lowest = PHP_INT_MAX;
        $this->highest = PHP_INT_MIN;
    }

    /** What its closed lots cost when they came in, at its average rounded down: so that what is left adds up. */
    private function closedCostAtEntry(): int
    {
        return intdiv($this->cost * $this->closed, $this->lots);
    }

    /** Whether anything of it has closed that is worth telling of. */
    public function isWorthKeeping(): bool
    {
        return $this->closed > 0;
    }

    /** @return array{array{int, int}|null, array{int, int}|null, int, int} for {@see restoreExtremes()} */
    public function extremes(): array
    {
        return [$this->best, $this->worst, $this->mostProfit, $this->mostLoss];
    }

    /** @param array{array{int, int}|null, array{int, int}|null, int, int} $extremes */
    public function restoreExtremes(array $extremes): void
    {
        [$this->best, $this->worst, $this->mostProfit, $this->mostLoss] = $extremes;
        $this->forgetWhatWasSeen();
    }

    /**
     * All of it, as the event carries it. Profit and loss per lot are in ticks against the average, money is that of the whole entry.
     *
     * @return array<string, mixed>
     */
    public function told(Contract $contract): array
    {
        $average = BigRational::nd($this->cost, max(1, $this->lots));
        $realised = $this->side->sign() * ($this->closedCost - $this->cost);

        return [
            'side' => $this->side->value, 'lots' => $this->lots, 'average' => $contract->averagePrice($average), 'plan' => $this->plan,
            'plan_version' => $this->planVersion,
            'opened_at' => $this->openedAt, 'closed_at' => $this->closedAt, 'in_trade_ms' => $this->closedAt - (int) $this->openedAt,
            'highest_profit' => $this->extreme($this->best, $average, $this->mostProfit, $contract),
            'deepest_loss' => $this->extreme($this->worst, $average, $this->mostLoss, $contract),
            'slippage_in_ticks' => $this->slippageIn, 'slippage_out_ticks' => $this->slippageOut,
            'slippage_money' => $contract->money($this->slippageIn + $this->slippageOut)->exact(),
            'first_stops' => array_map($contract->price(...), $this->firstStops),
            'risk_at_entry' => $contract->money($this->risk)->plus($contract->fees(2 * $this->lots))->exact(),
            'unstopped_lots' => $this->unstopped,
            'ratchets' => $this->ratchets, 'ratchet_moves' => $this->ratchetMoves, 'steered' => $this->byHand ? 'hand' : 'plan',
            'ends' => $this->ends,
            'realised_ticks' => $realised, 'realised' => $contract->money($realised)->exact(),
            'fees' => $contract->fees(2 * $this->lots)->exact(), 'currency' => $contract->currency->code,
        ];
    }

    /**
     * @param array{int, int}|null $seen   price and when
     * @param int                  $result of the whole entry at its most or least, in ticks × lots: its sign says which side of 0 counts
     *
     * @return array{ticks: int, money: string, price: string, at: int}|null
     */
    private function extreme(?array $seen, BigRational $average, int $result, Contract $contract): ?array
    {
        if ($seen === null) {
            return null;
        }
        $ticks = BigRational::of($seen[0])->minus($average)->multipliedBy($this->side->sign())->toScale(0, RoundingMode::FLOOR)->toInt();

        return [
            'ticks' => $seen === $this->best ? max(0, $ticks) : min(0, $ticks), 'money' => $contract->money($result)->exact(),
            'price' => $contract->price($seen[0]), 'at' => $seen[1],
        ];
    }
}
