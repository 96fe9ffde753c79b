<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Calendar;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Command\Answer;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\Instruction;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\Push;
use Lotrik\Venue\WorkingOrder;
use Lotrik\Watching\Depth\DepthWindow;

/**
 * Desk and venues together: carries what the desk's events ask for to the venues, and what the venues report back,
 * each over a line that may delay it. Prints and quotes come without delay. The same calls give the same events.
 */
final class TradingSystem
{
    /** Steps between two columns of the depth history: 250 ms. */
    private const DEPTH_EVERY = 25;

    /** @var array<string, Market> */
    private array $markets = [];

    /** @var array<string, VenueLine> by contract */
    private array $lines = [];

    /** How many of the desk's unfetched events have been looked at. */
    private int $carried = 0;

    private int $step = 0;

    /** @param int $delaySteps of 10 ms, each way */
    public function __construct(public readonly Desk $desk, private readonly int $delaySteps = 0) {}

    public function add(Market $market): void
    {
        $this->connect($market);
        $this->desk->quoted($market->contract, $market->venue->bestBid(), $market->venue->bestAsk());
    }

    private function connect(Market $market): void
    {
        $this->markets[$market->contract] = $market;
        $this->lines[$market->contract] = new VenueLine($market->venue, $this->delaySteps);
        $this->desk->follow($market->contract, $market->venue);
    }

    /** Whether something is under way between the desk and a contract's venue. */
    public function isBusy(string $contract): bool
    {
        return $this->lines[$contract]->isBusy();
    }

    public function market(string $contract): Market
    {
        return $this->markets[$contract];
    }

    /** @return array<string, Market> */
    public function markets(): array
    {
        return $this->markets;
    }

    /** Venue steps of 10 ms since the first start. */
    public function steps(): int
    {
        return $this->step;
    }

    /** @return list<Recorded> what is to be journaled before anybody is told */
    public function events(): array
    {
        $this->carried = 0;

        return $this->desk->events();
    }

    /**
     * A trader's command; see {@see Desk::handle()}. The answer is what the desk took; what the venue made of it is in
     * the events, at once where there is no delay.
     *
     * @param array<array-key, mixed> $body
     *
     * @throws Refusal
     */
    public function handle(string $op, int $account, array $body, string $fingerprint, int $at): Answer
    {
        $this->sessions($at);
        $answer = $this->desk->handle($op, $account, $body, $fingerprint, $at);
        $contract = $body['contract'] ?? null;
        foreach (is_string($contract) ? [$contract] : array_keys($this->markets) as $code) {
            $this->desk->react($code, $at);
        }
        $this->carry($at);

        return $answer;
    }

    /**
     * Opens or changes accounts; see {@see Desk::changeAccounts()}. What tighter limits ask for is done at once.
     *
     * @template Result
     *
     * @param callable(Accounts): Result $change
     *
     * @return Result
     *
     * @throws Refusal
     */
    public function changeAccounts(callable $change, int $at): mixed
    {
        $this->sessions($at);
        $result = $this->desk->changeAccounts($change, $at);
        foreach (array_keys($this->markets) as $code) {
            $this->desk->react($code, $at);
        }
        $this->carry($at);

        return $result;
    }

    /** {@see Desk::setCalendar()}; a market that it shuts is shut at once. */
    public function setCalendar(Calendar $calendar, int $at): void
    {
        $this->sessions($at);
        $this->desk->setCalendar($calendar, $at);
        $this->sessions($at);
        $this->carry($at);
    }

