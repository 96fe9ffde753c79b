<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Order\Side;

/**
 * The simulated market's own orders: seeded, in whole numbers only, so that the same seed and the same commands
 * give the same prints. It rests, cancels and takes; sizes cluster on round prices; walls appear and are pulled.
 */
final class Flow
{
    /** Ticks behind the best price where a new order rests: mostly near, some far. */
    private const OFFSETS = [0, 0, 0, 0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 5, 6, 6, 7, 8, 9, 10, 11, 12, 14, 16, 18, 20, 23];

    private const RESTING_LOTS = [1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 8, 10];

    private const TAKING_LOTS = [1, 1, 1, 1, 2, 2, 2, 3, 3, 4, 5, 8, 12];

    /** Prices at whole tens of ticks draw larger orders. */
    private const ROUND = 10;

    private int $nextId = -1;

    /** @var array<int, int> ids that may still rest, numbered from 0 */
    private array $resting = [];

    /** @var array<int, Side> */
    private array $walls = [];

    private int $lean = 0;

    private int $moodLeft = 0;

    /** of the mood: asked for at every event */
    private int $rate = 0;

    private int $takers = 0;

    private int $wanted = 0;

    private function __construct(
        private SeededRandom $random,
        private readonly int $home,
        private Mood $mood,
        private bool $changesMood,
    ) {
        $this->feel($mood);
    }

    /** @param int $home the price, in ticks, that the market is drawn back to */
    public static function starting(int $seed, string $code, int $home, Mood $mood = Mood::Steady): self
    {
        return new self(SeededRandom::seeded($seed, $code), $home, $mood, true);
    }

    public function mood(): Mood
    {
        return $this->mood;
    }

    /** Sets the mood until somebody sets another: by itself it changes no more. */
    public function setMood(Mood $mood): void
    {
        $this->feel($mood);
        $this->changesMood = false;
    }

    private function feel(Mood $mood): void
    {
        $this->mood = $mood;
        [$this->rate, $this->takers, $this->wanted] = [$mood->rate(), $mood->takers(), $mood->depth()];
    }

    /** Builds the book that the market opens with. */
    public function open(SimulatedVenue $venue): void
    {
        for ($i = 0; $i < $this->wanted; $i++) {
            $side = $i % 2 === 0 ? Side::Buy : Side::Sell;
            $this->rest($venue, $side, $this->home - $side->sign() * (1 + $this->random->pick(self::OFFSETS)));
        }
    }

    /** How many events fall into the next 10 ms. */
    public function due(): int
    {
        if ($this->moodLeft-- <= 0) {
            $this->turn();
        }
        $rate = $this->rate;
        $whole = intdiv($rate, 100);
        $spread = $whole > 1 ? $this->random->below(2 * intdiv($whole, 2) + 1) - intdiv($whole, 2) : 0;

        return $whole + $spread + ($this->random->below(100) < $rate % 100 ? 1 : 0);
    }

    /** One event: one order, cancel or trade of the market. */
    public function act(SimulatedVenue $venue): void
    {
        $roll = $this->random->below(1000);
        if ($roll < $this->takers) {
            $this->take($venue);

            return;
        }
        if ($roll >= 996) {
            $this->wall($venue);

            return;
        }
        $wanted = $this->wanted;
        $count = count($this->resting);
        $adds = $count < $wanted ? 620 : ($count < $wanted + 60 ? 500 : 330);
        if ($this->random->below(1000) < $adds) {
            $this->add($venue);
        } else {
            $this->cancel($venue);
        }
    }

    /** Orders at one price beyond what rests there, so that a push leaves something behind. */
    public function refill(SimulatedVenue $venue, Side $side, int $tick): void
    {
        for ($i = 0; $i < 3; $i++) {
            $this->rest($venue, $side, $tick);
        }
    }

    /**
     * One large order that the flow does not pull by itself.
     *
     * @return int its id, for {@see SimulatedVenue::cancelFlow()}
     */
    public function wallAt(SimulatedVenue $venue, Side $side, int $tick, int $lots): int
    {
        $venue->flow($this->nextId, $side, $tick, $lots);

        return $this->nextId--;
    }

    public function aggress(SimulatedVenue $venue, Side $side, int $tick, int $lots): void
    {
        $venue->flow($this->nextId--, $side, $tick, $lots);
    }

