<?php

declare(strict_types=1);

namespace Lotrik\Contract;

use Brick\Math\BigDecimal;
use Brick\Math\BigRational;
use Brick\Math\RoundingMode;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;

/** How a price is written on the screen: in decimals, or in 32nds with halves or quarters of a 32nd (`111-17½`). */
final readonly class PriceDisplay
{
    private const PARTS = ['', '¼', '½', '¾'];

    /** @param int $parts 0 for decimals; else into how many parts a 32nd is divided (1, 2 or 4) */
    private function __construct(public int $decimals, public int $parts) {}

    public static function decimals(int $decimals): self
    {
        return new self($decimals, 0);
    }

    public static function thirtySeconds(int $parts): self
    {
        return new self(0, $parts);
    }

    /** @throws InvalidDocument */
    public static function fromNode(Node $node): self
    {
        if ($node->has('fraction')) {
            $node->int('fraction', 32, 32);
            $parts = $node->int('parts', 1, 4);
            if ($parts === 3) {
                throw $node->fault('parts', '1, 2 or 4');
            }
            $display = self::thirtySeconds($parts);
        } else {
            $display = self::decimals($node->int('decimals', 0, 9));
        }
        $node->done();

        return $display;
    }

    /** @return array{decimals: int}|array{fraction: int, parts: int} */
    public function toArray(): array
    {
        return $this->parts === 0 ? ['decimals' => $this->decimals] : ['fraction' => 32, 'parts' => $this->parts];
    }

    /** A price between two rungs in 32nds with two decimals of a 32nd (`111-17.35`), rounded half up. */
    public static function writeIn32nds(BigRational $price): string
    {
        $units = $price->abs()->multipliedBy(3_200)->toScale(0, RoundingMode::HALF_UP)->toInt();

        return sprintf('%s%d-%02d.%02d', $price->isNegative() ? '-' : '', intdiv($units, 3_200), intdiv($units % 3_200, 100), $units % 100);
    }

    public function write(BigDecimal $price): string
    {
        if ($this->parts === 0) {
            return (string) $price->toScale(max($this->decimals, $price->stripTrailingZeros()->getScale()));
        }
        $sign = $price->isNegative() ? '-' : '';
        $units = $price->abs()->multipliedBy(128)->toScale(0, RoundingMode::HALF_UP)->toInt();
        $whole = intdiv($units, 128);
        $rest = $units % 128;

        return sprintf('%s%d-%02d%s', $sign, $whole, intdiv($rest, 4), self::PARTS[$rest % 4]);
    }
}
