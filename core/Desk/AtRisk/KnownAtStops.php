<?php

declare(strict_types=1);

namespace Lotrik\Desk\AtRisk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Risk\AtStops;

/** What positions lose at their stops, worked out once for the same contract, fills and stops: asked for at each print of every contract. */
final class KnownAtStops
{
    /** @var \WeakMap<AccountPosition, array{string, Contract, AtStops}> */
    private \WeakMap $known;

    public function __construct()
    {
        $this->known = new \WeakMap();
    }

    public function of(AccountPosition $holding, Contract $contract): AtStops
    {
        $protected = $holding->coverage()->protected();
        $key = (string) $holding->position->fills;
        foreach ($protected as $part) {
            $key .= " $part->lots@$part->stop";
        }
        [$for, $in, $known] = $this->known[$holding] ?? ['', null, null];
        if ($known === null || $for !== $key || $in !== $contract) {
            $known = AtStops::of($holding->position, $contract, $protected);
            $this->known[$holding] = [$key, $contract, $known];
        }

        return $known;
    }
}
