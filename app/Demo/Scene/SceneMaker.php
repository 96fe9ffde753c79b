<?php

declare(strict_types=1);

namespace App\Demo\Scene;

use App\Demo\KestrelBay;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\Side;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\Mood;
use Lotrik\Venue\Simulated\NoFeed;
use Lotrik\Watching\Bars\Bar;
use Lotrik\Watching\Bars\BarSize;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;

/**
 * Runs desk and markets by a script, faster than time: five short days on which somebody trades on a second account, and
 * then the morning that the demo opens at the end of, four hours with quiet, a trend, bursts and walls.
 *
 * @phpstan-import-type SceneEvent from Scene
 * @phpstan-import-type Moment from Scene
 */
final class SceneMaker
{
    private const STEP = 10;

    private const MINUTE = 6_000;

    /** Steps: small pieces, since an engine brings them back between its turns. */
    private const REMEMBERS_EVERY = 1_500;

    private const DAY = 86_400_000;

    /** Minutes of the morning at which a wall comes, each a little later in the next contract. */
    private const WALLS = [18, 55, 96, 131, 170, 204, 228];

    private const WALL_STAYS = 7;

    /** What is kept of each kind: prints, the way of the price for half an hour or more, and columns of three minutes, half an hour, and the morning. */
    private const KEPT = ['prints' => 8_000, 'trail' => 16_000, '250' => 720, '2000' => 900, '15000' => 960];

    /** A quarter of a minute lies between two of them. */
    private const MOMENTS = 4;

    private readonly TradingSystem $system;

    /** @var list<list<SceneEvent>> */
    private array $turns = [];

    /** @var array<string, list<array{string, MemoryPiece}>> kind → contract and piece, oldest first */
    private array $memory = [];

    /** @var list<array{int, string, int}> the minute at which a wall is pulled, its contract, its order */
    private array $standing = [];

    /** @param int $begins ms since 1970 UTC of the first day */
    public function __construct(
        private readonly int $seed,
        private readonly int $days = 5,
        private readonly int $dayMinutes = 40,
        private readonly int $morningMinutes = 240,
        private readonly int $begins = 1_793_610_000_000,
    ) {
        $this->system = new TradingSystem(new Desk());
    }

    /** @param callable(string): void $say */
    public function make(callable $say): Scene
    {
        $listed = KestrelBay::contracts(new \DateTimeImmutable('@'.intdiv($this->begins, 1000)));
        $contracts = array_column($listed, 0);
        foreach ($listed as [$contract, $home]) {
            $this->system->desk->list($contract, $this->begins);
            $this->system->add(Market::open($contract->code, $this->seed, $home, new NoFeed()));
        }
        foreach ([1 => 'Practice 1', 2 => 'Practice 2'] as $id => $name) {
            $this->system->desk->openAccount(Account::fromArray(['id' => $id] + KestrelBay::account(1, $name)), $this->begins);
        }
        $this->keep();
        $trader = new ScriptedTrader($this->system, 2, [$contracts[0], $contracts[4], $contracts[2], $contracts[7]]);
        for ($day = 0; $day < $this->days; $day++) {
            $say("day $day");
            $trader->wakeUp();
            $this->run($this->begins + $day * self::DAY, $this->dayMinutes, static fn(int $minute): bool => true, $trader);
        }
        $say('the morning');
        $end = $this->run($this->begins + 7 * self::DAY, $this->morningMinutes, $this->direct(...), null);
        $levels = $this->levels($end);
        $moments = [$this->moment($end)];
        while (count($moments) < self::MOMENTS) {
            for ($step = 0; $step < self::REMEMBERS_EVERY; $step++) {
                $this->system->step($end += self::STEP);
            }
            $this->keep();
            $this->remember();
            $moments[] = $this->moment($end);
        }

        return new Scene($this->seed, array_keys($this->system->markets()), $this->turns, $moments, $this->memory(), $levels);
    }

    /**
     * @param callable(int): mixed $each called at the beginning of each minute
     *
     * @return int the stamp of the last step
     */
    private function run(int $from, int $minutes, callable $each, ?ScriptedTrader $trader): int
    {
        foreach (array_keys($this->system->markets()) as $code) {
            $this->system->desk->quote($code)->day->begin($from);
        }
        $at = $from;
        for ($step = 0; $step < $minutes * self::MINUTE; $step++) {
            $at = $from + $step * self::STEP;
            if ($step % self::MINUTE === 0) {
                $each(intdiv($step, self::MINUTE));
            }
            if ($step % self::REMEMBERS_EVERY === 0) {
                $this->remember();
            }
            $this->system->step($at);
            $trader?->step($at);
            $this->keep();
        }
        $trader?->goHome($at);
        $this->system->step($at + self::STEP);
        $this->keep();
        $this->remember();

        return $at + self::STEP;
    }

