<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Distance;

/** One portion as a plan writes it. */
final readonly class PlanPortion
{
    /**
     * @param int|null               $percent  share of the order's lots; with neither it takes all that is left
     * @param list<PlanRatchet>|null $ratchets null where the plan's own apply
     */
    private function __construct(
        public ?int $lots,
        public ?int $percent,
        public ?Distance $target,
        public ?PlanStop $stop,
        public ?array $ratchets,
    ) {}

    /** The whole order in one portion that has no target. */
    public static function whole(): self
    {
        return new self(null, null, null, null, null);
    }

    /** @throws InvalidDocument */
    public static function fromNode(Node $node, bool $last): self
    {
        $rest = $node->bool('rest', false);
        if ($rest && ! $last) {
            throw $node->fault('rest', 'rest only in the last portion; lots or percent in this one');
        }
        foreach (['lots', 'percent'] as $field) {
            if ($node->has($field) && ($rest || $field === 'percent' && $node->has('lots'))) {
                throw $node->fault($field, 'one of lots, percent and rest');
            }
        }
        $percent = $node->has('percent') ? $node->int('percent', 1, 99) : null;
        $lots = $rest || $percent !== null ? null : $node->int('lots', 1, 1_000_000);
        $target = null;
        if ($node->raw('target') !== null) {
            $inner = $node->node('target');
            $target = Distance::fromNode($inner);
            $inner->done();
        }
        $stop = $node->raw('stop') === null ? null : PlanStop::fromNode($node->node('stop'));
        $ratchets = $node->raw('ratchets') === null ? null : PlanRatchet::listFrom($node, 'ratchets');
        $node->done();

        return new self($lots, $percent, $target, $stop, $ratchets);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return match (true) {
            $this->lots !== null => ['lots' => $this->lots],
            $this->percent !== null => ['percent' => $this->percent],
            default => ['rest' => true],
        }
        + ['target' => $this->target?->toArray()]
        + ($this->stop === null ? [] : ['stop' => $this->stop->toArray()])
        + ($this->ratchets === null ? [] : ['ratchets' => array_map(static fn(PlanRatchet $r) => $r->toArray(), $this->ratchets)]);
    }
}
