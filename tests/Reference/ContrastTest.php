<?php

declare(strict_types=1);

namespace Tests\Reference;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * What is written can be read on whatever it stands on, by day and at night. Source: WCAG 2.2, relative luminance, contrast ratio,
 * and success criterion 1.4.3 (AA: 4.5 to 1 for text of the usual size).
 */
final class ContrastTest extends TestCase
{
    private const LEAST = 4.5;

    /** How much of a marked level's tone lies over the rows, as ui/Band.tsx has it. */
    private const WASH = 0.13;

    private const TONES = ['sand', 'moss', 'slate', 'clay'];

    /** Letters, and all that they stand on: the resting lots' bars under the figures of the depth lane take ink alone. */
    private const STANDS_ON = [
        'ink' => ['paper', 'raised', 'lane', 'lane-pointed', 'shade', 'field', 'depth', 'resting', 'wash'],
        'soft' => ['paper', 'raised', 'lane', 'shade', 'field'],
        'gain' => ['paper', 'raised', 'lane', 'shade', 'field', 'wash'],
        'loss' => ['paper', 'raised', 'lane', 'shade', 'field', 'wash'],
        'exit' => ['paper', 'raised', 'lane', 'lane-pointed', 'shade', 'field', 'wash'],
        'on-amber' => ['amber'],
        'raised' => ['ink', 'exit', 'stroke'],
    ];

    public function testTheFormulaIsThatOfTheStandard(): void
    {
        // 21 to 1 and 1 to 1 are the standard's own; #767676 on white as the lightest grey that passes is from memory.
        self::assertSame([21.0, 1.0], [round(self::contrast('#000000', '#ffffff'), 2), round(self::contrast('#ffffff', '#ffffff'), 2)]);
        self::assertSame([true, false], [self::contrast('#767676', '#ffffff') >= self::LEAST, self::contrast('#777777', '#ffffff') >= self::LEAST]);
    }

    /** @return iterable<string, array{string, string, string, string}> letters, their colour, ground, its colour */
    public static function pairs(): iterable
    {
        foreach (['by day', 'at night'] as $at => $when) {
            $colours = self::colours($at);
            foreach (self::STANDS_ON as $letters => $grounds) {
                foreach ($grounds as $ground) {
                    $on = $ground === 'wash'
                        ? array_combine(
                            array_map(static fn(string $tone): string => "a level of $tone", self::TONES),
                            array_map(static fn(string $tone): string => self::mixed($colours[$tone], $colours['paper']), self::TONES),
                        )
                        : [$ground => $colours[$ground]];
                    foreach ($on as $name => $colour) {
                        yield "$letters on $name $when" => [$letters, $colours[$letters], $name, $colour];
                    }
                }
            }
        }
    }

    #[DataProvider('pairs')]
    public function testLettersStandOutFromTheirGround(string $letters, string $colour, string $ground, string $on): void
    {
        self::assertGreaterThanOrEqual(self::LEAST, round(self::contrast($colour, $on), 2), "$letters $colour on $ground $on");
    }

    /** @param int $at 0 by day, 1 at night @return array<string, string> token → colour */
    private static function colours(int $at): array
    {
        $css = (string) file_get_contents(dirname(__DIR__, 2).'/resources/css/app.css');
        preg_match_all('/--color-([a-z-]+): (?:light-dark\((#[0-9a-f]{6}), (#[0-9a-f]{6})\)|(#[0-9a-f]{6}));/', $css, $found, PREG_SET_ORDER);
        $colours = [];
        foreach ($found as $one) {
            $colours[$one[1]] = $one[4] ?? [$one[2], $one[3]][$at];
        }

        return $colours;
    }

    private static function mixed(string $tone, string $ground): string
    {
        $parts = static fn(string $colour): array => array_map(hexdec(...), str_split(substr($colour, 1), 2));

        return vsprintf('#%02x%02x%02x', array_map(
            static fn(int|float $over, int|float $under): int => (int) round(self::WASH * $over + (1 - self::WASH) * $under),
            $parts($tone),
            $parts($ground),
        ));
    }

    private static function contrast(string $one, string $other): float
    {
        $luminance = static function (string $colour): float {
            $linear = array_map(static function (string $part): float {
                $share = hexdec($part) / 255;

                return $share <= 0.04045 ? $share / 12.92 : (($share + 0.055) / 1.055) ** 2.4;
            }, str_split(substr($colour, 1), 2));

            return 0.2126 * $linear[0] + 0.7152 * $linear[1] + 0.0722 * $linear[2];
        };
        [$a, $b] = [$luminance($one), $luminance($other)];

        return (max($a, $b) + 0.05) / (min($a, $b) + 0.05);
    }
}
