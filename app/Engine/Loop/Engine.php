<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Engine\Checkpoint\Checkpoints;
use App\Engine\Checkpoint\DeskCheckpoint;
use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Journal\Journal;
use App\Engine\Journal\KillPoint;
use App\Engine\Operation\Operations;
use App\Engine\Stream\Publisher;
use Lotrik\Desk\TradingSystem;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
use React\EventLoop\LoopInterface;

/**
 * The one thread that owns all trading state. Each turn takes the commands and venue steps that are due, commits
 * what they brought in one transaction, and only then answers and publishes. Where a commit fails nothing is
 * answered: the process ends and comes back from what was committed.
 */
final class Engine
{
    private const MAX_WAITING = 1000;

    private const MAX_A_TURN = 64;

    /** When the loop was held up the market stands rather than rush: at most this many steps are made up in a turn. */
    private const MAX_STEPS = 20;

    /** A turn makes steps of the market for no longer than this: orders go between. In ns. */
    private const MAX_MARKET_TIME = 8_000_000;

    private const MAX_JOBS = 32;

    /** @var list<array{Request, callable(array<string, mixed>): void}> */
    private array $waiting = [];

    /** @var list<array{Job, Request, callable(array<string, mixed>): void}> */
    private array $jobs = [];

    private readonly Questions $questions;

    private int $lastTick;

    /** Steps that are due but not yet made, in thousandths. */
    private int $owed = 0;

    public function __construct(
        private readonly TradingSystem $system,
        private readonly Journal $journal,
        private readonly Checkpoints $checkpoints,
        private readonly DeskCheckpoint $deskCheckpoint,
        private readonly HistoryBacklog $backlog,
        private readonly EngineClock $clock,
        private readonly Practice $practice,
        private readonly Operations $operations,
        private readonly Publisher $publisher,
        private readonly LoopInterface $loop,
        private readonly string $build,
    ) {
        $this->lastTick = (int) hrtime(true);
        $this->questions = new Questions($clock);
    }

    /** @param callable(array<string, mixed>): void $reply called after what the request did has been committed */
    public function enqueue(Request $request, callable $reply): void
    {
        if (count($this->waiting) >= self::MAX_WAITING) {
            $reply(self::problem(RefusalCode::Busy, 'the engine has too many commands waiting; try again in a moment'));

            return;
        }
        $this->waiting[] = [$request, $reply];
    }

    public function hasWork(): bool
    {
        return $this->waiting !== [] || $this->jobs !== [];
    }

    /** Called by the timer: counts the venue steps that wall time has brought. */
    public function tick(): void
    {
        $now = (int) hrtime(true);
        $elapsed = intdiv($now - $this->lastTick, 1_000_000);
        $this->lastTick += $elapsed * 1_000_000;
        if (! $this->practice->paused) {
            $this->owed = min(
                $this->owed + intdiv($elapsed * $this->practice->speed, 10),
                self::MAX_STEPS * 1000 * max(1, intdiv($this->practice->speed, 1000)),
            );
        }
        $this->turn();
    }

    public function turn(): void
    {
        $replies = [];
        $this->questions->tellWhoWaits((int) hrtime(true));
        foreach (array_splice($this->waiting, 0, self::MAX_A_TURN) as [$request, $reply]) {
            $answer = $this->answer($request);
            if ($answer instanceof PatientJob) {
                $this->questions->ask($answer, $request, $reply, (int) hrtime(true));
            } elseif ($answer instanceof Job && count($this->jobs) >= self::MAX_JOBS) {
                $replies[] = [
                    $reply,
                    static fn(): array => self::problem(
                        RefusalCode::Busy,
                        'the practice market has enough to do; try again when it is done',
                    ),
                ];
            } elseif ($answer instanceof Job) {
                $this->jobs[] = [$answer, $request, $reply];
            } else {
                $replies[] = [$reply, $answer];
            }
        }
        array_push($replies, ...$this->moveMarket((int) hrtime(true) + self::MAX_MARKET_TIME));
        $events = $this->system->events();
        $contracts = $this->practice->takeCheckpointWish()
            ? array_keys($this->system->markets())
            : array_values(array_unique([...array_filter(array_column($events, 'contract')), ...$this->checkpoints->due($this->system)]));
        if ($events !== [] || $contracts !== []) {
            $this->journal->commit(
                $events, $this->system->desk->state, $this->system->steps(), $this->operations->orders->ahead(...),
                $this->checkpoints->of($this->system, $contracts, $this->clock->at($this->system->steps()), $this->practice->pack()),
                Checkpoints::memory($this->system, $contracts), $this->build,
            );
        }
        foreach ($replies as [$reply, $answer]) {
            $reply($answer());
        }
        if ($events !== []) {
            // One turn of the loop later, when the answers have left: an order is acknowledged before it is published.
            $this->loop->futureTick(function () use ($events): void {
                KillPoint::reached('after-ack');
                try {
                    $this->publisher->publish($events);
                } catch (\Throwable $fault) {
                    ReadFault::log('what happened', $fault);
                    $this->publisher->startAnew();
                }
                $this->tidyUp();
            });
        } else {
            $this->tidyUp();
        }
    }

