<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidLine;
use Lotrik\Document\Moment;
use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\ExitPlan\Watch;
use Lotrik\Money\Money;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Passed;
use Lotrik\Order\Side;
use Lotrik\Position\Position;
use Lotrik\Rehearsal\Noise\PrintIndex;
use Lotrik\Watching\Bars\MinuteBars;

/**
 * Runs one entry under an exit plan over a tape, with the same exits that the desk uses. Within a print: what rests
 * fills and stops trigger at their old levels first, then the entry fills, then the best price counts and ratchets move.
 * The print that fills the entry touches none of its exits, but a stop that it has passed closes at the market.
 */
final class Rehearsal
{
    /** @var list<array<string, mixed>> */
    private array $events = [];

    private ?EntryExits $exits = null;

    /** for a plan that covers it */
    private readonly ?Position $position;

    private int $filled = 0;

    private int $cost = 0;

    private int $closed = 0;

    /** @var list<array{int, int}> lots that are open and the price of their own fill, oldest first */
    private array $openFills = [];

    /** What has closed, each lot against the price of its own fill, in ticks. */
    private int $ticks = 0;

    private ?int $firstFill = null;

    private ?FirstExit $firstExit = null;

    private int $best = 0;

    private int $worst = 0;

    private bool $entryEnded = false;

    /** The entry is a stop whose trigger has printed: what is left of it fills at the market. */
    private bool $entryTriggered = false;

    private bool $sent = false;

    /** Events are written down. */
    private bool $tells = true;

    /** the print before, for what the market is at */
    private ?TapePrint $before = null;

    /** Ticks between which a print changes nothing; none while they cross. */
    private int $quietAbove = PHP_INT_MAX;

    private int $quietBelow = 0;

    /** The ticks that have been seen since the average last changed. */
    private int $lowest = PHP_INT_MAX;

    private int $highest = PHP_INT_MIN;

    private readonly MinuteBars $bars;

    private TrueRanges $ranges;

    /** Average true ranges are still to be taken from the prints before the order. */
    private bool $wantsRanges;

    /** @var array<string, array{stop: int|null, target: int|null, lots: int}> what has been told of each slot */
    private array $told = [];

    /** @var array<string, int|null> covers whose stop has been set off → where what is left of it rests, null at the market */
    private array $triggered = [];

