<?php

declare(strict_types=1);

namespace Lotrik\Refusal;

use Lotrik\Document\InvalidDocument;
use Lotrik\ExitPlan\InvalidPlan;

/**
 * A command that is not taken: a code for programs, words that say what would be right, the field. The words are written
 * here, in a factory for each case; those of what only a user's own things or HTTP refuse are in the web.
 */
final class Refusal extends \DomainException
{
    /** @param array<string, mixed> $facts further members of the problem, such as the lots that would be unprotected */
    public function __construct(
        public readonly RefusalCode $problem,
        string $words,
        public readonly ?string $pointer = null,
        public readonly array $facts = [],
    ) {
        parent::__construct($words);
    }

    /** @return array{code: string, detail: string, pointer: string|null} */
    public function toArray(): array
    {
        return ['code' => $this->problem->value, 'detail' => $this->getMessage(), 'pointer' => $this->pointer] + $this->facts;
    }

    /** @param array<string, mixed> $problem as toArray() wrote it */
    public static function fromArray(array $problem): self
    {
        $facts = array_diff_key($problem, ['code' => 1, 'detail' => 1, 'pointer' => 1]);
        [$code, $words, $pointer] = [$problem['code'] ?? null, $problem['detail'] ?? null, $problem['pointer'] ?? null];

        return new self(
            RefusalCode::tryFrom(is_string($code) ? $code : '') ?? RefusalCode::Fault,
            is_string($words) ? $words : '',
            is_string($pointer) ? $pointer : null,
            $facts,
        );
    }

    /** @param string $field a field or query parameter of the request itself */
    public static function invalid(string $field, mixed $found, string $expected): self
    {
        return new self(RefusalCode::Invalid, "$field: found ".InvalidDocument::show($found).", expected $expected", "/$field");
    }

    public static function unreadable(InvalidDocument $fault): self
    {
        return new self(RefusalCode::Invalid, $fault->getMessage(), $fault->pointer);
    }

    public static function priceOffGrid(\DomainException $fault, string $pointer): self
    {
        return new self(RefusalCode::PriceOffGrid, $fault->getMessage(), $pointer);
    }

    public static function planDoesNotFit(\DomainException $fault, ?string $pointer): self
    {
        $waits = $fault instanceof InvalidPlan && $fault->waits;

        return new self(RefusalCode::PlanDoesNotFit, $fault->getMessage(), $pointer, $waits ? ['waits' => true] : []);
    }

    public static function planWouldNotFit(string $plan, \DomainException $fault, string $pointer): self
    {
        return new self(RefusalCode::PlanDoesNotFit, "$plan would not work with that: {$fault->getMessage()}", $pointer);
    }

    public static function unknownAccount(int|string $account): self
    {
        return new self(RefusalCode::UnknownAccount, "there is no account $account of yours; GET /api/accounts lists yours");
    }

    public static function unknownContract(string $code, string $pointer): self
    {
        return new self(RefusalCode::UnknownContract, "no contract $code is listed; GET /api/contracts lists them", $pointer);
    }

    public static function orderNotFound(int|string $id): self
    {
        return new self(RefusalCode::NotFound, "there is no order $id in your accounts; GET /api/orders lists them");
    }

    public static function entryNotFound(string $contract, int $id): self
    {
        return new self(RefusalCode::NotFound, "the position in $contract has no entry $id", '/entry');
    }

    public static function clientIdReused(string $clientId): self
    {
        return new self(
            RefusalCode::ClientIdReused,
            "client_id \"$clientId\" was used for another command; use a new one for each command",
            '/client_id',
        );
    }

    public static function recalled(string $clientId): self
    {
        return new self(
            RefusalCode::ClientIdReused,
            "the command with client_id \"$clientId\" arrived after it had been abandoned; nothing was done, send it anew if it is "
                .'still wanted',
            '/client_id',
        );
    }

    public static function clientIdForgotten(string $clientId): self
    {
        return new self(
            RefusalCode::ClientIdForgotten,
            "client_id \"$clientId\" was used for a command so long ago that its answer is not at hand any more; nothing was done now, "
                .'the journal has what came of it. '
            .'Use a new one for a new command',
            '/client_id',
        );
    }

    public static function orderLimit(int $lots, int $limit): self
    {
        return new self(RefusalCode::OrderLimit, "$lots lots are over the order limit of $limit; at most $limit in one order", '/quantity');
    }

    /**
     * @param int $lots    that are asked for
     * @param int $open    on that side
     * @param int $working entries on that side
     */
    public static function positionLimit(int $lots, int $open, int $working, int $limit): self
    {
        $left = max(0, $limit - $open - $working);

        return new self(
            RefusalCode::PositionLimit,
            self::lots($lots)." asked, $left left of the position limit of $limit: $open open, $working working",
            '/quantity',
        );
    }

