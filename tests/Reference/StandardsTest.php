<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Contract\MonthCode;
use Lotrik\Money\Currency;
use Lotrik\Order\OrderState;
use Lotrik\Venue\ExecType;
use PHPUnit\Framework\TestCase;

/** Codes and names against the published lists, as packages of the npm registry carry them. */
final class StandardsTest extends TestCase
{
    /** @return array<array-key, string|int> what an oracle prints */
    private static function oracle(string ...$words): array
    {
        exec(
            'node '.implode(' ', array_map(escapeshellarg(...), [__DIR__.'/oracles/'.$words[0], ...array_slice($words, 1)])).' 2>&1',
            $lines,
            $status,
        );
        self::assertSame(0, $status, implode("\n", array_slice($lines, 0, 5)));

        return (array) json_decode($lines[0], true, 8, JSON_THROW_ON_ERROR);
    }

    /** ISO 4217, list one: minor units. Source: the list in the npm package currency-codes. */
    public function testMinorUnits(): void
    {
        $agree = 0;
        foreach (self::oracle('currencies.mjs') as $code => $digits) {
            try {
                self::assertSame($digits, Currency::of((string) $code)->minorUnit, (string) $code);
                $agree++;
            } catch (\DomainException) {
                // Funds codes, metals and the like are no account currencies.
                self::assertMatchesRegularExpression(
                    '/^X|^(BOV|CHE|CHW|COU|CUC|MXV|SVC|USN|UYI|VED|ZWG|CLF|UYW)$/',
                    (string) $code,
                    'a currency that is not known here',
                );
            }
        }
        self::assertGreaterThan(150, $agree);
        $this->expectExceptionMessage('ISO 4217');
        Currency::of('ABC');
    }

    /** FIX 4.4, field OrdStatus (39). Source: the dictionary in the npm package jspurefix. */
    public function testOrderStatusCodes(): void
    {
        $published = self::oracle('fix-values.mjs', 'FIX44', '39');
        foreach (OrderState::cases() as $state) {
            $name = strtoupper((string) preg_replace('/(?<!^)[A-Z]/', '_$0', $state->name));
            self::assertSame(str_replace('CANCELLED', 'CANCELED', $name), $published[$state->fix()] ?? null, $state->name);
        }
    }

    /** FIX 5.0 SP2, field ExecType (150). Source: as above. */
    public function testExecutionReportsAreNamedAsThere(): void
    {
        $names = array_map(
            static fn(string|int $name): string => strtolower((string) $name),
            self::oracle('fix-values.mjs', 'FIX50SP2', '150'),
        );
        $ours = array_diff(
            array_map(static fn(ExecType $type): string => $type->value, ExecType::cases()),
            ['triggered', 'replace-refused', 'cancelled'],
        );
        self::assertSame([], array_diff($ours, $names));
        self::assertContains('canceled', $names);
        self::assertContains('triggered_or_activated_by_system', $names);
    }

    /** FIX 5.0 SP2, field ContingencyType (1385). Source: as above. */
    public function testContingencyTypes(): void
    {
        $published = self::oracle('fix-values.mjs', 'FIX50SP2', '1385');
        self::assertSame(
            ['ONE_CANCELS_THE_OTHER', 'ONE_TRIGGERS_THE_OTHER', 'ONE_UPDATES_THE_OTHER_ABSOLUTE'],
            [$published[1], $published[2], $published[3]],
        );
    }

    /** Month codes: common practice of the trade, no source. What can be checked: twelve letters that rise with the months and are read back. */
    public function testMonthCodes(): void
    {
        $letters = array_map(static fn(int $month): string => MonthCode::ofMonth($month)->value, range(1, 12));
        self::assertSame('FGHJKMNQUVXZ', implode('', $letters));
        $sorted = $letters;
        sort($sorted);
        self::assertSame($sorted, $letters);
        foreach ($letters as $i => $letter) {
            self::assertSame(MonthCode::ofMonth($i + 1), MonthCode::from($letter));
        }
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
