<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A contract that is being flattened takes no new entry. */
final class NotFlattening implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        return $proposal->holding->isClosingDown() && $proposal->opens()
            ? self::flattening($proposal->contract->code, 'entries are taken again once it is flat')
            : null;
    }

    public static function flattening(string $contract, string $remedy): Refusal
    {
        return new Refusal(RefusalCode::Flattening, "$contract is being flattened; $remedy");
    }
}
