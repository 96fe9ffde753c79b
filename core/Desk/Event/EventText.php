<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Order\ReleaseCondition;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Watching\Levels\LevelNews;

/** Events as sentences: what the journal says to a person. */
final class EventText
{
    /** Order (that the event is about) and state are those after the event. */
    public static function of(E\Event $event, ?DeskOrder $order, DeskState $state): string
    {
        if ($order !== null) {
            $contract = $state->contracts[$order->contract];
            $name = self::named($order, $contract);

            return match (true) {
                $event instanceof E\Order\OrderPlaced => $order->releaseWhen === null
                    ? "$name sent: {$event->why}"
                    : "$name held until ".self::releaseWhen(
                        $order->releaseWhen,
                        $state->contracts[$order->releaseWhen->contract ?? ''] ?? null,
                    ).": {$event->why}",
                $event instanceof E\Order\OrderReleased => "$name is released: {$event->because}",
                $event instanceof E\Order\OrderExpired => "$name is expiring: {$event->because}",
                $event instanceof E\Order\DurationChanged => "$name now works ".self::duration($event->tif, $event->expiresAt),
                $event instanceof E\Order\OrderUntied => "$name is no longer tied to order {$event->other}",
                $event instanceof E\Order\OrderAccepted => "$name is working",
                $event instanceof E\Order\OrderTriggered => "$name was triggered",
                $event instanceof E\Fill\OrderFilled => sprintf(
                    '%s: %d filled at %s%s%s', $name, $event->quantity, $contract->write($event->price),
                    self::slipped($event->slippageTicks),
                    $event->madeToFit === null ? '' : "; adjusted to at least one tick: {$event->madeToFit}",
                ),
                $event instanceof E\Fill\OrderReduced => "$name: reduced by {$event->by}: {$event->because}",
                $event instanceof E\Order\ReplaceRequested => "$name is being changed".self::changes($event, $contract)
                    .": {$event->because}",
                $event instanceof E\Order\OrderReplaced => "$name is working as changed",
                $event instanceof E\Order\ReplaceRefused => "$name stays as it was, because {$event->because}",
                $event instanceof E\Order\CancelRequested => "$name is being cancelled: {$event->because}",
                $event instanceof E\Order\OrderCancelled => "$name was cancelled: {$event->because}",
                $event instanceof E\Order\OrderRejected => "$name was rejected: {$event->because}",
                $event instanceof E\Order\CancelWished => "$name is cancelled as soon as the answer is here: {$event->because}",
                $event instanceof E\Venue\ReportOutOfPlace => "The venue said \"{$event->report}\" of $name, which is "
                    ."{$event->state}: nothing "
                    .'was done about it',
                $event instanceof E\Venue\VenueDiffers => "The venue counts {$event->venue} filled lots of $name, the desk has heard of "
                    ."{$event->desk}: check the position",
                $event instanceof E\Venue\StrayOrderFound => "$name is {$order->state->value}, and still worked at the venue: "
                    .'cancelled there',
                default => $name,
            };
        }

        return match (true) {
            $event instanceof E\Venue\VenueDiffers => "The venue counts a position of {$event->venue} lots in {$event->contract}, the "
                .'desk one '
                ."of {$event->desk}: check the position",
            $event instanceof E\Venue\StrayOrderFound => "The venue worked an order {$event->order} that the desk does not know: "
                .'cancelled there',
            $event instanceof E\Account\AccountOpened => 'Account opened',
            $event instanceof E\Account\AccountClosed => 'Account closed'.($event->next === null ? '' : ', replaced by account '
                ."{$event->next}"),
            $event instanceof E\Account\RatesSet => 'Rates set: '.self::rates($event, $state),
            $event instanceof E\Account\LimitsSet => 'Limits set'.($event->from === null ? '' : '; what they loosen '
                .'counts from '.self::time($event->from)),
            $event instanceof E\Account\DayBegun => 'The trading day begins; what is open counts '
                .'from here: '.implode(', ', array_keys($event->carried)),
            $event instanceof E\Account\EntriesStopped => 'No new entries until '.self::time($event->until).": {$event->because}",
            $event instanceof E\Account\TradeEnded => 'Trade ended: '.(str_starts_with($event->net, '-') ? $event->net : "+{$event->net}")
                .' '.$state->accounts[$event->account]->rates->base->code.' after fees',
            $event instanceof E\Account\CloseNear => "{$event->contract} closes in "
                ."{$event->minutes} ".($event->minutes === 1 ? 'minute' : 'minutes').": {$event->left}",
            $event instanceof E\Account\LimitNeared => "{$event->percent} % of {$event->limit} is used up: {$event->figures}",
            $event instanceof E\Account\BarLifted => "Lifted by {$event->by}: {$event->what}",
            $event instanceof E\Account\AccountBarred => 'Barred from new entries until '.self::time($event->until).": {$event->because}",
            $event instanceof E\Venue\CalendarSet => 'Calendar set: '.self::days(count((array) $event->calendar['days'])),
            $event instanceof E\Venue\ContractListed => "{$event->contract} listed",
            $event instanceof E\Command\CommandTaken => $event->words,
            $event instanceof E\Command\CommandRefused => "Refused: {$event->words}",
            $event instanceof E\Exit\StopMoved => self::stopMoved($event, $state),
            $event instanceof E\Exit\SteeringHandedBack => "Stop of portion {$event->portion} returned to its plan",
            $event instanceof E\Order\OrdersTied => "Orders {$event->first} and {$event->second} are tied: "
                .($event->oco ? 'a fill of one cancels the other' : 'a fill of one lowers the other'),
            $event instanceof E\Exit\ExitSet => ucfirst($event->role->value)
                ." of portion {$event->portion} set at {$state->contracts[$event->contract]->write($event->level)} by hand",
            $event instanceof E\Exit\ExitMoved => ucfirst($event->role->value)." of portion {$event->portion} goes to "
                .$state->contracts[$event->contract]->write($event->level).' by hand as soon as the answer is here',
            $event instanceof E\Exit\ExitTakenOff => ucfirst($event->role->value)
                ." of portion {$event->portion} is taken off as soon as the answer is here",
            $event instanceof E\Exit\PlanPutOn => is_string($event->exits['name'] ?? null)
                ? ($event->onlyBare ? 'What was unprotected' : 'The position')." is now under {$event->exits['name']}"
                : 'The position is under no exit plan',
            $event instanceof E\Command\FlattenStarted => self::closingDown($event->trigger),
            $event instanceof E\Command\ReversalDropped => "Flattened only; the reversal was dropped: {$event->because}",
            $event instanceof E\Exit\EntryClosed => self::entryClosed($event),
            $event instanceof E\Level\LevelsWatched => count($event->levels).' marked levels are watched',
            $event instanceof E\Level\LevelTold => self::level($event, $state),
            $event instanceof E\Command\StepsBegun => "{$event->name} has begun",
            $event instanceof E\Command\StepTaken => $event->words,
            $event instanceof E\Command\StepsDone => "{$event->name} is done",
            $event instanceof E\Command\StepsStopped => "{$event->name} stopped at step {$event->number}: {$event->because}",
            $event instanceof E\Command\FlattenEnded => ucfirst($event->because),
            default => '',
        };
    }

