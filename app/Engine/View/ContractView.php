<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Contract\Contract;
use Lotrik\Document\Node;

/** A contract as it goes out: its document, and what a page needs to write its numbers. */
final class ContractView
{
    /** @return array<string, mixed> */
    public static function of(Contract $contract): array
    {
        return $contract->toArray() + self::more($contract);
    }

    /** @param array<string, mixed> $view as of() made it */
    public static function contract(array $view): Contract
    {
        return Contract::fromNode(Node::of(array_diff_key($view, array_flip(['price_scale', 'minor_unit', 'point_value']))));
    }

    /** @return array{price_scale: int, minor_unit: int, point_value: string} */
    private static function more(Contract $contract): array
    {
        return ['price_scale' => $contract->scale(), 'minor_unit' => $contract->currency->minorUnit, 'point_value' => $contract->pointValue()->exact()];
    }
}
