<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Breaks the exit rules on purpose, one place at a time: the other tests of the core must notice each. */
final class DeliberateBreaksTest extends TestCase
{
    /** @return iterable<string, array{string, string, string}> class, what stands there, what is put in its place */
    public static function breaks(): iterable
    {
        yield 'the stop on the wrong side' => ['ExitPlan\EntryExits', '$anchor - $sign * $cover->portion->stop->distance', '$anchor + $sign * $cover->portion->stop->distance'];
        yield 'a ratchet that may loosen' => ['ExitPlan\EntryExits', '$governing !== null && $level !== null && $this->tighter($level, $cover->stop)', '$governing !== null && $level !== null && $level !== $cover->stop'];
        yield 'a ratchet one tick late' => ['ExitPlan\StopPath', '$ratchet->at <= $best', '$ratchet->at < $best'];
        yield 'the first ratchet governs' => ['ExitPlan\StopPath', "                \$governing = \$ratchet;\n", "                \$governing ??= \$ratchet;\n"];
        yield 'a trail without its jumps' => ['ExitPlan\Ratchet', 'intdiv($best - $this->at, $this->by) * $this->by', '($best - $this->at)'];
        yield 'a lock on the losing side' => ['ExitPlan\Ratchet', '$this->lock ??', '-($this->lock ?? 0) ?:'];
        yield 'an anchor that rounds the other way' => ['ExitPlan\Anchor', '$this->side === Side::Buy && ! $whole', '$this->side === Side::Sell && ! $whole'];
        yield 'the print of the fill counts' => ['ExitPlan\EntryExits', '$print > $this->lastFillPrint', '$print >= $this->lastFillPrint'];
        yield 'a stop that rounds up' => ['ExitPlan\Distance', 'RoundingMode::FLOOR', 'RoundingMode::CEILING'];
        yield 'the last portion takes only its lots' => ['ExitPlan\ExitPlan', '$i + 1 === count($this->portions) ? null : $portion->lots', '$portion->lots'];
        yield 'closed lots come off the newest entry' => ['Desk\Holding', 'foreach ($this->entries as $entry) {
            $lots = $entry->exits->closedByHand', 'foreach (array_reverse($this->entries) as $entry) {
            $lots = $entry->exits->closedByHand'];
        yield 'a fill of one side leaves the other' => ['Venue\Venue', '$this->lower($mate, $lots, "order {$order->id}, its other side', '$this->lower($mate, 0, "order {$order->id}, its other side'];
        yield 'reduce-only is not kept after a fill' => ['Venue\Venue', "        \$this->cancelOco(\$order, 'filled');\n        \$this->enforceReduceOnly(\$order->account);", "        \$this->cancelOco(\$order, 'filled');"];
        yield 'exits do not shrink with the position' => ['Venue\Venue', '$excess = array_sum($lots) - abs($position);', '$excess = 0;'];
        yield 'a reversal in one fill' => ['Venue\Venue', 'foreach ([$closing, $lots - $closing] as $part)', 'foreach ([$lots] as $part)'];
        yield 'a hand-loosened stop stays with its ratchets' => ['ExitPlan\EntryExits', "\$cover->stop, \$to)) {\n            \$cover->stopByHand = true;", "\$cover->stop, \$to)) {\n            \$cover->stopByHand = false;"];
        yield 'a cancelled target comes back' => ['Desk\DeskState', '$cover->targetTakenOff = true;', '$cover->targetTakenOff = false;'];
        yield 'tied closes do not lower each other' => ['Venue\Venue', '$this->lower($mate, $lots, "order {$order->id}, tied to it', '$this->lower($mate, 0, "order {$order->id}, tied to it'];
        yield 'an if-touched order is a stop' => ['Order\OrderKind', '$this === self::IfTouched ? $side->opposite() : $side', '$side'];
        yield 'a held order is released at once' => ['Desk\Hold', '$at >= $this->releaseAt', 'true'];
        yield 'fill or kill takes what there is' => ['Venue\Venue', '($found = $this->available($order)) < $order->lots', '($found = $this->available($order)) < 0'];
        yield 'the loss limit is never reached' => ['Desk\LossLimit', 'plus($net)->isPositive()', 'plus($net)->isPositive() || true'];
        yield 'flatten takes the stops first' => ['Desk\Flattening', '$o->role !== Role::Stop && $o->id', '$o->id'];
    }

    #[DataProvider('breaks')]
    public function testTheTestsNotice(string $class, string $stands, string $instead): void
    {
        $root = dirname(__DIR__, 2);
        $code = (string) file_get_contents("$root/core/".str_replace('\\', '/', $class).'.php');
        self::assertSame(1, substr_count($code, $stands), 'the place to break is there, once');
        $file = tempnam(sys_get_temp_dir(), 'broken');
        file_put_contents($file, str_replace($stands, $instead, $code));
        $run = static function (string $broken) use ($root): int {
            $command = 'LOTRIK_HISTORIES=40 LOTRIK_BROKEN='.escapeshellarg($broken).' '.' timeout 15 '.escapeshellarg(PHP_BINARY)." vendor/bin/phpunit --no-configuration --do-not-cache-result --bootstrap tests/Support/broken-core.php --stop-on-defect tests/Core --exclude-filter 'DeliberateBreaks'";
            exec('cd '.escapeshellarg($root)." && $command 2>&1", $out, $status);

            return $status;
        };
        try {
            self::assertNotSame(0, $run("Lotrik\\$class:$file"), 'nobody noticed');
        } finally {
            unlink($file);
        }
    }

    public function testTheTestsPassWithNothingBroken(): void
    {
        exec('cd '.escapeshellarg(dirname(__DIR__, 2))." && LOTRIK_HISTORIES=40 LOTRIK_BROKEN='None:none' ".escapeshellarg(PHP_BINARY)." vendor/bin/phpunit --no-configuration --do-not-cache-result --bootstrap tests/Support/broken-core.php tests/Core --exclude-filter 'DeliberateBreaks' 2>&1", $out, $status);
        self::assertSame(0, $status, implode("\n", $out));
    }
}