    /** @param int $asked orders; `$working` entries work in the contract already */
    public static function workingOrders(int $asked, int $working, int $limit, string $contract): self
    {
        return new self(
            RefusalCode::WorkingOrders,
            "$asked more would make ".($asked + $working)." entries working in $contract, over the limit of $limit; "
                .max(0, $limit - $working).' more can be sent now',
        );
    }

    /** @param int $until ms since 1970 UTC */
    public static function entriesStopped(string $because, int $until): self
    {
        $time = gmdate('Y-m-d H:i:s', intdiv($until, 1000));

        return new self(RefusalCode::EntriesStopped, "$because: no new entries until $time UTC; reduce-only orders are accepted");
    }

    /**
     * @param int      $asked entries that are to be sent now
     * @param int|null $again when they can be sent, ms since 1970 UTC; null where they are more than a minute ever allows
     */
    public static function tooManyEntries(int $sent, int $asked, int $limit, ?int $again): self
    {
        $remedy = $again === null
            ? 'send fewer at once'
            : 'the next '.($asked === 1 ? 'one' : $asked).' at '.gmdate('H:i:s', intdiv($again + 999, 1000)).' UTC';

        return new self(
            RefusalCode::TooManyEntries,
            "$sent entries were sent in the last minute, ".($asked === 1 ? '1 more is' : "$asked more are")." asked, and the limit is $limit; $remedy",
        );
    }

    /**
     * A market order, looked at through what rests now.
     *
     * @param string $reaches the last price that it would reach
     * @param int    $fit     lots that stay within the band
     * @param string $most    the limit that would
     */
    public static function marketBand(int $lots, string $reaches, int $worse, int $band, string $market, int $fit, string $most): self
    {
        return new self(
            RefusalCode::PriceBand,
            self::lots($lots)." would reach $reaches, $worse ticks worse than the market's $market, and the price band is $band ticks; "
                .($fit > 0 ? self::lots($fit).', or ' : '')."a limit at $most, would be accepted",
            '/quantity',
        );
    }

    public static function priceBand(string $price, int $worse, int $band, string $market, string $most, string $pointer): self
    {
        return new self(
            RefusalCode::PriceBand,
            "$price could fill $worse ticks worse than the market's $market, and the price band is $band ticks; $most would be accepted",
            $pointer,
        );
    }

    /** @param string $what such as "an entry needs an exit plan with a stop" */
    public static function stopRequired(string $what, ?string $pointer = null): self
    {
        return new self(RefusalCode::StopRequired, "by your limits every lot must have a stop: $what", $pointer);
    }

    /** @param string $most with its currency */
    public static function tradeRiskUnlimited(string $most, ?string $pointer): self
    {
        return new self(
            RefusalCode::TradeRisk,
            "without a stop for every lot its risk has no limit, and a trade may risk $most; "
                .($pointer === null ? 'move the stop closer, or flatten' : 'an exit plan with a stop would be accepted'),
            $pointer,
        );
    }

    /** @param string $most with its currency */
    public static function tradeRiskOfStops(string $risk, string $most): self
    {
        return new self(
            RefusalCode::TradeRisk,
            "the trade would risk $risk with fees at its stops, and a trade may risk $most; use a closer stop", '/exit_plan',
        );
    }

    /**
     * @param string $risk with fees, of the whole trade
     * @param string $most with its currency
     * @param int    $lots that are asked for
     * @param int    $fit  lots of them that would be accepted
     * @param int    $with lots that are in the same trade already
     */
    public static function tradeRisk(string $risk, string $most, int $lots, int $fit, int $with = 0): self
    {
        return new self(
            RefusalCode::TradeRisk,
            self::lots($lots).($with > 0 ? " more than the $with in the same trade" : '')." risk $risk with fees, and a trade may risk $most; "
                .($fit === 0 ? 'even one lot is too much; use a closer stop' : self::lots($fit).' would be accepted'),
            '/quantity',
        );
    }

    /**
     * @param string      $risk     with fees, in the account's currency
     * @param string      $most     with its currency
     * @param string|null $farthest price as far as the stop may go; null where it may not go farther at all
     */
    public static function widerStop(string $risk, string $most, ?string $farthest, string $pointer): self
    {
        return new self(
            RefusalCode::TradeRisk,
            "its entry would risk $risk with fees, and a trade may risk $most; "
                .($farthest === null ? 'it cannot be moved further away' : "$farthest would be accepted"),
            $pointer,
        );
    }

