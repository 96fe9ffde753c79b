<?php

declare(strict_types=1);

namespace App\Demo;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Contract\MonthCode;
use Lotrik\Document\Node;

/** The demo scenario: an invented venue, Kestrel Bay Futures, with invented contracts, plans and a practice account. */
final class KestrelBay
{
    private const HOURS = ['zone' => 'Europe/Lisbon', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30'];

    /** How near its last day a month may be and still be listed. */
    private const ROLL_DAYS = 5;

    /** root, name, months listed, delivery months, the rest of the document, opening price */
    private const PRODUCTS = [
        [
            'DUL', 'Dried dulse', 2, [3, 6, 9, 12],
            [
                'tick_size' => '0.50', 'tick_value' => '2.50', 'currency' => 'EUR', 'unit' => '5 t', 'display' => ['decimals' => 2],
                'fee_per_side' => '0.62', 'initial_margin' => '410.00', 'maintenance_margin' => '370.00', 'day_margin' => '205.00',
            ],
            '412.50',
        ],
        [
            'TID', 'Tidal power week', 1, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12],
            [
                'tick_size' => '0.05', 'tick_value' => '8.40', 'currency' => 'EUR', 'unit' => '168 MWh', 'display' => ['decimals' => 2],
                'fee_per_side' => '0.85', 'initial_margin' => '1180.00', 'maintenance_margin' => '1060.00', 'day_margin' => '590.00',
            ],
            '88.15',
        ],
        [
            'HBN', 'Ten-year harbour note', 1, [3, 6, 9, 12],
            [
                'tick_size' => '0.015625', 'tick_value' => '15.625', 'currency' => 'USD', 'unit' => '100,000 nominal',
                'display' => ['fraction' => 32, 'parts' => 2], 'fee_per_side' => '0.90', 'initial_margin' => '1900.00',
                'maintenance_margin' => '1725.00', 'day_margin' => '950.00',
            ],
            '111.546875',
        ],
        [
            'FRX', 'Bulk freight index', 2, [3, 6, 9, 12],
            [
                'tick_size' => '0.5', 'tick_value' => '12.50', 'currency' => 'USD', 'unit' => '25 × index', 'display' => ['decimals' => 1],
                'fee_per_side' => '1.10', 'initial_margin' => '5200.00', 'maintenance_margin' => '4700.00', 'day_margin' => '1300.00',
            ],
            '1874.5',
        ],
        [
            'MFX', 'Micro bulk freight index', 1, [3, 6, 9, 12],
            [
                'tick_size' => '0.5', 'tick_value' => '1.25', 'currency' => 'USD', 'unit' => '2.5 × index', 'display' => ['decimals' => 1],
                'fee_per_side' => '0.25', 'initial_margin' => '520.00', 'maintenance_margin' => '470.00', 'day_margin' => '130.00',
            ],
            '1874.5',
        ],
        [
            'HNY', 'Heather honey', 1, [3, 5, 7, 9, 12],
            [
                'tick_size' => '0.005', 'tick_value' => '5.00', 'currency' => 'GBP', 'unit' => '1,000 kg', 'display' => ['decimals' => 3],
                'fee_per_side' => '0.75', 'initial_margin' => '640.00', 'maintenance_margin' => '580.00', 'day_margin' => '320.00',
            ],
            '7.415',
        ],
        [
            'YUZ', 'Yuzu concentrate', 1, [1, 3, 5, 7, 9, 11],
            [
                'tick_size' => '1', 'tick_value' => '500', 'currency' => 'JPY', 'unit' => '500 kg', 'display' => ['decimals' => 0],
                'fee_per_side' => '90', 'initial_margin' => '82000', 'maintenance_margin' => '74000', 'day_margin' => '41000',
            ],
            '2140',
        ],
    ];

    /** Its invented holidays and early closes. */
    public static function calendar(): Calendar
    {
        return Calendar::fromNode(Node::parse((string) file_get_contents(dirname(__DIR__, 2).'/resources/demo/calendar.json')));
    }