    /** Moves the market on by 10 ms. */
    public function step(int $at): void
    {
        $this->step++;
        $this->sessions($at);
        $this->desk->tick($at);
        $this->deliver($at);
        $this->carry($at);
        foreach ($this->markets as $market) {
            [$flow, $venue] = [$market->flow, $market->venue];
            for ($due = $venue->isOpen() ? $flow->due() : 0; $due > 0; $due--) {
                $flow->act($venue);
                $this->acted($market->contract, $at);
                if ($this->carried < $this->desk->recorder()->count()) {
                    $this->carry($at);
                }
            }
        }
        if ($this->step % self::DEPTH_EVERY === 0) {
            foreach ($this->markets as $market) {
                $quote = $this->desk->quote($market->contract);
                $quote->depth->sample($at, DepthWindow::around($market->venue->book->lots(), $quote->mark() ?? $quote->bid ?? $quote->ask));
                $this->desk->counted($market->contract, $at);
            }
        }
    }

    /** Outside its session a contract's venue matches nothing; at the open what waited for it goes on. */
    private function sessions(int $at): void
    {
        foreach ($this->markets as $contract => $market) {
            $session = ($this->desk->state->contracts[$contract] ?? null)?->session;
            if ($session === null) {
                continue;
            }
            $open = $session->at($at)->open;
            $day = $this->desk->quote($contract)->day;
            if ($open && $day->began !== $session->dayBegan($at)) {
                $day->begin($session->dayBegan($at));
                $this->limit($contract);
                $this->acted($market->contract, $at);
            }
            if ($open !== $market->venue->isOpen()) {
                $open ? $market->venue->open() : $market->venue->shut();
                $this->acted($market->contract, $at);
                $this->desk->sessionChanged($contract, $at);
                $this->carry($at);
            }
        }
    }

    /** Tells a venue the price limits of the day. */
    private function limit(string $contract): void
    {
        $ticks = ($this->desk->state->contracts[$contract] ?? null)?->priceLimitTicks;
        $this->markets[$contract]->venue->limitTo($this->desk->quote($contract)->day->limits($ticks));
    }

    /** Real flow that moves the last price by exactly so many ticks, unless a trader's own orders keep it, or the market is shut. */
    public function push(string $contract, int $ticks, int $at): void
    {
        $push = $this->beginPush($contract, $ticks, $at);
        while ($this->advance($push, $contract, $at)) {
            // each of its levels is one action of the venue
        }
    }

    /** The same level by level, for those who have other things to do in between; see {@see advance()}. */
    public function beginPush(string $contract, int $ticks, int $at): Push
    {
        $this->sessions($at);

        return Push::by($ticks, $this->markets[$contract]->flow, $this->markets[$contract]->venue);
    }

    /** @return bool false when the push has come to its end */
    public function advance(Push $push, string $contract, int $at): bool
    {
        $market = $this->markets[$contract];
        if (! $market->venue->isOpen() || ! $push->advance()) {
            return false;
        }
        $this->acted($market->contract, $at);
        $this->carry($at);

        return true;
    }

    /** Goes on after a restart: compares with the venues, and does whatever the state asks for. */
    public function resume(int $at): void
    {
        $this->sessions($at);
        foreach ($this->lines as $contract => $line) {
            $this->desk->reconnected($contract, $line->venue->reconnect(), $line->underWay(), $at);
        }
        $this->deliver($at);
        $this->carry($at);
    }

    /** @return array<string, mixed> a contract's market with what the desk has seen of it */
    public function packMarket(string $contract): array
    {
        $bests = [];
        foreach ($this->desk->state->holdings[$contract] ?? [] as $account => $holding) {
            foreach ($holding->entries as $entry) {
                $bests[] = [$account, $entry->order, $entry->exits->bests(), $entry->record?->extremes()];
            }
        }

        return $this->markets[$contract]->pack() + [
            'quote' => $this->desk->quote($contract)->pack(), 'bests' => $bests,
        ] + $this->lines[$contract]->pack($this->step);
    }

