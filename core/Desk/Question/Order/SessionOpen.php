<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Outside its session a contract takes no order but one that is held until a time or a condition comes. */
final class SessionOpen implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $hours = $proposal->contract->session->at($proposal->at);
        foreach ($hours->open ? [] : $proposal->orders as $ticket) {
            if ($ticket->request->releaseWhen === null) {
                return self::marketClosed(
                    $proposal->contract->code, $hours->words($proposal->at), 'set "Release at" to queue an order for the open',
                );
            }
        }

        return null;
    }

    /**
     * @param string $hours  when it opens, in words
     * @param string $remedy what can be done until then
     */
    public static function marketClosed(string $contract, string $hours, string $remedy, ?string $pointer = null): Refusal
    {
        return new Refusal(RefusalCode::MarketClosed, "$contract is $hours; $remedy", $pointer);
    }
}
