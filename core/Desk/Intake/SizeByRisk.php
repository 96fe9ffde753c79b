<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Account\RateKnown;
use Lotrik\Desk\Quote;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Money\Money;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use Lotrik\Risk\Limits\Amount;

/**
 * How many lots an amount allows under a plan's stops, fees both ways included, rounded down. The amount is said in money, in
 * percent of the account's balance, or in R: times what a trade may risk by the account's limits.
 */
final class SizeByRisk
{
    /** An order of more than so many lots is sized by hand. */
    private const MOST = 1_000;

    public function __construct(private readonly DeskState $state) {}

    /**
     * @param Node $risk one of `money`, `percent`, `r`
     *
     * @return array{lots: int, risk: string|null, most: string, currency: string, words: string} money exact, in the account's currency
     *
     * @throws InvalidDocument
     * @throws Refusal
     */
    public function of(Node $risk, OrderRequest $request, Account $account, Quote $quote): array
    {
        $most = $this->amount($risk, $account, $request->contract->code);
        $currency = $account->rates->base->code;
        $said = "{$most->display()} $currency";
        $nothing = static fn(string $words): array => [
            'lots' => 0, 'risk' => null, 'most' => $most->exact(), 'currency' => $currency, 'words' => $words,
        ];
        if (! $account->rates->knows($request->contract->currency)) {
            throw RateKnown::noRate($request->contract->code, $request->contract->currency->code, $currency);
        }
        if ($request->plan === null) {
            return $nothing('no exit plan: without a stop nothing limits what a lot may lose');
        }
        $one = $this->risk(1, $request, $account, $quote);
        if ($one === null) {
            return $nothing('a lot of this plan has no stop: nothing limits what it may lose');
        }
        $low = 0;
        $limit = min($account->limits->in($request->contract->code)->orderLots ?? self::MOST, self::MOST);
        $high = $limit + 1;
        // A plan's stop may itself depend on how many lots there are: whatever is given back has been looked at.
        while ($high - $low > 1) {
            $lots = intdiv($low + $high, 2);
            $risk = $this->risk($lots, $request, $account, $quote);
            [$low, $high] = $risk !== null && ! $risk->minus($most)->isPositive() ? [$lots, $high] : [$low, $lots];
        }
        if ($low === 0) {
            return $nothing("even one lot is too much for $said: it risks {$one->display()} with fees");
        }
        $risk = $this->risk($low, $request, $account, $quote);
        assert($risk !== null);
        $more = $low === $limit ? $this->risk($low + 1, $request, $account, $quote) : null;
        $isCut = $more !== null && $more->compareTo($most) <= 0;

        return [
            'lots' => $low, 'risk' => $risk->exact(), 'most' => $most->exact(), 'currency' => $currency,
            'words' => "$low lot".($low === 1 ? ' risks' : 's risk')." {$risk->display()} of $said".($isCut ? ', cut to the order limit '
                ."of $limit" : ''),
        ];
    }

    private function amount(Node $risk, Account $account, string $contract): Money
    {
        $given = array_filter(['money', 'percent', 'r'], $risk->has(...));
        if (count($given) !== 1) {
            throw InvalidDocument::at($risk->pointer, count($given).' of money, percent and r', 'one of them');
        }
        if ($risk->has('money')) {
            $most = Amount::of($risk, 'money', $account->rates->base);
        } elseif ($risk->has('percent')) {
            $percent = Amount::percent($risk, 'percent') ?? throw $risk->fault('percent', 'a percentage such as "0.3"');
            $most = Balance::of($account, $this->state)->times($percent->exactlyDividedBy(100));
        } else {
            $times = $risk->decimal('r');
            $r = $account->limits->in($contract)->mostRisk(Balance::of($account, $this->state))
                ?? throw self::nothingIsR();
            $most = $r->times($times);
        }
        $risk->done();

        return $most;
    }

    /** In the account's currency; null where a lot would have no stop. */
    private function risk(int $lots, OrderRequest $request, Account $account, Quote $quote): ?Money
    {
        assert($request->plan !== null);
        $at = $request->trigger ?? $request->price ?? $quote->touch($request->side) ?? 1;
        try {
            $ranges = $request->ranges ?? TrueRanges::for($request->plan, $quote->bars, $request->now);
            $plan = $request->plan->resolve(PlanTicks::basis($this->state, $account->id, $request->contract->code, $at, $lots, $ranges));
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/exit_plan');
        }
        $risk = EntryRisk::ofPlan($plan, $request->contract, $lots);

        return $risk === null ? null : $account->rates->toBase($risk);
    }

    private static function nothingIsR(): Refusal
    {
        return new Refusal(
            RefusalCode::Invalid, 'set a risk per trade in Limits first: R is measured in it. Or give money or percent', '/risk/r',
        );
    }
}
