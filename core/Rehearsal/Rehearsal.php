<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Document\LineFault;
use Lotrik\Document\Moment;
use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\Basis;
use Lotrik\ExitPlan\Cover;
use Lotrik\ExitPlan\EntryExits;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\Ranges;
use Lotrik\ExitPlan\Watch;
use Lotrik\Money\Money;
use Lotrik\Watching\MinuteBars;

/**
 * Runs one entry under an exit plan over a tape, with the same exits that the desk uses. Within a print: what rests
 * fills and stops trigger at their old levels first, then the best price counts and ratchets move. The print that
 * fills the entry touches none of its exits.
 */
final class Rehearsal
{
    /** @var list<array<string, mixed>> */
    private array $events = [];

    private ?EntryExits $exits = null;

    private int $filled = 0;

    private int $cost = 0;

    private int $closed = 0;

    /** Σ closed lots × exit price. */
    private int $closedCost = 0;

    private ?int $firstFill = null;

    private int $best = 0;

    private int $worst = 0;

    private bool $entryEnded = false;

    /** Ticks between which a print changes nothing; none while they cross. */
    private int $quietAbove = PHP_INT_MAX;

    private int $quietBelow = 0;

    /** The ticks that have been seen since the average last changed. */
    private int $lowest = PHP_INT_MAX;

    private int $highest = PHP_INT_MIN;

    /** The entry has filled since ratchets were last looked at; else they move only with a better price. */
    private bool $grown = false;

    private readonly MinuteBars $bars;

    private Ranges $ranges;

    /** The order has been sent, so that its average true ranges are frozen; true from the start where it needs none. */
    private bool $ranged;

    /** @var array<string, array{stop: int|null, target: int|null, lots: int, triggered: bool}> what has been told of each cover */
    private array $told = [];

    /**
     * @param bool       $useSize prints fill no more lots than they traded; else sizes are ignored
     * @param Money|null  $balance of an account, for distances in percent of it
     * @param Ranges|null $ranges  average true ranges; null takes them from the prints before the order
     */
    public function __construct(
        private readonly Contract $contract,
        private readonly ExitPlan $plan,
        private readonly EntryOrder $order,
        private readonly bool $useSize = false,
        private readonly bool $through = false,
        private readonly ?Money $balance = null,
        ?Ranges $ranges = null,
    ) {
        $this->bars = new MinuteBars();
        $this->ranges = $ranges ?? Ranges::none();
        $this->ranged = $ranges !== null || $plan->ranges() === [];
    }

    /**
     * @param callable(Step): void|null $seen is told where everything stood after each print
     *
     * @return array<string, mixed> the document that formats.md describes
     */
    public function over(Prints $tape, ?callable $seen = null): array
    {
        $print = 0;
        foreach ($tape->prints() as $on) {
            if ($this->plan->watch === Watch::ExitQuote && ! $tape->hasQuotes()) {
                throw LineFault::at('tape', 1, 'no bid and ask columns', 'them, since the plan watches the exit quote');
            }
            if ($this->order->at !== null && $on->at < $this->order->at) {
                if (! $this->ranged) {
                    $this->bars->add(intdiv($on->at, 1000), $on->tick, $on->lots);
                }

                continue;
            }
            $this->send($on->at);
            $this->print($on, ++$print);
            if ($seen !== null) {
                $seen($this->step($on));
            }
        }

        if ($this->order->atPrice && $this->filled === 0 && $this->order->at !== null) {
            $this->send($this->order->at);
            $this->fillEntry($this->order->quantity, (int) $this->order->price, $this->order->at, 0);
        }

        return $this->result();
    }

    /** The order goes out: average true ranges are those of the bars that have closed by then. */
    private function send(int $at): void
    {
        if (! $this->ranged) {
            $this->ranges = Ranges::for($this->plan, $this->bars, intdiv($this->order->at ?? $at, 1000));
            $this->ranged = true;
        }
    }

    private function step(TapePrint $on): Step
    {
        $stops = $targets = [];
        foreach ($this->exits?->covers() ?? [] as $cover) {
            $i = $cover->portion->number - 1;
            $stops[$i] = $cover->wantsStop() ? $cover->stop : $stops[$i] ?? null;
            $targets[$i] = $cover->wantsTarget() ? $cover->target : $targets[$i] ?? null;
        }

        return new Step($on->at, $on->tick, array_values($stops), array_values($targets), $this->open(), count($this->events));
    }

    private function print(TapePrint $on, int $number): void
    {
        if ($on->tick > $this->quietAbove && $on->tick < $this->quietBelow) {
            if (($on->tick < $this->lowest || $on->tick > $this->highest) && $this->open() > 0) {
                $this->excursion($on->tick);
            }

            return;
        }
        $this->heed($on, $number);
        $this->findQuiet();
    }

