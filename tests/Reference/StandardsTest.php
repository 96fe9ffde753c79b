<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Contract\MonthCode;
use Lotrik\Money\Currency;
use Lotrik\Order\OrderState;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is taken from published standards. */
final class StandardsTest extends TestCase
{
    /** ISO 4217, list one: minor units. The values are from memory. */
    public function testMinorUnits(): void
    {
        self::assertSame([2, 2, 2, 0, 0, 3, 2], array_map(static fn(string $c): int => Currency::of($c)->minorUnit, ['EUR', 'USD', 'GBP', 'JPY', 'KRW', 'KWD', 'CHF']));
        $this->expectExceptionMessage('ISO 4217');
        Currency::of('ABC');
    }

    /** Month codes: common practice of the trade, no source. */
    public function testMonthCodes(): void
    {
        self::assertSame('FGHJKMNQUVXZ', implode('', array_map(static fn(int $m): string => MonthCode::ofMonth($m)->value, range(1, 12))));
    }

    /** FIX 4.4, field OrdStatus (39). The codes are from memory. */
    public function testOrderStatusCodes(): void
    {
        $codes = array_combine(array_map(static fn(OrderState $s): string => $s->name, OrderState::cases()), array_map(static fn(OrderState $s): string => $s->fix(), OrderState::cases()));
        self::assertSame([
            'PendingNew' => 'A', 'New' => '0', 'PartiallyFilled' => '1', 'Filled' => '2', 'PendingReplace' => 'E', 'PendingCancel' => '6',
            'Cancelled' => '4', 'Rejected' => '8', 'Expired' => 'C', 'Suspended' => '9',
        ], $codes);
    }

    /** @return iterable<array{list<OrderState>}> the paths of FIX 4.4, volume 4, appendix D, from memory */
    public static function paths(): iterable
    {
        $s = OrderState::class;
        yield 'D1 filled in one' => [[$s::PendingNew, $s::New, $s::Filled]];
        yield 'D2 part filled day order, done for day' => [[$s::PendingNew, $s::New, $s::PartiallyFilled, $s::Expired]];
        yield 'D4 rejected' => [[$s::PendingNew, $s::Rejected]];
        yield 'D5 cancel of a part filled order' => [[$s::PendingNew, $s::New, $s::PartiallyFilled, $s::PendingCancel, $s::Cancelled]];
        yield 'D6 cancel that comes too late' => [[$s::PendingNew, $s::New, $s::PartiallyFilled, $s::PendingCancel, $s::Filled]];
        yield 'D11 replace of a part filled order' => [[$s::PendingNew, $s::New, $s::PartiallyFilled, $s::PendingReplace, $s::PartiallyFilled, $s::Filled]];
        yield 'D13 filled while the replace is pending' => [[$s::PendingNew, $s::New, $s::PendingReplace, $s::Filled]];
    }

    /** @param list<OrderState> $path */
    #[DataProvider('paths')]
    public function testTheMatricesPathsAreAllowed(array $path): void
    {
        for ($i = 1; $i < count($path); $i++) {
            self::assertTrue($path[$i - 1]->canBecome($path[$i]), "{$path[$i - 1]->name} → {$path[$i]->name}");
        }
        self::assertTrue($path[count($path) - 1]->isFinal());
    }

    public function testNothingLeavesAFinalState(): void
    {
        foreach (OrderState::cases() as $from) {
            foreach (OrderState::cases() as $to) {
                self::assertFalse($from->isFinal() && $from->canBecome($to));
            }
        }
        self::assertFalse(OrderState::PartiallyFilled->canBecome(OrderState::New));
        self::assertFalse(OrderState::New->canBecome(OrderState::Rejected));
    }
}
