<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal\Noise;

use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Money\Money;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Watching\Bars\MinuteBars;
use Lotrik\Watching\PriceTrail;

/**
 * Is the stop inside the noise? A market order on each side at every n-th second of what has just traded, each rehearsed
 * under the plan: how often the stop came first, the first target, or break-even and then the stop. It is history.
 *
 * A moment from which nothing printed until the next one is left out: a market that stands would give the same case over
 * and over. Left out too is an order that the plan does not fit, such as one before enough bars had closed.
 */
final class NoiseStudy
{
    public const MIN_MINUTES = 10;

    public const MAX_MINUTES = 240;

    /** So many entries on each side, or one more. */
    private const MOST_CASES = 180;

    private readonly PrintIndex $prints;

    /** @var list<array{int, int}> moments of entries, ms since 1970 UTC, and the place of the print that fills each */
    private array $moments = [];

    /** @var array<int, TrueRanges> minute → as they stood when it began */
    private array $ranges = [];

    private ?int $oldest = null;

    private ?int $from = null;

    private bool $isRead = false;

    /**
     * @param PriceTrail $trail   looked at when the work begins, and no more: what prints meanwhile is left to the next time
     * @param MinuteBars $bars    at least those that had closed by the first entry
     * @param int        $lots    of each entry
     * @param int        $minutes that are looked back on from the last print
     * @param Money|null $balance of the account, in the contract's currency
     */
    public function __construct(
        private readonly Contract $contract,
        private readonly PriceTrail $trail,
        private readonly MinuteBars $bars,
        private readonly int $lots,
        private readonly int $minutes,
        private readonly ?Money $balance,
    ) {
        $this->prints = new PrintIndex();
    }

    /** Seconds between two entries: whole stretches of the trail. */
    public static function every(int $minutes): int
    {
        $stretch = intdiv(PriceTrail::STRETCH, 1000);

        return $stretch * max(1, intdiv($minutes * 60 - 1, self::MOST_CASES * $stretch) + 1);
    }

    /**
     * One bit of work at each step, of a millisecond or so: whoever runs it may stop in between.
     *
     * @return \Generator<int, null, null, array{buy: NoiseTally, sell: NoiseTally}>
     */
    public function of(ExitPlan $plan): \Generator
    {
        if (! $this->isRead) {
            $this->isRead = true;
            yield from $this->read();
        }
        $tallies = ['buy' => new NoiseTally(), 'sell' => new NoiseTally()];
        $this->ranges = [];
        foreach ($this->moments as [$moment, $i]) {
            foreach (Side::cases() as $side) {
                try {
                    $tallies[$side->value]->add((new Rehearsal(
                        $this->contract, $plan, new EntryOrder($side, $this->lots, OrderKind::Market, null, 1000 * $moment, false),
                        balance: $this->balance, ranges: $this->ranges($plan, $moment),
                    ))->outcome($this->prints, $i));
                } catch (InvalidPlan) {
                    // It does not fit the order at this price: no case.
                }
                yield;
            }
        }

        return $tallies;
    }

    /** When the prints begin that entries were tried on, ms since 1970 UTC; null where there are none. */
    public function from(): ?int
    {
        return $this->from === null ? null : max($this->from, (int) $this->oldest);
    }

    /** How many of the minutes are kept, whole ones. */
    public function coveredMinutes(): int
    {
        return $this->from === null ? 0 : min($this->minutes, intdiv($this->from + 60_000 * $this->minutes - (int) $this->oldest, 60_000));
    }

    /** @return \Generator<int, null> */
    private function read(): \Generator
    {
        $newest = $this->trail->newest();
        if ($newest === null) {
            return;
        }
        $this->oldest = $this->trail->oldest();
        $this->from = $newest - 60_000 * $this->minutes;
        $every = 1000 * self::every($this->minutes);
        $taken = -1;
        foreach ($this->trail->since($this->from) as [$times, $prints]) {
            foreach ($times as $i => $at) {
                $moment = $at - $at % $every;
                // Entered at a whole moment: only the first print from there on fills it.
                if ($moment !== $taken && $moment >= max($this->from, $this->oldest)) {
                    $this->moments[] = [$moment, $this->prints->count() + $i];
                }
                $taken = $moment;
            }
            $this->prints->add($times, $prints);
            yield;
        }
    }

    /** @throws InvalidPlan where too few bars had closed */
    private function ranges(ExitPlan $plan, int $at): TrueRanges
    {
        return $this->ranges[intdiv($at, 60_000)] ??= TrueRanges::for($plan, $this->bars, $at);
    }
}
