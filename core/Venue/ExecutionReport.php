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
     */
    public function __construct(
        public ExecType $type,
        public int $order,
        public int $lots = 0,
        public ?int $price = null,
        public ?int $trigger = null,
        public int $print = 0,
        public string $because = '',
    ) {}

    /** @return list<int|string|null> */
    public function pack(): array
    {
        return [$this->type->value, $this->order, $this->lots, $this->price, $this->trigger, $this->print, $this->because];
    }

    /** @param array{string, int, int, int|null, int|null, int, string} $packed */
    public static function unpack(array $packed): self
    {
        return new self(ExecType::from($packed[0]), $packed[1], $packed[2], $packed[3], $packed[4], $packed[5], $packed[6]);
    }
}
