<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Exits typed at a position, an entry or a portion: in ticks, money or as a price, without a plan. */
final class TypedExitTest extends TestCase
{
    private TestSystem $system;

    protected function setUp(): void
    {
        $this->system = new TestSystem();
    }

    /** @param array<string, mixed> $more */
    private function type(string $role, string $by, string $value, array $more = []): void
    {
        $this->system->handle('set-exit', ['contract' => TestSystem::CODE, 'role' => $role, 'by' => $by, 'value' => $value] + $more);
    }

    public function testTicksAreCountedFromTheEntryALossForAStopAndAProfitForATarget(): void
    {
        $this->system->place('buy', 2);
        $this->type('stop', 'ticks', '8');
        $this->type('target', 'ticks', '12');
        $average = $this->system->average();
        self::assertSame([[-8], [12]], [array_values($this->system->stops($average)), array_values($this->system->targets($average))]);
        $this->type('stop', 'ticks', '-3');
        self::assertSame([-3], array_values($this->system->stops($average)));
        $this->system->push(9);
        $this->type('stop', 'ticks', '+2');
        self::assertSame([2], array_values($this->system->stops($average)));
    }

    /** Worked example of the rules: tick 0.50 is 2.50, so 40.00 for two lots are 8 ticks; 42.00 are 8.4, and a stop risks no more than was typed. */
    public function testMoneyIsThatOfTheLotsThatAreMeant(): void
    {
        $this->system->place('sell', 2);
        $average = $this->system->average();
        $this->type('stop', 'money', '42.00');
        $this->type('target', 'money', '42.00');
        self::assertSame([[8], [-8]], [array_values($this->system->stops($average)), array_values($this->system->targets($average))]);
        $this->type('target', 'money', '43.75');
        self::assertSame([-9], array_values($this->system->targets($average)), '8.75 ticks: to the nearest');
    }

    public function testOneEntryOrPortionIsMovedAndTheOthersStay(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":9},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}]');
        $first = $this->system->place('buy', 2, plan: $plan);
        $this->system->push(-3);
        $this->system->place('buy', 2, plan: $plan);
        $before = $this->system->stops();
        $this->type('stop', 'ticks', '4', ['entry' => $first, 'portion' => 2]);
        $after = array_map(static fn($o): array => [(int) $o->entry === $first, $o->portion, $o->trigger], $this->system->working(\Lotrik\Order\Role::Stop));
        $entry = $this->system->order($first)->average()?->toInt();
        self::assertContains([true, 2, $entry - 4], $after);
        self::assertContains([true, 1, $entry - 9], $after);
        self::assertSame(2, count(array_filter($after, static fn(array $of): bool => ! $of[0] && $of[2] === $before[$of[1]])));
        $this->type('target', 'price', TestSystem::contract()->price($entry + 6), ['entry' => $first, 'portion' => 2]);
        self::assertContains([$first, 2, $entry + 6], array_map(
            static fn($o): array => [$o->entry, $o->portion, $o->price],
            $this->system->working(\Lotrik\Order\Role::Target),
        ), 'the runner has a target now');
    }

    public function testWhatCannotBeIsRefusedAndNamed(): void
    {
        $this->system->place('buy', 2);
        foreach ([
            ['stop', 'ticks', '8.5', [], '/value'], ['stop', 'ticks', 'x', [], '/value'], ['stop', 'money', '1.00', [], '/value'],
            ['stop', 'furlongs', '1', [], '/by'], ['dance', 'ticks', '8', [], '/role'], ['stop', 'ticks', '8', ['portion' => 1], '/entry'],
            ['stop', 'ticks', '8', ['entry' => 7], '/portion'], ['stop', 'price', '412.30', [], '/value'],
            ['stop', 'ticks', '+9', [], '/value'], ['target', 'ticks', '-9', [], '/value'],
        ] as [$role, $by, $value, $more, $pointer]) {
            $refusal = $this->system->refusal('set-exit', ['contract' => TestSystem::CODE, 'role' => $role, 'by' => $by, 'value' => $value] + $more);
            self::assertSame($pointer, $refusal->pointer, "$role $by $value: {$refusal->getMessage()}");
        }
        self::assertSame([], $this->system->working());
    }
}
