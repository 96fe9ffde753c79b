<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A close needs a position on the other side. */
final class SomethingToClose implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        foreach ($proposal->orders as $ticket) {
            if ($ticket->role === Role::Close && $ticket->closes === 0) {
                return self::nothingToClose($ticket->request->side->value);
            }
        }

        return null;
    }

    private static function nothingToClose(string $side): Refusal
    {
        return new Refusal(
            RefusalCode::NothingToClose,
            "there is no position that $side would close; leave closing out to open one",
            '/closing',
        );
    }
}
