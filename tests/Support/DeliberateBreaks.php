<?php

declare(strict_types=1);

namespace Tests\Support;

/**
 * The core broken on purpose, one place at a time: a sign, a bound, an order of steps. Its own tests must notice each;
 * tests/Core/DeliberateBreaksTest runs some of them, bin/breaks all.
 */
final class DeliberateBreaks
{
    /** An endless loop is noticed too; the unbroken tests take a fraction of it, beside a browser on a busy machine too. */
    private const SECONDS = 240;

    /** Those that make the core go round for ever. */
    public const ENDLESS = [
        'a set that keeps the portions as they were',
        'a set does not take other entries in',
        'a flatten whose close is refused tries at once',
        'a refused exit is tried at once',
    ];

    /** @return array<string, array{string, string, string}> what is broken → class, what stands there, what is put in its place */
    public static function all(): array
    {
        return iterator_to_array(self::each());
    }

    /** @return string what the tests said first; empty where nobody noticed */
    public static function noticed(string $class, string $stands, string $instead): string
    {
        $code = (string) file_get_contents(self::file($class));
        if (substr_count($code, $stands) !== 1) {
            throw new \LogicException("$class: the place to break is there ".substr_count($code, $stands)." times, expected once: $stands");
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'broken');
        file_put_contents($file, str_replace($stands, $instead, $code));
        try {
            [$status, $out] = self::run(self::isOutside($class) ? substr($class, 4).":$file" : "Lotrik\\$class:$file", self::isOutside($class));
        } finally {
            unlink($file);
        }
        preg_match('/^1\) Tests\\\\\w+\\\\(\S+)/m', $out, $first);

        return match ($status) {
            0 => '',
            124 => 'an endless loop',
            default => $first[1] ?? 'a fault',
        };
    }

    /** Where a class stands: `app:` before its name says that it is none of the core. */
    public static function file(string $class): string
    {
        $root = dirname(__DIR__, 2);
        $path = str_replace(['\\', 'App/', 'Tests/'], ['/', 'app/', 'tests/'], self::isOutside($class) ? substr($class, 4) : $class);

        return self::isOutside($class) ? "$root/$path.php" : "$root/core/$path.php";
    }

    public static function isOutside(string $class): bool
    {
        return str_starts_with($class, 'app:');
    }

    /** @return array{int, string} status and output of the core's tests, or of those of the engine's parts, with one class broken, or none */
    public static function run(string $broken, bool $engine = false): array
    {
        $tests = $engine ? 'tests/Feature/EnginePartsTest.php tests/Feature/OlderDirectoryTest.php tests/Feature/KillsTest.php' : "tests/Core --exclude-filter 'DeliberateBreaks'";
        $status = 0;
        $out = [];
        foreach ($engine ? explode(' ', $tests) : [$tests] as $suite) {
            $command = 'LOTRIK_HISTORIES=40 LOTRIK_WIDE=60 LOTRIK_KILLS=24 LOTRIK_BROKEN='.escapeshellarg($broken).' timeout '.self::SECONDS.' '.escapeshellarg(PHP_BINARY)
                ." vendor/bin/phpunit --no-configuration --do-not-cache-result --bootstrap tests/Support/broken-core.php --stop-on-defect $suite";
            exec('cd '.escapeshellarg(dirname(__DIR__, 2))." && $command 2>&1", $out, $status);
            if ($status !== 0) {
                break;
            }
        }

        return [$status, implode("\n", $out)];
    }

