<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Contract\PriceOffGrid;
use Lotrik\Document\InvalidDocument;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

final class ContractTest extends TestCase
{
    private static function note(): Contract
    {
        return Contract::fromJson('{"code":"HBNZ6","tick_size":"0.015625","tick_value":"15.625","currency":"USD","display":{"fraction":32,"parts":2}}');
    }

    public function testPricesAreWholeTicksInside(): void
    {
        self::assertSame(825, TestSystem::contract()->ticks('412.50'));
        self::assertSame(825, TestSystem::contract()->ticks('412.5'));
        self::assertSame('412.50', TestSystem::contract()->price(825));
        self::assertSame('-0.50', TestSystem::contract()->price(-1));
        self::assertSame('111.546875', self::note()->price(7139));
    }

    public function testAPriceOffTheGridNamesItsNeighbours(): void
    {
        try {
            TestSystem::contract()->ticks('412.30');
            self::fail('taken');
        } catch (PriceOffGrid $e) {
            self::assertStringContainsString('412.00 and 412.50', $e->getMessage());
            self::assertSame('a price on the tick grid of 0.50, the nearest being 412.00 and 412.50', $e->expected);
        }
    }

    public function testNegativePricesOffTheGridNameTheirNeighboursToo(): void
    {
        $this->expectExceptionMessage('-1.00 and -0.50');
        TestSystem::contract()->ticks('-0.70');
    }

    /** @return iterable<array{string, string}> */
    public static function thirtySeconds(): iterable
    {
        yield ['111.546875', '111-17½'];
        yield ['111', '111-00'];
        yield ['0.015625', '0-00½'];
        yield ['110.96875', '110-31'];
    }

    #[DataProvider('thirtySeconds')]
    public function testDisplayInThirtySeconds(string $price, string $shown): void
    {
        self::assertSame($shown, self::note()->write(self::note()->ticks($price)));
    }

    public function testAnAverageBetweenRungsIsWrittenAsTheContractIsRead(): void
    {
        $average = static fn(
            Contract $contract,
            int $ticks,
            int $of,
        ): string => $contract->writeAverage(BigRational::of($ticks)->dividedBy($of));
        $decimals = Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR"}');
        self::assertSame(['412.50', '412.75'], [$average($decimals, 825, 1), $average($decimals, 1651, 2)]);
        // 111-17½ is 7,139 ticks of 1/64; 2 ticks make a 32nd.
        self::assertSame(['111-17½', '111-17½', '111-17.75', '111-17.67', '112-00.00', '-0-00.17'], [
            $average(self::note(), 7139, 1), $average(self::note(), 14278, 2), $average(self::note(), 14279, 2),
            $average(self::note(), 21418, 3), $average(self::note(), 7_167_999, 1000), $average(self::note(), -1, 3),
        ]);
    }

    public function testMoneyIsExactAndPaddedToTheMinorUnit(): void
    {
        self::assertSame('328.125', self::note()->money(21)->exact());
        self::assertSame('15.625', self::note()->money(1)->exact());
        self::assertSame('15.63', self::note()->money(1)->display());
        self::assertSame('160.00', TestSystem::contract()->money(64)->exact());
        self::assertSame('500', Money::of('500.00', Currency::of('JPY'))->exact());
        self::assertSame('1000.00', self::note()->pointValue()->exact());
    }

    public function testTheFewestTicksThatCoverTheFees(): void
    {
        self::assertSame(1, TestSystem::contract()->ticksForFees());
        self::assertSame(
            3,
            Contract::fromJson('{"code":"AZ6","tick_size":"1","tick_value":"1.00","currency":"EUR","fee_per_side":"1.01"}')->ticksForFees(),
        );
        self::assertSame(0, self::note()->ticksForFees());
    }

    public function testTotalsGoThroughTheRateTable(): void
    {
        $table = RateTable::of(Currency::of('EUR'), ['USD' => '0.92']);
        self::assertSame('14.375', $table->toBase(Money::of('15.625', Currency::of('USD')))->exact());
        self::assertSame('100.00', $table->fromBase(Money::of('92.00', Currency::of('EUR')), Currency::of('USD'))->exact());
        $this->expectExceptionMessage('no rate from JPY');
        $table->toBase(Money::of('1', Currency::of('JPY')));
    }

    /** @return iterable<array{string, string, string}> */
    public static function badDocuments(): iterable
    {
        yield ['{"code":"DULZ6","tick_size":0.5,"tick_value":"2.50","currency":"EUR"}', '/tick_size', 'fraction'];
        yield ['{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"XXZ"}', '/currency', 'ISO 4217'];
        yield ['{"code":"dul","tick_size":"0.50","tick_value":"2.50","currency":"EUR"}', '/code', 'month code'];
        yield ['{"code":"DULZ6","tick_size":"0.50","tick_value":"-1","currency":"EUR"}', '/tick_value', 'positive'];
        yield ['{"code":"DULZ6","tick_size":"0.50","tick_value":"1","currency":"EUR","colour":"red"}', '/colour', 'unknown field'];
        yield [
            '{"code":"DULZ6","tick_size":"0.50","tick_value":"1","currency":"EUR","session":{"zone":"Moon/Base","days":[1],"open":"08:00","close":"18:00"}}',
            '/session/zone',
            'IANA',
        ];
        yield ['[1]', '', 'an object'];
        yield ['{', '', 'JSON'];
    }

    #[DataProvider('badDocuments')]
    public function testABadDocumentNamesThePlaceWhatWasFoundAndWhatIsExpected(string $json, string $pointer, string $says): void
    {
        try {
            Contract::fromJson($json);
            self::fail('taken');
        } catch (InvalidDocument $fault) {
            self::assertSame($pointer, $fault->pointer);
            self::assertStringContainsString($says, $fault->getMessage());
        }
    }

    public function testADocumentComesBackAsItWas(): void
    {
        $json = '{"format":"lotrik.contract/1","code":"DULZ6","name":"Dried dulse","tick_size":"0.50","tick_value":"2.50","currency":"EUR","unit":"5 t","display":{"decimals":2},"fee_per_side":"0.62","initial_margin":"410.00","maintenance_margin":"370.00","day_margin":"205.00","price_limit_ticks":400,"last_day":"2026-12-16","session":{"zone":"Europe/Lisbon","days":[1,2,3,4,5],"open":"08:00","close":"18:30"},"aliases":["DULSE-DEC26"]}';
        self::assertSame($json, json_encode(Contract::fromJson($json)->toArray(), JSON_UNESCAPED_SLASHES));
    }
}
