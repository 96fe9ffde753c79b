<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Brick\Math\BigRational;

/** How long a position has been open, and how well and how badly it has stood: what closing all its lots there would have made. */
final readonly class Excursion
{
    /**
     * @param int|null         $since when the oldest of its lots came in, ms since 1970 UTC; null where a build kept none
     * @param BigRational|null $best  a lot against the average, in ticks, never below 0; null while flat
     * @param BigRational|null $worst the same, never above 0
     */
    private function __construct(public ?int $since, public ?BigRational $best, public ?BigRational $worst) {}

    public static function of(AccountPosition $holding): self
    {
        if ($holding->position->lots === 0) {
            return new self(null, null, null);
        }
        $since = [];
        $best = $worst = BigRational::zero();
        foreach ($holding->entries as $entry) {
            if ($entry->record === null || $entry->exits->openLots() === 0) {
                continue;
            }
            $since[] = $entry->record->since();
            foreach ($entry->record->seen() as $tick) {
                $result = BigRational::of($tick)->minus($holding->position->average)->multipliedBy($holding->position->lots <=> 0);
                $best = BigRational::max($best, $result);
                $worst = BigRational::min($worst, $result);
            }
        }
        $since = array_filter($since, is_int(...));

        return new self($since === [] ? null : min($since), $best->simplified(), $worst->simplified());
    }
}
