<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Distance;

/**
 * What a trader changes of a plan for the next order only, in ticks: another stop, another target, a portion that
 * runs without one. The plan itself stays as it was; the changed one says in its name what is different.
 */
final readonly class PlanChange
{
    private const LONGEST_NAME = 60;

    /** @param array<int, array{stop?: int, target?: int|null}> $portions by number */
    private function __construct(private Node $node, private ?int $stop, private array $portions) {}

    /** @throws InvalidDocument */
    public static function fromNode(Node $node): self
    {
        $stop = $node->optionalInt('stop', 1, Distance::MAX_TICKS);
        $portions = [];
        foreach ($node->raw('portions') === null ? [] : $node->list('portions') as $i => $item) {
            $inner = Node::of($item, $node->at('portions')."/$i");
            $change = [];
            if ($inner->has('stop')) {
                $change['stop'] = $inner->int('stop', 1, Distance::MAX_TICKS);
            }
            if ($inner->has('target')) {
                $change['target'] = $inner->optionalInt('target', 1, Distance::MAX_TICKS);
            }
            if ($change === []) {
                throw InvalidDocument::at($inner->pointer, 'nothing to change', 'stop, target, or both; a target of null makes a runner');
            }
            $portions[$inner->int('portion', 1, 20)] = $change;
            $inner->done();
        }
        $node->done();
        if ($stop === null && $portions === []) {
            throw InvalidDocument::at($node->pointer, 'nothing to change', 'stop, portions, or both');
        }

        return new self($node, $stop, $portions);
    }

    /** @throws InvalidDocument where the plan has no such stop or portion */
    public function of(ExitPlan $plan): ExitPlan
    {
        $document = $plan->document;
        $words = [];
        if ($this->stop !== null) {
            [$document['stop'], $words[]] = $this->changedStop($document['stop'], $this->node->at('stop'), 'stop', $this->stop);
        }
        foreach ($this->portions as $number => $change) {
            if (! isset($document['portions'][$number - 1])) {
                throw InvalidDocument::at(
                    $this->node->at('portions'),
                    "portion $number",
                    'a portion from 1 to '.count($document['portions']),
                );
            }
            /** @var array{stop?: array<string, int|string>, target: array<string, int|string>|null} $portion */
            $portion = $document['portions'][$number - 1];
            if (isset($change['stop'])) {
                [$portion['stop'], $words[]] = $this->changedStop(
                    $portion['stop'] ?? $document['stop'],
                    $this->node->at('portions'),
                    "stop of portion $number",
                    $change['stop'],
                );
            }
            if (array_key_exists('target', $change)) {
                $words[] = $change['target'] === null
                    ? "portion $number runs"
                    : "target of portion $number {$change['target']}".self::instead($portion['target']);
                $portion['target'] = $change['target'] === null ? null : ['ticks' => $change['target']];
            }
            $document['portions'][$number - 1] = $portion;
        }
        $document['name'] = self::named($plan->name, $words);

        return ExitPlan::fromArray($document, $this->node->pointer);
    }

    /**
     * @param array<string, int|string>|null $stop of the plan, or of one of its portions
     *
     * @return array{array<string, int|string>, string} the stop, and what is different in words
     */
    private function changedStop(?array $stop, string $pointer, string $what, int $ticks): array
    {
        if ($stop === null) {
            throw InvalidDocument::at($pointer, (string) $ticks, "nothing, since the plan has no $what to change");
        }
        $kept = array_intersect_key($stop, ['kind' => 1, 'limit_ticks' => 1]);

        return [['ticks' => $ticks] + $kept, "$what $ticks".self::instead(array_diff_key($stop, $kept))];
    }

    /** @param array<string, int|string>|null $distance */
    private static function instead(?array $distance): string
    {
        return ' instead of '.match (true) {
            $distance === null => 'running',
            isset($distance['ticks']) => $distance['ticks'],
            default => Distance::fromNode(Node::of($distance))->words(),
        };
    }

    /** @param list<string> $words */
    private static function named(string $name, array $words): string
    {
        $full = implode(', ', [$name, ...$words]);

        return mb_strlen($full) <= self::LONGEST_NAME ? $full : mb_substr($full, 0, self::LONGEST_NAME - 1).'…';
    }
}
