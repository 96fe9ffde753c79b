<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Quotes;
use Lotrik\Order\Side;

/** How far a market order would go through the depth that rests now. Prices in ticks. */
final readonly class Sweep
{
    /**
     * @param int|null $worst   the last price that it would reach; null where nothing rests, or nobody says what does
     * @param int      $missing lots for which nothing rests
     * @param list<array{int, int}> $levels tick and lots that rest there, best first
     */
    private function __construct(public ?int $worst, public int $missing, private Side $side, private array $levels) {}

    /** Lots that rest no worse than a price. */
    public function within(int $tick): int
    {
        $lots = 0;
        foreach ($this->levels as [$at, $rests]) {
            $lots += $this->side->sign() * ($at - $tick) <= 0 ? $rests : 0;
        }

        return $lots;
    }

    public static function of(Quotes $quotes, Contract $contract, Side $side, int $lots, int $account): self
    {
        $worst = null;
        $levels = $quotes->depth($contract->code)?->facing($side, $account) ?? [];
        foreach ($levels as [$tick, $rests]) {
            if ($lots <= 0) {
                break;
            }
            $worst = $tick;
            $lots -= $rests;
        }

        return new self($worst, max(0, $lots), $side, $levels);
    }
}