    /** @return array<string, mixed> */
    public function pack(): array
    {
        return [
            'dice' => $this->random->pack(), 'home' => $this->home, 'mood' => $this->mood->value, 'changes' => $this->changesMood,
            'next' => $this->nextId, 'resting' => array_values($this->resting), 'lean' => $this->lean, 'left' => $this->moodLeft,
            'walls' => array_map(static fn(Side $s) => $s->value, $this->walls),
        ];
    }

    /**
     * @param array{dice: string, home: int, mood: string, changes: bool, next: int, resting: list<int>, lean: int, left: int,
     *     walls: array<int, string>} $packed
     */
    public static function unpack(array $packed): self
    {
        $flow = new self(SeededRandom::unpack($packed['dice']), $packed['home'], Mood::from($packed['mood']), $packed['changes']);
        $flow->nextId = $packed['next'];
        $flow->resting = $packed['resting'];
        $flow->lean = $packed['lean'];
        $flow->moodLeft = $packed['left'];
        $flow->walls = array_map(static fn(string $s) => Side::from($s), $packed['walls']);

        return $flow;
    }

    private function turn(): void
    {
        $this->moodLeft = 300 + $this->random->below(1200);
        if ($this->changesMood) {
            $this->feel($this->random->pick([Mood::Steady, Mood::Steady, Mood::Steady, Mood::Quiet, Mood::Trend, Mood::Thin, Mood::Burst]));
            if ($this->mood === Mood::Burst) {
                $this->moodLeft = 200 + $this->random->below(400);
            }
        }
        $this->lean = $this->random->below(2 * $this->mood->lean() + 1) - $this->mood->lean();
    }

    private function add(SimulatedVenue $venue): void
    {
        $side = $this->random->below(2) === 0 ? Side::Buy : Side::Sell;
        $best = $venue->book->best($side) ?? $venue->last()->tick ?? $this->home;
        $other = $venue->book->best($side->opposite());
        $improves = $other !== null && abs($other - $best) > 1 && $this->random->below(3) > 0 ? 1 : 0;
        $tick = $best + $side->sign() * ($improves === 1 ? 1 : -$this->random->pick(self::OFFSETS));
        if ($other !== null && $side->sign() * ($other - $tick) <= 0) {
            $tick = $other - $side->sign();
        }
        $this->rest($venue, $side, $tick);
    }

    private function rest(SimulatedVenue $venue, Side $side, int $tick): void
    {
        $lots = $this->random->pick(self::RESTING_LOTS) * ($tick % self::ROUND === 0 ? 3 : 1);
        $venue->flow($this->nextId, $side, max(1, $tick), $lots);
        $this->resting[] = $this->nextId--;
    }

    private function cancel(SimulatedVenue $venue): void
    {
        for ($i = 0; $i < 12 && $this->resting !== []; $i++) {
            $at = $this->random->below(count($this->resting));
            $id = $this->resting[$at];
            $last = array_pop($this->resting);
            if ($at < count($this->resting)) {
                $this->resting[$at] = $last;
            }
            if ($venue->book->order($id) !== null) {
                $venue->cancelFlow($id);

                return;
            }
        }
    }

    private function take(SimulatedVenue $venue): void
    {
        $last = $venue->last()->tick ?? $this->home;
        $pull = max(-150, min(150, $this->home - $last));
        $side = $this->random->below(1000) < 500 + $this->lean + $pull ? Side::Buy : Side::Sell;
        $best = $venue->book->best($side->opposite());
        if ($best === null) {
            $this->rest($venue, $side->opposite(), $last + $side->sign());

            return;
        }
        $sweeps = $this->random->below(60) === 0;
        $lots = $this->random->pick(self::TAKING_LOTS) * ($sweeps ? 12 : 1);
        $this->aggress($venue, $side, $best + $side->sign() * ($sweeps ? 3 : 0), $lots);
    }

    private function wall(SimulatedVenue $venue): void
    {
        foreach ($this->walls as $id => $side) {
            unset($this->walls[$id]);
            if ($venue->book->order($id) !== null) {
                $venue->cancelFlow($id);

                return;
            }
        }
        $side = $this->random->below(2) === 0 ? Side::Buy : Side::Sell;
        $best = $venue->book->best($side);
        if ($best === null) {
            return;
        }
        $tick = $best - $side->sign() * (6 + $this->random->below(9));
        $tick = max(1, intdiv($tick, 5) * 5);
        $other = $venue->book->best($side->opposite());
        if ($other !== null && $side->sign() * ($other - $tick) <= 0) {
            return;
        }
        $this->walls[$this->wallAt($venue, $side, $tick, 90 + $this->random->below(120))] = $side;
    }
}
