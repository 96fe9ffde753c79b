<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Watching\Bars\AverageTrueRange;
use Lotrik\Watching\Bars\BarSize;
use Lotrik\Watching\Bars\MinuteBars;

/** Average true ranges as they stood when an order was sent: frozen from then on. In millionths of a tick. */
final readonly class TrueRanges
{
    /** @param array<string, int> $byKey "1m/14" → millionths of a tick */
    private function __construct(private array $byKey) {}

    public static function none(): self
    {
        return new self([]);
    }

    /**
     * What a plan needs, from the bars that have closed.
     *
     * @param int $at ms since 1970 UTC
     *
     * @throws InvalidPlan where too few bars have closed
     */
    public static function for(ExitPlan $plan, MinuteBars $bars, int $at): self
    {
        $byKey = [];
        foreach ($plan->ranges() as [$size, $length]) {
            $closed = $bars->closed($size, $at);
            $byKey[self::key($size, $length)] = AverageTrueRange::of($closed, $length) ?? throw InvalidPlan::tooFewBars(
                $size->value,
                $length,
                count($closed),
            );
        }

        return new self($byKey);
    }

    /** @param array<string, int>|null $byKey as {@see toArray()} wrote it */
    public static function fromArray(?array $byKey): self
    {
        return new self($byKey ?? []);
    }

    /** @return array<string, int>|null */
    public function toArray(): ?array
    {
        return $this->byKey === [] ? null : $this->byKey;
    }

    public function of(BarSize $size, int $length): ?int
    {
        return $this->byKey[self::key($size, $length)] ?? null;
    }

    private static function key(BarSize $size, int $length): string
    {
        return "$size->value/$length";
    }
}