    /** @return iterable<string, array{string, string, string}> */
    private static function each(): iterable
    {
        yield 'the stop on the wrong side' => ['ExitPlan\Open\EntryExits', '$anchor - $sign * $slot->portion->stop->distance', '$anchor + $sign * $slot->portion->stop->distance'];
        yield 'a ratchet that may loosen' => ['ExitPlan\Open\EntryExits', "            if (\$this->tighter(\$level, \$slot->stop)) {\n                \$moves", "            if (\$level !== \$slot->stop) {\n                \$moves"];
        yield 'a ratchet one tick late' => ['ExitPlan\InTicks\StopPath', '$ratchet->at <= $best', '$ratchet->at < $best'];
        yield 'the first ratchet governs' => ['ExitPlan\InTicks\StopPath', "                \$governing = \$ratchet;\n", "                \$governing ??= \$ratchet;\n"];
        yield 'a trail without its jumps' => ['ExitPlan\InTicks\Ratchet', 'intdiv($best - $this->at, $this->by) * $this->by', '($best - $this->at)'];
        yield 'a step that does not wait for the one before' => ['Desk\Upkeep\StepKeeper', '=> $order->state->isPending()) !== []', '=> false) !== []'];
        yield 'a flatten that leaves the steps to come' => ['Desk\Upkeep\StepKeeper', "['flatten', 'flatten-account', 'cancel-many',", "['none',"];
        yield 'a cancel that came too late stops nothing' => ['Desk\Upkeep\StepKeeper', '->cancels() === true && $filled > 0', '->cancels() === true && false'];
        yield 'a step that opens however late' => ['Desk\Steps\StepsUnderWay', '$at > $this->begun + self::MAY_OPEN_FOR', 'false'];
        yield 'steps that go on after a kill' => ['Desk\Desk', "\$this->steps->drop(\$holding, 'the line to the venue was lost');", ''];
        yield 'orders of earlier steps count for nothing' => ['Desk\Command\RunSteps', '$holding->working[-1 - $i] = new DeskOrder(', '$unused[-1 - $i] = new DeskOrder('];
        yield 'a second closing stop for the same lots' => ['Desk\Question\Order\LotsWithoutStop', '$coverage->uncovered() > 0', 'true'];
        yield 'a closing stop for lots that have one' => ['Desk\Intake\Intake', 'return $uncovered > 0 ? $uncovered : $open;', 'return $open;'];
        yield 'a typed stop on the profit side' => ['Desk\Command\Exit\SetExit', "\$found[1] === '' ? \$role === Role::Stop", "\$found[1] === '' ? \$role !== Role::Stop"];
        yield 'a typed stop that risks more than was typed' => ['Desk\Command\Exit\SetExit', 'RoundingMode::CEILING : RoundingMode::HALF_UP', 'RoundingMode::FLOOR : RoundingMode::HALF_UP'];
        yield 'a level that speaks at each swing' => ['Watching\Levels\WatchedLevel', '$away > 2 * $this->within + 2', '$away > $this->within'];
        yield 'what is at risk already takes no loss room' => ['Desk\Intake\OverLossRoom', '$risk->plus($now->fromHere)', '$risk'];
        yield 'a lock on the losing side' => ['ExitPlan\InTicks\Ratchet', '$this->lock ??', '-($this->lock ?? 0) ?:'];
        yield 'an anchor that rounds the other way' => ['ExitPlan\Open\Anchor', '$this->side === Side::Buy && ! $whole', '$this->side === Side::Sell && ! $whole'];
        yield 'the print of the fill counts' => ['ExitPlan\Open\EntryExits', '$print > $this->lastFillPrint', '$print >= $this->lastFillPrint'];
        yield 'a stop that rounds up' => ['ExitPlan\InTicks\Distance', '$this->wholeTicks($basis, RoundingMode::FLOOR)', '$this->wholeTicks($basis, RoundingMode::CEILING)'];
        yield 'the last portion takes only its lots' => ['ExitPlan\ExitPlan', '$at + 1 === count($this->portions) ? [null, null] : [', 'false ? [null, null] : ['];
        yield 'a share of nothing' => ['ExitPlan\InTicks\ResolvedPortion', 'max(1, intdiv($quantity * $percent, 100))', 'intdiv($quantity * $percent, 100)'];
        yield 'a set keeps the shares of its first order' => ['ExitPlan\Open\EntryExits', '$this->plan->splitOfAll($lots)', '$this->plan->split($lots)'];
        yield 'closed lots come off the newest entry' => ['Desk\Position\AccountPosition', 'foreach ($this->entries as $entry) {
            $lots = $lots > 0', 'foreach (array_reverse($this->entries) as $entry) {
            $lots = $lots > 0'];
        yield 'a fill of one side leaves the other' => ['Venue\Simulated\OrderGroups', 'foreach ($filled->pair === null ?', 'foreach (true ?'];
        yield 'reduce-only is not kept after a fill' => ['Venue\Simulated\Matching', "        \$this->cancelOco(\$order, 'filled');\n        \$this->enforceReduceOnly(\$order->account);", "        \$this->cancelOco(\$order, 'filled');"];
        yield 'exits do not shrink with the position' => ['Venue\Simulated\ReduceOnly', '$over = array_sum($lots) - abs($position);', '$over = 0;'];
        yield 'a reversal in one fill' => ['Venue\Simulated\Matching', 'foreach ([$closing, $lots - $closing] as $part)', 'foreach ([$lots] as $part)'];
        yield 'a hand-loosened stop stays with its ratchets' => ['ExitPlan\Open\EntryExits', "\$slot->stop, \$to)) {\n            \$slot->stopByHand = true;", "\$slot->stop, \$to)) {\n            \$slot->stopByHand = false;"];
        yield 'a cancelled target comes back' => ['ExitPlan\Open\EntryExits', '$slot->targetTakenOff = true;', '$slot->targetTakenOff = false;'];
        yield 'tied closes do not lower each other' => ['Venue\Simulated\OrderGroups', 'foreach ($filled->ouo === null ?', 'foreach (true ?'];
        yield 'an if-touched order is a stop' => ['Order\OrderKind', '$this === self::IfTouched ? $side->opposite() : $side', '$side'];
        yield 'a held order is released at once' => ['Desk\Order\ReleaseCondition', '$at >= $this->releaseAt', 'true'];
        yield 'fill or kill takes what there is' => ['Venue\Simulated\SimulatedVenue', '($found = $this->matching->available($order)) < $order->lots', '($found = $this->matching->available($order)) < 0'];
        yield 'the loss limit is never reached' => ['Risk\DayUse', '$this->used->compareTo($this->of) >= 0', 'false'];
        yield 'flatten takes the stops first' => ['Desk\Upkeep\Flattening', '$o->role !== Role::Stop && $o->id', '$o->id'];
        yield 'a target on the losing side' => ['ExitPlan\Open\EntryExits', '$anchor + $sign * $slot->portion->target', '$anchor - $sign * $slot->portion->target'];
        yield 'a stop that follows its anchor downwards' => ['ExitPlan\Open\EntryExits', '$slot->stop === null || $this->tighter($level, $slot->stop) ? $level : $slot->stop', '$level'];
        yield 'fills after a ratchet join the old group' => ['ExitPlan\Open\EntryExits', "\$slot->stop = \$to;\n            \$this->anchors[\$group]->isFixed = true;", '$slot->stop = $to;'];
        yield 'a portion that takes lots of the next' => ['ExitPlan\Open\EntryExits', 'min($this->filled + $lots, $end) - max($this->filled, $start)', 'min($this->filled + $lots, $end + 1) - max($this->filled, $start)'];
        yield 'lots closed by hand come off twice' => ['ExitPlan\Open\EntryExits', "                \$slot->lots -= \$here;\n                \$lots -= \$here;", '                $slot->lots -= $here;'];
        yield 'the best price is the worst' => ['ExitPlan\Open\Anchor', '$this->side->sign() * ($tick - $this->best) > 0', '$this->side->sign() * ($tick - $this->best) < 0'];
        yield 'best profit can be negative' => ['ExitPlan\Open\Anchor', 'max(0, $this->side->sign() * ($this->best - $this->tick()))', '$this->side->sign() * ($this->best - $this->tick())'];
        yield 'a set that keeps the portions as they were' => ['ExitPlan\Open\EntryExits', "            \$slot->lots = \$split[\$portion->number];\n", "            \$slot->lots = max(\$slot->lots, \$split[\$portion->number]);\n"];
        yield 'lots that change their portion lose their stop' => ['ExitPlan\Open\EntryExits', '$notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)', '$notLooser, ...self::stopsOf($alike)'];
        yield 'one stop becomes two' => ['ExitPlan\Open\EntryExits', '$notLooser, ...self::stopsOf($given), ...self::stopsOf($alike)', '$notLooser, ...self::stopsOf($given)'];
        yield 'a set forgets the stops of what it takes in' => ['ExitPlan\Open\EntryExits', '$this->tightest([$slot->stop, $notLooser,', '$this->tightest([$slot->stop,'];
        yield 'a set does not take other entries in' => ['Desk\State\FillEvents', '$holding->gatherInto($entry);', ''];
        yield 'a stop fill leaves the entry working' => ['Desk\Position\Entry', '$filled === Role::Stop || ', ''];
        yield 'targets stay while it flattens' => ['Desk\Upkeep\ExitKeeper', '$slot->wantsTarget() && ! $holding->isClosingDown()', '$slot->wantsTarget()'];
        yield 'a close of one portion takes the oldest lots' => ['Desk\State\FillEvents', '$left = $entry === null ? $event->closes', '$left = true ? $event->closes'];
        yield 'a close is no partner of its stop' => ['Desk\Order\DeskOrder', 'return $this->entry !== null ?', 'return $this->role->isExit() ?'];
        yield 'a stop-limit left behind counts as protection' => ['Desk\AtRisk\Coverage', ' && ! $stop->isLeftBehind()', ''];
        yield 'a stop is passed only beyond its level' => ['Order\Passed', '$mark >= $trigger : $mark <= $trigger', '$mark > $trigger : $mark < $trigger'];
        yield 'a target that rounds down' => ['ExitPlan\InTicks\Distance', '$this->wholeTicks($basis, RoundingMode::HALF_UP)', '$this->wholeTicks($basis, RoundingMode::DOWN)'];
        yield 'a lock that does not cover the fees' => ['Contract\Contract', 'RoundingMode::CEILING', 'RoundingMode::FLOOR'];
        yield 'a true range that is thawed at the fill' => ['Desk\Intake\Ticket', 'ranges: $this->role === Role::Entry ? $this->ranges?->toArray() : null', 'ranges: null'];
        yield 'a true range without the close before' => ['Watching\Bars\AverageTrueRange', 'max($bar->range(), abs($bar->high - $closeBefore), abs($bar->low - $closeBefore))', '$bar->range()'];
        yield 'a rehearsal that ratchets before it exits' => ['Rehearsal\Rehearsal', "        \$this->exit(\$on, \$left);\n", "        \$this->watch(\$on, \$number);\n        \$this->exit(\$on, \$left);\n"];
        yield 'a hand-back that is not heard' => ['ExitPlan\Open\EntryExits', '$slot->stopByHand = false', '$slot->stopByHand = true'];
        yield 'stops that are moved farther instead of closer' => ['Desk\Command\Exit\TightenStops', 'Role::Stop, (int) $of->slot->stop + $sign * $ticks', 'Role::Stop, (int) $of->slot->stop - $sign * $ticks'];
        yield 'break-even plus fees on the losing side' => ['Desk\Command\Exit\StopsToBreakEven', '? $sign * $contract->ticksForFees()', '? -$sign * $contract->ticksForFees()'];
        yield 'a change for one order that changes nothing' => ['ExitPlan\PlanChange', "return [['ticks' => \$ticks] + \$kept,", 'return [$stop,'];
        yield 'a day order outlives its session' => ['Desk\Order\DeskOrder', '$this->tif === TimeInForce::Day && $this->dayEnds !== null', 'false'];
        yield 'flatten trades while the market is shut' => ['Desk\Upkeep\Flattening', '$open && ! $isClosing', '! isset('];
        yield 'a taken-off stop comes back' => ['ExitPlan\Open\EntryExits', '$slot->stopTakenOff = true;', '$slot->stopTakenOff = false;'];
        // Closing down.
        yield 'a flatten leaves a reversal going' => ['Desk\Flatten\ClosingDown', 'ClosingTrigger::Flatten, ClosingTrigger::Bar, ClosingTrigger::CloseNear => self::Flattening', 'ClosingTrigger::Flatten, ClosingTrigger::Bar, ClosingTrigger::CloseNear => $this === self::Reversing ? self::Reversing : self::Flattening'];
        yield 'the end of the session leaves a reversal going' => ['Desk\Flatten\ClosingDown', '$this === self::Not ? self::Not : self::Flattening', '$this'];
        yield 'a flatten is heard once only' => ['Desk\Command\Close\Flatten', '$holding->closing === ClosingDown::Flattening ? $starts', '$holding->isClosingDown() ? $starts'];
        yield 'what comes after a reversal is not checked' => ['Desk\Upkeep\Flattening', '$ticket->refusal === null', 'true'];
        yield 'a barred account keeps what came in' => ['Desk\Upkeep\LossWatch', '$this->holdsAllTheSame($holding) ? [$holding] : []', '[]'];
        yield 'a bar leaves a reversal going' => ['Desk\Upkeep\LossWatch', '$holding->closing !== ClosingDown::Flattening', '! $holding->isClosingDown()'];
        yield 'the loss is marked at the last trade alone' => ['Desk\Quote', 'Passed::clamped($this->last, $this->bid, $this->ask)', '$this->last'];
        yield 'a flatten whose close is refused tries at once' => ['Desk\Upkeep\Flattening', ' && ! $holding->wasJustRefused(AccountPosition::FLATTEN, $this->context->recorder->at)', ''];
        // Checks before an order is taken.
        yield 'a barred account may enter' => ['Desk\Question\Account\NotBarred', '$this->state->isBarred($account, $proposal->at) && ', 'false && '];
        yield 'an entry while it is flattened' => ['Desk\Question\Order\NotFlattening', '&& $proposal->opens()', '&& false'];
        yield 'a currency without a rate' => ['Desk\Question\Account\RateKnown', '&& $proposal->opens()', '&& false'];
        yield 'orders of any size' => ['Desk\Question\Order\OrderSize', '$entry->whole > max($most, $proposal->before->entry($id)->whole ?? 0)', 'false'];
        yield 'a time without entries is none' => ['Desk\Question\Account\OutsideWindows', '$window !== null && ', 'false && '];
        yield 'a pause is none' => ['Desk\Question\Account\EntriesNotStopped', '$proposal->at < $until', 'false'];
        yield 'any price is near enough' => ['Desk\Question\Order\PriceBand', '$worse <= $band ||', 'true ||'];
        yield 'a trade may risk anything' => ['Desk\Question\Risk\TradeRisk', '$risk->compareTo($most) <= 0', 'true'];
        yield 'a stop may be left out' => ['Desk\Question\Risk\StopRequired', '$proposal->after->bareOf($entry) >', '0 >'];
        yield 'entries as many as wished' => ['Desk\Question\Risk\WorkingOrders', '$after > $most && ', 'false && '];
        yield 'entries as quick as wished' => ['Desk\Question\Account\OrderRate', 'count($sent) + $asked <= $most', 'true'];
        yield 'limits are loosened at once' => ['Desk\Account\Accounts', '$now = $account->limits->and($asked)', '$now = $asked'];
        yield 'loosened limits never come' => ['Desk\Upkeep\LimitKeeper', 'if ($at >= $from) {', 'if (false) {'];
        yield 'losses are not counted' => ['Desk\Upkeep\LimitKeeper', '$lost >= $most &&', 'false &&'];
        yield 'what works is left at a stop of entries' => ['Desk\Upkeep\LimitKeeper', '$this->cancelEntries($account, $because);', ''];
        yield 'a stop that is required can be taken off' => ['Desk\Question\Risk\StopRequired', 'if ($bare > 0) {', 'if (false) {'];
        yield 'the best of the day is not kept' => ['Risk\DayBest', '$higher || $more', 'false'];
        yield 'the last minutes may be entered' => ['Desk\Question\Account\NotBeforeClose', '$proposal->at >= $hours->until - $minutes * 60_000', 'false'];
        yield 'nothing is flattened before close' => ['Desk\Upkeep\CloseKeeper', '$at < $closes - $minutes * self::MINUTE ||', 'true ||'];
        yield 'margin is not needed' => ['Desk\Question\Risk\BuyingPower', '$perLot->times($more)->compareTo($left) <= 0', 'true'];
        yield 'paper gains are traded with' => ['Risk\BuyingPower', '$balance->plus($losses)', '$balance->plus($open)'];
        yield 'more lots than risk allows' => ['Desk\Intake\SizeByRisk', '! $risk->minus($most)->isPositive() ? [$lots, $high]', 'true ? [$lots, $high]'];
        yield 'a stop by hand that is held protects' => ['Desk\AtRisk\Coverage', '! $stop->isHeld());', 'true);'];
        yield 'a stop by hand protects lots twice' => ['Desk\AtRisk\Coverage', '$lots = min($bare, $stop->leaves());', '$lots = $stop->leaves();'];
        yield 'a stop by hand that is left behind protects' => ['Desk\AtRisk\Coverage', ' && ! $order->isLeftBehind(),', ','];
        yield 'cancel all takes a stop by hand' => ['Desk\Command\Order\CancelMany', '($bare > 0 || $order->role->isExit()) && ! $exits', '$order->role->isExit() && ! $exits'];
        yield 'a flatten takes a stop by hand first' => ['Desk\Upkeep\Flattening', ' && $coverage->protectedBy($o) === 0', ''];
        yield 'the tied stop is not asked about' => ['Desk\Command\Order\CancelOrder', 'array_filter([$order, $other])', '[$order]'];
        yield 'a day is kept past a new one' => ['Risk\Limits\AccountDay', 'min($this->found[1], $this->since) :', '$this->found[1] :'];
        yield 'a stop set anew is told as the plan\'s' => ['Desk\State\ExitEvents', '$exits?->wish($event->portion, $event->group, $event->role, true);', ''];
        yield 'two stops find the same depth' => ['Risk\DepthWalk', '$this->levels[$at][1] -= $taken;', ''];
        yield 'working entries do not count' => ['Desk\AtRisk\Reach', '+ $this->entering($side) - ', '+ min(1, $this->entering($side)) - '];
        yield 'entries beyond the limits of the day' => ['Desk\Question\Order\WithinPriceLimits', 'if ($limits === null) {', 'if (true) {'];
        yield 'an entry stop that is passed is taken' => ['Desk\Question\Order\StopNotPassed', '$request->trigger === null || ', 'true || '];
        yield 'entries while the market is shut' => ['Desk\Question\Order\SessionOpen', '$ticket->request->releaseWhen === null', 'false'];
        yield 'a change is not held against the plan' => ['Desk\Intake\Modification', '?? $this->planRefusal($order, $context->state, $quote)', '?? null'];
        yield 'a plan under one tick is made to stand nowhere' => ['ExitPlan\ExitPlan', "        } catch (InvalidPlan) {\n            return 1;", "        } catch (InvalidPlan) {\n            return 0;"];
        yield 'a held order is released unchecked' => ['Desk\Upkeep\DueOrders', '$ticket->refusal === null', 'true'];
        yield 'a forgotten id is taken for a new one' => ['Desk\Command\KnownCommands', '$this->archive?->has($account, $clientId) === true', 'false'];
        yield 'an id does something each time' => ['Desk\State\HandledCommands', 'return $packed === null ? null : HandledCommand::unpack($packed);', 'return null;'];
        // Sessions and the clock.
        yield 'the venue matches while it is shut' => ['Venue\Simulated\Matching', 'if (! $this->session->isOpen() && $this->wouldTrade($order)) {', 'if (false) {'];
        yield 'the flow trades while it is shut' => ['Venue\Simulated\Matching', "        if (\$this->session->isOpen()) {\n            \$this->book->limit(", "        if (true) {\n            \$this->book->limit("];
        yield 'entries reach a venue that is shut' => ['Venue\Simulated\SimulatedVenue', '! $this->isOpen() && (! $order->reduceOnly || $order->tif->isImmediate())', 'false'];
        yield 'what waited for the open is forgotten' => ['Venue\Simulated\Matching', "            if (\$order?->limit() !== null) {\n                unset(\$this->waiting", "            if (false) {\n                unset(\$this->waiting"];
        yield 'a day order ends at the next change of hours' => ['Contract\Session', 'return $hours->open || $hours->until === null ? $hours->until : $this->work($hours->until)->until;', 'return $hours->until;'];
        yield 'a held order goes out while it is shut' => ['Desk\Upkeep\DueOrders', 'if (! $this->context->hours($order->contract, $at)->open) {', 'if (false) {'];
        yield 'timed orders are looked at late' => ['Desk\Upkeep\Timetable', '$this->queue->top()[0] <= $at', '$this->queue->top()[0] + 100 <= $at'];
        yield 'the last of an order\'s times counts' => ['Desk\Upkeep\Timetable', '$this->enqueue($order->id, min($times));', '$this->enqueue($order->id, max($times));'];
        yield 'nobody looks when a parent fills' => ['Desk\Upkeep\Timetable', '$this->stirred += $this->children[$order->id] ?? [];', ''];
        yield 'a parent is forgotten while it is needed' => ['Desk\State\OrderEvents', 'if (! isset($needed[$id])) {', 'if (true) {'];
        // Delay and checkpoint.
        yield 'nothing is delayed' => ['Desk\DelayLine', '$now + $this->steps', '$now'];
        yield 'what is under way is lost over a kill' => ['Desk\VenueLine', '$this->toVenue->restore($step, $packed[\'toVenue\'] ?? []);', ''];
        yield 'what comes back is lost over a kill' => ['Desk\VenueLine', '$this->toDesk->restore($step, $packed[\'toDesk\'] ?? []);', ''];
        yield 'what is under way starts over' => ['Desk\DelayLine', '[$now + $waiting[0], $waiting[1]]', '[$now + 1_000_000 + $waiting[0], $waiting[1]]'];
        yield 'best prices are lost over a kill' => ['Desk\TradingSystem', '$entry?->exits->restoreBests($of[2]);', ''];
        yield 'what was seen is lost over a kill' => ['Desk\TradingSystem', '$entry?->record?->restoreExtremes($of[3]);', ''];
        yield 'the desk answers at the end of the step' => ['Desk\TradingSystem', "                if (\$this->carried < \$this->desk->recorder()->count()) {\n                    \$this->carry(\$at);\n                }\n", ''];
        yield 'a market is saved once' => ['app:App\Engine\Checkpoint\Checkpoints', 'if (($this->saved[$contract] ?? null) !== $sum = md5($body)) {', 'if (! isset($this->saved[$contract]) && ($sum = md5($body)) !== \'\') {'];
        yield 'a market is saved each second only' => ['app:Tests\Support\MortalEngine', '...array_filter(array_column($events, \'contract\')), ', ''];
        yield 'the desk checkpoint is of another moment' => ['app:App\Engine\Loop\EngineBoot', '$journal->after($state->sequence, $hash)', '$journal->after($state->sequence > 0 ? $state->sequence + 1 : 0, $hash)'];
        yield 'nobody looks at the hashes' => ['app:App\Engine\Journal\Journal', 'if ($row[\'previous_hash\'] !== $hash || $row[\'hash\'] !== JournalRow::hash($hash, $row)) {', 'if (false) {'];
        yield 'nobody looks at what was acknowledged' => ['app:App\Engine\Journal\Journal', 'if ($head === null || $head[0] === 0) {', 'if (true) {'];
        yield 'time runs backwards over a restart' => ['app:App\Engine\Loop\EngineClock', 'max($this->last, $now)', '$now'];
        yield 'streams wait without a bound' => ['app:App\Engine\Stream\Subscriber', ' || $this->budget->isExceeded()', ''];
        // Groups at the venue.
        yield 'one cancels nothing' => ['Venue\Simulated\OrderGroups', '$o->oco === $order->oco', 'false'];
        yield 'a decided group takes its late half' => ['Venue\Simulated\SimulatedVenue', '$tooLate !== null', 'false'];
        yield 'a trigger cancels nothing' => ['Venue\Simulated\Matching', "                \$this->cancelOco(\$order, 'triggered');\n", ''];
        yield 'an entry takes its own exit' => ['Venue\Simulated\Matching', 'if ($order->exit && ! $incoming->exit) {', 'if (false) {'];
        yield 'immediate or cancel rests' => ['Venue\Simulated\Matching', "        if (\$order->tif->isImmediate()) {\n            \$this->withdraw", "        if (false) {\n            \$this->withdraw"];
        yield 'more lots keep their place' => ['Venue\Simulated\SimulatedVenue', '$lotsChange <= 0 && ($price === null', '($price === null'];
        yield 'the limits of the day hold nothing up' => ['Venue\Simulated\Matching', '$bound = $order->side === Side::Buy ? $this->limits?->high : $this->limits?->low;', '$bound = null;'];
        // What is on its way, and what is refused.
        yield 'a wish to cancel is forgotten' => ['Desk\Upkeep\DueOrders', 'if ($order->cancelWished) {', 'if (false) {'];
        yield 'an exit that was moved on its way stays' => ['ExitPlan\Open\EntryExits', "        \$this->movedByHand(\$portion, \$group, \$role, \$to);\n", ''];
        yield 'a refused exit is tried at once' => ['Desk\Position\AccountPosition', 'TRY_AGAIN = 1000', 'TRY_AGAIN = 0'];
        yield 'a refused exit is never tried again' => ['Desk\Desk', "            if (\$holding->refusedExits !== []) {\n                unset(\$this->inOrder[\$contract][\$account]);\n            }\n", ''];
        yield 'a report out of place is believed' => ['Desk\Upkeep\VenueReports', 'default => ! $order->state->isFinal(),', 'default => true,'];
        yield 'a set forgets the stops of others' => ['Desk\Upkeep\Fills', '$covers === PlanScope::Position && $others ?', 'false ?'];
        yield 'old fills close nothing' => ['Desk\Event\Upcaster', '\'closes\' => $split->closes,', '\'closes\' => 0,'];
        // What is known of an entry.
        yield 'the best is the worst' => ['Desk\Position\EntryRecord', '$this->best === null || $sign * ($tick - $this->best[0]) > 0', '$this->best === null || $sign * ($tick - $this->best[0]) < 0'];
        yield 'slippage out is not counted' => ['Desk\Position\EntryRecord', '$this->slippageOut += $lots * $by->slippageTicks;', ''];
        yield 'a report that comes twice counts twice' => ['Desk\Upkeep\VenueReports', 'if ($order->knows($report->execution)) {', 'if (false) {'];
        yield 'fills that were never heard of are passed over' => ['Desk\Upkeep\VenueReports', '&& $report->cumulative > $order->filled) {', '&& false) {'];
        yield 'what the venue lost is believed to work' => ['Desk\Upkeep\Reconciliation', '$this->recorder->note(new E\Order\OrderCancelled($order->id, self::LOST));', ''];
        yield 'what is on its way is compared' => ['Desk\Upkeep\Reconciliation', ' && ! isset($underWay[$order->id])', ''];
        yield 'a stray order is left at the venue' => ['Desk\TradingSystem', '$event instanceof E\Venue\StrayOrderFound => Instruction', '$event instanceof E\Venue\VenueDiffers => Instruction'];
        yield 'a lost cancel is forgotten' => ['Desk\Upkeep\Reconciliation', '$order->state === OrderState::PendingCancel', '$order->state === OrderState::Filled'];
        yield 'what has filled in all begins anew after a start' => ['Venue\WorkingOrder', '$packed[14] ?? 0', '0'];
        yield 'a plan that is put on loosens stops' => ['Desk\State\ExitEvents', '$entry->exits->keepStop($portion, $tick);', ''];
        yield 'a stop that is kept loosens' => ['ExitPlan\Open\EntryExits', '$this->tighter($tick, $slot->stop))) {', '! $this->tighter($tick, $slot->stop))) {'];
        yield 'what was given up is taken when it comes late' => ['Desk\Command\KnownCommands', 'if ($known?->op === Desk::RECALL) {', 'if (false) {'];
        yield 'a recall gives nothing up' => ['Desk\Command\KnownCommands', "\$this->context->accept(\$head, null, ['arrived' => false],", "sprintf('%s%s%s%s', '', '', '',"];
        yield 'the touch is that after the fill' => ['Venue\Simulated\Matching', '->lots ?? 0) + $lots;', '->lots ?? 0);'];
        // Noise, what if, the day, the calendar.
        yield 'the first print of five seconds is left out' => ['Watching\PriceTrail', 'if ($print === $this->before && $stretch === $this->stretch) {', 'if ($print === $this->before) {'];
        yield 'the side of a print is forgotten' => ['Watching\PriceTrail', '2 * $tick + ($aggressor === Side::Buy ? 1 : 0)', '2 * $tick'];
        yield 'prints at a ratchet are skipped' => ['ExitPlan\InTicks\StopPath', 'return min($next ?? PHP_INT_MAX, $ratchet->at);', 'return $next;'];
        yield 'a trail misses a jump' => ['ExitPlan\InTicks\Ratchet', '(intdiv($best - $this->at, $this->by) + 1) * $this->by', '(intdiv($best - $this->at, $this->by) + 2) * $this->by'];
        yield 'a stop at break-even counts as one that lost' => ['Rehearsal\Rehearsal', '* $this->filled - $this->cost) >= 0 => FirstExit::BreakEven', '* $this->filled - $this->cost) > 0 => FirstExit::BreakEven'];
        yield 'the average forgets the fees' => ['Rehearsal\Noise\NoiseTally', 'minus($contract->fees(2 * $this->lots))', 'minus($contract->fees(0))'];
        yield 'a block is skipped that has a price beyond' => ['Rehearsal\Noise\PrintIndex', '$this->least[$block] > $above && ', ''];
        yield 'a moved stop counts where it was' => ['Desk\AtRisk\ProtectedPosition', '$part->order === $order ? $part->with(stop: $tick) : $part', '$part'];
        yield 'a draft closes nothing that another opens' => ['Desk\AtRisk\ProtectedPosition', '$closes = $this->position->closedBy($ticket->request->side, $ticket->quantity);', '$closes = $ticket->closes;'];
        yield 'a draft pays one side of its fees' => ['Desk\AtRisk\StopLosses', '$part->wouldBe === null ? 1 : 2', '1'];
        yield 'the jump to the first print is not seen' => ['Watching\TradingDay', '$this->last ?? $this->settlement ?? $tick', '$this->last ?? $tick'];
        yield 'a stop goes as far by hand as it likes' => ['Desk\Question\Asking', '$after = $before->withStops([$of], $request->trigger);', '$after = $before;'];
        yield 'a stop that tightens is refused' => ['Desk\Question\Risk\TradeRisk', '|| $risk->compareTo($now) <= 0', '|| false'];
        yield 'the best of the day is where a point fell' => ['Risk\DayLine', 'foreach ([$this->best, $this->worst] as $seen) {', 'foreach ([] as $seen) {'];
        yield 'a holiday is open' => ['Contract\Session', 'if ($close === null || ! in_array(', 'if (! in_array('];
        yield 'a root counts before its contract' => ['Contract\Calendar', 'in_array($root, $day[\'contracts\'], true) => 2,', 'in_array($root, $day[\'contracts\'], true) => 4,'];
        yield 'a rate leaves the cost where it was' => ['Risk\LossLimit', '$known[2] === $rates && ', ''];
        yield 'a rate uses up the drawdown' => ['Desk\Upkeep\LossWatch', '$this->bests[$id]->moved($net->minus($netBefore), $closed->minus($closedBefore))', '$this->bests[$id]'];
        yield 'a column of any width' => ['Watching\Depth\DepthWindow', '$tick >= $market - self::TICKS && $tick <= $market + self::TICKS', 'true'];
        yield 'a distance beyond all ticks' => ['ExitPlan\InTicks\Distance', '$ticks->isGreaterThan(self::MAX_TICKS)', 'false'];
        yield 'limits that join are not counted' => ['Desk\Account\Accounts', '$now->mustFit($body);', ''];
        yield 'a fault in applying is a refusal' => ['Desk\Event\EventRecorder', 'throw CannotBeApplied::because($event, $fault);', 'throw $fault;'];
        yield 'both of a pair count' => ['Desk\Order\DeskOrder', 'return $this->tie?->oco === true ? $this->tie->group : null;', 'return null;'];
        yield 'both of a new pair count' => ['Desk\Question\Asking', '$oco ? self::PAIR : null', 'null'];
        yield 'what is untied is not asked about' => ['Desk\Command\Order\UntieOrder', '$after->withEntry($entry->alone())', '$after'];
        yield 'what an account has reached itself is lifted' => ['Desk\Account\Accounts', 'if ($use->isReached()) {', 'if (false) {'];
        yield 'a market order is cut, and is sent whole' => ['Desk\Intake\Intake', 'return $fit > 0 ? min($fit, $request->quantity) : $request->quantity;', 'return $request->quantity;'];
        yield 'a market order is overtaken by what is sent after it' => ['Desk\AtRisk\Reach', '$order < $sent', 'true'];
        yield 'a market order finds what may have closed' => ['Desk\AtRisk\Reach', 'max(0, $open - $before - $found)', 'max(0, $open - $found)'];
        yield 'a raised order needs no margin' => ['Desk\Question\WorkingEntry', '$this->lots + $more, $this->whole + $more', '$this->lots, $this->whole'];
        yield 'a lowered stop by hand is not asked about' => ['Desk\Question\Asking', '$lasts ? $order->leaves() + $more : 0', '$order->leaves()'];
        yield 'a stop with a date protects for good' => ['Desk\Intake\Modification', '$lasts = $this->tif !== TimeInForce::GoodTillDate;', '$lasts = true;'];
        yield 'a wider plan is not asked about' => ['Desk\Command\Exit\PutPlanOn', '$this->context->mayBe($this->proposal($command, $holding, $contract, $resolved, $onlyBare, $keeps), \'taking the present exits off\', $leave);', ''];
        yield 'lots of one set risk apart' => ['Desk\Question\Exposure', '$entry->covers || $this->joins($entry) ? self::SETS[$entry->side->value] : $entry->id', '$entry->id'];
        yield 'what has filled of an entry risks nothing' => ['Desk\Question\Exposure', 'if ($this->tradeOfLots($of) === $trade) {', 'if (false) {'];
        yield 'a limit that tightens leaves large orders' => ['Desk\Upkeep\LimitKeeper', 'if ($refusal === null) {', 'if (true) {'];
        yield 'a limit that tightens lowers nothing' => ['Desk\Upkeep\LimitKeeper', '$may ? [$lots, $high] : [$low, $lots]', '[$low, $lots]'];
        yield 'a window takes what is held' => ['Desk\Upkeep\LimitKeeper', 'heldToo: false', 'heldToo: true'];
        yield 'a new account lifts the pause' => ['Desk\Account\Accounts', '$until > max($at, $stopped[0] ?? 0)', 'false'];
        yield 'a new account lifts the streak' => ['Desk\Account\Accounts', '&& $lost > ($losses[1] ?? 0)', '&& false'];
        yield 'a new account lifts the bar' => ['Desk\Account\Accounts', '$this->state->isBarred($id, $at) && $this->state->bookOf($id)->barredUntil >', 'false && 0 >'];
        yield 'a band does not see a market order' => ['Desk\Intake\Sweep', '$worst = $tick;', ''];
        yield 'a child stays an entry' => ['Desk\Intake\Intake', '! $order->through && $closing > 0 ? Role::Close', 'false ? Role::Close'];
        yield 'fill or kill counts what stands behind its own' => ['Venue\Simulated\Matching', "\$resting->account === \$order->account) {\n                    return \$lots;", "false) {\n                    return \$lots;"];
        yield 'entries take all the room' => ['Venue\Simulated\SimulatedVenue', '! $order->reduceOnly => -$room,', '! $order->reduceOnly => 0,'];
        yield 'a stop that is needed ends with its date' => ['Desk\Upkeep\DueOrders', '$isOver && $this->mustStay($order, $at)', 'false'];
        yield 'more lots open nothing' => ['Desk\Intake\Modification', '$this->lotsChange($order) > 0 || $nearer > 0', '$nearer > 0'];
        yield 'what is touched comes nearer like a stop' => ['Desk\Intake\Modification', '? $order->kind->triggerSide($order->side)->sign() * ((int)', '? $sign * ((int)'];
        yield 'the initial margin is off without a day margin' => ['Contract\Contract', 'BigDecimal::max($initialMargin, $dayMargin)', '$dayMargin'];
        yield 'a day order outlives the session that is over' => ['Desk\Desk', '$isOver && $from === $at ? $at :', 'false ? $at :'];
        yield 'lots too many for the margin are told late' => ['Desk\Upkeep\CloseKeeper', "\$margin !== '' || \$minutes ===", '$minutes ==='];
        // Rehearsal.
        yield 'a stop passed at birth rests' => ['Rehearsal\Rehearsal', '($grown || isset($moved[$key]))', 'isset($moved[$key])'];
        yield 'the rest of a stop entry waits again' => ['Rehearsal\Rehearsal', '$this->entryTriggered = $this->entryTriggered || (', '$this->entryTriggered = false && ('];
        yield 'a resting stop-limit fills at the print' => ['Rehearsal\Rehearsal', "'stop', \$limit ?? \$on->tick, \$left);", "'stop', \$on->tick, \$left);"];
        yield 'a result against the average' => ['Rehearsal\Rehearsal', '($price - $tick) * $here', '($price - (int) round($this->cost / $this->filled)) * $here'];
        yield 'a rehearsed plan never covers the position' => ['Rehearsal\Rehearsal', '$plan->covers === PlanScope::Position ? new Position() : null', 'null'];
        yield 'rows of others are not checked' => ['Rehearsal\Tape', 'if (! preg_match(\'/^-?\d{1,15}(\.\d{1,9})?$/\', $price)) {', 'if (false) {'];
    }
}
