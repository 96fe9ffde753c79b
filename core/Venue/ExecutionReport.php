<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/**
 * What the venue says about one of the trader's orders, in FIX's terms: ExecID (17) never twice but for the same report
 * said again, CumQty (14) and LeavesQty (151) as they are after it. Which of the other fields count depends on the type.
 *
 * @phpstan-import-type PackedTouch from Touch
 * @phpstan-type PackedReport array{string, int, int, int|null, int|null, int, string, 7?: PackedTouch|null, 8?: string, 9?: int,
 *     10?: int|null}
 */
final readonly class ExecutionReport
{
    /**
     * @param string   $execution  id of the report among those of its venue; empty where an older build's was on its way
     * @param int      $cumulative lots of the order that have filled in all
     * @param int|null $left       lots of it that still work; null where an older build's report was on its way
     * @param int      $lots       filled or taken off by this
     * @param int|null $price   the fill's price, or the limit now, in ticks
     * @param int|null $trigger the trigger now, in ticks
     * @param int      $print   number of the print that was this fill
     * @param string   $because the reason, in words
     * @param Touch|null $touch of a fill: just before it
     */
    public function __construct(
        public ExecType $type,
        public int $order,
        public string $execution,
        public int $cumulative,
        public ?int $left,
        public int $lots = 0,
        public ?int $price = null,
        public ?int $trigger = null,
        public int $print = 0,
        public string $because = '',
        public ?Touch $touch = null,
    ) {}

    /** @return list<int|string|array{int|null, int, int|null, int}|null> */
    public function pack(): array
    {
        return [
            $this->type->value, $this->order, $this->lots, $this->price, $this->trigger, $this->print, $this->because,
            $this->touch?->pack(), $this->execution, $this->cumulative, $this->left,
        ];
    }

    /** @param PackedReport $packed */
    public static function unpack(array $packed): self
    {
        return new self(
            ExecType::from($packed[0]), $packed[1], $packed[8] ?? '', $packed[9] ?? 0, $packed[10] ?? null, $packed[2], $packed[3],
            $packed[4], $packed[5], $packed[6], isset($packed[7]) ? Touch::unpack($packed[7]) : null,
        );
    }
}
