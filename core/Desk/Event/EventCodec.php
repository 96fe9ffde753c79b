<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Account\AccountClosed;
use Lotrik\Desk\Event\Account\AccountOpened;
use Lotrik\Desk\Event\Account\BarLifted;
use Lotrik\Desk\Event\Account\CloseNear;
use Lotrik\Desk\Event\Account\DayBegun;
use Lotrik\Desk\Event\Account\EntriesStopped;
use Lotrik\Desk\Event\Account\LimitNeared;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Account\RatesSet;
use Lotrik\Desk\Event\Account\TradeEnded;
use Lotrik\Desk\Event\Command\CommandRefused;
use Lotrik\Desk\Event\Command\CommandTaken;
use Lotrik\Desk\Event\Command\FlattenEnded;
use Lotrik\Desk\Event\Command\FlattenStarted;
use Lotrik\Desk\Event\Command\ReversalDropped;
use Lotrik\Desk\Event\Command\StepsBegun;
use Lotrik\Desk\Event\Command\StepsDone;
use Lotrik\Desk\Event\Command\StepsStopped;
use Lotrik\Desk\Event\Command\StepTaken;
use Lotrik\Desk\Event\Exit\EntryClosed;
use Lotrik\Desk\Event\Exit\ExitMoved;
use Lotrik\Desk\Event\Exit\ExitSet;
use Lotrik\Desk\Event\Exit\ExitTakenOff;
use Lotrik\Desk\Event\Exit\PlanPutOn;
use Lotrik\Desk\Event\Exit\SteeringHandedBack;
use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Fill\OrderReduced;
use Lotrik\Desk\Event\Level\LevelsWatched;
use Lotrik\Desk\Event\Level\LevelTold;
use Lotrik\Desk\Event\Order\CancelRequested;
use Lotrik\Desk\Event\Order\CancelWished;
use Lotrik\Desk\Event\Order\DurationChanged;
use Lotrik\Desk\Event\Order\OrderAccepted;
use Lotrik\Desk\Event\Order\OrderCancelled;
use Lotrik\Desk\Event\Order\OrderExpired;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\OrderRejected;
use Lotrik\Desk\Event\Order\OrderReleased;
use Lotrik\Desk\Event\Order\OrderReplaced;
use Lotrik\Desk\Event\Order\OrdersTied;
use Lotrik\Desk\Event\Order\OrderTriggered;
use Lotrik\Desk\Event\Order\OrderUntied;
use Lotrik\Desk\Event\Order\ReplaceRefused;
use Lotrik\Desk\Event\Order\ReplaceRequested;
use Lotrik\Desk\Event\Venue\CalendarSet;
use Lotrik\Desk\Event\Venue\ContractListed;
use Lotrik\Desk\Event\Venue\ReportOutOfPlace;
use Lotrik\Desk\Event\Venue\StrayOrderFound;
use Lotrik\Desk\Event\Venue\VenueDiffers;

