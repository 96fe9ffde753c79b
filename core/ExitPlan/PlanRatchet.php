<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\Distance;
use Lotrik\ExitPlan\InTicks\Ratchet;

/** One ratchet as a plan writes it: whole ticks, or distances in other units. */
final readonly class PlanRatchet
{
    private const FEES = 'fees';

    private function __construct(
        private int|Distance $at,
        private int|string|Distance|null $lock,
        private int|Distance|null $trail,
        private int|Distance $by,
    ) {}

    /**
     * @return list<self>
     *
     * @throws InvalidDocument where one is wrong, or they do not rise strictly
     */
    public static function listFrom(Node $node, string $field): array
    {
        $ratchets = [];
        $before = null;
        foreach ($node->list($field) as $i => $item) {
            $inner = Node::of($item, $node->at($field).'/'.$i);
            $ratchet = self::fromNode($inner);
            if (is_int($ratchet->at)) {
                if ($before !== null && $ratchet->at <= $before) {
                    throw $inner->fault('at', "more than $before, since ratchets rise strictly");
                }
                $before = $ratchet->at;
            }
            $ratchets[] = $ratchet;
        }

        return $ratchets;
    }

    /** @throws InvalidPlan */
    public function resolve(Basis $basis): Ratchet
    {
        $at = $this->at instanceof Distance ? $this->at->nearestTicks($basis) : $this->at;
        if ($this->trail === null) {
            $lock = match (true) {
                $this->lock instanceof Distance => $this->lock->nearestTicks($basis),
                $this->lock === self::FEES => $basis->contract->ticksForFees(),
                default => (int) $this->lock,
            };

            return Ratchet::lock($at, $lock);
        }

        return Ratchet::trail(
            $at,
            $this->trail instanceof Distance ? $this->trail->stopTicks($basis) : $this->trail,
            max(1, $this->by instanceof Distance ? $this->by->nearestTicks($basis) : $this->by),
        );
    }

    /** @return list<Distance> those of its values that are distances in some unit */
    public function distances(): array
    {
        return array_values(array_filter(
            [$this->at, $this->lock, $this->trail, $this->by],
            static fn(mixed $value): bool => $value instanceof Distance,
        ));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $write = static fn(int|string|Distance $value): mixed => $value instanceof Distance ? $value->toArray() : $value;

        return ['at' => $write($this->at)] + ($this->trail === null
            ? ['lock' => $write($this->lock ?? 0)]
            : ['trail' => $write($this->trail), 'by' => $write($this->by)]);
    }

    /** @throws InvalidDocument */
    private static function fromNode(Node $node): self
    {
        $most = Distance::MAX_TICKS;
        $at = self::ticksOr($node, 'at', 0);
        if ($node->has('lock') === $node->has('trail')) {
            throw InvalidDocument::at(
                $node->pointer,
                $node->has('lock') ? 'both lock and trail' : 'neither lock nor trail',
                'one of lock and trail',
            );
        }
        if ($node->has('lock')) {
            $lock = $node->raw('lock') === self::FEES
                ? self::FEES
                : self::ticksOr($node, 'lock', -$most, 'a whole number of ticks from -'.$most.' to '.$most.', a distance, or "fees"');
            if (is_int($lock) && is_int($at) && $lock >= $at) {
                throw $node->fault('lock', "less than at, which is $at");
            }
            $ratchet = new self($at, $lock, null, 1);
        } else {
            $ratchet = new self($at, null, self::ticksOr($node, 'trail', 1), $node->has('by') ? self::ticksOr($node, 'by', 1) : 1);
        }
        $node->done();

        return $ratchet;
    }

    /** @throws InvalidDocument */
    private static function ticksOr(Node $node, string $field, int $least, ?string $expected = null): int|Distance
    {
        $value = $node->raw($field);
        if (is_array($value)) {
            $inner = $node->node($field);
            $distance = Distance::fromNode($inner);
            $inner->done();

            return $distance;
        }
        if (! is_int($value) || $value < $least || $value > Distance::MAX_TICKS) {
            throw $node->fault($field, $expected ?? 'a whole number of ticks from '.$least.' to '.Distance::MAX_TICKS.', or a distance');
        }

        return $value;
    }
}