    public static function order(Side $side, int $quantity, OrderKind $kind, ?int $price, ?int $trigger, Contract $contract): string
    {
        $levels = match ($kind) {
            OrderKind::Market => '',
            OrderKind::Limit => ' '.$contract->write((int) $price),
            OrderKind::Stop, OrderKind::IfTouched => ' '.$contract->write((int) $trigger),
            OrderKind::StopLimit => ' '.$contract->write((int) $trigger).' limit '.$contract->write((int) $price),
        };

        return "{$side->word()} $quantity {$kind->word()}$levels";
    }

    public static function duration(TimeInForce $tif, ?int $expiresAt): string
    {
        return match ($tif) {
            TimeInForce::Day => 'for the day',
            TimeInForce::GoodTillCancelled => 'until cancelled',
            TimeInForce::GoodTillDate => 'until '.self::time((int) $expiresAt),
            TimeInForce::ImmediateOrCancel => 'immediate or cancel',
            TimeInForce::FillOrKill => 'fill or kill',
        };
    }

    /** What a held order waits for: `14:30:00 UTC`, `TIDZ6 at or above 88.25`, `a fill of order 1004`. */
    public static function releaseWhen(ReleaseCondition $releaseWhen, ?Contract $watched): string
    {
        $parts = [];
        if ($releaseWhen->releaseAt !== null) {
            $parts[] = self::time($releaseWhen->releaseAt);
        }
        if ($watched !== null) {
            $parts[] = "{$watched->code} at or ".($releaseWhen->rising ? 'above' : 'below').' '.$watched->write((int) $releaseWhen->level);
        }
        if ($releaseWhen->after !== null) {
            $parts[] = "a fill of order {$releaseWhen->after}";
        }

        return implode(' and ', $parts);
    }

