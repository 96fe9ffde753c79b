<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Event\Level\LevelTold;
use Lotrik\Desk\Quote;
use Lotrik\Watching\Levels\LevelFigures;
use Lotrik\Watching\Levels\LevelNews;
use Lotrik\Watching\Levels\WatchedLevel;

/** Tells traders what happens at their marked levels, whether a page is open or not. */
final class LevelKeeper
{
    /** @var array<string, int> contract → tick of the trade that was last looked at */
    private array $looked = [];

    public function __construct(private readonly EventRecorder $recorder) {}

    /** Other levels are watched from now on: the next trade is looked at wherever it is. */
    public function changed(): void
    {
        $this->looked = [];
    }

    /** @param int $at ms since 1970 UTC */
    public function traded(string $contract, Quote $quote, int $at): void
    {
        $last = $quote->last;
        // Most trades are at the price of the one before; of time alone a level says nothing.
        if ($last === null || $last === ($this->looked[$contract] ?? null)) {
            return;
        }
        $this->looked[$contract] = $last;
        foreach ($this->recorder->state->levels[$contract] ?? [] as $account => $levels) {
            foreach ($levels as $level) {
                $this->tell($account, $contract, $level, $level->newsOfPrice($last, $at), $quote);
            }
        }
    }

    /** The lots at the levels have been counted anew. */
    public function counted(string $contract, Quote $quote): void
    {
        foreach ($this->recorder->state->levels[$contract] ?? [] as $account => $levels) {
            foreach ($levels as $level) {
                if ($level->isNear && ! $level->isHalved) {
                    $this->tell($account, $contract, $level, $level->newsOfLots(LevelFigures::of($level->level, $quote->depth)), $quote);
                }
            }
        }
    }

    private function tell(int $account, string $contract, WatchedLevel $level, ?LevelNews $news, Quote $quote): void
    {
        if ($news !== null) {
            $resting = LevelFigures::of($level->level, $quote->depth)->resting;
            $this->recorder->note(new LevelTold($account, $contract, $level->id, $news, $resting));
        }
    }
}
