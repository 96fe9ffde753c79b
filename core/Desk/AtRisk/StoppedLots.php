<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

/** Lots that one stop closes: as it works now, or as it would. Prices in ticks. */
final readonly class StoppedLots
{
    /**
     * @param int|null $entry   number of the entry, and of its portion; null for one that was sent by hand, or is not sent
     * @param int|null $order   number of the stop; null where it is not sent
     * @param int|null $wouldBe where lots that are not open yet would have been entered
     */
    public function __construct(
        public ?int $entry,
        public ?int $portion,
        public ?int $order,
        public int $lots,
        public int $stop,
        public ?int $wouldBe = null,
    ) {}

    public function with(?int $lots = null, ?int $stop = null): self
    {
        return new self($this->entry, $this->portion, $this->order, $lots ?? $this->lots, $stop ?? $this->stop, $this->wouldBe);
    }
}