    /**
     * @param string $asked margin that it takes, in the account's currency
     * @param string $left  buying power
     * @param int    $fit   lots that would pass
     */
    public static function margin(int $lots, string $asked, string $left, string $currency, int $fit): self
    {
        return new self(
            RefusalCode::Margin,
            self::lots($lots)." would take $asked $currency of margin, and the buying power is $left; "
                .($fit <= 0 ? 'even one lot is too much' : self::lots($fit).' would be accepted'),
            '/quantity',
        );
    }

    private static function lots(int $lots): string
    {
        return "$lots lot".($lots === 1 ? '' : 's');
    }

    public static function noRate(string $contract, string $currency, string $base): self
    {
        return new self(
            RefusalCode::NoRate,
            "$contract is in $currency, and this account has no rate from it to $base; a rate must be set before anything is entered there",
        );
    }

    public static function accountClosed(string $name): self
    {
        return new self(
            RefusalCode::AccountClosed, "$name is closed: it can be read, and nothing is entered on it; choose another account",
        );
    }

    /** @param string $left such as "DULZ6 2 lots open and 3 orders working" */
    public static function accountInUse(string $name, string $left): self
    {
        return new self(RefusalCode::AccountInUse, "$name is not flat: $left; flatten it first, and cancel what works");
    }

    public static function accountNameTaken(string $name): self
    {
        return new self(RefusalCode::AccountNameTaken, "there is an open account \"$name\" already; give this one another name", '/name');
    }

    public static function tooManyAccounts(int $most): self
    {
        return new self(RefusalCode::TooManyAccounts, "a user has at most $most accounts, with those that are closed");
    }

    /**
     * @param int    $until ms since 1970 UTC
     * @param string $limit that was reached
     */
    public static function barred(int $until, string $limit): self
    {
        $time = gmdate('Y-m-d H:i', intdiv($until, 1000));

        return new self(
            RefusalCode::Barred,
            "$limit was reached: no new entries until $time UTC; reduce-only orders are accepted",
        );
    }

    /**
     * @param int    $until ms since 1970 UTC
     * @param string $limit that was reached
     */
    public static function barredUntilReset(string $name, int $until, string $limit): self
    {
        $time = gmdate('Y-m-d H:i', intdiv($until, 1000));

        return new self(RefusalCode::Barred, "$limit of $name was reached: it can be reset from $time UTC on, with its next trading day");
    }

    /**
     * @param string $hours  when it opens, in words
     * @param string $remedy what can be done until then
     */
    public static function marketClosed(string $contract, string $hours, string $remedy, ?string $pointer = null): self
    {
        return new self(RefusalCode::MarketClosed, "$contract is $hours; $remedy", $pointer);
    }

    public static function beyondPriceLimit(string $price, string $contract, string $low, string $high, string $pointer): self
    {
        return new self(
            RefusalCode::BeyondPriceLimit,
            "$price is beyond the price limits of the day: $contract trades from $low to $high until the next settlement",
            $pointer,
        );
    }

    public static function flat(string $contract, string $remedy): self
    {
        return new self(RefusalCode::Flat, "$contract is flat; $remedy");
    }

    public static function flattening(string $contract, string $remedy): self
    {
        return new self(RefusalCode::Flattening, "$contract is being flattened; $remedy");
    }

    public static function closing(int $order, int $entry): self
    {
        return new self(RefusalCode::Closing, "order $order closes lots of entry $entry already");
    }

    public static function nothingToClose(string $side): self
    {
        return new self(
            RefusalCode::NothingToClose,
            "there is no position that $side would close; leave closing out to open one",
            '/closing',
        );
    }

    /** @param string $portions such as "portion 2"; empty where all of the entry is meant */
    public static function noOpenLots(int $entry, string $portions): self
    {
        $has = str_starts_with($portions, 'portions') ? 'have' : 'has';

        return new self(
            RefusalCode::NothingToClose,
            ($portions === '' ? "entry $entry" : "$portions of entry $entry")." $has no open lots",
            '/portion',
        );
    }

    public static function nothingToCover(string $contract): self
    {
        return new self(RefusalCode::NothingToCover, "every lot in $contract has its stop");
    }

    /**
     * @param int         $lots that it was for
     * @param int|null    $stop the order that covers them; null where it has not reached the venue yet
     * @param string|null $at   where that stands
     */
    public static function alreadyCovered(int $lots, ?int $stop, ?string $at): self
    {
        $those = $lots === 1 ? 'that lot' : "those $lots lots";

        return new self(
            RefusalCode::AlreadyCovered,
            $stop === null ? "a stop for $those is on its way" : "stop order $stop at $at covers $those already; move that one",
            null,
            $stop === null ? [] : ['covered_by' => $stop],
        );
    }

