<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/** What the venue says about one of the trader's orders. Which fields count depends on the type. */
final readonly class ExecutionReport
{
    /**
     * @param int      $lots    filled, taken off, or (replaced) left
     * @param int|null $price   the fill's price, or the limit now, in ticks
     * @param int|null $trigger the trigger now, in ticks
     * @param int      $print   number of the print that was this fill
     * @param string   $because the reason, in words
     * @param array{int|null, int, int|null, int}|null $touch of a fill: bid, lots there, ask, lots there just before it
     */
    public function __construct(
        public ExecType $type,
        public int $order,
        public int $lots = 0,
        public ?int $price = null,
        public ?int $trigger = null,
        public int $print = 0,
        public string $because = '',
        public ?array $touch = null,
    ) {}

    /** @return list<int|string|array{int|null, int, int|null, int}|null> */
    public function pack(): array
    {
        return [$this->type->value, $this->order, $this->lots, $this->price, $this->trigger, $this->print, $this->because, $this->touch];
    }

    /** @param array{string, int, int, int|null, int|null, int, string, 7?: array{int|null, int, int|null, int}|null} $packed */
    public static function unpack(array $packed): self
    {
        return new self(
            ExecType::from($packed[0]), $packed[1], $packed[2], $packed[3], $packed[4], $packed[5], $packed[6], $packed[7] ?? null,
        );
    }
}