    /** @param int $at ms since 1970 UTC */
    public static function time(int $at): string
    {
        return gmdate('Y-m-d H:i:s', intdiv($at, 1000)).' UTC';
    }

    private static function days(int $count): string
    {
        return $count === 1 ? '1 day' : "$count days";
    }

    public static function named(DeskOrder $order, Contract $contract): string
    {
        $for = match ($order->role) {
            Role::Entry => '',
            Role::Stop => ", stop of portion {$order->portion}",
            Role::Target => ", target of portion {$order->portion}",
            Role::Close => ', closing',
        };

        return self::order($order->side, $order->quantity, $order->kind, $order->price, $order->trigger, $contract)
            ." ({$order->id}$for)";
    }

    private static function closingDown(ClosingTrigger $trigger): string
    {
        return match ($trigger) {
            ClosingTrigger::Reverse => 'Reversing: flat first, then the other side',
            ClosingTrigger::Bar => 'Flattening: the account is barred; no new entries',
            ClosingTrigger::CloseNear => 'Flattening before the close, per your limits; no new entries',
            ClosingTrigger::SessionEnd => 'The session has ended: flat at the open, and the other side is not taken',
            ClosingTrigger::Flatten, ClosingTrigger::Flat => 'Flattening: entries and targets go, stops stay until flat',
        };
    }

    private static function entryClosed(E\Exit\EntryClosed $event): string
    {
        /**
         * @var array{lots: int, realised: string, currency: string, highest_profit: array{ticks: int}|null,
         *     deepest_loss: array{ticks: int}|null} $facts
         */
        $facts = $event->facts;

        return sprintf(
            'Entry %d is closed: %s, %s %s before fees, at best %+d and at worst %+d ticks a lot', $event->entry,
            $facts['lots'] === 1 ? '1 lot' : "{$facts['lots']} lots", $facts['realised'], $facts['currency'],
            $facts['highest_profit']['ticks'] ?? 0, $facts['deepest_loss']['ticks'] ?? 0,
        );
    }

    private static function level(E\Level\LevelTold $event, DeskState $state): string
    {
        $level = $state->levels[$event->contract][$event->account][$event->level] ?? null;
        $contract = $state->contracts[$event->contract];
        $band = $level === null ? '' : $contract->write($level->level->low)
            .($level->level->low === $level->level->high ? '' : '–'.$contract->write($level->level->high));
        $name = trim(($level->name ?? '')." $band");
        $lots = $event->resting === 1 ? '1 lot' : "{$event->resting} lots";

        return match ($event->news) {
            LevelNews::Near => "{$event->contract} is approaching $name: $lots there",
            LevelNews::Halved => "{$event->contract}: half or more of the lots at $name have gone, $lots left",
            LevelNews::Left => "{$event->contract} has left $name",
        };
    }

    private static function stopMoved(E\Exit\StopMoved $event, DeskState $state): string
    {
        $contract = $state->contracts[$event->contract];
        $position = $state->holding($event->account, $event->contract)->position;
        $money = $contract->money($position->lots <=> 0)->times(BigRational::of($event->to)->minus($position->average));

        return sprintf(
            'Stop of portion %d moved from %s to %s (%s at best %+d): %s',
            $event->portion, $contract->write($event->from), $contract->write($event->to), $event->because, $event->best,
            $money->isNegative()
                ? 'against the average price: '.$money->negated()->display().' a lot'
                : $money->display(true).' a lot locked in',
        );
    }

    private static function slipped(int $ticks): string
    {
        return $ticks === 0 ? '' : sprintf(', slippage %d tick%s', $ticks, abs($ticks) === 1 ? '' : 's');
    }

    private static function changes(E\Order\ReplaceRequested $event, Contract $contract): string
    {
        $parts = [];
        if ($event->lotsChange !== 0) {
            $parts[] = sprintf('%+d lots', $event->lotsChange);
        }
        if ($event->trigger !== null) {
            $parts[] = 'to '.$contract->write($event->trigger);
        } elseif ($event->price !== null) {
            $parts[] = 'to '.$contract->write($event->price);
        }

        return $parts === [] ? '' : ' '.implode(', ', $parts);
    }

    private static function rates(E\Account\RatesSet $event, DeskState $state): string
    {
        $base = $state->accounts[$event->account]->rates->base->code;

        return implode(', ', array_map(
            static fn(string $code, string $rate): string => "1 $code = $rate $base",
            array_keys($event->rates),
            $event->rates,
        ));
    }
}
