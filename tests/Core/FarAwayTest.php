<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\CannotBeApplied;
use Lotrik\Document\InvalidDocument;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Depth\DepthColumn;
use Lotrik\Watching\Depth\DepthWindow;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** What is far away, or large beyond all sense, is taken or refused like everything else: nothing of it ends the desk. */
final class FarAwayTest extends TestCase
{
    private const HARBOUR = '{"code":"HBNZ6","tick_size":"0.015625","tick_value":"15.625","currency":"USD","day_margin":"0.01","fee_per_side":"1.10","display":{"fraction":32,"parts":2}}';

    private const YUZU = '{"code":"YUZZ6","tick_size":"1","tick_value":"500","currency":"JPY","fee_per_side":"90"}';

    private static function system(string $balance = '999999999999.00', string $rate = '0.000001'): TestSystem
    {
        return new TestSystem(
            others: [[Contract::fromJson(self::HARBOUR), 7_040], [Contract::fromJson(self::YUZU), 2_400]],
            accounts: [Account::fromArray([
                'balance' => $balance, 'rates' => ['USD' => $rate, 'JPY' => $rate], 'order_limit' => 1_000_000, 'position_limit' => 1_000_000,
                'daily_loss_limit' => '999999999999.00',
            ] + TestSystem::account(1)->document)],
        );
    }

    /** One order at ten million makes no column of ten million prices: it stands in the list, and in no picture. */
    public function testTheDepthHistorySeesNoFartherThanItsWindow(): void
    {
        $levels = [825 => 3, 826 => 2, 825 + DepthWindow::TICKS => 1, 826 + DepthWindow::TICKS => 9, 10_000_000 => 5, -4 => 7];
        self::assertSame([825 => 3, 826 => 2, 1325 => 1], DepthWindow::around($levels, 825));
        self::assertSame([], DepthWindow::around($levels, null));
        $column = DepthColumn::of(250, [825 => 3, 826 => 2, 827 => 1, 10_000_000 => 5, -10_000_000 => 5], []);
        self::assertSame([825 => 3, 826 => 2, 827 => 1], $column->levels());
        // What a build without a window had kept is not unpacked into memory.
        $old = pack('P4', 20_000_000, 250, 825, 1).str_repeat("\1\0", 10_000_000).pack('P3', 825, 1, 0);
        $offset = 0;
        self::assertSame([[], [825 => [1, 0]]], [($read = DepthColumn::unpack($old, $offset))->levels(), $read->trades()]);
        self::assertSame(strlen($old), $offset);
    }

    /** @return iterable<string, array{string}> */
    public static function distances(): iterable
    {
        foreach (['points', 'money', 'order_money', 'percent', 'account_percent'] as $unit) {
            yield $unit => [$unit];
        }
    }

    #[DataProvider('distances')]
    public function testADistanceOfAnyUnitIsAWholeNumberOfTicks(string $unit): void
    {
        foreach (['buy', 'sell'] as $side) {
            $system = self::system();
            $plan = TestSystem::plan("\"stop\":{\"$unit\":\"999999999999999\"},\"portions\":[{\"rest\":true,\"target\":{\"$unit\":\"999999999999999.999999999\"}}]");
            $order = ['account' => 1, 'contract' => 'HBNZ6', 'side' => $side, 'quantity' => 1, 'kind' => 'market', 'exit_plan' => $plan];
            $system->system->desk->queries->preview(1, $order, $system->now());
            try {
                $system->handle('place', $order);
            } catch (Refusal) {
                // Its exits would stand where nothing trades.
            }
            $system->step(30);
            self::assertGreaterThan(0, $system->last());
        }
    }

    public function testAPriceOrALevelThatNoMachineCountsIsRefusedWithTheRange(): void
    {
        $system = self::system();
        $order = ['account' => 1, 'contract' => 'HBNZ6', 'side' => 'buy', 'quantity' => 1_000_000, 'kind' => 'limit', 'price' => '15625000.000000'];
        foreach (['preview', 'what-if'] as $ask) {
            try {
                $ask === 'preview'
                    ? $system->system->desk->queries->preview(1, $order, $system->now())
                    : $system->system->desk->queries->whatIf(1, ['orders' => [$order]], $system->now());
                self::fail("$ask was not refused");
            } catch (Refusal $refusal) {
                self::assertStringContainsString('15625000.000000 is out of range; prices go from -23058.421875 to 23058.421875', $refusal->getMessage());
            }
        }
        $system->place('buy', 1);
        foreach (['stop' => 'ticks', 'target' => 'money'] as $role => $by) {
            $refusal = $system->refusal('set-exit', ['contract' => TestSystem::CODE, 'role' => $role, 'by' => $by, 'value' => '999999999999']);
            self::assertStringContainsString('no more than 100000 ticks, which is 250000.00 for them', $refusal->getMessage());
        }
        self::assertSame([[], []], [$system->stops(), $system->targets()]);
    }

