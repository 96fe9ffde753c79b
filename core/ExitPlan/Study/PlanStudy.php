<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Study;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\Ratchet;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPortion;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Money\Money;
use Lotrik\Order\Side;

/**
 * What a plan means for a sample order: every distance as ticks, price and money, where the stop stands for each best
 * profit, what is risked for what, and how often it must win to break even. What runs without a target counts as 0.
 */
final readonly class PlanStudy
{
    private function __construct(private Basis $basis, private Side $side) {}

    /**
     * @param Basis     $basis   the sample: contract, price, lots
     * @param int       $best    up to which best profit the curve goes, in ticks
     * @param list<int> $minutes how far each closed minute of the last session ranged, in ticks
     *
     * @return array<string, mixed> ticks as integers, prices and money as decimal strings
     *
     * @throws InvalidPlan
     */
    public static function of(ExitPlan $plan, Basis $basis, Side $side, int $best, array $minutes): array
    {
        $self = new self($basis, $side);
        $resolved = $plan->resolve($basis);
        $split = $resolved->split($basis->quantity);
        $unrounded = $plan->unrounded($basis);

        return [
            'portions' => array_map(
                static fn(ResolvedPortion $p): array
                    => $self->portion($p, $split[$p->number], $best) + ['unrounded' => $unrounded[$p->number - 1]],
                $resolved->portions,
            ),
            'warnings' => PlanWarnings::of($resolved, $basis->contract, $minutes),
            'minutes' => count($minutes),
            'document' => $plan->document,
        ] + $self->odds($resolved, $split);
    }

    /** @return array<string, mixed> */
    private function portion(ResolvedPortion $portion, int $lots, int $best): array
    {
        $stop = $portion->stop;

        return [
            'portion' => $portion->number,
            'lots' => $lots,
            'target' => $portion->target === null ? null : $this->point($portion->target),
            'stop' => $stop === null ? null : $this->point(-$stop->distance),
            'ratchets' => array_map(fn(Ratchet $r): array => [
                'at' => $this->point($r->at), 'stop' => $this->point($r->offset($r->at)), 'word' => $r->word(),
                'trail' => $r->lock === null ? $r->trail : null, 'by' => $r->lock === null ? $r->by : null,
            ], $stop->ratchets ?? []),
            'stops' => $stop?->curve($best),
        ];
    }

    /** @return array{ticks: int, price: string, money: string} ticks from the anchor towards profit, money for one lot */
    private function point(int $ticks): array
    {
        return [
            'ticks' => $ticks,
            'price' => $this->basis->contract->price($this->basis->price + $this->side->sign() * $ticks),
            'money' => $this->basis->contract->money($ticks)->exact(),
        ];
    }

    /**
     * @param array<int, int> $split portion number → lots
     *
     * @return array<string, string|null> ratio and win rates with two decimals, rounded against the trader
     */
    private function odds(ResolvedPlan $plan, array $split): array
    {
        $contract = $this->basis->contract;
        $risk = $reward = 0;
        foreach ($plan->portions as $portion) {
            $risk += ($portion->stop->distance ?? 0) * $split[$portion->number];
            $reward += ($portion->target ?? 0) * $split[$portion->number];
        }
        $limited = $plan->protectedLots($this->basis->quantity) === $this->basis->quantity;
        $fees = $contract->fees(2 * $this->basis->quantity);

        return [
            'risk' => $limited ? $contract->money($risk)->exact() : null,
            'reward' => $contract->money($reward)->exact(),
            'fees' => $fees->exact(),
            'ratio' => ! $limited || $reward === 0 ? null : self::two(BigRational::nd($reward, $risk), RoundingMode::FLOOR),
            'win_rate' => ! $limited || $reward === 0
                ? null
                : self::two(BigRational::nd(100 * $risk, $risk + $reward), RoundingMode::CEILING),
            'win_rate_with_fees' => ! $limited || $reward === 0
                ? null
                : self::winRate($contract->money($risk), $contract->money($reward), $fees),
        ];
    }

    /** Null where the targets do not even pay the fees: no win rate is high enough. */
    private static function winRate(Money $risk, Money $reward, Money $fees): ?string
    {
        if (! $reward->minus($fees)->isPositive()) {
            return null;
        }

        return self::two($risk->plus($fees)->dividedBy($risk->plus($reward))->multipliedBy(100), RoundingMode::CEILING);
    }

    private static function two(BigRational $value, RoundingMode $rounding): string
    {
        return (string) $value->toScale(2, $rounding);
    }
}
