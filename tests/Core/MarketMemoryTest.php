<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Side;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\MarketMemory;
use Lotrik\Watching\MemoryPiece;
use Lotrik\Watching\PriceTrail;
use Lotrik\Watching\RecentPrints;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A market that is kept in pieces and brought back goes on as one that never stopped. */
final class MarketMemoryTest extends TestCase
{
    private Randomizer $dice;

    private int $at = 15_000_000;

    private int $number = 0;

    protected function setUp(): void
    {
        $this->dice = new Randomizer(new Mt19937(11));
    }

    /** @param list<array{RecentPrints, DepthHistory, PriceTrail}> $markets each is told the same */
    private function quarter(array $markets): void
    {
        $prints = [];
        for ($i = $this->dice->getInt(0, 3); $i > 0; $i--) {
            $prints[] = [
                ++$this->number, $this->at - $i, $this->dice->getInt(-20, 20), $this->dice->getInt(1, 70_000),
                $this->dice->getInt(0, 1) === 0 ? Side::Buy : Side::Sell,
            ];
        }
        $levels = [];
        for ($tick = -30; $tick < 30; $tick++) {
            $levels += $this->dice->getInt(0, 3) > 0 ? [$tick => $this->dice->getInt(1, 90)] : [];
        }
        $this->at += 250;
        foreach ($markets as [$recent, $depth, $trail]) {
            foreach ($prints as [$number, $at, $tick, $lots, $side]) {
                $recent->add($number, $at, $tick, $lots, $side);
                $depth->trade($tick, $lots, $side);
                $trail->add($at, $tick, $side);
            }
            $depth->sample($this->at, $levels);
        }
    }

    /** @return array<string, string> all that can be asked of it, as fingerprints: to show how the answers differ would take minutes */
    private static function seen(RecentPrints $recent, DepthHistory $depth, PriceTrail $trail): array
    {
        $answers = [
            'prints' => $recent->all(),
            'newest' => $recent->newest(),
            'trail' => array_merge(...array_map(static fn(array $part): array => array_map(null, ...$part), [...$trail->since(0)])),
            'made' => $trail->made(),
            'unsampled' => $depth->unsampled(),
            'unusual' => $depth->typical->unusual(),
            'percentile' => $depth->typical->percentile(99),
        ];
        foreach (DepthStep::cases() as $step) {
            $answers["columns of {$step->name}"] = $depth->between($step, 0, PHP_INT_MAX);
            $answers["made of {$step->name}"] = $depth->made($step);
        }

        return array_map(static fn(mixed $answer): string => md5((string) json_encode($answer, JSON_THROW_ON_ERROR)), $answers);
    }

    public function testWhatComesBackFromItsPiecesGoesOnAsIfNothingHadBeen(): void
    {
        [$recent, $depth, $trail] = $market = [new RecentPrints(), new DepthHistory(), new PriceTrail()];
        $memory = new MarketMemory($recent, $depth, $trail);
        $kept = [];
        for ($n = 0; $n < 2_700; $n++) {
            $this->quarter([$market]);
            if ($this->dice->getInt(0, 4) === 0) {
                array_push($kept, ...$memory->pieces());
            }
        }
        $depth->trade(3, 5, Side::Buy);
        array_push($kept, ...$memory->pieces());
        self::assertSame([], $memory->pieces(), 'nothing has come since');

        // What is no longer kept is gone from the disk.
        $pieces = count($kept);
        $newest = [];
        foreach ($kept as $piece) {
            $newest[$piece->kind] = $piece->number;
        }
        $kept = array_filter(
            $kept,
            static fn(MemoryPiece $piece): bool => $piece->number > $newest[$piece->kind] - MarketMemory::kept($piece->kind),
        );
        self::assertLessThan($pieces, count($kept));
        $back = [new RecentPrints(), new DepthHistory(), new PriceTrail()];
        $restored = new MarketMemory(...$back);
        $back[1]->resumeTrades($depth->unsampled());
        array_map($restored->restore(...), $kept);
        $restored->restored();
        self::assertSame(self::seen(...$market), self::seen(...$back));
        self::assertCount(DepthStep::Quarter->kept(), $back[1]->between(DepthStep::Quarter, 0, PHP_INT_MAX));
        self::assertSame([], $restored->pieces(), 'what came back is on the disk already');

        for ($n = 0; $n < 200; $n++) {
            $this->quarter([$market, $back]);
        }
        self::assertSame(self::seen(...$market), self::seen(...$back));
        $pieces = static fn(MarketMemory $of): array => array_map(
            static fn(MemoryPiece $piece): array => [$piece->kind, $piece->number, strlen($piece->body)],
            $of->pieces(),
        );
        self::assertSame($pieces($memory), $pieces($restored), 'and only what is new goes there');
    }

    public function testWhatIsNotNeededAtOnceMayComeLaterTheNewestFirst(): void
    {
        [$recent, $depth, $trail] = $market = [new RecentPrints(), new DepthHistory(), new PriceTrail()];
        $memory = new MarketMemory($recent, $depth, $trail);
        $kept = $newest = [];
        for ($n = 0; $n < 2_600; $n++) {
            $this->quarter([$market]);
            if ($this->dice->getInt(0, 4) === 0) {
                array_push($kept, ...$memory->pieces());
            }
        }
        array_push($kept, ...$memory->pieces());
        foreach ($kept as $piece) {
            $newest[$piece->kind] = $piece->number;
        }
        $atOnce = array_filter(
            $kept,
            static fn(MemoryPiece $piece): bool => $piece->number > $newest[$piece->kind] - MarketMemory::neededAtOnce($piece->kind),
        );
        $later = array_reverse(array_diff_key($kept, $atOnce));
        self::assertNotSame([], $later);
        $back = [new RecentPrints(), new DepthHistory(), new PriceTrail()];
        $restored = new MarketMemory(...$back);
        array_map($restored->restore(...), $atOnce);
        $restored->restored();
        // The market goes on before the rest is there, and while it comes.
        foreach (array_chunk($later, 50) as $chunk) {
            $this->quarter([$market, $back]);
            array_map($restored->restore(...), $chunk);
        }
        self::assertSame(self::seen(...$market), self::seen(...$back));
        $this->quarter([$market, $back]);
        self::assertSame(self::seen(...$market), self::seen(...$back));
    }

    /** The newest come back first, the market goes on, and the older ones come between its prints. */
    public function testOldPrintsThatComeBackAfterNewOnesStandBeforeThemAndNeverMoreThanAreKept(): void
    {
        $total = RecentPrints::KEPT + 5_000;
        $before = new RecentPrints();
        $pieces = [];
        for ($number = 1; $number <= $total; $number++) {
            $before->add($number, $number, 800 + $number % 7, 1 + $number % 3, Side::Buy);
            if ($number % 1_000 === 0) {
                $pieces[$number] = $before->packAfter($number - 1_000);
            }
        }
        $after = new RecentPrints();
        foreach (array_reverse($pieces, true) as $number => $piece) {
            $after->unpack($number, $piece);
            $total++;
            $before->add($total, $total, 805, 2, Side::Sell);
            $after->add($total, $total, 805, 2, Side::Sell);
        }
        self::assertSame(self::seen($before, new DepthHistory(), new PriceTrail()), self::seen($after, new DepthHistory(), new PriceTrail()));
        self::assertCount(RecentPrints::KEPT, $after->all());
    }
}