    /**
     * @param array{
     *     quote: array{int|null, int|null, int|null},
     *     bests: list<array{int, int, list<int|null>, 3?: array{array{int, int}|null, array{int, int}|null, int, int}|null}>,
     *     toVenue?: list<array{int, list<mixed>}>, toDesk?: list<array{int, list<mixed>}>,
     * } $packed as {@see packMarket()} made it
     */
    public function restoreMarket(Market $market, array $packed): void
    {
        $this->connect($market);
        $this->lines[$market->contract]->restore($this->step, $packed);
        $this->desk->restoreQuote($market->contract, Quote::unpack($packed['quote']));
        $this->limit($market->contract);
        foreach ($packed['bests'] as $of) {
            $entry = $this->desk->state->holding($of[0], $market->contract)->entries[$of[1]] ?? null;
            $entry?->exits->restoreBests($of[2]);
            if (isset($of[3])) {
                $entry?->record?->restoreExtremes($of[3]);
            }
        }
    }

    /** Goes on counting venue steps from there. To be called before the markets are restored. */
    public function startAt(int $step): void
    {
        $this->step = $step;
    }

    /** Sends on what the desk's new events ask for, and again what that brings, until nothing is left to do now. */
    private function carry(int $at): void
    {
        while ($this->carried < $this->desk->recorder()->count()) {
            foreach ($this->desk->recorder()->since($this->carried) as $recorded) {
                $this->carried++;
                $instruction = $this->instruction($recorded->event);
                if ($instruction !== null) {
                    $this->lines[(string) $recorded->contract]->send($instruction, $this->step);
                }
            }
            $this->deliver($at);
        }
    }

    private function deliver(int $at): void
    {
        foreach ($this->lines as $contract => $line) {
            while ($line->isBusy()) {
                if ($line->carryOut($this->step)) {
                    $this->acted($contract, $at);
                } elseif (($reports = $line->arrived($this->step)) !== null) {
                    $this->desk->report($contract, $reports, $at);
                    $this->desk->react($contract, $at);
                } else {
                    break;
                }
            }
        }
    }

    /** After each venue action: its outcomes go to the desk, which answers before the next one. */
    private function acted(string $contract, int $at): void
    {
        $line = $this->lines[$contract];
        [$outcomes, $hasActed] = $line->outcomes($this->step);
        $this->desk->report($contract, $outcomes, $at);
        $quote = $this->desk->quote($contract);
        [$bid, $ask] = [$line->venue->bestBid(), $line->venue->bestAsk()];
        if ($quote->bid !== $bid || $quote->ask !== $ask) {
            $this->desk->quoted($contract, $bid, $ask);
        } elseif (! $hasActed) {
            return;
        }
        $this->desk->react($contract, $at);
    }

    private function instruction(E\Event $event): ?Instruction
    {
        if ($event instanceof E\Order\OrderPlaced) {
            return $event->hold === null ? $this->submission($this->desk->state->order($event->order)) : null;
        }

        return match (true) {
            $event instanceof E\Order\OrderReleased => $this->submission($this->desk->state->order($event->order)),
            $event instanceof E\Order\OrderExpired => Instruction::cancel($event->order, $event->because),
            $event instanceof E\Order\OrdersTied => Instruction::tie($event->first, $event->second, $event->first, $event->oco),
            $event instanceof E\Order\OrderUntied => Instruction::untie($event->order, $event->other),
            $event instanceof E\Order\ReplaceRequested => Instruction::replace(
                $event->order, $event->lotsChange, $event->price, $event->trigger,
            ),
            $event instanceof E\Order\CancelRequested => Instruction::cancel($event->order, $event->because),
            $event instanceof E\Venue\StrayOrderFound => Instruction::cancel($event->order, 'the desk does not work it any more'),
            default => null,
        };
    }

    private function submission(DeskOrder $order): Instruction
    {
        return Instruction::submit(new WorkingOrder(
            $order->id, $order->account, $order->side, $order->kind, $order->leaves(), $order->price, $order->trigger,
            $order->role->isReduceOnly(), $order->role->isExit(), $order->pair(),
            $order->tie?->oco === true ? $order->tie->group : null, $order->tie?->oco === false ? $order->tie->group : null, $order->tif,
        ));
    }
}
