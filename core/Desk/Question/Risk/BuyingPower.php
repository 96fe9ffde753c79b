<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Desk\Account\Funds;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Desk\Quotes;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;
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

        return self::margin(
            $asked, $perLot->times($more)->display(), $left->display(), $proposal->account->rates->base->code,
            $left->wholeTimes($perLot, $more) + $asked - $more,
        );
    }

    /**
     * @param string $asked margin that it takes, in the account's currency
     * @param string $left  buying power
     * @param int    $fit   lots that would pass
     */
    private static function margin(int $lots, string $asked, string $left, string $currency, int $fit): Refusal
    {
        return new Refusal(
            RefusalCode::Margin,
            Refusal::lots($lots)." would take $asked $currency of margin, and the buying power is $left; "
                .($fit <= 0 ? 'even one lot is too much' : Refusal::lots($fit).' would be accepted'),
            '/quantity',
        );
    }
}
