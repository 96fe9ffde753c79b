<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use Lotrik\Desk\Floor;
use Lotrik\Desk\Refusal;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\Venue\Mood;

/** Steers the simulated market: its mood, whether and how fast it moves, steps and pushes. */
final class Practice
{
    private bool $wantsCheckpoint = false;

    /** @param int $speed venue time to wall time, in thousandths */
    public function __construct(private readonly Floor $floor, public bool $paused, public int $speed = 1000) {}

    /** @param array<string, mixed> $body */
    public function steer(string $contract, array $body, callable $at): void
    {
        $node = Node::of($body);
        try {
            $mood = $node->raw('mood') === null ? null : $node->enum('mood', Mood::class);
            $paused = $node->raw('paused') === null ? $this->paused : $node->bool('paused', false);
            $speed = $this->speedFrom($node);
            $steps = $node->optionalInt('steps', 1, 10_000) ?? 0;
            $push = $node->optionalInt('push_ticks', -1_000, 1_000) ?? 0;
            $node->done();
            if ($steps > 0 && ! $paused) {
                throw $node->fault('steps', 'nothing while the market moves by itself; pause it first');
            }
        } catch (DocumentFault $fault) {
            throw new Refusal('invalid', $fault->getMessage(), $fault->pointer);
        }
        if ($mood !== null) {
            $this->floor->market($contract)->flow->setMood($mood);
        }
        $this->paused = $paused;
        $this->speed = $speed;
        for ($i = 0; $i < $steps; $i++) {
            $this->floor->step($at());
        }
        if ($push !== 0) {
            $this->floor->push($contract, $push, $at());
        }
        $this->wantsCheckpoint = true;
    }

    /** Market noise is not journaled: what was steered survives only in a checkpoint. */
    public function takeCheckpointWish(): bool
    {
        $wish = $this->wantsCheckpoint;
        $this->wantsCheckpoint = false;

        return $wish;
    }

    /** @throws DocumentFault */
    private function speedFrom(Node $node): int
    {
        $speed = $node->raw('speed');
        if ($speed === null) {
            return $this->speed;
        }
        if ((! is_int($speed) && ! is_float($speed)) || $speed < 0.1 || $speed > 100) {
            throw $node->fault('speed', 'a number from 0.1 to 100');
        }

        return (int) round($speed * 1000);
    }
}
