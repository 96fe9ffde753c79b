<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/**
 * An event that a command was taken for cannot be applied: a fault of this program, never of whoever sent the command. Nobody
 * catches it. The process ends, nothing of the turn is written, and it comes back from what was committed.
 */
final class CannotBeApplied extends \LogicException
{
    public static function because(Event $event, \Throwable $fault): self
    {
        return new self($event::class.' could not be applied: '.$fault->getMessage(), 0, $fault);
    }
}
