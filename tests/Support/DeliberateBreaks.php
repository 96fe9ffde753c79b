<?php

declare(strict_types=1);

namespace Tests\Support;

/**
 * The core broken on purpose, one place at a time: a sign, a bound, an order of steps. Its own tests must notice each;
 * tests/Core/DeliberateBreaksTest runs some of them, bin/breaks all.
 */
final class DeliberateBreaks
{
    /** An endless loop is noticed too; the unbroken tests take a fraction of it. */
    private const SECONDS = 90;

    /** @return array<string, array{string, string, string}> what is broken → class, what stands there, what is put in its place */
    public static function all(): array
    {
        return iterator_to_array(self::each());
    }

    /** @return string what the tests said first; empty where nobody noticed */
    public static function noticed(string $class, string $stands, string $instead): string
    {
        $root = dirname(__DIR__, 2);
        $code = (string) file_get_contents("$root/core/".str_replace('\\', '/', $class).'.php');
        if (substr_count($code, $stands) !== 1) {
            throw new \LogicException("$class: the place to break is there ".substr_count($code, $stands)." times, expected once: $stands");
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'broken');
        file_put_contents($file, str_replace($stands, $instead, $code));
        try {
            [$status, $out] = self::run("Lotrik\\$class:$file");
        } finally {
            unlink($file);
        }
        preg_match('/^1\) Tests\\\\Core\\\\(\S+)/m', $out, $first);

        return match ($status) {
            0 => '',
            124 => 'an endless loop',
            default => $first[1] ?? 'a fault',
        };
    }

    /** @return array{int, string} status and output of the core's tests with one class broken, or none */
    public static function run(string $broken): array
    {
        $command = 'LOTRIK_HISTORIES=40 LOTRIK_BROKEN='.escapeshellarg($broken).' timeout '.self::SECONDS.' '.escapeshellarg(PHP_BINARY)
            ." vendor/bin/phpunit --no-configuration --do-not-cache-result --bootstrap tests/Support/broken-core.php --stop-on-defect tests/Core --exclude-filter 'DeliberateBreaks'";
        exec('cd '.escapeshellarg(dirname(__DIR__, 2))." && $command 2>&1", $out, $status);

        return [$status, implode("\n", $out)];
    }

