<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;
use Lotrik\Venue\ExecType;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\Touch;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\WorkingOrder;

/** What the venue says: execution reports and prints, in the order in which they happened, each with its number. Prices in ticks. */
final class Reports
{
    /** @var list<ExecutionReport|TradePrint> */
    private array $outcomes = [];

    /**
     * @param int $prints     so far: the newest one's number
     * @param int $executions execution reports so far: the newest one's id
     */
    public function __construct(private int $prints = 0, private int $executions = 0, private ?TradePrint $last = null) {}

    public function of(ExecType $type, WorkingOrder $order, int $lots = 0, string $because = ''): void
    {
        $this->outcomes[] = new ExecutionReport(
            $type, $order->id, $this->nextExecution(), $order->filled, $type === ExecType::Refused ? 0 : $order->lots, $lots,
            $order->price, $order->trigger, because: $because,
        );
    }

    /** @param Touch|null $touch just before it */
    public function filled(WorkingOrder $order, int $lots, int $tick, ?Touch $touch): void
    {
        $this->outcomes[] = new ExecutionReport(
            ExecType::Filled, $order->id, $this->nextExecution(), $order->filled, $order->lots, $lots, $tick,
            print: $this->prints, touch: $touch,
        );
    }

    /** A trade; it is told of after the fills that it brings, see {@see tellPrint()}. */
    public function print(int $tick, int $lots, Side $aggressor): TradePrint
    {
        return $this->last = new TradePrint(++$this->prints, $tick, $lots, $aggressor);
    }

    public function tellPrint(TradePrint $print): void
    {
        $this->outcomes[] = $print;
    }

    public function last(): ?TradePrint
    {
        return $this->last;
    }

    public function prints(): int
    {
        return $this->prints;
    }

    public function executions(): int
    {
        return $this->executions;
    }

    /** @return list<ExecutionReport|TradePrint> what has happened since the last call */
    public function take(): array
    {
        $outcomes = $this->outcomes;
        $this->outcomes = [];

        return $outcomes;
    }

    private function nextExecution(): string
    {
        return (string) ++$this->executions;
    }
}
