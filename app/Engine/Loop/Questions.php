<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/**
 * Questions that take long and only read, worked out where nothing else waits. One of a kind a user at a time: a newer one takes the
 * place of the older. Nobody waits for an answer longer than a moment, since a worker of the web waits with them; the work goes on, and
 * whoever asks again gets what came of it.
 */
final class Questions
{
    private const MOST = 32;

    /** Whose workers of the web may wait at the same time: what closes needs one too. */
    private const MOST_WAITING = 2;

    /** in ns */
    private const LONGEST_WAIT = 800_000_000;

    /** @var list<array{PatientJob, Request, (callable(array<string, mixed>): void)|null, int}> job, who asked, who waits, and since when */
    private array $asked = [];

    public function __construct(private readonly EngineClock $clock) {}

    /** @param callable(array<string, mixed>): void $reply */
    public function ask(PatientJob $job, Request $request, callable $reply, int $now): void
    {
        foreach ($this->asked as $i => [, $older, $waits]) {
            if ($older->user === $request->user && $older->op === $request->op) {
                $this->tellBusy($waits, $older);
                array_splice($this->asked, $i, 1);
                break;
            }
        }
        if (count($this->asked) >= self::MOST) {
            $this->tellBusy($reply, $request);

            return;
        }
        $waiting = count(array_filter($this->asked, static fn(array $one): bool => $one[2] !== null));
        if ($waiting >= self::MOST_WAITING) {
            $this->tellBusy($reply, $request);
            $reply = null;
        }
        $this->asked[] = [$job, $request, $reply, $now];
    }

    /** Whoever has waited for long enough is told to ask again. @param int $now as hrtime() */
    public function tellWhoWaits(int $now): void
    {
        foreach ($this->asked as $i => [, $request, $waits, $since]) {
            if ($waits !== null && $now - $since >= self::LONGEST_WAIT) {
                $this->tellBusy($waits, $request);
                $this->asked[$i][2] = null;
            }
        }
    }

    /** A bit of the oldest. A fault in it says nothing of what trades: it is told to whoever asked, and the engine goes on. */
    public function goOn(): void
    {
        if ($this->asked === []) {
            return;
        }
        [$job, $request, $waits] = $this->asked[0];
        try {
            if ($job->advance($this->clock)) {
                return;
            }
            $answer = ['id' => $request->id, 'ok' => true] + $job->answer();
        } catch (Refusal $refusal) {
            $answer = ['id' => $request->id, 'ok' => false, 'problem' => $refusal->toArray()];
        } catch (\Throwable $fault) {
            $answer = ReadFault::told($request, $fault);
        }
        array_shift($this->asked);
        if ($waits !== null) {
            $waits($answer);
        }
    }

    /** @param (callable(array<string, mixed>): void)|null $waits */
    private function tellBusy(?callable $waits, Request $request): void
    {
        if ($waits !== null) {
            $words = 'it is still being worked out; ask again in a moment';
            $waits(['id' => $request->id, 'ok' => false, 'problem' => (new Refusal(RefusalCode::Busy, $words))->toArray()]);
        }
    }
}