    /**
     * Between the nearest stop and the nearest target, and no better than the best price so far, a print changes
     * nothing: nearly all prints of a tape are such.
     */
    private function findQuiet(): void
    {
        $this->quietAbove = PHP_INT_MAX;
        $exits = $this->exits;
        if ($exits === null || $this->plan->watch !== Watch::Last || ($this->filled < $this->order->quantity && ! $this->entryEnded)) {
            return;
        }
        $sign = $this->order->side->sign();
        // As profit goes up: a short is looked at upside down.
        $below = PHP_INT_MAX;
        $above = -PHP_INT_MAX;
        foreach ($this->open() === 0 ? [] : $exits->bests() as $best) {
            $below = $best === null ? -PHP_INT_MAX : min($below, $sign * $best + 1);
        }
        foreach ($exits->covers() as $cover) {
            if ($cover->lots > 0) {
                $below = min($below, $this->told[self::key($cover)]['triggered'] ? -PHP_INT_MAX : $sign * ($cover->target ?? $sign * PHP_INT_MAX));
                $above = max($above, $cover->stop === null ? $above : $sign * $cover->stop);
            }
        }
        [$this->quietAbove, $this->quietBelow] = $sign > 0 ? [$above, $below] : [-$below, -$above];
    }

    private function heed(TapePrint $on, int $number): void
    {
        $left = $this->useSize ? $on->lots : PHP_INT_MAX;
        if ($this->order->atPrice && $this->filled === 0 && ! $this->entryEnded) {
            $this->fillEntry($this->order->quantity, (int) $this->order->price, $this->order->at ?? $on->at, 0);
        }
        $this->exit($on, $left);
        if ($this->exits !== null && $this->open() > 0) {
            $this->excursion($on->tick);
        }
        $entering = $this->order->quantity - $this->filled;
        $price = $entering > 0 && ! $this->entryEnded ? $this->order->fillAt($on->tick, $this->through) : null;
        if ($price !== null && $left > 0) {
            $this->fillEntry(min($entering, $left), $price, $on->at, $number);
        }
        $this->watch($on, $number);
    }

    private function fillEntry(int $lots, int $tick, int $at, int $number): void
    {
        $this->firstFill ??= $at;
        $this->exits ??= new EntryExits($this->order->side, $this->plan->resolve(new Basis($this->contract, $tick, $this->order->quantity, $this->balance, $this->ranges)));
        $this->exits->fill($lots, $tick, $number);
        $this->grown = true;
        $this->filled += $lots;
        $this->cost += $lots * $tick;
        [$this->lowest, $this->highest] = [PHP_INT_MAX, PHP_INT_MIN];
        $this->tell($at, 'anchor');
    }

    /** Resting targets fill and stops trigger at the levels they had before this print. */
    private function exit(TapePrint $on, int &$left): void
    {
        foreach ($this->exits?->covers() ?? [] as $cover) {
            if ($cover->lots === 0 || $left === 0) {
                continue;
            }
            $sign = $this->order->side->sign();
            $beyond = $cover->target === null ? -1 : $sign * ($on->tick - $cover->target);
            if ($cover->target !== null && ($beyond > 0 || (! $this->through && $beyond === 0))) {
                $this->close($cover, $on, 'target', $cover->target, $left);

                continue;
            }
            $this->stop($cover, $on, $left);
        }
    }

    private function stop(Cover $cover, TapePrint $on, int &$left): void
    {
        $sign = $this->order->side->sign();
        $key = self::key($cover);
        if ($cover->stop === null) {
            return;
        }
        $triggered = $this->told[$key]['triggered'] || $sign * ($on->tick - $cover->stop) <= 0;
        $this->told[$key]['triggered'] = $triggered;
        if (! $triggered) {
            return;
        }
        $limitTicks = $cover->portion->stop?->limitTicks;
        $price = $on->tick;
        if ($limitTicks !== null) {
            $limit = $cover->stop - $sign * $limitTicks;
            if ($sign * ($on->tick - $limit) < 0) {
                return;
            }
        }
        $this->close($cover, $on, 'stop', $price, $left);
    }

    private function close(Cover $cover, TapePrint $on, string $order, int $price, int &$left): void
    {
        $lots = min($cover->lots, $left);
        $left = $this->useSize ? $left - $lots : $left;
        $this->excursion($price);
        $slippage = $order === 'stop' ? $this->order->side->sign() * ((int) $cover->stop - $price) : 0;
        $this->exits?->closed($cover->portion->number, $cover->group, $lots);
        $this->told[self::key($cover)]['lots'] = $cover->lots;
        $this->closed += $lots;
        $this->closedCost += $lots * $price;
        $this->entryEnded = $this->entryEnded || $order === 'stop' || $this->exits?->plan->afterTarget === AfterTarget::CancelEntry;
        $this->events[] = ['time' => Moment::iso($on->at), 'event' => 'exit-filled', 'portion' => $cover->portion->number, 'quantity' => $lots,
            'order' => $order, 'price' => $this->contract->price($price), 'slippage_ticks' => $slippage];
    }

