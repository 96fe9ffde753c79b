<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use Lotrik\Contract\Calendar;
use Lotrik\Desk\Question\Order\SessionOpen;
use Lotrik\Desk\TradingSystem;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\Simulated\Mood;

/** Steers the simulated market: its mood, whether and how fast it moves, steps and pushes. */
final class Practice
{
    private const SHORT = 'Short practice session';

    /** in minutes */
    private const LONGEST_SESSION = 1_440;

    private bool $wantsCheckpoint = false;

    /** @param int $speed venue time to wall time, in thousandths */
    public function __construct(
        private readonly TradingSystem $system,
        public bool $paused,
        private readonly string $run = '',
        public int $speed = 1000,
    ) {}

    /**
     * The market goes on as it was steered where it is the same run of the application that comes back: a start of its
     * own follows its options.
     *
     * @param array<string, mixed> $packed as {@see pack()} wrote it
     */
    public static function resumed(TradingSystem $system, bool $paused, string $run, array $packed): self
    {
        $practice = new self($system, $paused, $run);
        if ($run !== '' && ($packed['run'] ?? null) === $run) {
            $practice->paused = ($packed['paused'] ?? $paused) === true;
            $practice->speed = is_int($packed['speed'] ?? null) ? $packed['speed'] : 1000;
        }

        return $practice;
    }

    /** @return array<string, mixed> */
    public function pack(): array
    {
        return ['run' => $this->run, 'paused' => $this->paused, 'speed' => $this->speed];
    }

    /**
     * @param array<string, mixed> $body
     * @param int                  $at   ms since 1970 UTC
     *
     * @return PracticeJob what is still to be done, in its own time
     */
    public function steer(string $contract, array $body, int $at): PracticeJob
    {
        $node = Node::of($body);
        try {
            $mood = $node->raw('mood') === null ? null : $node->enum('mood', Mood::class);
            $paused = $node->raw('paused') === null ? $this->paused : $node->bool('paused', false);
            $speed = $this->speedFrom($node);
            $steps = $node->optionalInt('steps', 1, 10_000) ?? 0;
            $push = $node->optionalInt('push_ticks', -1_000, 1_000) ?? 0;
            $closesIn = $node->optionalInt('closes_in', 0, self::LONGEST_SESSION);
            $node->done();
            if ($push !== 0 && ! $this->system->market($contract)->venue->isOpen()) {
                throw SessionOpen::marketClosed($contract, 'shut', 'its market can be pushed once it is open', '/push_ticks');
            }
            if ($steps > 0 && ! $paused) {
                throw $node->fault('steps', 'nothing while the market moves by itself; pause it first');
            }
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
        if ($closesIn !== null) {
            $this->shorten($contract, $closesIn, $at);
        }
        if ($mood !== null) {
            $this->system->market($contract)->flow->setMood($mood);
        }
        $this->paused = $paused;
        $this->speed = $speed;
        $this->wishCheckpoint();

        return new PracticeJob($this->system, $contract, $steps, $push);
    }

    /**
     * A session that ends soon, so that its end can be practised: a day of the calendar for that contract alone.
     *
     * @param int $minutes from now, rounded up to a whole minute of the clock; 0 takes it back
     */
    private function shorten(string $code, int $minutes, int $at): void
    {
        $desk = $this->system->desk;
        $calendar = $desk->state->calendar ?? Calendar::none();
        $session = $desk->state->contracts[$code]->session;
        $zone = new \DateTimeZone($session->zone);
        $local = static fn(int $then): \DateTimeImmutable => (new \DateTimeImmutable('@'.intdiv($then, 1000)))->setTimezone($zone);
        $date = $session->dateOf($at);
        if ($minutes === 0) {
            $this->system->setCalendar(
                $calendar->closing($code, $date ?? $local($session->dayBegan($at))->format('Y-m-d'), null, self::SHORT), $at,
            );

            return;
        }
        $until = $session->at($at)->until;
        if ($date === null) {
            throw SessionOpen::marketClosed($code, 'shut', 'it can close early once it is open', '/closes_in');
        }
        $closes = intdiv($at + 60_000 * $minutes + 59_999, 60_000) * 60_000;
        $most = intdiv(($until ?? (int) $local($at)->modify('+1 day')->setTime(0, 0)->format('Uv')) - $at, 60_000) - 1;
        if ($minutes > $most) {
            throw Refusal::invalid('closes_in', $minutes, "at most $most minutes: its session ends, or the day does");
        }
        $this->system->setCalendar($calendar->closing($code, $date, $local($closes)->format('H:i'), self::SHORT), $at);
    }

    public function wishCheckpoint(): void
    {
        $this->wantsCheckpoint = true;
    }

    /** Market noise is not journaled: what was steered survives only in a checkpoint. */
    public function takeCheckpointWish(): bool
    {
        $wish = $this->wantsCheckpoint;
        $this->wantsCheckpoint = false;

        return $wish;
    }

    /** @throws InvalidDocument */
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
