<?php

declare(strict_types=1);

namespace Lotrik\Desk\Steps;

/** What one step of an action key does. */
enum StepAction: string
{
    case Order = 'order';
    case Flatten = 'flatten';
    case Reverse = 'reverse';
    case HalfOff = 'half-off';
    case CancelBuys = 'cancel-buys';
    case CancelSells = 'cancel-sells';
    case CancelAll = 'cancel-all';
    case BreakEven = 'break-even';
    case Closer = 'closer';

    /** The command that does it, see {@see \Lotrik\Desk\Desk::operations()}. */
    public function op(): string
    {
        return match ($this) {
            self::Order => 'place',
            self::Flatten => 'flatten',
            self::Reverse => 'reverse',
            self::HalfOff => 'half-off',
            self::CancelBuys, self::CancelSells, self::CancelAll => 'cancel-many',
            self::BreakEven => 'break-even',
            self::Closer => 'tighten',
        };
    }

    public function cancels(): bool
    {
        return $this->op() === 'cancel-many';
    }

    /** Whether it can add to a position. */
    public function mayOpen(): bool
    {
        return $this === self::Order || $this === self::Reverse;
    }

    public function words(): string
    {
        return match ($this) {
            self::Order => 'order',
            self::Flatten => 'flatten',
            self::Reverse => 'reverse',
            self::HalfOff => 'half off',
            self::CancelBuys => 'cancel buys',
            self::CancelSells => 'cancel sells',
            self::CancelAll => 'cancel all',
            self::BreakEven => 'stops to break-even',
            self::Closer => 'stops closer',
        };
    }
}
