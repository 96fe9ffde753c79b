<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Contract\Contract;
use Lotrik\Risk\AtStops;

/** What positions lose at their stops, worked out once for the same fills and stops: asked for at each print of every contract. */
final class KnownAtStops
{
    /** @var \WeakMap<AccountPosition, array{string, AtStops}>|null */
    private static ?\WeakMap $known = null;

    public static function of(AccountPosition $holding, Contract $contract): AtStops
    {
        self::$known ??= new \WeakMap();
        $protected = $holding->coverage()->protected();
        $key = (string) $holding->position->fills;
        foreach ($protected as $part) {
            $key .= " $part->lots@$part->stop";
        }
        [$for, $known] = self::$known[$holding] ?? ['', null];
        if ($known === null || $for !== $key) {
            $known = AtStops::of($holding->position, $contract, $protected);
            self::$known[$holding] = [$key, $known];
        }

        return $known;
    }
}
