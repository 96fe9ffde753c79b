<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Demo\KestrelBay;
use App\Engine\Checkpoint\Checkpoints;
use App\Engine\Checkpoint\DeskCheckpoint;
use App\Engine\Journal\Dropped;
use App\Engine\Journal\Journal;
use App\Engine\Journal\JournalDamaged;
use App\Engine\Stream\BookFeed;
use App\Models\JournalRow;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Desk;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\TradingSystem;
use Lotrik\Venue\Simulated\Market;

/** Brings desk and markets up: from what was committed, or from the demo scenario on the first run. */
final class EngineBoot
{
    /** @var array<string, BookFeed> */
    public array $feeds = [];

    /** @param array<string, mixed> $practice how the market was steered when it was last saved */
    private function __construct(
        public readonly TradingSystem $system,
        public readonly EngineClock $clock,
        public readonly Checkpoints $checkpoints,
        public readonly DeskCheckpoint $deskCheckpoint,
        public readonly array $practice,
    ) {}

    /**
     * @param string   $deskFile where the desk's own checkpoint is kept
     * @param int      $seed     of the flow, on the first run; later the one it was started with
     * @param int|null $clock    ms since 1970 UTC at step 0, on the first run
     * @param bool     $hours    whether the demo contracts trade in hours of their own, on the first run
     *
     * @throws JournalDamaged
     */
    public static function from(
        Journal $journal,
        string $deskFile,
        string $build,
        int $seed,
        ?int $clock,
        int $delaySteps,
        bool $hours = false,
    ): self {
        $lines = Checkpoints::lines($journal);
        [$state, $saved] = self::desk($journal, $deskFile, $build);
        $seed = $lines['seed'] ?? $seed;
        $start = $lines === null ? $clock : $lines['clock'];
        $boot = new self(
            new TradingSystem(new Desk($state, $journal), $delaySteps), new EngineClock($start, max($journal->lastAt(), $lines['at'] ?? 0)),
            new Checkpoints($seed, $start),
            new DeskCheckpoint($deskFile, $build, $saved), $lines['practice'] ?? [],
        );
        if ($lines === null && $state->sequence > 0) {
            throw JournalDamaged::lines();
        }
        foreach ($journal->whatDiffers($state) as $differs) {
            fwrite(STDERR, "$differs\n");
        }
        if ($lines === null) {
            $boot->open($journal, $seed, $build, $hours);

            return $boot;
        }
        $boot->system->startAt($lines['step']);
        Dropped::unless('the best of each day', static fn() => $boot->system->desk->lossWatch()->restoreBests($lines['bests'] ?? []));
        Checkpoints::restoreDays($boot->system, $journal);
        foreach (array_keys($state->contracts) as $code) {
            $feed = $boot->feeds[$code] = new BookFeed();
            if (! Checkpoints::restore($boot->system, $journal, $code, $feed, $lines)) {
                throw new \UnexpectedValueException("the market of $code has no checkpoint; start with --fresh to begin anew");
            }
        }
        Checkpoints::restoreMemory($boot->system, $journal);
        $boot->system->resume($boot->clock->at($boot->system->steps()));

        return $boot;
    }

    /**
     * The desk's state: its checkpoint where this build wrote one, and the journal's events after it, all of them checked.
     *
     * @return array{DeskState, int} and the checkpoint's sequence
     */
    private static function desk(Journal $journal, string $file, string $build): array
    {
        [$state, $hash] = DeskCheckpoint::read($file, $build) ?? [new DeskState(), JournalRow::FIRST_HASH];
        if ($state->sequence > 0 && $journal->hashAt($state->sequence) !== $hash) {
            throw JournalDamaged::rowChanged($state->sequence);
        }
        $saved = $state->sequence;
        foreach ($journal->after($state->sequence, $hash) as $row) {
            $state->apply(EventCodec::decode($row['type'], $row['version'], $row['body'], $state), $row['at']);
        }

        return [$state, $saved];
    }

    private function open(Journal $journal, int $seed, string $build, bool $hours): void
    {
        $at = $this->clock->at(0);
        foreach (KestrelBay::contracts(new \DateTimeImmutable('@'.intdiv($at, 1000)), $hours) as [$contract, $home]) {
            $this->system->desk->list($contract, $at);
            $feed = $this->feeds[$contract->code] = new BookFeed();
            $this->system->add(Market::open($contract->code, $seed, $home, $feed));
        }
        if ($hours) {
            $this->system->setCalendar(KestrelBay::calendar(), $at);
        }
        $this->system->desk->openAccount(Account::fromArray(['id' => 1] + KestrelBay::account(1)), $at);
        // A little trading before the doors open, so that there is a last price.
        for ($i = 0; $i < 100; $i++) {
            $this->system->step($at);
        }
        $contracts = array_keys($this->system->markets());
        $journal->commit(
            $this->system->events(), $this->system->desk->state, $this->system->steps(), static fn(): ?int => null,
            $this->checkpoints->of($this->system, $contracts, $at, []), Checkpoints::memory($this->system, $contracts), $build,
        );
    }
}
