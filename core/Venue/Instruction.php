<?php

declare(strict_types=1);

namespace Lotrik\Venue;

/**
 * One thing that the desk tells a venue, in a form that can wait on a line and be saved with it.
 *
 * @phpstan-import-type PackedOrder from WorkingOrder
 */
final readonly class Instruction
{
    private const SUBMIT = 0;

    private const REPLACE = 1;

    private const CANCEL = 2;

    private const TIE = 3;

    private const UNTIE = 4;

    /** @param list<mixed> $packed kind, then what a venue's method of that name takes */
    private function __construct(private array $packed) {}

    public static function submit(WorkingOrder $order): self
    {
        return new self([self::SUBMIT, $order->pack()]);
    }

    /** See {@see Venue::replace()}. */
    public static function replace(int $id, int $lotsChange, ?int $price, ?int $trigger): self
    {
        return new self([self::REPLACE, $id, $lotsChange, $price, $trigger]);
    }

    public static function cancel(int $id, string $because): self
    {
        return new self([self::CANCEL, $id, $because]);
    }

    /** See {@see Venue::tie()}. */
    public static function tie(int $first, int $second, int $group, bool $oco): self
    {
        return new self([self::TIE, $first, $second, $group, $oco]);
    }

    public static function untie(int $first, int $second): self
    {
        return new self([self::UNTIE, $first, $second]);
    }

    /** The order that it is about; of a tie the first. */
    public function order(): int
    {
        /** @var array{int, int|array{int}} $packed */
        $packed = $this->packed;

        return is_array($packed[1]) ? $packed[1][0] : $packed[1];
    }

    public function carryOut(Venue $venue): void
    {
        $item = $this->packed;
        if ($item[0] === self::SUBMIT) {
            /** @var array{int, PackedOrder} $item */
            $venue->submit(WorkingOrder::unpack($item[1]));
        } elseif ($item[0] === self::REPLACE) {
            /** @var array{int, int, int, int|null, int|null} $item */
            $venue->replace($item[1], $item[2], $item[3], $item[4]);
        } elseif ($item[0] === self::TIE) {
            /** @var array{int, int, int, int, bool} $item */
            $venue->tie($item[1], $item[2], $item[3], $item[4]);
        } elseif ($item[0] === self::UNTIE) {
            /** @var array{int, int, int} $item */
            $venue->untie($item[1]);
            $venue->untie($item[2]);
        } else {
            /** @var array{int, int, string} $item */
            $venue->cancel($item[1], $item[2]);
        }
    }

    /** @return list<mixed> */
    public function pack(): array
    {
        return $this->packed;
    }

    /** @param list<mixed> $packed */
    public static function unpack(array $packed): self
    {
        return new self($packed);
    }
}