    /**
     * @param bool       $useSize prints fill no more lots than they traded; else sizes are ignored
     * @param Money|null  $balance of an account, for distances in percent of it
     * @param TrueRanges|null $ranges  average true ranges; null takes them from the prints before the order
     */
    public function __construct(
        private readonly Contract $contract,
        private readonly ExitPlan $plan,
        private readonly EntryOrder $order,
        private readonly bool $useSize = false,
        private readonly bool $through = false,
        private readonly ?Money $balance = null,
        ?TrueRanges $ranges = null,
    ) {
        $this->bars = new MinuteBars();
        $this->position = $plan->covers === PlanScope::Position ? new Position() : null;
        $this->ranges = $ranges ?? TrueRanges::none();
        $this->wantsRanges = $ranges === null && $plan->ranges() !== [];
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
                throw InvalidLine::at('tape', 1, 'no bid and ask columns', 'them, since the plan watches the exit quote');
            }
            if ($this->order->at !== null && $on->at < $this->order->at) {
                if ($this->wantsRanges) {
                    $this->bars->add(intdiv($on->at, 1000), $on->tick, $on->lots);
                }
                $this->before = $on;

                continue;
            }
            $this->sent || $this->send($this->order->at ?? $on->at);
            $this->print($on, ++$print);
            $this->before = $on;
            if ($seen !== null) {
                $seen($this->step($on));
            }
        }
        if (! $this->sent && $this->order->at !== null) {
            $this->send($this->order->at);
        }

        return $this->result();
    }

    /**
     * The same in numbers, for an order that is sent before one of many prints. Prints that change nothing are not looked
     * at, nor is what comes after the last lot has closed.
     */
    public function outcome(PrintIndex $prints, int $from): Outcome
    {
        $this->tells = false;
        $this->before = $prints->at($from - 1);
        $this->send($this->order->at ?? $prints->at($from)->at ?? 0);
        for ($i = $from; $i !== null && ($on = $prints->at($i)) !== null; $i = $prints->next($i + 1, $this->quietAbove, $this->quietBelow)) {
            $this->handle($on, $i + 1);
            if ($this->open() === 0 && ($this->filled === $this->order->quantity || $this->entryEnded)) {
                break;
            }
            $this->findQuiet();
            $this->before = $on;
        }

        $last = $prints->at($prints->count() - 1)->tick ?? 0;
        $open = 0;
        foreach ($this->openFills as [$lots, $tick]) {
            $open += $this->order->side->sign() * ($last - $tick) * $lots;
        }

        return new Outcome($this->firstExit, $this->open(), $this->closed, $this->ticks, $open);
    }

    /** The order goes out: average true ranges are those of the bars that have closed by then, and a passed stop is refused. */
    private function send(int $at): void
    {
        $this->sent = true;
        if ($this->wantsRanges) {
            $this->ranges = TrueRanges::for($this->plan, $this->bars, intdiv($at, 1000));
        }
        if ($this->order->atPrice) {
            $this->fillEntry($this->order->quantity, (int) $this->order->price, $at, 0);
            $this->ratchet($at);
            $this->passAtBirth($this->before);
        } elseif ($this->order->kind === OrderKind::Stop && $this->isPassed(
            $this->order->side->sign(),
            (int) $this->order->price,
            $this->before,
        )) {
            $this->entryEnded = true;
            $this->events[] = ['time' => Moment::iso($at), 'event' => 'entry-refused', 'reason' => sprintf(
                'a stop to %s at %s is already passed: the last trade was at %s; a market order, or a limit at %s, would be accepted',
                $this->order->side->value, $this->contract->price((int) $this->order->price),
                $this->contract->price((int) $this->before?->tick), $this->contract->price((int) $this->order->price),
            )];
        }
    }

    /** @param int $sign of the side of the stop: a stop to buy is passed at or above its trigger */
    private function isPassed(int $sign, int $trigger, ?TapePrint $market): bool
    {
        return $market !== null && Passed::is($sign > 0 ? Side::Buy : Side::Sell, $trigger, $market->tick, $market->bid, $market->ask);
    }

    private function step(TapePrint $on): Step
    {
        $stops = $targets = [];
        foreach ($this->exits?->slots() ?? [] as $slot) {
            $i = $slot->portion->number - 1;
            $stops[$i] = $slot->wantsStop() ? $slot->stop : $stops[$i] ?? null;
            $targets[$i] = $slot->wantsTarget() ? $slot->target : $targets[$i] ?? null;
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
        $this->handle($on, $number);
        $this->findQuiet();
    }

    /**
     * Between the nearest stop and the nearest target, and short of where a ratchet moves next, a print changes nothing:
     * nearly all prints of a tape are such.
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
        foreach ($exits->slots() as $slot) {
            if ($slot->lots > 0) {
                $below = min(
                    $below,
                    array_key_exists(self::key($slot), $this->triggered) ? -PHP_INT_MAX : $sign * ($slot->target ?? $sign * PHP_INT_MAX),
                );
                $above = max($above, $slot->stop === null ? $above : $sign * $slot->stop);
                $moves = $slot->portion->stop?->nextMove($exits->bestProfit($slot->group));
                $below = min($below, $moves === null ? $below : $sign * $exits->anchor($slot->group) + $moves);
            }
        }
        [$this->quietAbove, $this->quietBelow] = $sign > 0 ? [$above, $below] : [-$below, -$above];
    }

    private function handle(TapePrint $on, int $number): void
    {
        $left = $this->useSize ? $on->lots : PHP_INT_MAX;
        $this->exit($on, $left);
        if ($this->open() > 0) {
            $this->excursion($on->tick);
        }
        $entering = $this->entryEnded ? 0 : $this->order->quantity - $this->filled;
        $price = $entering > 0 ? $this->order->fillAt($on->tick, $this->through, $this->entryTriggered) : null;
        // It is set off by the price of the print, whatever lots of that print others have taken.
        $this->entryTriggered = $this->entryTriggered || ($price !== null && $this->order->kind === OrderKind::Stop);
        $grown = $price !== null && $left > 0;
        if ($grown) {
            $lots = min($entering, $left);
            $left -= $this->useSize ? $lots : 0;
            $this->fillEntry($lots, $price, $on->at, $number);
        }
        $this->watch($on, $number, $left, $grown);
    }

    private function fillEntry(int $lots, int $tick, int $at, int $number): void
    {
        $this->firstFill ??= $at;
        $this->exits ??= new EntryExits(
            $this->order->side,
            $this->plan->resolve(new Basis($this->contract, $tick, $this->order->quantity, $this->balance, $this->ranges)),
        );
        if ($this->position !== null) {
            $this->position->fill($this->order->side, $lots, $tick);
            $this->exits->gather(abs($this->position->lots), $this->position->anchor(), $number);
        } else {
            $this->exits->fill($lots, $tick, $number);
        }
        $this->filled += $lots;
        $this->cost += $lots * $tick;
        $this->openFills[] = [$lots, $tick];
        [$this->lowest, $this->highest] = [PHP_INT_MAX, PHP_INT_MIN];
        $this->tell($at, 'anchor');
    }

    /** Resting targets fill and stops trigger at the levels they had before this print. */
    private function exit(TapePrint $on, int &$left): void
    {
        $sign = $this->order->side->sign();
        foreach ($this->exits?->slots() ?? [] as $slot) {
            if ($slot->lots === 0) {
                continue;
            }
            $wasSetOff = array_key_exists(self::key($slot), $this->triggered);
            if (! $wasSetOff && $slot->stop !== null && $sign * ($on->tick - $slot->stop) <= 0) {
                $this->setOff($slot, $on, $left);
            } elseif ($wasSetOff) {
                $this->fillSetOff($slot, $on, $left);
            }
            $beyond = $slot->target === null ? -1 : $sign * ($on->tick - $slot->target);
            if ($slot->lots > 0 && $slot->target !== null && ($beyond > 0 || (! $this->through && $beyond === 0))) {
                $this->close($slot, $on, 'target', $slot->target, $left);
            }
        }
    }

    /** A stop becomes a market order, or one at its limit: it takes what the print gives at its price, and the rest works on. */
    private function setOff(ExitSlot $slot, TapePrint $on, int &$left): void
    {
        $limitTicks = $slot->portion->stop?->limitTicks;
        $limit = $limitTicks === null ? null : (int) $slot->stop - $this->order->side->sign() * $limitTicks;
        $this->triggered[self::key($slot)] = $limit;
        if ($limit === null || $this->order->side->sign() * ($on->tick - $limit) >= 0) {
            $this->close($slot, $on, 'stop', $on->tick, $left);
        }
    }

    /** What rests at a stop's limit fills there, like any limit; what is at the market fills at each print's price. */
    private function fillSetOff(ExitSlot $slot, TapePrint $on, int &$left): void
    {
        $limit = $this->triggered[self::key($slot)];
        $beyond = $limit === null ? 1 : $this->order->side->sign() * ($on->tick - $limit);
        if ($beyond > 0 || (! $this->through && $beyond === 0)) {
            $this->close($slot, $on, 'stop', $limit ?? $on->tick, $left);
        }
    }

    private function close(ExitSlot $slot, TapePrint $on, string $order, int $price, int &$left): void
    {
        $lots = min($slot->lots, $left);
        if ($lots === 0) {
            return;
        }
        $left = $this->useSize ? $left - $lots : $left;
        $sign = $this->order->side->sign();
        $this->excursion($price);
        $this->exits?->closed($slot->portion->number, $slot->group, $lots);
        $this->position?->fill($this->order->side->opposite(), $lots, $price);
        $this->told[self::key($slot)]['lots'] = $slot->lots;
        $this->closed += $lots;
        $this->closeOldest($lots, $price);
        $this->entryEnded = $this->entryEnded || $order === 'stop' || $this->exits?->plan->afterTarget === AfterTarget::CancelEntry;
        $slippage = $order === 'stop' ? $sign * ((int) $slot->stop - $price) : 0;
        $this->firstExit ??= match (true) {
            $order === 'target' => FirstExit::Target,
            $sign * ((int) $slot->stop * $this->filled - $this->cost) >= 0 => FirstExit::BreakEven,
            default => FirstExit::Stop,
        };
        if ($this->tells) {
            $this->events[] = [
                'time' => Moment::iso($on->at), 'event' => 'exit-filled', 'portion' => $slot->portion->number, 'quantity' => $lots,
                'order' => $order, 'price' => $this->contract->price($price), 'slippage_ticks' => $slippage,
            ];
        }
        if ($slot->lots === 0) {
            unset($this->triggered[self::key($slot)]);
        }
    }

    /** Each lot that closes counts against the price of its own fill, the oldest first. */
    private function closeOldest(int $lots, int $price): void
    {
        while ($lots > 0) {
            [$open, $tick] = $this->openFills[0];
            $here = min($lots, $open);
            $this->ticks += $this->order->side->sign() * ($price - $tick) * $here;
            $lots -= $here;
            if ($here === $open) {
                array_shift($this->openFills);
            } else {
                $this->openFills[0][0] -= $here;
            }
        }
    }

    private function watch(TapePrint $on, int $number, int &$left, bool $grown): void
    {
        $exits = $this->exits;
        if ($exits === null) {
            return;
        }
        $tick = $this->plan->watch === Watch::Last ? $on->tick : ($this->order->side->sign() > 0 ? $on->bid : $on->ask);
        $better = $tick !== null && $exits->observe($tick, $number);
        if (! $better && ! $grown) {
            return;
        }
        $moved = $this->ratchet($on->at);
        foreach ($exits->slots() as $slot) {
            $key = self::key($slot);
            if ($slot->lots > 0 && $slot->stop !== null && ! array_key_exists($key, $this->triggered) && ($grown || isset($moved[$key]))
                && $this->isPassed(-$this->order->side->sign(), $slot->stop, $on)) {
                $this->setOff($slot, $on, $left);
            }
        }
    }

    /** @return array<string, true> covers whose stop a ratchet has moved */
    private function ratchet(int $at): array
    {
        $moved = [];
        foreach ($this->exits?->dueMoves() ?? [] as $move) {
            $key = "{$move->portion}/{$move->group}";
            if (! array_key_exists($key, $this->triggered)) {
                $this->exits?->moved($move->portion, $move->group, $move->to);
                $this->tell($at, $move->because);
                $moved[$key] = true;
            }
        }

        return $moved;
    }

    /** An entry at a price, filled where the market was already beyond its stop: its lots close at the next print. */
    private function passAtBirth(?TapePrint $market): void
    {
        foreach ($this->exits?->slots() ?? [] as $slot) {
            if ($slot->lots > 0 && $slot->stop !== null && $this->isPassed(-$this->order->side->sign(), $slot->stop, $market)) {
                $limitTicks = $slot->portion->stop?->limitTicks;
                $this->triggered[self::key($slot)] = $limitTicks === null ? null : $slot->stop - $this->order->side->sign() * $limitTicks;
            }
        }
    }

    /** Tells of exits that are new, have grown, or stand elsewhere. */
    private function tell(int $at, string $because): void
    {
        foreach ($this->tells ? $this->exits?->slots() ?? [] : [] as $slot) {
            $key = self::key($slot);
            $told = $this->told[$key] ?? ['stop' => null, 'target' => null, 'lots' => 0];
            $grown = $slot->lots > $told['lots'];
            foreach ($slot->lots > 0 ? ['stop', 'target'] : [] as $what) {
                $level = $slot->{$what};
                if ($level === null) {
                    continue;
                }
                $event = match (true) {
                    $told[$what] === null || ($grown && $told[$what] === $level) => "$what-placed",
                    $told[$what] !== $level => "$what-moved",
                    default => null,
                };
                if ($event !== null) {
                    $this->events[] = [
                        'time' => Moment::iso($at), 'event' => $event, 'portion' => $slot->portion->number, 'quantity' => $slot->lots,
                    ]
                        + ($told[$what] !== null && $told[$what] !== $level ? ['from' => $this->contract->price($told[$what])] : [])
                        + ['price' => $this->contract->price($level)] + ($event === "$what-moved" ? ['because' => $because] : []);
                }
            }
            $this->told[$key] = ['stop' => $slot->stop, 'target' => $slot->target, 'lots' => $slot->lots];
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
        $money = $this->contract->money($this->ticks);
        $fees = $this->contract->fees(2 * $this->closed);

        return [
            'contract' => $this->contract->code, 'side' => $this->order->side->value, 'fill' => $this->through ? 'through' : 'touch',
            'entry' => $average === null
                ? null
                : [
                    'quantity' => $this->filled, 'average' => $this->contract->averagePrice($average),
                    'time' => Moment::iso((int) $this->firstFill),
                ],
            'events' => $this->events,
            'open_quantity' => $this->open(),
            'result' => [
                'ticks' => $this->ticks, 'money' => $money->exact(), 'fees' => $fees->exact(),
                'net' => $money->minus($fees)->exact(), 'currency' => $this->contract->currency->code,
                'best_ticks' => $this->best, 'worst_ticks' => $this->worst,
            ],
        ];
    }

    private static function key(ExitSlot $slot): string
    {
        return $slot->portion->number.'/'.$slot->group;
    }
}
