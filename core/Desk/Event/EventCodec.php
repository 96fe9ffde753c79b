<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** Events as journal bodies and back: one JSON field for each constructor parameter, enums as their values. */
final class EventCodec
{
    public const VERSION = 1;

    /** @var array<string, class-string<Event>> */
    private const EVENTS = [
        AccountOpened::TYPE => AccountOpened::class,
        AccountBarred::TYPE => AccountBarred::class,
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
        OrderCancelled::TYPE => OrderCancelled::class,
        OrderRejected::TYPE => OrderRejected::class,
        StopMoved::TYPE => StopMoved::class,
        SteeringHandedBack::TYPE => SteeringHandedBack::class,
        ExitSet::TYPE => ExitSet::class,
        PlanPutOn::TYPE => PlanPutOn::class,
        OrderReleased::TYPE => OrderReleased::class,
        OrderExpired::TYPE => OrderExpired::class,
        DurationChanged::TYPE => DurationChanged::class,
        OrdersTied::TYPE => OrdersTied::class,
        OrderUntied::TYPE => OrderUntied::class,
        FlattenStarted::TYPE => FlattenStarted::class,
        FlattenEnded::TYPE => FlattenEnded::class,
    ];

    public static function type(Event $event): string
    {
        return (string) array_search($event::class, self::EVENTS, true);
    }

    public static function encode(Event $event): string
    {
        return json_encode(get_object_vars($event), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /** @throws \UnexpectedValueException for a type, version or body that this build does not know */
    public static function decode(string $type, int $version, string $body): Event
    {
        $class = self::EVENTS[$type] ?? null;
        $fields = json_decode($body, true);
        if ($class === null || $version !== self::VERSION || ! is_array($fields)) {
            throw new \UnexpectedValueException("the journal holds an event \"$type\" of version $version, which this build cannot read");
        }
        $arguments = [];
        foreach ((new \ReflectionMethod($class, '__construct'))->getParameters() as $parameter) {
            $value = $fields[$parameter->getName()] ?? null;
            $of = $parameter->getType();
            $enum = $of instanceof \ReflectionNamedType ? $of->getName() : '';
            $arguments[] = is_string($value) && is_subclass_of($enum, \BackedEnum::class) ? $enum::from($value) : $value;
        }

        return (new \ReflectionClass($class))->newInstanceArgs($arguments);
    }
}
