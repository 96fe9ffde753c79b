<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\Distance;
use Lotrik\ExitPlan\InTicks\PlanAtFill;
use Lotrik\ExitPlan\InTicks\Ratchet;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPortion;
use Lotrik\ExitPlan\InTicks\StopPath;
use Lotrik\Watching\Bars\BarSize;

/** The exit plan document: read, checked, and turned into ticks for one order. */
final readonly class ExitPlan
{
    public const FORMAT = 'lotrik.exit-plan/1';

    private const MAX_PORTIONS = 20;

    /**
     * @param array{name: string, stop: array<string, int|string>|null, portions: list<array<string, mixed>>, ...} $document as it was read
     * @param list<PlanPortion>    $portions at least one
     * @param list<PlanRatchet>    $ratchets
     */
    private function __construct(
        public string $name,
        public array $document,
        private ?PlanStop $stop,
        private array $portions,
        private array $ratchets,
        public Watch $watch,
        public AfterTarget $afterTarget,
        public PlanScope $covers,
    ) {}

    /** @throws InvalidDocument */
    public static function fromJson(string $json): self
    {
        return self::fromNode(Node::parse($json));
    }

    /**
     * @param array<array-key, mixed> $document
     *
     * @throws InvalidDocument
     */
    public static function fromArray(array $document, string $pointer = ''): self
    {
        return self::fromNode(Node::of($document, $pointer));
    }

    /** @throws InvalidDocument naming what was wrong by its JSON pointer */
    public static function fromNode(Node $node): self
    {
        if ($node->has('format') && $node->raw('format') !== self::FORMAT) {
            throw $node->fault('format', '"'.self::FORMAT.'"');
        }
        $name = $node->string('name', null, 60);
        $stop = $node->raw('stop') === null ? null : PlanStop::fromNode($node->node('stop'));
        $ratchets = $node->raw('ratchets') === null ? [] : PlanRatchet::listFrom($node, 'ratchets');
        $portions = $node->raw('portions') === null ? [PlanPortion::whole()] : self::portions($node);
        $watch = $node->enum('watch', Watch::class, Watch::Last);
        $afterTarget = $node->enum('after_target', AfterTarget::class, AfterTarget::CancelEntry);
        $covers = $node->enum('covers', PlanScope::class, PlanScope::Entry);
        $node->done();

        $anyStop = $stop !== null;
        $anyTarget = false;
        foreach ($portions as $i => $portion) {
            $anyStop = $anyStop || $portion->stop !== null;
            $anyTarget = $anyTarget || $portion->target !== null;
            if ($portion->ratchets !== null && $portion->stop === null && $stop === null) {
                throw InvalidDocument::at($node->at('portions')."/$i/ratchets", 'ratchets', 'a stop for them to move');
            }
        }
        if (! $anyStop && ! $anyTarget) {
            throw InvalidDocument::at($node->pointer, 'a plan with neither stop nor target', 'a stop, a target, or both');
        }
        if ($ratchets !== [] && ! $anyStop) {
            throw InvalidDocument::at($node->at('ratchets'), 'ratchets without a stop', 'a stop for them to move');
        }
        $document = ['format' => self::FORMAT, 'name' => $name, 'stop' => $stop?->toArray(),
            'portions' => array_map(static fn(PlanPortion $p) => $p->toArray(), $portions),
            'ratchets' => array_map(static fn(PlanRatchet $r) => $r->toArray(), $ratchets),
            'watch' => $watch->value, 'covers' => $covers->value, 'after_target' => $afterTarget->value];

        return new self($name, $document, $stop, $portions, $ratchets, $watch, $afterTarget, $covers);
    }

    /**
     * Of each portion the stop's and the target's distance in ticks as written, where that is no whole number.
     *
     * @return list<array{stop: string|null, target: string|null}>
     */
    public function unrounded(Basis $basis): array
    {
        return array_map(fn(PlanPortion $p): array => [
            'stop' => ($p->stop ?? $this->stop)?->distance->unrounded($basis), 'target' => $p->target?->unrounded($basis),
        ], $this->portions);
    }

    /**
     * The plan in ticks for one order.
     *
     * @throws InvalidPlan where it cannot work for this order
     */
    public function resolve(Basis $basis): ResolvedPlan
    {
        $resolved = [];
        foreach ($this->portions as $i => $portion) {
            $stop = $portion->stop ?? $this->stop;
            $ratchets = $portion->ratchets ?? $this->ratchets;
            $resolved[] = $this->portionOf(
                $i,
                $basis,
                $portion->target?->targetTicks($basis),
                $stop === null ? null : StopPath::of(
                    $stop->distance->stopTicks($basis),
                    array_map(static fn(PlanRatchet $r): Ratchet => $r->resolve($basis), $ratchets),
                    $stop->limitTicks,
                ),
            );
        }
        assert($resolved !== []);

        return new ResolvedPlan($this->name, $resolved, $this->watch, $this->afterTarget, $this->covers);
    }

    /**
     * The plan in ticks for lots that have filled already, at whatever price: nothing can be refused any more. A stop or
     * target that comes out under one tick stands one tick away, and a ratchet that cannot act is left out.
     */
    public function resolveFilled(Basis $basis): PlanAtFill
    {
        try {
            return new PlanAtFill($this->resolve($basis));
        } catch (InvalidPlan $fault) {
            $resolved = [];
            foreach ($this->portions as $i => $portion) {
                $stop = $portion->stop ?? $this->stop;
                $resolved[] = $this->portionOf(
                    $i,
                    $basis,
                    $portion->target === null ? null : self::orOneTick(static fn(): int => $portion->target->targetTicks($basis)),
                    $stop === null ? null : StopPath::of(
                        self::orOneTick(static fn(): int => $stop->distance->stopTicks($basis)),
                        self::thatFit($portion->ratchets ?? $this->ratchets, $basis),
                        $stop->limitTicks,
                    ),
                );
            }
            assert($resolved !== []);

            return new PlanAtFill(
                new ResolvedPlan($this->name, $resolved, $this->watch, $this->afterTarget, $this->covers),
                $fault->getMessage(),
            );
        }
    }

    /** @param int $at counted from 0; the last one takes all that is left, whatever it says */
    private function portionOf(int $at, Basis $basis, ?int $target, ?StopPath $stop): ResolvedPortion
    {
        [$lots, $percent] = $at + 1 === count($this->portions) ? [null, null] : [$this->portions[$at]->lots, $this->portions[$at]->percent];

        return new ResolvedPortion(
            $at + 1, $percent === null ? $lots : ResolvedPortion::share($percent, $basis->quantity), $target, $stop, $percent,
        );
    }

    /** @param callable(): int $ticks */
    private static function orOneTick(callable $ticks): int
    {
        try {
            return $ticks();
        } catch (InvalidPlan) {
            return 1;
        }
    }

    /**
     * @param list<PlanRatchet> $ratchets
     *
     * @return list<Ratchet> those that can act, strictly rising
     */
    private static function thatFit(array $ratchets, Basis $basis): array
    {
        $fit = [];
        $before = -1;
        foreach ($ratchets as $ratchet) {
            try {
                $resolved = $ratchet->resolve($basis);
            } catch (InvalidPlan) {
                continue;
            }
            if ($resolved->at > $before) {
                $fit[] = $resolved;
                $before = $resolved->at;
            }
        }

        return $fit;
    }

    /** @return list<array{BarSize, int}> the average true ranges that its distances hang on: bar and length */
    public function ranges(): array
    {
        $ranges = [];
        foreach ($this->distances() as $distance) {
            if ($distance->bar !== null) {
                $ranges["{$distance->bar->value}/$distance->length"] = [$distance->bar, $distance->length];
            }
        }

        return array_values($ranges);
    }

    /** @return list<Distance> */
    private function distances(): array
    {
        $distances = [$this->stop?->distance];
        $ratchets = $this->ratchets;
        foreach ($this->portions as $portion) {
            array_push($distances, $portion->target, $portion->stop?->distance);
            array_push($ratchets, ...($portion->ratchets ?? []));
        }
        foreach ($ratchets as $ratchet) {
            array_push($distances, ...$ratchet->distances());
        }

        return array_values(array_filter($distances));
    }

    /**
     * @return list<PlanPortion>
     *
     * @throws InvalidDocument
     */
    private static function portions(Node $node): array
    {
        $list = $node->list('portions');
        if ($list === [] || count($list) > self::MAX_PORTIONS) {
            throw $node->fault('portions', 'a list of 1 to '.self::MAX_PORTIONS.' portions');
        }
        $portions = [];
        $percent = 0;
        foreach ($list as $i => $item) {
            $portions[] = PlanPortion::fromNode(Node::of($item, $node->at('portions').'/'.$i), $i === count($list) - 1);
            $percent += $portions[$i]->percent ?? 0;
            if ($percent > 100) {
                throw InvalidDocument::at($node->at('portions')."/$i/percent", "$percent % with those before it", '100 % at most in all portions');
            }
        }

        return $portions;
    }
}
