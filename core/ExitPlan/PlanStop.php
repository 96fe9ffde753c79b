<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Distance;

/** A protective stop as a plan writes it: its distance, and for a stop-limit how far beyond the trigger it may fill. */
final readonly class PlanStop
{
    private function __construct(public Distance $distance, public ?int $limitTicks) {}

    /** @throws InvalidDocument */
    public static function fromNode(Node $node): self
    {
        $distance = Distance::fromNode($node);
        $kind = $node->raw('kind') ?? 'stop';
        if (! in_array($kind, ['stop', 'stop-limit'], true)) {
            throw $node->fault('kind', '"stop" or "stop-limit"');
        }
        if ($kind === 'stop' && $node->has('limit_ticks')) {
            throw $node->fault('limit_ticks', 'nothing, or "kind":"stop-limit" beside it');
        }
        $stop = new self($distance, $kind === 'stop-limit' ? $node->int('limit_ticks', 0, Distance::MAX_TICKS) : null);
        $node->done();

        return $stop;
    }

    /** @return array<string, int|string> */
    public function toArray(): array
    {
        return $this->distance->toArray() + ($this->limitTicks === null ? [] : [
            'kind' => 'stop-limit', 'limit_ticks' => $this->limitTicks,
        ]);
    }
}
