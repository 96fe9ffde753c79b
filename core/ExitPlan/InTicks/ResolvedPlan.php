<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Lotrik\ExitPlan\AfterTarget;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\ExitPlan\Watch;

/**
 * An exit plan with every distance in whole ticks, as an entry keeps it from its first fill on.
 *
 * @phpstan-import-type PackedPortion from ResolvedPortion
 */
final readonly class ResolvedPlan
{
    /** @param non-empty-list<ResolvedPortion> $portions the last one takes all that is left */
    public function __construct(
        public ?string $name,
        public array $portions,
        public Watch $watch = Watch::Last,
        public AfterTarget $afterTarget = AfterTarget::CancelEntry,
        public PlanScope $covers = PlanScope::Entry,
    ) {}

    /** @return array<string, mixed> as an event carries it, for {@see fromArray()} */
    public function toArray(): array
    {
        return [
            'name' => $this->name, 'portions' => array_map(static fn(ResolvedPortion $p): array => $p->toArray(), $this->portions),
            'watch' => $this->watch->value, 'after_target' => $this->afterTarget->value, 'covers' => $this->covers->value,
        ];
    }

    /** @param array<string, mixed> $packed as {@see toArray()} wrote it: it was checked then, and is taken as it is */
    public static function fromArray(array $packed): self
    {
        /**
         * @var array{name: string|null, portions: non-empty-list<PackedPortion>, watch: string, after_target: string,
         *     covers: string} $packed
         */
        $portions = array_map(
            static fn(int $i, array $p): ResolvedPortion => ResolvedPortion::fromArray($i + 1, $p),
            array_keys($packed['portions']),
            $packed['portions'],
        );

        return new self(
            $packed['name'],
            $portions,
            Watch::from($packed['watch']),
            AfterTarget::from($packed['after_target']),
            PlanScope::from($packed['covers']),
        );
    }

    /** Lots that were entered without any plan: nothing protects them. */
    public static function none(): self
    {
        return new self(null, [new ResolvedPortion(1, null, null, null)]);
    }

    /**
     * How an order's lots split over the portions; later portions stay empty where there are too few.
     *
     * @return array<int, int> portion number → lots
     */
    public function split(int $quantity): array
    {
        return self::fillUp($quantity, array_map(static fn(ResolvedPortion $portion): ?int => $portion->lots, $this->portions));
    }

    /**
     * The same with shares taken of these lots: those of a position that the plan covers, which grows order by order.
     *
     * @return array<int, int> portion number → lots
     */
    public function splitOfAll(int $lots): array
    {
        return self::fillUp($lots, array_map(
            static fn(ResolvedPortion $of): ?int => $of->percent === null ? $of->lots : ResolvedPortion::share($of->percent, $lots),
            $this->portions,
        ));
    }

    /**
     * @param list<int|null> $portions lots of each; null takes all that is left
     *
     * @return array<int, int> portion number → lots
     */
    private static function fillUp(int $quantity, array $portions): array
    {
        $split = [];
        foreach ($portions as $at => $most) {
            $split[$at + 1] = min($most ?? $quantity, $quantity);
            $quantity -= $split[$at + 1];
        }

        return $split;
    }

    /** How many of an order's lots the plan puts under a stop. */
    public function protectedLots(int $quantity): int
    {
        $protected = 0;
        foreach ($this->split($quantity) as $number => $lots) {
            $protected += $this->portion($number)->stop === null ? 0 : $lots;
        }

        return $protected;
    }

    /**
     * Where the first stops and the targets stand for so many lots.
     *
     * @return list<int> in ticks from the anchor, below 0 on the losing side
     */
    public function offsets(int $quantity): array
    {
        $offsets = [];
        foreach (array_keys(array_filter($this->split($quantity))) as $number) {
            $portion = $this->portion($number);
            array_push(
                $offsets, ...array_filter([$portion->stop === null ? null : -$portion->stop->distance, $portion->target], is_int(...)),
            );
        }

        return $offsets;
    }

    /**
     * Where the stops stand, in ticks from the anchor, for each best profit; null throughout where a portion has none.
     *
     * @param int $best     profit up to which, in ticks
     * @param int $quantity lots of the order
     *
     * @return array{stops: list<int|null>, portions: list<array{portion: int, lots: int, target: int|null, stops: list<int|null>|null}>}
     */
    public function curves(int $best, int $quantity): array
    {
        $lots = $this->split($quantity);

        return [
            'stops' => $this->portions[0]->stop?->curve($best) ?? [],
            'portions' => array_map(static fn(ResolvedPortion $portion): array => [
                'portion' => $portion->number, 'lots' => $lots[$portion->number], 'target' => $portion->target,
                'stops' => $portion->stop?->curve($best),
            ], $this->portions),
        ];
    }

    public function portion(int $number): ResolvedPortion
    {
        return $this->portions[$number - 1];
    }
}
