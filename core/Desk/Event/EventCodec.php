<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** Events as journal bodies and back: one JSON field for each constructor parameter, enums as their values. */
final class EventCodec
{
    public const VERSION = 1;

    private const EVENTS = [
        AccountOpened::class, ContractListed::class, CommandTaken::class, CommandRefused::class, OrderPlaced::class,
        OrderAccepted::class, OrderTriggered::class, OrderFilled::class, OrderReduced::class, ReplaceRequested::class,
        OrderReplaced::class, ReplaceRefused::class, CancelRequested::class, OrderCancelled::class, OrderRejected::class,
        StopMoved::class, SteeringHandedBack::class, PlanPutOn::class, FlattenStarted::class, FlattenEnded::class,
    ];

    public static function type(Event $event): string
    {
        return self::typeOf($event::class);
    }

    public static function encode(Event $event): string
    {
        return json_encode(get_object_vars($event), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /** @throws \UnexpectedValueException for a type, version or body that this build does not know */
    public static function decode(string $type, int $version, string $body): Event
    {
        $class = array_combine(array_map(self::typeOf(...), self::EVENTS), self::EVENTS)[$type] ?? null;
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

    /** @param class-string<Event> $class */
    private static function typeOf(string $class): string
    {
        $type = constant($class.'::TYPE');
        assert(is_string($type));

        return $type;
    }
}
