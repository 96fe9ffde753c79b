<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

/** Open lots that came in together and have one stop, or none. Prices in ticks. */
final readonly class OpenLots
{
    /**
     * @param int  $entry   number of the entry
     * @param bool $covered whether a plan for the whole position holds them
     * @param int  $from    what their stop is measured from
     */
    public function __construct(
        public int $entry,
        public int $portion,
        public int $group,
        public bool $covered,
        public int $lots,
        public int $from,
        public ?int $stop,
    ) {}

    public function with(?int $stop): self
    {
        return new self($this->entry, $this->portion, $this->group, $this->covered, $this->lots, $this->from, $stop);
    }

    public function of(int $lots, ?int $stop): self
    {
        return new self($this->entry, $this->portion, $this->group, $this->covered, $lots, $this->from, $stop);
    }
}