    /** @return iterable<string, array{string, string, string}> */
    private static function each(): iterable
    {
        yield 'the stop on the wrong side' => ['ExitPlan\EntryExits', '$anchor - $sign * $cover->portion->stop->distance', '$anchor + $sign * $cover->portion->stop->distance'];
        yield 'a ratchet that may loosen' => ['ExitPlan\EntryExits', "            if (\$this->tighter(\$level, \$cover->stop)) {\n                \$moves", "            if (\$level !== \$cover->stop) {\n                \$moves"];
        yield 'a ratchet one tick late' => ['ExitPlan\StopPath', '$ratchet->at <= $best', '$ratchet->at < $best'];
        yield 'the first ratchet governs' => ['ExitPlan\StopPath', "                \$governing = \$ratchet;\n", "                \$governing ??= \$ratchet;\n"];
        yield 'a trail without its jumps' => ['ExitPlan\Ratchet', 'intdiv($best - $this->at, $this->by) * $this->by', '($best - $this->at)'];
        yield 'a lock on the losing side' => ['ExitPlan\Ratchet', '$this->lock ??', '-($this->lock ?? 0) ?:'];
        yield 'an anchor that rounds the other way' => ['ExitPlan\Anchor', '$this->side === Side::Buy && ! $whole', '$this->side === Side::Sell && ! $whole'];
        yield 'the print of the fill counts' => ['ExitPlan\EntryExits', '$print > $this->lastFillPrint', '$print >= $this->lastFillPrint'];
        yield 'a stop that rounds up' => ['ExitPlan\Distance', 'RoundingMode::FLOOR)->toInt()', 'RoundingMode::CEILING)->toInt()'];
        yield 'the last portion takes only its lots' => ['ExitPlan\ExitPlan', '$i + 1 === count($this->portions) ? null : $portion->lots', '$portion->lots'];
        yield 'closed lots come off the newest entry' => ['Desk\Holding', 'foreach ($this->entries as $entry) {
            $lots = $entry === $except', 'foreach (array_reverse($this->entries) as $entry) {
            $lots = $entry === $except'];
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
        yield 'a target on the losing side' => ['ExitPlan\EntryExits', '$anchor + $sign * $cover->portion->target', '$anchor - $sign * $cover->portion->target'];
        yield 'a stop that follows its anchor downwards' => ['ExitPlan\EntryExits', '$cover->stop === null || $this->tighter($level, $cover->stop) ? $level : $cover->stop', '$level'];
        yield 'fills after a ratchet join the old group' => ['ExitPlan\EntryExits', "->stop = \$to;\n        \$this->anchors[\$group]->settled = true;\n    }\n\n    /** Where the ratchets", "->stop = \$to;\n    }\n\n    /** Where the ratchets"];
        yield 'a portion that takes lots of the next' => ['ExitPlan\EntryExits', 'min($this->filled + $lots, $end) - max($this->filled, $start)', 'min($this->filled + $lots, $end + 1) - max($this->filled, $start)'];
        yield 'lots closed by hand come off twice' => ['ExitPlan\EntryExits', "            \$cover->lots -= \$here;\n            \$lots -= \$here;", '            $cover->lots -= $here;'];
        yield 'the best price is the worst' => ['ExitPlan\Anchor', '$this->side->sign() * ($tick - $this->best) > 0', '$this->side->sign() * ($tick - $this->best) < 0'];
        yield 'best profit can be negative' => ['ExitPlan\Anchor', 'max(0, $this->side->sign() * ($this->best - $this->tick()))', '$this->side->sign() * ($this->best - $this->tick())'];
        yield 'a set that keeps the portions as they were' => ['ExitPlan\EntryExits', "            \$cover->lots = \$split[\$portion->number];\n", "            \$cover->lots = max(\$cover->lots, \$split[\$portion->number]);\n"];
        yield 'lots that change their portion lose their stop' => ['ExitPlan\EntryExits', '$notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)', '$notLooser, ...self::stopsOf($alike)'];
        yield 'one stop becomes two' => ['ExitPlan\EntryExits', '$notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)', '$notLooser, ...self::stopsOf($given)'];
        yield 'a set forgets the stops of what it takes in' => ['ExitPlan\EntryExits', '$this->tightest([$cover->stop, $notLooser,', '$this->tightest([$cover->stop,'];
        yield 'a set does not take other entries in' => ['Desk\DeskState', '$holding->closeByHand(abs($position->lots) - $lots - $joined, except: $set);', ''];
        yield 'a stop fill leaves the entry working' => ['Desk\Entry', '$filled === Role::Stop || ', ''];
        yield 'targets stay while it flattens' => ['Desk\ExitKeeper', '$cover->wantsTarget() && ! $holding->isClosingDown()', '$cover->wantsTarget()'];
        yield 'a close of one portion takes the oldest lots' => ['Desk\DeskState', '$own = $entry === null ? 0 : min(', '$own = 0 * min('];
        yield 'a close is no partner of its stop' => ['Desk\DeskOrder', 'return $this->entry !== null ?', 'return $this->role->isExit() ?'];
        yield 'a stop-limit left behind counts as protection' => ['Desk\Holding', ' && ! $stop->isLeftBehind()', ''];
        yield 'a stop is passed only beyond its level' => ['Order\Passed', '$mark >= $trigger : $mark <= $trigger', '$mark > $trigger : $mark < $trigger'];
        yield 'a target that rounds down' => ['ExitPlan\Distance', 'RoundingMode::HALF_UP)->toInt()', 'RoundingMode::DOWN)->toInt()'];
        yield 'a lock that does not cover the fees' => ['Contract\Contract', 'RoundingMode::CEILING', 'RoundingMode::FLOOR'];
        yield 'a true range that is thawed at the fill' => ['Desk\Ticket', 'ranges: $this->role === Role::Entry ? $this->ranges?->toArray() : null', 'ranges: null'];
        yield 'a true range without the close before' => ['Watching\AverageTrueRange', 'max($bar->range(), abs($bar->high - $closeBefore), abs($bar->low - $closeBefore))', '$bar->range()'];
        yield 'a rehearsal that ratchets before it exits' => ['Rehearsal\Rehearsal', "        \$this->exit(\$on, \$left);\n", "        \$this->watch(\$on, \$number);\n        \$this->exit(\$on, \$left);\n"];
        yield 'a hand-back that is not heard' => ['Desk\DeskState', '->stopByHand = false', '->stopByHand = true'];
        yield 'stops that are moved farther instead of closer' => ['Desk\Command\TightenStops', '$shift = $sign * $ticks;', '$shift = -$sign * $ticks;'];
        yield 'break-even plus fees on the losing side' => ['Desk\Command\StopsToBreakEven', '? $sign * $contract->ticksForFees()', '? -$sign * $contract->ticksForFees()'];
        yield 'a change for one order that changes nothing' => ['ExitPlan\PlanChange', "return [['ticks' => \$ticks] + \$kept,", 'return [$stop,'];
        yield 'a day order outlives its session' => ['Desk\DeskOrder', '$this->tif === TimeInForce::Day && $this->dayEnds !== null', 'false'];
        yield 'flatten trades while the market is shut' => ['Desk\Flattening', '$open && ! isset(', '! isset('];
        yield 'a taken-off stop comes back' => ['Desk\DeskState', '$cover->stopTakenOff = true;', '$cover->stopTakenOff = false;'];
    }
}
