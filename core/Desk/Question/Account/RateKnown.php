<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A position in a currency without a rate could not be counted into the day's result, and so into no limit. */
final class RateKnown implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $rates = $proposal->account->rates;

        return ! $rates->knows($proposal->contract->currency) && $proposal->opens()
            ? self::noRate($proposal->contract->code, $proposal->contract->currency->code, $rates->base->code)
            : null;
    }

    public static function noRate(string $contract, string $currency, string $base): Refusal
    {
        return new Refusal(
            RefusalCode::NoRate,
            "$contract is in $currency, and this account has no rate from it to $base; a rate must be set before anything is entered there",
        );
    }
}
