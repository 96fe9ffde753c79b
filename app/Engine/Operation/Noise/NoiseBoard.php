<?php

declare(strict_types=1);

namespace App\Engine\Operation\Noise;

use App\Engine\Operation\Asked;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Quote;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Refusal\Refusal;
use Lotrik\Rehearsal\Noise\NearbyStops;
use Lotrik\Rehearsal\Noise\NoiseStudy;

/** Noise figures that were asked for: those of a moment ago are given again, others are worked out. */
final class NoiseBoard
{
    /** The same question is worked out so often at most, in ns. */
    private const FRESH = 4_000_000_000;

    private const KEPT = 32;

    /** @var array{string, int, NoiseStudy}|null question without its plan, hrtime, what was read for it: the next plan is tried on the same */
    private ?array $study = null;

    /** @var array<string, array{int, int, array{status: int, body: array<string, mixed>}}> question → hrtime, newest print, answer */
    private array $answers = [];

    /**
     * @param Asked $asked with `document`, `quantity`, `minutes`, `by_stop`, as the web has checked them
     * @param int   $at    ms since 1970 UTC
     *
     * @return (callable(): array{status: int, body: array<string, mixed>})|NoiseJob
     *
     * @throws Refusal
     */
    public function ask(Asked $asked, Desk $desk, int $at): callable|NoiseJob
    {
        [$body, $account, $contract] = [$asked->request->body, $asked->account, $asked->contract()];
        $quote = $desk->quote($contract->code);
        $question = self::question($body, $account, $contract);
        [$then, $print, $answer] = $this->answers[$question] ?? [0, 0, null];
        if ($answer !== null && ($print === $quote->trail->made() || hrtime(true) - $then < self::FRESH)) {
            return static fn(): array => $answer;
        }
        $plan = ExitPlan::fromArray((array) $body['document']);
        $balance = $account->rates->knows($contract->currency)
            ? $account->rates->fromBase(Balance::of($account, $desk->state), $contract->currency)
            : null;
        [$lots, $minutes] = [(int) $body['quantity'], (int) $body['minutes']];
        $plans = [[null, true, $plan]];
        if (($body['by_stop'] ?? false) === true && $quote->last !== null) {
            try {
                $near = NearbyStops::of(
                    $plan,
                    new Basis($contract, $quote->last, $lots, $balance, TrueRanges::for($plan, $quote->bars, $at)),
                );
            } catch (InvalidPlan $fault) {
                throw Refusal::planDoesNotFit($fault, '/document');
            }
            $plans = array_map(static fn(int $stop, ExitPlan $of): array => [$stop, $of === $plan, $of], array_keys($near), $near);
        }

        $on = self::question(array_diff_key($body, ['document' => 1, 'by_stop' => 1]), $account, $contract);
        if ($this->study === null || $this->study[0] !== $on || hrtime(true) - $this->study[1] >= self::FRESH) {
            $study = new NoiseStudy($contract, $quote->trail, $quote->bars, $lots, $minutes, $balance);
            $this->study = [$on, (int) hrtime(true), $study];
        }

        $keep = fn(array $answer) => $this->keep($question, $quote, $answer);

        return new NoiseJob($contract, $this->study[2], $minutes, $plans, $keep);
    }

    /** @param array{status: int, body: array<string, mixed>} $answer */
    private function keep(string $question, Quote $quote, array $answer): void
    {
        unset($this->answers[$question]);
        $this->answers[$question] = [(int) hrtime(true), $quote->trail->made(), $answer];
        if (count($this->answers) > self::KEPT) {
            unset($this->answers[array_key_first($this->answers)]);
        }
    }

    /** @param array<string, mixed> $body */
    private static function question(array $body, Account $account, Contract $contract): string
    {
        return hash('xxh128', (string) json_encode([$contract->code, $account->id, $body]));
    }
}