    /** What the markets do in a minute of the morning; no two of them do the same at once. */
    private function direct(int $minute): void
    {
        foreach (array_values($this->system->markets()) as $i => $market) {
            $later = 4 * $i;
            $mood = match ($minute) {
                0 => Mood::Burst,
                2 => Mood::Steady,
                38 + $later => Mood::Quiet,
                70 + $later => Mood::Steady,
                84 + $later => Mood::Trend,
                118 + $later => Mood::Steady,
                164 + $later => Mood::Burst,
                168 + $later => Mood::Steady,
                default => null,
            };
            if ($mood !== null) {
                $market->flow->setMood($mood);
            }
            if ($minute >= 84 + $later && $minute < 118 + $later) {
                $this->system->push($market->contract, $i % 2 === 0 ? 1 : -1, $this->begins + 7 * self::DAY + $minute * 60_000);
            }
            $this->wall($market, $minute, $i);
        }
    }

    /** Every other wall is pulled again before the market comes there; the others stand until they are traded away. */
    private function wall(Market $market, int $minute, int $i): void
    {
        foreach (self::WALLS as $number => $at) {
            $side = ($number + $i) % 2 === 0 ? Side::Buy : Side::Sell;
            $best = $market->venue->book->best($side);
            if ($minute === $at + $i && $best !== null) {
                $id = $market->flow->wallAt($market->venue, $side, $best - $side->sign() * 6, 240 + 30 * $number);
                if ($number % 2 === 0) {
                    $this->standing[] = [$minute + self::WALL_STAYS, $market->contract, $id];
                }
            }
        }
        foreach ($this->standing as [$until, $contract, $id]) {
            if ($until === $minute && $contract === $market->contract && $market->venue->book->order($id) !== null) {
                $market->venue->cancelFlow($id);
            }
        }
    }

    private function keep(): void
    {
        $turn = [];
        foreach ($this->system->events() as $recorded) {
            $turn[] = [
                $recorded->at, $recorded->commandId, EventCodec::type($recorded->event), EventCodec::version($recorded->event),
                EventCodec::encode($recorded->event),
            ];
        }
        if ($turn !== []) {
            $this->turns[] = $turn;
        }
    }

    private function remember(): void
    {
        foreach (array_keys($this->system->markets()) as $code) {
            foreach ($this->system->desk->quote($code)->memory->pieces() as $piece) {
                $this->memory[$piece->kind][] = [$code, $piece];
            }
        }
    }

    /** @return Moment */
    private function moment(int $at): array
    {
        $markets = $bars = $newest = [];
        foreach (array_keys($this->system->markets()) as $code) {
            $packed = $this->system->packMarket($code);
            assert(is_array($packed['flow']));
            // From here on its moods change by themselves again.
            $packed['flow']['changes'] = true;
            $markets[$code] = json_encode($packed, JSON_THROW_ON_ERROR);
            $quote = $this->system->desk->quote($code);
            $bars[$code] = json_encode($quote->bars->packEarlier(), JSON_THROW_ON_ERROR);
            $newest['prints'][$code] = $quote->prints->newest();
            $newest['trail'][$code] = $quote->trail->made();
            foreach (DepthStep::cases() as $step) {
                $newest[(string) $step->value][$code] = $quote->depth->made($step);
            }
        }

        return ['at' => $at, 'step' => $this->system->steps(), 'markets' => $markets, 'bars' => $bars, 'newest' => $newest];
    }

    /** @return list<array{string, string, int, string}> */
    private function memory(): array
    {
        $kept = [];
        $newest = $this->moment(0)['newest'];
        foreach (MarketMemory::kinds() as $kind) {
            foreach ($this->memory[$kind] as [$code, $piece]) {
                if ($piece->number > $newest[$kind][$code] - self::KEPT[$kind]) {
                    $kept[] = [$code, $piece->kind, $piece->number, $piece->body];
                }
            }
        }

        return $kept;
    }

    /** @return list<array{string, int, int, string, string, int}> */
    private function levels(int $end): array
    {
        $code = (string) array_key_first($this->system->markets());
        $bars = array_slice($this->system->desk->quote($code)->bars->together(BarSize::OneMinute), -10);
        $high = max(array_map(static fn(Bar $bar): int => $bar->high, $bars));
        $low = min(array_map(static fn(Bar $bar): int => $bar->low, $bars));

        return [
            [$code, $high, $high, 'Last high', 'sand', $end - 600_000],
            [$code, $low, $low + 2, 'Turned up here', 'moss', $end - 600_000],
        ];
    }
}
