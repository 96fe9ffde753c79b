<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\Instruction;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\Venue;

/**
 * The line between the desk and one contract's venue. It may delay what goes each way; prints come without delay. It is
 * saved with its market: what the desk has sent and what the venue has not had yet are always of one moment.
 *
 * @phpstan-import-type PackedReport from ExecutionReport
 */
final class VenueLine
{
    private readonly DelayLine $toVenue;

    private readonly DelayLine $toDesk;

    /** @param int $delaySteps of 10 ms, each way */
    public function __construct(public readonly Venue $venue, private readonly int $delaySteps)
    {
        $this->toVenue = new DelayLine($delaySteps);
        $this->toDesk = new DelayLine($delaySteps);
    }

    public function isBusy(): bool
    {
        return ! $this->toVenue->isEmpty() || ! $this->toDesk->isEmpty();
    }

    /** @return array<int, true> orders of which something is on its way, so that the two ends need not agree */
    public function underWay(): array
    {
        $orders = [];
        foreach ($this->toVenue->items() as $item) {
            $orders[Instruction::unpack($item)->order()] = true;
        }
        foreach ($this->toDesk->items() as $reports) {
            foreach (self::unpackReports($reports) as $report) {
                $orders[$report->order] = true;
            }
        }

        return $orders;
    }

    public function send(Instruction $instruction, int $step): void
    {
        $this->toVenue->send($step, $instruction->pack());
    }

    /** Has the venue carry out the next instruction that has arrived there; false where none has. */
    public function carryOut(int $step): bool
    {
        $arrived = $this->toVenue->arrived($step);
        if ($arrived === null) {
            return false;
        }
        Instruction::unpack($arrived)->carryOut($this->venue);

        return true;
    }

    /**
     * What the venue did by one action, as far as it is here at once; the rest comes with {@see arrived()}.
     *
     * @return array{list<ExecutionReport|TradePrint>, bool} what is here, and whether the venue did anything
     */
    public function outcomes(int $step): array
    {
        $outcomes = $this->venue->outcomes();
        if ($this->delaySteps === 0 || $outcomes === []) {
            return [$outcomes, $outcomes !== []];
        }
        $reports = $prints = [];
        foreach ($outcomes as $outcome) {
            if ($outcome instanceof TradePrint) {
                $prints[] = $outcome;
            } else {
                $reports[] = $outcome->pack();
            }
        }
        if ($reports !== []) {
            $this->toDesk->send($step, $reports);
        }

        return [$prints, true];
    }

    /** @return list<ExecutionReport>|null the next reports that have arrived at the desk, of one action of the venue */
    public function arrived(int $step): ?array
    {
        $arrived = $this->toDesk->arrived($step);

        return $arrived === null ? null : self::unpackReports($arrived);
    }

    /** @return array{toVenue: list<array{int, list<mixed>}>, toDesk: list<array{int, list<mixed>}>} */
    public function pack(int $step): array
    {
        return ['toVenue' => $this->toVenue->pack($step), 'toDesk' => $this->toDesk->pack($step)];
    }

    /** @param array{toVenue?: list<array{int, list<mixed>}>, toDesk?: list<array{int, list<mixed>}>} $packed */
    public function restore(int $step, array $packed): void
    {
        $this->toVenue->restore($step, $packed['toVenue'] ?? []);
        $this->toDesk->restore($step, $packed['toDesk'] ?? []);
    }

    /**
     * @param list<mixed> $packed
     *
     * @return list<ExecutionReport>
     */
    private static function unpackReports(array $packed): array
    {
        /** @var list<PackedReport> $packed */
        return array_map(ExecutionReport::unpack(...), $packed);
    }
}
