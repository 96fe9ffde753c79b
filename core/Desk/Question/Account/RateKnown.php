<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** A position in a currency without a rate could not be counted into the day's result, and so into no limit. */
final class RateKnown implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $rates = $proposal->account->rates;

        return ! $rates->knows($proposal->contract->currency) && $proposal->opens()
            ? Refusal::noRate($proposal->contract->code, $proposal->contract->currency->code, $rates->base->code)
            : null;
    }
}