    private function watch(TapePrint $on, int $number): void
    {
        $exits = $this->exits;
        if ($exits === null) {
            return;
        }
        $tick = $this->plan->watch === Watch::Last ? $on->tick : ($this->order->side->sign() > 0 ? $on->bid : $on->ask);
        $better = $tick !== null && $exits->observe($tick, $number);
        if (! $better && ! $this->grown) {
            return;
        }
        $this->grown = false;
        foreach ($exits->dueMoves() as $move) {
            if ($this->told["{$move->portion}/{$move->group}"]['triggered']) {
                continue;
            }
            $exits->moved($move->portion, $move->group, $move->to);
            $this->tell($on->at, $move->because);
            $cover = $exits->cover($move->portion, $move->group);
            if ($this->order->side->sign() * ($on->tick - $move->to) <= 0) {
                $left = PHP_INT_MAX;
                $this->told[self::key($cover)]['triggered'] = true;
                $this->stop($cover, $on, $left);
            }
        }
    }

    /** Tells of exits that are new, have grown, or stand elsewhere. */
    private function tell(int $at, string $because): void
    {
        foreach ($this->exits?->covers() ?? [] as $cover) {
            $key = self::key($cover);
            $told = $this->told[$key] ?? ['stop' => null, 'target' => null, 'lots' => 0, 'triggered' => false];
            $grown = $cover->lots > $told['lots'];
            foreach (['stop', 'target'] as $what) {
                $level = $cover->{$what};
                if ($level === null) {
                    continue;
                }
                $event = match (true) {
                    $told[$what] === null || ($grown && $told[$what] === $level) => "$what-placed",
                    $told[$what] !== $level => "$what-moved",
                    default => null,
                };
                if ($event !== null) {
                    $this->events[] = ['time' => Moment::iso($at), 'event' => $event, 'portion' => $cover->portion->number, 'quantity' => $cover->lots]
                        + ($told[$what] !== null && $told[$what] !== $level ? ['from' => $this->contract->price($told[$what])] : [])
                        + ['price' => $this->contract->price($level)] + ($event === "$what-moved" ? ['because' => $because] : []);
                }
            }
            $this->told[$key] = ['stop' => $cover->stop, 'target' => $cover->target, 'lots' => $cover->lots, 'triggered' => $told['triggered']];
        }
    }

    private function excursion(int $tick): void
    {
        $this->lowest = min($this->lowest, $tick);
        $this->highest = max($this->highest, $tick);
        // Per lot against the average of the entry, rounded against the trader where that is no whole tick.
        $sum = $this->order->side->sign() * ($tick * $this->filled - $this->cost);
        $ticks = intdiv($sum, $this->filled) - ($sum % $this->filled < 0 ? 1 : 0);
        $this->best = max($this->best, $ticks);
        $this->worst = min($this->worst, $ticks);
    }

    private function open(): int
    {
        return $this->filled - $this->closed;
    }

    /** @return array<string, mixed> */
    private function result(): array
    {
        $average = $this->filled === 0 ? null : BigRational::nd($this->cost, $this->filled);
        $ticks = $average === null ? BigRational::zero()
            : BigRational::of($this->closedCost)->minus($average->multipliedBy($this->closed))->multipliedBy($this->order->side->sign());
        $money = $this->contract->money($ticks);
        $fees = $this->contract->fees(2 * $this->closed);

        return [
            'contract' => $this->contract->code, 'side' => $this->order->side->value, 'fill' => $this->through ? 'through' : 'touch',
            'entry' => $average === null ? null : ['quantity' => $this->filled, 'average' => $this->contract->averagePrice($average), 'time' => Moment::iso((int) $this->firstFill)],
            'events' => $this->events,
            'open_quantity' => $this->open(),
            'result' => [
                'ticks' => $ticks->toScale(0, RoundingMode::FLOOR)->toInt(), 'money' => $money->exact(), 'fees' => $fees->exact(),
                'net' => $money->minus($fees)->exact(), 'currency' => $this->contract->currency->code,
                'best_ticks' => $this->best, 'worst_ticks' => $this->worst,
            ],
        ];
    }

    private static function key(Cover $cover): string
    {
        return $cover->portion->number.'/'.$cover->group;
    }
}
