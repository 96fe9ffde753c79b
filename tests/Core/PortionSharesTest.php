<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\Order\Role;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Portions that are a share of the order: rounded down, at least one lot while lots remain. */
final class PortionSharesTest extends TestCase
{
    private const HALVES = '"stop":{"ticks":7},"portions":[{"percent":50,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[]';

    /** @return iterable<string, array{list<int|string>, int, list<int>}> portions, lots of the order, how they split */
    public static function splits(): iterable
    {
        yield 'half of an even number' => [[50, 'rest'], 8, [4, 4]];
        yield 'half of an odd one is rounded down' => [[50, 'rest'], 7, [3, 4]];
        yield 'one lot goes to the first' => [[50, 'rest'], 1, [1, 0]];
        yield 'a hundredth is one lot' => [[1, 'rest'], 20, [1, 19]];
        yield 'one each while there are any' => [[25, 25, 25, 'rest'], 3, [1, 1, 1, 0]];
        yield 'thirds' => [[33, 33, 'rest'], 10, [3, 3, 4]];
        yield 'the last takes what is left, whatever it says' => [[30, 30], 10, [3, 7]];
        yield 'lots and shares' => [['2 lots', 50, 'rest'], 8, [2, 4, 2]];
        yield 'a share of the order and not of what is left' => [['6 lots', 50, 'rest'], 8, [6, 2, 0]];
    }

    /**
     * @param list<int|string> $portions
     * @param list<int>        $split
     */
    #[DataProvider('splits')]
    public function testAnOrderSplitsByItsOwnSize(array $portions, int $lots, array $split): void
    {
        $document = ['name' => 'x', 'stop' => ['ticks' => 7], 'portions' => array_map(static fn(int|string $of): array => match (true) {
            is_int($of) => ['percent' => $of],
            $of === 'rest' => ['rest' => true],
            default => ['lots' => (int) $of],
        } + ['target' => null], $portions)];
        $plan = ExitPlan::fromArray($document);
        self::assertSame($document['portions'], array_map(
            static fn(array $of): array => $of, $plan->document['portions'],
        ), 'it is kept as it was written');
        $resolved = $plan->resolve(new Basis(TestSystem::contract(), 825, $lots));
        self::assertSame($split, array_values($resolved->split($lots)));
        self::assertEquals($resolved, ResolvedPlan::fromArray($resolved->toArray()), 'as the journal carries it');
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function wrongs(): iterable
    {
        yield 'two sizes' => ['[{"percent":50,"lots":1,"target":null},{"rest":true,"target":null}]', '/portions/0/percent', 'one of lots, percent and rest'];
        yield 'a share of the rest' => ['[{"lots":1,"target":null},{"rest":true,"percent":50,"target":null}]', '/portions/1/percent', 'one of lots, percent and rest'];
        yield 'nothing' => ['[{"percent":0,"target":null},{"rest":true,"target":null}]', '/portions/0/percent', '1 to 99'];
        yield 'all' => ['[{"percent":100,"target":null},{"rest":true,"target":null}]', '/portions/0/percent', '1 to 99'];
        yield 'a part of a percent' => ['[{"percent":12.5,"target":null},{"rest":true,"target":null}]', '/portions/0/percent', 'whole number'];
        yield 'more than all' => [
            '[{"percent":60,"target":null},{"percent":30,"target":null},{"percent":11,"target":null}]', '/portions/2/percent', '100 % at most',
        ];
    }

    #[DataProvider('wrongs')]
    public function testWhatIsNoShareIsNamed(string $portions, string $pointer, string $says): void
    {
        try {
            ExitPlan::fromJson('{"name":"x","stop":{"ticks":7},"portions":'.$portions.'}');
            self::fail('taken');
        } catch (InvalidDocument $fault) {
            self::assertSame($pointer, $fault->pointer);
            self::assertStringContainsString($says, $fault->getMessage());
        }
    }

    /** The split is that of the whole order from its first fill on, however it fills. */
    public function testPartialFillsGoToThePortionsOfTheWholeOrder(): void
    {
        $system = new TestSystem();
        $order = $system->place('buy', 8, 'limit', TestSystem::contract()->price(TestSystem::START - 6), TestSystem::plan(self::HALVES));
        self::assertSame([1 => 4, 2 => 4], $this->lots($system, $order, 8));
        $system->handle('modify', ['order' => $order, 'quantity' => 10]);
        $system->push(-6);
        $system->push(-1);
        $targets = array_filter($system->holding()->working, static fn($of): bool => $of->role === Role::Target);
        self::assertSame(5, array_sum(array_map(static fn($of): int => $of->leaves(), $targets)), 'half of the ten that it was raised to');
        $system->restart();
        self::assertSame(10, array_sum(array_map(
            static fn($of): int => $of->role === Role::Stop ? $of->leaves() : 0, $system->holding()->working,
        )), 'each lot under its stop, over a kill');
    }

    /** A position that is covered as a whole grows order by order: half of it is half of all. */
    public function testTheSharesOfASetAreThoseOfThePosition(): void
    {
        $system = new TestSystem();
        $plan = TestSystem::plan(self::HALVES.',"covers":"position"');
        foreach ([2, 4, 2] as $lots) {
            $system->place('buy', $lots, 'market', null, $plan);
        }
        $targets = array_filter($system->holding()->working, static fn($of): bool => $of->role === Role::Target);
        self::assertSame(4, array_sum(array_map(static fn($of): int => $of->leaves(), $targets)));
    }

    /** @return array<int, int> portion → lots */
    private function lots(TestSystem $system, int $order, int $quantity): array
    {
        $plan = ExitPlan::fromArray((array) $system->system->desk->state->orders[$order]->plan);

        return $plan->resolve(new Basis(TestSystem::contract(), 825, $quantity))->split($quantity);
    }
}