    /**
     * The contracts listed on the day of the first run. They trade all days round the clock, unless they are to keep
     * the venue's hours.
     *
     * @return list<array{Contract, int}> contract and its opening price in ticks
     */
    public static function contracts(\DateTimeImmutable $firstRun, bool $hours = false): array
    {
        $listed = [];
        foreach (self::PRODUCTS as [$root, $name, $months, $cycle, $fields, $opening]) {
            foreach (self::months($firstRun, $cycle, $months) as $i => $lastDay) {
                $code = $root.MonthCode::ofMonth((int) $lastDay->format('n'))->value.substr($lastDay->format('Y'), -1);
                $contract = Contract::fromNode(Node::of([
                    'format' => Contract::FORMAT, 'code' => $code, 'name' => $name.', '.$lastDay->format('F Y'), 'price_limit_ticks' => 400,
                    'last_day' => $lastDay->format('Y-m-d'), 'aliases' => [strtoupper(strtok($name, ' ').'-'.$lastDay->format('My'))],
                ] + $fields + ($hours ? ['session' => self::HOURS] : [])));
                $listed[] = [$contract, $contract->ticks($opening) + 9 * $i];
            }
        }

        return $listed;
    }

    /** @return array<string, mixed> the practice account; the rates are invented */
    public static function account(int $owner, string $name = 'Practice 1'): array
    {
        return [
            'owner' => $owner, 'name' => $name, 'currency' => 'EUR', 'balance' => '25000.00',
            'rates' => ['USD' => '0.92', 'GBP' => '1.17', 'JPY' => '0.0061'],
            'order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00',
        ];
    }

    /** @return list<array<string, mixed>> four exit plans of different kinds */
    public static function plans(): array
    {
        return [
            ['format' => 'lotrik.exit-plan/1', 'name' => 'Short tide', 'stop' => ['ticks' => 7],
                'portions' => [['lots' => 1, 'target' => ['ticks' => 9]], ['rest' => true, 'target' => null]],
                'ratchets' => [['at' => 5, 'lock' => 0], ['at' => 7, 'lock' => 2], ['at' => 11, 'trail' => 6, 'by' => 2]]],
            ['format' => 'lotrik.exit-plan/1', 'name' => 'Two halves', 'stop' => ['ticks' => 10],
                'portions' => [['lots' => 1, 'target' => ['ticks' => 8]], ['rest' => true, 'target' => ['ticks' => 16]]],
                'ratchets' => [['at' => 8, 'lock' => 'fees'], ['at' => 12, 'lock' => 5]]],
            ['format' => 'lotrik.exit-plan/1', 'name' => 'Wide berth', 'stop' => ['money' => '60.00'],
                'portions' => [['rest' => true, 'target' => ['money' => '120.00']]]],
            ['format' => 'lotrik.exit-plan/1', 'name' => 'Runner', 'stop' => ['ticks' => 12],
                'portions' => [['rest' => true, 'target' => null]],
                'ratchets' => [['at' => 8, 'lock' => 0], ['at' => 12, 'trail' => 9, 'by' => 1]]],
        ];
    }

    /**
     * @param list<int> $cycle delivery months
     *
     * @return list<\DateTimeImmutable> last trading days
     */
    private static function months(\DateTimeImmutable $from, array $cycle, int $count): array
    {
        $days = [];
        for ($month = $from->modify('first day of this month'); count($days) < $count; $month = $month->modify('+1 month')) {
            $lastDay = $month->setDate((int) $month->format('Y'), (int) $month->format('n'), 16)->setTime(0, 0);
            if (in_array((int) $month->format('n'), $cycle, true) && $lastDay > $from->modify('+'.self::ROLL_DAYS.' days')) {
                $days[] = $lastDay;
            }
        }

        return $days;
    }
}
