<?php

declare(strict_types=1);

namespace App\Engine\Operation;

/** What can be asked of the engine, by the name that a call carries. {@see Operations} has the handler of each. */
enum Operation: string
{
    case OpenAccount = 'open-account';
    case AccountOpen = 'account-open';
    case AccountClose = 'account-close';
    case AccountReset = 'account-reset';
    case AccountRates = 'account-rates';
    case AccountLimits = 'account-limits';
    case AccountLift = 'account-lift';
    case Place = 'place';
    case PlacePair = 'place-pair';
    case Tie = 'tie';
    case Untie = 'untie';
    case Modify = 'modify';
    case Cancel = 'cancel';
    case CancelMany = 'cancel-many';
    case Flatten = 'flatten';
    case FlattenAccount = 'flatten-account';
    case Reverse = 'reverse';
    case Cover = 'cover';
    case ClosePart = 'close-part';
    case SetExit = 'set-exit';
    case BreakEven = 'break-even';
    case Tighten = 'tighten';
    case HalfOff = 'half-off';
    case Steps = 'steps';
    case Recall = 'recall';
    case WatchLevels = 'watch-levels';
    case SetCalendar = 'set-calendar';
    case Practice = 'practice';
    case Ticket = 'ticket';
    case Revoke = 'revoke';
    case Preview = 'preview';
    case PreviewChange = 'preview-change';
    case Size = 'size';
    case StepsPreview = 'steps-preview';
    case PlanBasis = 'plan-basis';
    case PlansUsed = 'plans-used';
    case WhatIf = 'what-if';
    case Noise = 'noise';
    case Book = 'book';
    case Orders = 'orders';
    case Order = 'order';
    case Positions = 'positions';
    case Risk = 'risk';
    case OpenRisk = 'open-risk';
    case Day = 'day';
    case Limits = 'limits';
    case Calendar = 'calendar';
    case Snapshot = 'snapshot';
    case DepthHistory = 'depth-history';
    case Prints = 'prints';
    case Tape = 'tape';
    case Bars = 'bars';
    case Levels = 'levels';

    /** It changes neither an account nor a market, whatever comes of it. */
    public function onlyReads(): bool
    {
        return match ($this) {
            self::Preview, self::PreviewChange, self::Size, self::StepsPreview, self::PlanBasis, self::PlansUsed, self::WhatIf, self::Noise,
            self::Book, self::Orders, self::Order, self::Positions, self::Risk, self::OpenRisk, self::Day, self::Limits, self::Calendar,
            self::Snapshot => true,
            default => $this->looksBack(),
        };
    }

    /** It waits after a start until all that the engine remembers of the market is there again. */
    public function looksBack(): bool
    {
        return match ($this) {
            self::DepthHistory, self::Prints, self::Tape, self::Bars, self::Levels => true,
            default => false,
        };
    }

    /** It is written into the journal whole, and no trading bounds how often it can be asked. */
    public function isSetting(): bool
    {
        return match ($this) {
            self::AccountOpen, self::AccountClose, self::AccountReset, self::AccountRates, self::AccountLimits, self::AccountLift,
            self::SetCalendar => true,
            default => false,
        };
    }
}
