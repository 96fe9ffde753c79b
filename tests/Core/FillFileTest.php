<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidLine;
use Lotrik\Logbook\FillFile;
use Lotrik\Logbook\OutsideFill;
use Lotrik\Order\Side;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Fills from another program: known by code or outside symbol, and refused with the line that is wrong. */
final class FillFileTest extends TestCase
{
    private const HEAD = "time,contract,side,quantity,price\n";

    private static function file(): FillFile
    {
        return new FillFile([Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR","aliases":["DULSE-DEC26"]}')]);
    }

    public function testFillsAreReadInAnyOrderOfColumnsByCodeOrOutsideSymbol(): void
    {
        $fills = self::file()->read("\u{FEFF}price,time,side,contract,quantity\r\n412.50,2026-11-02T09:30:00.250Z,buy,DULZ6,2\r\n\"413.00\",2026-11-02T10:30:01+01:00,sell,DULSE-DEC26,1\r\n");
        self::assertSame(
            [[1_793_611_800_250, 'DULZ6', Side::Buy, 2, 825], [1_793_611_801_000, 'DULZ6', Side::Sell, 1, 826]],
            array_map(static fn(OutsideFill $f): array => [$f->at, $f->contract->code, $f->side, $f->quantity, $f->tick], $fills),
        );
    }

    public function testTheSameFillHasTheSameKeyInEveryFileAndTwoAlikeAreTwo(): void
    {
        $row = "2026-11-02T09:30:00.000Z,DULZ6,buy,1,412.50\n";
        $keys = static fn(string $csv): array => array_column(self::file()->read($csv), 'key');
        [$one, $two] = $keys(self::HEAD.$row.$row);
        self::assertNotSame($one, $two);
        [$first, , $third] = $keys(self::HEAD.$row."2026-11-02T09:29:00Z,DULZ6,sell,1,412.00\n".$row);
        self::assertSame([$one, $two], [$first, $third]);
        $named = static fn(string $id, string $price): string
            => self::file()->read("id,time,contract,side,quantity,price\n$id,2026-11-02T09:30:00Z,DULZ6,buy,1,$price\n")[0]->key;
        self::assertSame($named('A7', '412.50'), $named('A7', '412.00'), 'an id says itself which fill it is');
        self::assertNotSame($named('A7', '412.50'), $named('A8', '412.50'));
    }

    public function testACodeGoesBeforeWhatAnotherContractIsCalledElsewhere(): void
    {
        $one = Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR"}');
        $other = Contract::fromJson('{"code":"TIDZ6","tick_size":"0.05","tick_value":"8.40","currency":"EUR","aliases":["DULZ6","TIDE"]}');
        $fills = (new FillFile([$one, $other]))->read(self::HEAD."2026-11-02T09:30:00Z,DULZ6,buy,1,412.50\n2026-11-02T09:30:00Z,TIDE,buy,1,88.05\n");
        self::assertSame(['DULZ6', 'TIDZ6'], array_map(static fn(OutsideFill $f): string => $f->contract->code, $fills));
    }

    /** @return iterable<string, array{string, string}> */
    public static function bad(): iterable
    {
        yield 'no price' => [
            "time,contract,side,quantity\n",
            'fills line 1: found the header "time,contract,side,quantity", expected time,contract,side,quantity,price and optionally id',
        ];
        yield 'an unknown column' => [
            "time,contract,side,quantity,price,fee\n", 'fills line 1: found the header "time,contract,side,quantity,price,fee"',
        ];
        yield 'nothing at all' => ['', 'fills line 1: found the header ""'];
        yield 'a cell too many' => [
            self::HEAD."2026-11-02T09:30:00Z,DULZ6,buy,1,412.50,x\n", 'fills line 2: found 6 columns, expected 5 as in the header',
        ];
        yield 'no time' => [self::HEAD."yesterday,DULZ6,buy,1,412.50\n", 'fills line 2: found time "yesterday", expected an ISO 8601 time'];
        yield 'a contract that is not listed' => [
            self::HEAD."2026-11-02T09:30:00Z,ABCZ6,buy,1,412.50\n",
            'fills line 2: found contract "ABCZ6", expected a listed contract or one of its outside symbols',
        ];
        yield 'no side' => [
            self::HEAD."2026-11-02T09:30:00Z,DULZ6,long,1,412.50\n", 'fills line 2: found side "long", expected buy or sell',
        ];
        yield 'half a lot' => [
            self::HEAD."2026-11-02T09:30:00Z,DULZ6,buy,0.5,412.50\n",
            'fills line 2: found quantity "0.5", expected a whole number of lots from 1 to 999999999',
        ];
        yield 'between two ticks' => [self::HEAD."2026-11-02T09:30:00Z,DULZ6,buy,1,412.30\n", '412.00 and 412.50'];
    }

    #[DataProvider('bad')]
    public function testABadLineIsNamedWithWhatWouldBeRight(string $csv, string $says): void
    {
        try {
            self::file()->read($csv);
            self::fail('it was read');
        } catch (InvalidLine $fault) {
            self::assertStringContainsString($says, $fault->getMessage());
        }
    }

    public function testAFileOfTooManyFillsIsRefused(): void
    {
        $this->expectException(InvalidLine::class);
        $this->expectExceptionMessage('fills line 5002: found more than 5000 fills');
        self::file()->read(self::HEAD.str_repeat("2026-11-02T09:30:00Z,DULZ6,buy,1,412.50\n", FillFile::MAX_LINES + 1));
    }
}
