<?php

declare(strict_types=1);

namespace Lotrik\Refusal;

/** Why something is not done, for programs: what the API gives as `code`, with its HTTP status and its title. */
enum RefusalCode: string
{
    // What was sent cannot be read, or names what is not there.
    case InvalidJson = 'invalid-json';
    case Invalid = 'invalid';
    case TooLarge = 'too-large';
    case TooLong = 'too-long';
    case PriceOffGrid = 'price-off-grid';
    case NotFound = 'not-found';
    case UnknownAccount = 'unknown-account';
    case UnknownContract = 'unknown-contract';
    case UnknownPlan = 'unknown-plan';
    case PlanDoesNotFit = 'plan-does-not-fit';
    case NoPrice = 'no-price';

    // A command that was taken before.
    case ClientIdReused = 'client-id-reused';
    case ClientIdForgotten = 'client-id-forgotten';

    // What an account may do.
    case OrderLimit = 'order-limit';
    case PositionLimit = 'position-limit';
    case NoRate = 'no-rate';
    case Barred = 'barred';
    case AccountClosed = 'account-closed';
    case WorkingOrders = 'working-orders-limit';
    case EntriesStopped = 'entries-stopped';
    case TooManyEntries = 'too-many-entries';
    case PriceBand = 'price-band';
    case StopRequired = 'stop-required';
    case TradeRisk = 'trade-risk';
    case Margin = 'margin';
    case AccountInUse = 'account-in-use';
    case AccountNameTaken = 'account-name-taken';
    case TooManyAccounts = 'too-many-accounts';
    case MarketClosed = 'market-closed';
    case BeyondPriceLimit = 'beyond-price-limit';

    // Where the position or the market stands otherwise than the command supposes.
    case Flat = 'flat';
    case Flattening = 'flattening';
    case Closing = 'closing';
    case NothingToClose = 'nothing-to-close';
    case NothingToCover = 'nothing-to-cover';
    case AlreadyCovered = 'already-covered';
    case NothingToMove = 'nothing-to-move';
    case NothingToChange = 'nothing-to-change';
    case NothingToWaitFor = 'nothing-to-wait-for';
    case NoHalf = 'no-half';
    case StopPassed = 'stop-passed';
    case TargetPassed = 'target-passed';
    case WouldUnprotect = 'would-unprotect';
    case WouldTrade = 'would-trade';
    case WouldOpen = 'would-open';

    // What an order is, or is tied to.
    case OrderFinal = 'order-final';
    case OrderBusy = 'order-busy';
    case StepsUnderWay = 'steps-under-way';
    case ExitLots = 'exit-lots';
    case BelowFilled = 'below-filled';
    case MoreThanPosition = 'more-than-position';
    case NotAStop = 'not-a-stop';
    case TwoContracts = 'two-contracts';
    case ExitIsTied = 'exit-is-tied';
    case AlreadyTied = 'already-tied';
    case NotTied = 'not-tied';

    // What a user keeps.
    case VersionChanged = 'version-changed';
    case PlanInUse = 'plan-in-use';
    case NameTaken = 'name-taken';
    case TooManyLevels = 'too-many-levels';
    case TooManyFills = 'too-many-fills';

    // Who asks, how often, and who answers.
    case BadRequest = 'bad-request';
    case HeadTooLarge = 'head-too-large';
    case Unauthenticated = 'unauthenticated';
    case TicketNotValid = 'ticket-not-valid';
    case Forbidden = 'forbidden';
    case MethodNotAllowed = 'method-not-allowed';
    case PageTooOld = 'csrf';
    case UnknownHost = 'unknown-host';
    case TooManyCommands = 'too-many-commands';
    case TooManyRequests = 'too-many-requests';
    case TooManyStreams = 'too-many-streams';
    case Fault = 'fault';
    case Busy = 'busy';
    case Deadline = 'deadline';
    case EngineAway = 'engine-away';
    case EngineBuild = 'engine-build';
    case OutcomeUnknown = 'outcome-unknown';

    /** Source: RFC 9110, section 15, and RFC 6585 (429, 431); 419 is common practice, no source. */
    public function status(): int
    {
        return match ($this) {
            self::InvalidJson, self::BadRequest => 400,
            self::Unauthenticated, self::TicketNotValid => 401,
            self::Forbidden => 403,
            self::NotFound, self::UnknownAccount => 404,
            self::MethodNotAllowed => 405,
            self::ClientIdReused, self::ClientIdForgotten, self::OrderFinal,
            self::OrderBusy, self::StepsUnderWay, self::Flattening, self::WouldUnprotect, self::WouldTrade, self::WouldOpen,
            self::VersionChanged, self::PlanInUse, self::NameTaken, self::AccountInUse, self::AccountNameTaken => 409,
            self::TooLarge => 413,
            self::PageTooOld => 419,
            self::UnknownHost => 421,
            self::TooManyCommands, self::TooManyRequests => 429,
            self::HeadTooLarge => 431,
            self::Fault => 500,
            self::Busy, self::Deadline, self::EngineAway, self::EngineBuild, self::OutcomeUnknown, self::TooManyStreams => 503,
            default => 422,
        };
    }

    /** Whoever sent the command is asked then whether it was meant; it is no refusal of what was meant. */
    public function asks(): bool
    {
        return in_array($this, [self::WouldUnprotect, self::WouldTrade, self::WouldOpen], true);
    }

    public function title(): string
    {
        return ucfirst(str_replace('-', ' ', $this->value));
    }
}
