<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Brick\Math\RoundingMode;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Desk\Question\TradeLoss;
use Lotrik\Money\Money;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** No trade loses more at its stops, with fees, than the trader allows: judged on all lots that share one entry, or one set. */
final class TradeRisk implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        $limits = $proposal->account->limits->in($proposal->contract->code);
        // Without a rate nobody can say what it would risk.
        if (! $limits->limitsRisk() || ! $proposal->account->rates->knows($proposal->contract->currency)) {
            return null;
        }
        $most = $limits->mostRisk(Balance::of($proposal->account, $this->state));
        if ($most === null) {
            return null;
        }
        foreach ($proposal->after->tradesThatDifferFrom($proposal->before) as $trade) {
            $after = $proposal->after->loss($trade);
            $before = new TradeLoss();
            foreach ($proposal->before->tradesBehind($trade, $proposal->after) as $behind) {
                $of = $proposal->before->loss($behind);
                $before = $before->plus($of->ticks, $of->lots, $of->bare);
            }
            if ($after->bare > $before->bare) {
                return self::tradeRiskUnlimited(
                    "{$most->display()} {$most->currency->code}", $proposal->orders !== [] ? '/exit_plan' : null,
                );
            }
            // What has no limit now and gets one becomes better, however much it may still lose.
            $refusal = $after->bare > 0 || $before->bare > 0 ? null : $this->refuseLoss($proposal, $before, $after, $most);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return null;
    }

    private function refuseLoss(Proposal $proposal, TradeLoss $before, TradeLoss $after, Money $most): ?Refusal
    {
        $inBase = static fn(TradeLoss $of): Money => $proposal->account->rates->toBase($of->atStops($proposal->contract));
        [$risk, $now] = [$inBase($after), $inBase($before)];
        if ($risk->compareTo($most) <= 0 || $risk->compareTo($now) <= 0) {
            return null;
        }
        $allowed = "{$most->display()} {$most->currency->code}";
        if ($proposal->stopsTo !== null) {
            return self::widerStop(
                $risk->display(), $allowed, $this->farthest($proposal, $proposal->stopsTo, $risk->minus($most)), $proposal->pointer,
            );
        }
        $lots = $after->lots - $before->lots;
        if ($lots <= 0) {
            return self::tradeRiskOfStops($risk->display(), $allowed);
        }
        // As many as what is left pays for, at what each of them risks.
        $left = $most->minus($now);
        $share = $left->isPositive() ? $left->dividedBy($risk->minus($now)) : null;

        return self::tradeRisk(
            $risk->display(), $allowed, $lots,
            $share?->multipliedBy($lots)->toScale(0, RoundingMode::FLOOR)->toInt() ?? 0, $after->lots - $lots,
        );
    }

    /** @return string|null price as far as the stops may go; null where they may not go farther at all */
    private function farthest(Proposal $proposal, int $to, Money $over): ?string
    {
        $before = $proposal->before->open();
        $sign = $proposal->after->lots <=> 0;
        $there = null;
        $lots = 0;
        foreach ($proposal->after->open() as $i => $of) {
            $was = $before[$i] ?? null;
            if ($of->stop === $to && $was?->stop !== $to) {
                $lots += $of->lots;
                $there ??= $was?->stop;
            }
        }
        if ($lots === 0) {
            return null;
        }
        // So many ticks less for each lot that goes there.
        $ticks = $over->dividedBy(
            $proposal->account->rates->toBase($proposal->contract->money($lots)),
        )->toScale(0, RoundingMode::CEILING)->toInt();
        $farthest = $to + $sign * $ticks;

        return $there === null || $sign * ($farthest - $there) < 0 ? $proposal->contract->price($farthest) : null;
    }

    /** @param string $most with its currency */
    private static function tradeRiskUnlimited(string $most, ?string $pointer): Refusal
    {
        return new Refusal(
            RefusalCode::TradeRisk,
            "without a stop for every lot its risk has no limit, and a trade may risk $most; "
                .($pointer === null ? 'move the stop closer, or flatten' : 'an exit plan with a stop would be accepted'),
            $pointer,
        );
    }

    /** @param string $most with its currency */
    private static function tradeRiskOfStops(string $risk, string $most): Refusal
    {
        return new Refusal(
            RefusalCode::TradeRisk,
            "the trade would risk $risk with fees at its stops, and a trade may risk $most; use a closer stop", '/exit_plan',
        );
    }

    /**
     * @param string $risk with fees, of the whole trade
     * @param string $most with its currency
     * @param int    $lots that are asked for
     * @param int    $fit  lots of them that would be accepted
     * @param int    $with lots that are in the same trade already
     */
    private static function tradeRisk(string $risk, string $most, int $lots, int $fit, int $with = 0): Refusal
    {
        return new Refusal(
            RefusalCode::TradeRisk,
            Refusal::lots($lots).($with > 0 ? " more than the $with in the same trade" : '')." risk $risk with fees, and a trade may "
                ."risk $most; "
                .($fit === 0 ? 'even one lot is too much; use a closer stop' : Refusal::lots($fit).' would be accepted'),
            '/quantity',
        );
    }

    /**
     * @param string      $risk     with fees, in the account's currency
     * @param string      $most     with its currency
     * @param string|null $farthest price as far as the stop may go; null where it may not go farther at all
     */
    private static function widerStop(string $risk, string $most, ?string $farthest, string $pointer): Refusal
    {
        return new Refusal(
            RefusalCode::TradeRisk,
            "its entry would risk $risk with fees, and a trade may risk $most; "
                .($farthest === null ? 'it cannot be moved further away' : "$farthest would be accepted"),
            $pointer,
        );
    }
}