    public static function nothingToMove(string $why): self
    {
        return new self(RefusalCode::NothingToMove, $why);
    }

    public static function nothingToChange(): self
    {
        return new self(RefusalCode::NothingToChange, 'nothing to change; send a price, trigger, quantity, tif or expires_at');
    }

    public static function nothingToWaitFor(int $order): self
    {
        return new self(
            RefusalCode::NothingToWaitFor,
            "order $order is not a working entry or close of this account; give the id of one that works",
            '/after',
        );
    }

    /**
     * @param int $closing lots that are being closed already
     * @param int $lots    of the position
     */
    public static function noHalf(int $closing, int $lots): self
    {
        return new self(
            RefusalCode::NoHalf,
            ($closing === 0 ? 'one lot cannot be halved' : "$closing of $lots lots are being closed already, and what is left has no half")
                .'; flatten closes it',
        );
    }

    /**
     * @param string $order  such as "a stop"
     * @param string $remedy what would be right
     */
    public static function stopPassed(string $order, string $price, string $remedy, ?string $pointer = null): self
    {
        return new self(RefusalCode::StopPassed, "$order at $price is already passed by the market; $remedy", $pointer);
    }

    /**
     * @param string $order  such as "a stop to buy"
     * @param string $passed passed, or touched
     */
    public static function triggerPassed(string $order, string $price, string $passed, string $market, string $remedy): self
    {
        return new self(RefusalCode::StopPassed, "$order at $price is already $passed: the market is at $market; $remedy", '/trigger');
    }

    public static function targetPassed(string $price, string $pointer): self
    {
        return new self(
            RefusalCode::TargetPassed,
            "a target at $price is already reached by the market; use a stop there, or flatten",
            $pointer,
        );
    }

    public static function wouldUnprotect(string $what, int $lots): self
    {
        return new self(
            RefusalCode::WouldUnprotect,
            "$what leaves $lots ".($lots === 1 ? 'lot' : 'lots')
                .' without a stop; say "leave_unprotected": true to do it all the same',
            null,
            ['unprotected' => $lots],
        );
    }

    public static function orderFinal(int $order, string $state): self
    {
        return new self(RefusalCode::OrderFinal, "order $order is $state; only a working order can be changed or cancelled");
    }

    public static function orderBusy(int $order, string $state): self
    {
        return new self(RefusalCode::OrderBusy, "order $order is $state; try again once the venue has answered");
    }

    /** @param string $name of the action key */
    public static function stepsUnderWay(string $name): self
    {
        return new self(RefusalCode::StepsUnderWay, "$name is still being carried out; wait until its last step is done, or flatten");
    }

    /** @param string $role stop or target */
    public static function exitLots(string $role): self
    {
        return new self(RefusalCode::ExitLots, "the lots of a $role follow its portion; change its price, or cancel it", '/quantity');
    }

    public static function belowFilled(int $filled): self
    {
        return new self(
            RefusalCode::BelowFilled,
            "$filled lots have filled already; the total must be more, or cancel the order",
            '/quantity',
        );
    }

    public static function moreThanPosition(int $lots): self
    {
        return new self(RefusalCode::MoreThanPosition, "a close is never for more than the position of $lots", '/quantity');
    }

    /** @param int $most the whole quantity that the closing stop may have */
    public static function moreThanUncovered(int $most): self
    {
        return new self(RefusalCode::MoreThanPosition, "other stops cover the lots beyond $most already", '/quantity');
    }

    public static function notAStop(): self
    {
        return new self(RefusalCode::NotAStop, 'only the stop of a portion can be handed back to its ratchets', '/steering');
    }

    public static function twoContracts(int $first, string $contract, int $second, string $other): self
    {
        return new self(
            RefusalCode::TwoContracts,
            "order $first is in $contract and order $second in $other; only orders of one contract can be tied",
            '/orders',
        );
    }

    /** @param string $role stop or target */
    public static function exitIsTied(int $order, string $role): self
    {
        return new self(
            RefusalCode::ExitIsTied,
            "order $order is the $role of a portion and belongs with its other side already; tie entries and hand-made orders",
            '/orders',
        );
    }

    public static function alreadyTied(int $order, int $other): self
    {
        return new self(RefusalCode::AlreadyTied, "order $order is tied to order $other; untie it first", '/orders');
    }

    public static function notTied(int $order): self
    {
        return new self(RefusalCode::NotTied, "order $order is not tied to another; only orders that were tied by hand can be untied");
    }
}