    /** What can wait, one thing at a time, and only where no command waits for it. */
    private function tidyUp(): void
    {
        if ($this->waiting !== []) {
            return;
        }
        if ($this->journal->isLogLong()) {
            $this->journal->shortenLog();
        } elseif (! $this->backlog->isComplete()) {
            $this->backlog->load();
        } elseif ($this->deskCheckpoint->isDue($this->system->desk->state->sequence)) {
            $this->deskCheckpoint->saveInChild($this->system->desk->state, $this->journal->lastHash());
        } else {
            $this->questions->goOn();
        }
    }

    /**
     * The venue steps that wall time has brought, and then what somebody has asked for, until the time is up.
     *
     * @param int $until as hrtime()
     *
     * @return list<array{callable(array<string, mixed>): void, callable(): array<string, mixed>}> replies for what is done
     */
    private function moveMarket(int $until): array
    {
        // A market that was stopped owes nothing: it stands, however far behind its speed it was.
        $this->owed = $this->practice->paused ? 0 : $this->owed;
        while ($this->owed >= 1000 && hrtime(true) < $until) {
            $this->owed -= 1000;
            $this->system->step($this->clock->at($this->system->steps() + 1));
        }
        $replies = [];
        // One of them goes on in any case: a market that cannot keep up with its speed would let nobody slow it down.
        for ($first = true; $this->jobs !== [] && ($first || hrtime(true) < $until); $first = false) {
            [$job, $request, $reply] = $this->jobs[0];
            if (! $job->advance($this->clock)) {
                array_shift($this->jobs);
                $this->practice->wishCheckpoint();
                $replies[] = [$reply, self::reply($request, $job->answer(...))];
            }
        }

        return $replies;
    }

    /** @return (callable(): array<string, mixed>)|Job makes the reply once everything of the turn is committed */
    private function answer(Request $request): callable|Job
    {
        if ($request->deadline < microtime(true)) {
            return static fn(): array => self::problem(
                RefusalCode::Deadline,
                'the command reached the engine too late and was dropped; nothing was done',
            );
        }
        $recorded = $this->system->desk->recorder()->count();
        try {
            $answer = $this->operations->run($request, $this->clock->at($this->system->steps()));

            return $answer instanceof Job ? $answer : self::reply($request, $answer);
        } catch (Refusal $refusal) {
            return static fn(): array => self::refused($request, $refusal);
        } catch (\Throwable $fault) {
            // Where anything was to be done it is not known how much of it was: the process ends, and comes back from what was committed.
            if (! $request->op->onlyReads() || $this->system->desk->recorder()->count() !== $recorded) {
                throw $fault;
            }

            return static fn(): array => ReadFault::told($request, $fault);
        }
    }

    /**
     * @param callable(): array<string, mixed> $answer
     *
     * @return callable(): array<string, mixed>
     */
    private static function reply(Request $request, callable $answer): callable
    {
        return static function () use ($request, $answer): array {
            try {
                return ['id' => $request->id, 'ok' => true] + $answer();
            } catch (Refusal $refusal) {
                return self::refused($request, $refusal);
            } catch (\Throwable $fault) {
                // What was to be done is committed: only its answer cannot be written.
                return $request->op->onlyReads() ? ReadFault::told($request, $fault) : self::unanswered($request, $fault);
            }
        };
    }

    /** @return array<string, mixed> */
    private static function unanswered(Request $request, \Throwable $fault): array
    {
        ReadFault::log("the answer to {$request->op->value}", $fault);

        return ['id' => $request->id] + self::problem(
            RefusalCode::OutcomeUnknown,
            'it was done, and its answer could not be written; the engine\'s log says why. The lists tell what came of it',
        );
    }

    /** @return array<string, mixed> */
    private static function refused(Request $request, Refusal $refusal): array
    {
        return ['id' => $request->id, 'ok' => false, 'problem' => $refusal->toArray()];
    }

    /** @return array<string, mixed> */
    private static function problem(RefusalCode $code, string $detail): array
    {
        return ['ok' => false, 'problem' => (new Refusal($code, $detail))->toArray()];
    }
}