    /** The most lots, at the farthest price, in the dearest currency, all together: the answers are exact, and nothing overflows. */
    public function testTheLargestValuesTogetherAreCountedExactly(): void
    {
        foreach (['0.000001', '1000000'] as $rate) {
            $system = self::system(rate: $rate);
            $state = $system->system->desk->state;
            foreach (['HBNZ6', 'YUZZ6', TestSystem::CODE] as $code) {
                $contract = $state->contracts[$code];
                foreach ([$contract->maxTicks, -$contract->maxTicks] as $tick) {
                    $order = [
                        'account' => 1, 'contract' => $code, 'side' => 'buy', 'quantity' => Contract::MAX_LOTS, 'kind' => 'limit',
                        'price' => $contract->price($tick), 'exit_plan' => TestSystem::plan('"stop":{"ticks":100000}'),
                    ];
                    $preview = $system->system->desk->queries->preview(1, $order, $system->now());
                    self::assertIsString($preview['words']);
                    $open = $system->system->desk->queries->whatIf(1, ['orders' => [$order]], $system->now());
                    self::assertLessThanOrEqual(1, count($open));
                    self::assertSame($contract->price($tick), $contract->price($contract->ticks($contract->price($tick))));
                    self::assertNotSame('', $contract->write($tick));
                }
                $size = ['account' => 1, 'contract' => $code, 'side' => 'sell', 'kind' => 'market', 'exit_plan' => TestSystem::plan(), 'risk' => ['money' => '999999999999.00']];
                self::assertIsInt($system->system->desk->queries->size(1, $size, $system->now())['lots']);
            }
        }
    }

    public function testAContractWhoseValueCouldNotBeCountedIsRefused(): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/tick_value: found "123456789.123456789", expected fewer digits');
        Contract::fromJson('{"code":"ODDZ6","tick_size":"1","tick_value":"123456789.123456789","currency":"EUR"}');
    }

    /** Tighter limits join those in force until the next day: what would not go into one document is refused, and nothing is written. */
    public function testLimitsThatTogetherAreTooManyAreRefusedBeforeAnythingIsNoted(): void
    {
        $system = new TestSystem();
        $windows = static fn(int $hour, int $count): array => array_map(
            static fn(int $minute): array => ['days' => [1], 'from' => sprintf('%02d:%02d', $hour, $minute), 'until' => sprintf('%02d:%02d', $hour, $minute + 1)],
            range(0, $count - 1),
        );
        $system->limit(['no_entries' => $windows(3, 28)]);
        $before = [$system->system->desk->state->sequence, count($system->events)];
        try {
            $system->limit(['no_entries' => $windows(4, 28)]);
            self::fail('56 windows were taken');
        } catch (Refusal $refusal) {
            self::assertSame(
                '/no_entries: found 56 together with those that stay in force until the next trading day, expected at most 50: take some away, or set the rest then',
                $refusal->getMessage(),
            );
        }
        self::assertSame($before, [$system->system->desk->state->sequence, count($system->events)]);
        $system->limit(['no_entries' => $windows(4, 22)]);
        $system->nextDay();
        self::assertCount(22, $system->system->desk->state->accounts[1]->limits->windows);
        $system->restart();
    }

    /** An event that cannot be applied is a fault of this program: it is no refusal, and no command goes on behind it. */
    public function testAnEventThatCannotBeAppliedIsNoRefusal(): void
    {
        $system = new TestSystem();
        $this->expectException(CannotBeApplied::class);
        $system->system->changeAccounts(
            fn() => $system->system->desk->recorder()->note(new LimitsSet(1, ['format' => 'another'], null)),
            $system->now(),
        );
    }
}
