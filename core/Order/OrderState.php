<?php

declare(strict_types=1);

namespace Lotrik\Order;

/**
 * Order states and the changes between them.
 *
 * Source: FIX 4.4, volume 4, appendix D (order state change matrices) and OrdStatus (39); the transitions are
 * written down from memory, the codes are checked in the Reference tests.
 */
enum OrderState: string
{
    case PendingNew = 'pending-new';
    case New = 'new';
    case PartiallyFilled = 'partially-filled';
    case Filled = 'filled';
    case PendingReplace = 'pending-replace';
    case PendingCancel = 'pending-cancel';
    case Cancelled = 'cancelled';
    case Rejected = 'rejected';
    case Expired = 'expired';
    case Suspended = 'suspended';

    /** FIX OrdStatus (39). */
    public function fix(): string
    {
        return match ($this) {
            self::New => '0',
            self::PartiallyFilled => '1',
            self::Filled => '2',
            self::Cancelled => '4',
            self::PendingCancel => '6',
            self::Rejected => '8',
            self::Suspended => '9',
            self::PendingNew => 'A',
            self::Expired => 'C',
            self::PendingReplace => 'E',
        };
    }

    /** In a final state nothing is left to fill and nothing changes any more. */
    public function isFinal(): bool
    {
        return in_array($this, [self::Filled, self::Cancelled, self::Rejected, self::Expired], true);
    }

    /** A command is under way that the venue has not answered. */
    public function isPending(): bool
    {
        return in_array($this, [self::PendingNew, self::PendingReplace, self::PendingCancel], true);
    }

    public function canBecome(self $next): bool
    {
        return in_array($next, match ($this) {
            self::PendingNew => [
                self::New, self::PartiallyFilled, self::Filled, self::Rejected, self::Cancelled, self::Suspended, self::PendingCancel,
            ],
            // Pending new: held at the desk, it goes to the venue only when it is released.
            self::Suspended => [
                self::PendingNew, self::New, self::PartiallyFilled, self::Filled, self::PendingCancel, self::PendingReplace,
                self::Cancelled, self::Expired, self::Rejected,
            ],
            self::New => [
                self::PartiallyFilled, self::Filled, self::PendingReplace, self::PendingCancel, self::Cancelled, self::Expired,
                self::Suspended,
            ],
            self::PartiallyFilled => [
                self::Filled, self::PendingReplace, self::PendingCancel, self::Cancelled, self::Expired, self::Suspended,
            ],
            self::PendingReplace => [self::New, self::PartiallyFilled, self::Filled, self::PendingCancel, self::Cancelled, self::Expired],
            // Rejected: its cancel was on its way before the venue had said whether it takes the order at all.
            self::PendingCancel => [self::New, self::PartiallyFilled, self::Filled, self::Cancelled, self::Expired, self::Rejected],
            self::Filled, self::Cancelled, self::Rejected, self::Expired => [],
        }, true);
    }
}
