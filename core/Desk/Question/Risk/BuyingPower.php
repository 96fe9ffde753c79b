<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Desk\Account\Funds;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Desk\Quotes;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\Margin;

/** The margin of all that may come to be open fits into what the account has. */
final class BuyingPower implements Rule
{
    private readonly Funds $funds;

    public function __construct(DeskState $state, Quotes $quotes)
    {
        $this->funds = new Funds($state, $quotes);
    }

    public function refuse(Proposal $proposal): ?Refusal
    {
        $more = $proposal->after->reach()->most() - $proposal->before->reach()->most();
        $perLot = Margin::perLot($proposal->contract, $proposal->at);
        if ($more <= 0 || ! $perLot->isPositive() || ! $proposal->account->rates->knows($proposal->contract->currency)) {
            return null;
        }
        $perLot = $proposal->account->rates->toBase($perLot);
        $left = $this->funds->of($proposal->account, $proposal->at, $proposal->holding)->left;
        if ($perLot->times($more)->compareTo($left) <= 0) {
            return null;
        }
        // Of what is asked a part may need none: it closes first, or the other side needs as much already.
        $asked = $more;
        foreach ($proposal->entries() as $ticket) {
            $asked = max($asked, $ticket->quantity);
        }

        return Refusal::margin(
            $asked, $perLot->times($more)->display(), $left->display(), $proposal->account->rates->base->code,
            $left->wholeTimes($perLot, $more) + $asked - $more,
        );
    }
}
