<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Quotes;
use Lotrik\Refusal\Refusal;

/**
 * The one question: may this be so? Whatever may raise what can be open or lost asks it, however it is sent: an order, a change, a
 * pair, what is untied, the steps of an action key, a plan that is put on, a stop that is set, moved, lowered, timed or taken off, an
 * order that is released, a limit that tightens. Each rule compares what is with what would be: what makes nothing larger and
 * nothing worse passes every one of them.
 */
final class Question
{
    /** @var list<Rule> in the order in which they speak */
    private readonly array $rules;

    /** @var list<Rule> those that hold for what works already, when a limit tightens */
    private readonly array $standing;

    public function __construct(DeskState $state, Quotes $quotes)
    {
        $this->standing = [
            $band = new Order\PriceBand($quotes),
            $size = new Order\OrderSize(),
            $position = new Risk\PositionLimit(),
            $working = new Risk\WorkingOrders(),
            $stops = new Risk\StopRequired(),
            $risk = new Risk\TradeRisk($state),
        ];
        $this->rules = [
            new Account\AccountOpen($state),
            new Account\NotBarred($state),
            new Account\EntriesNotStopped($state),
            new Account\OutsideWindows(),
            new Account\NotBeforeClose(),
            new Account\RateKnown(),
            new Order\SessionOpen(),
            new Order\NotFlattening(),
            new Order\SomethingToClose(),
            new Order\LotsWithoutStop(),
            new Order\StopNotPassed(),
            new Order\WithinPriceLimits(),
            $band,
            $size,
            $position,
            $working,
            $stops,
            $risk,
            new Risk\BuyingPower($state, $quotes),
            new Account\OrderRate($state),
        ];
    }

    /** Why it may not be; null where it may. */
    public function refusal(Proposal $proposal): ?Refusal
    {
        return self::first($this->rules, $proposal);
    }

    /** Why what works already may not go on under the limits that are in force now. */
    public function standingRefusal(Proposal $proposal): ?Refusal
    {
        return self::first($this->standing, $proposal);
    }

    /** @param list<Rule> $rules */
    private static function first(array $rules, Proposal $proposal): ?Refusal
    {
        foreach ($rules as $rule) {
            $refusal = $rule->refuse($proposal);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return null;
    }
}