/** Events as journal bodies and back: one JSON field for each constructor parameter, enums as their values. */
final class EventCodec
{
    /** @var array<string, class-string<Event>> */
    private const EVENTS = [
        AccountOpened::TYPE => AccountOpened::class,
        AccountBarred::TYPE => AccountBarred::class,
        BarLifted::TYPE => BarLifted::class,
        AccountClosed::TYPE => AccountClosed::class,
        RatesSet::TYPE => RatesSet::class,
        LimitsSet::TYPE => LimitsSet::class,
        LimitNeared::TYPE => LimitNeared::class,
        EntriesStopped::TYPE => EntriesStopped::class,
        DayBegun::TYPE => DayBegun::class,
        TradeEnded::TYPE => TradeEnded::class,
        CalendarSet::TYPE => CalendarSet::class,
        CloseNear::TYPE => CloseNear::class,
        ContractListed::TYPE => ContractListed::class,
        CommandTaken::TYPE => CommandTaken::class,
        CommandRefused::TYPE => CommandRefused::class,
        OrderPlaced::TYPE => OrderPlaced::class,
        OrderAccepted::TYPE => OrderAccepted::class,
        OrderTriggered::TYPE => OrderTriggered::class,
        OrderFilled::TYPE => OrderFilled::class,
        OrderReduced::TYPE => OrderReduced::class,
        ReplaceRequested::TYPE => ReplaceRequested::class,
        OrderReplaced::TYPE => OrderReplaced::class,
        ReplaceRefused::TYPE => ReplaceRefused::class,
        CancelRequested::TYPE => CancelRequested::class,
        CancelWished::TYPE => CancelWished::class,
        OrderCancelled::TYPE => OrderCancelled::class,
        OrderRejected::TYPE => OrderRejected::class,
        StopMoved::TYPE => StopMoved::class,
        SteeringHandedBack::TYPE => SteeringHandedBack::class,
        ExitSet::TYPE => ExitSet::class,
        ExitMoved::TYPE => ExitMoved::class,
        ExitTakenOff::TYPE => ExitTakenOff::class,
        PlanPutOn::TYPE => PlanPutOn::class,
        OrderReleased::TYPE => OrderReleased::class,
        OrderExpired::TYPE => OrderExpired::class,
        DurationChanged::TYPE => DurationChanged::class,
        OrdersTied::TYPE => OrdersTied::class,
        OrderUntied::TYPE => OrderUntied::class,
        FlattenStarted::TYPE => FlattenStarted::class,
        FlattenEnded::TYPE => FlattenEnded::class,
        ReversalDropped::TYPE => ReversalDropped::class,
        LevelsWatched::TYPE => LevelsWatched::class,
        LevelTold::TYPE => LevelTold::class,
        StepsBegun::TYPE => StepsBegun::class,
        StepTaken::TYPE => StepTaken::class,
        StepsDone::TYPE => StepsDone::class,
        StepsStopped::TYPE => StepsStopped::class,
        EntryClosed::TYPE => EntryClosed::class,
        ReportOutOfPlace::TYPE => ReportOutOfPlace::class,
        VenueDiffers::TYPE => VenueDiffers::class,
        StrayOrderFound::TYPE => StrayOrderFound::class,
    ];

    public static function type(Event $event): string
    {
        return (string) array_search($event::class, self::EVENTS, true);
    }

    /** The version that an event is written in: 1 where its class says nothing else. */
    public static function version(Event $event): int
    {
        return self::versionOf($event::class);
    }

    public static function encode(Event $event): string
    {
        return json_encode(get_object_vars($event), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /**
     * An event as a journal holds it, in the shape of today where an older build wrote it.
     *
     * @param DeskState $before the state that it is to be applied to: older events did not carry all that follows from it
     *
     * @throws \UnexpectedValueException for a type, version or body that this build does not know
     */
    public static function decode(string $type, int $version, string $body, DeskState $before): Event
    {
        $class = self::EVENTS[$type] ?? null;
        $fields = json_decode($body, true);
        /** @var array<string, mixed>|null $fields */
        if ($class === null || $version < 1 || $version > self::versionOf($class) || ! is_array($fields)) {
            throw new \UnexpectedValueException("the journal holds an event \"$type\" of version $version, which this build cannot read");
        }
        if ($version < self::versionOf($class)) {
            $fields = (new Upcaster($before))->bringUp($type, $version, $fields);
        }
        $arguments = [];
        foreach ((new \ReflectionMethod($class, '__construct'))->getParameters() as $parameter) {
            $value = $fields[$parameter->getName()] ?? ($parameter->isDefaultValueAvailable() ? $parameter->getDefaultValue() : null);
            $of = $parameter->getType();
            $enum = $of instanceof \ReflectionNamedType ? $of->getName() : '';
            $arguments[] = is_string($value) && is_subclass_of($enum, \BackedEnum::class) ? $enum::from($value) : $value;
        }

        return (new \ReflectionClass($class))->newInstanceArgs($arguments);
    }

    /** @param class-string<Event> $class */
    private static function versionOf(string $class): int
    {
        $version = defined("$class::VERSION") ? constant("$class::VERSION") : 1;
        assert(is_int($version));

        return $version;
    }
}
