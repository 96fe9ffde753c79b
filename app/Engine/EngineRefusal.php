<?php

declare(strict_types=1);

namespace App\Engine;

use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** What the engine refuses before the desk is asked: how often somebody asks, who may. The words are written here. */
final class EngineRefusal
{
    public static function commandTooLarge(int $most): Refusal
    {
        return new Refusal(RefusalCode::TooLarge, "a command is at most $most bytes; send a shorter one");
    }

    public static function tooManyCommands(int $most): Refusal
    {
        return new Refusal(
            RefusalCode::TooManyCommands,
            "more than $most commands a second for longer than a moment; wait a second. Cancels, flatten and orders that only reduce are "
                .'taken all the same',
        );
    }

    public static function setTooOften(int $seconds): Refusal
    {
        return new Refusal(RefusalCode::TooManyRequests, "too many changes in a short time; try again in $seconds s");
    }

    public static function signedOut(): Refusal
    {
        return new Refusal(RefusalCode::Unauthenticated, 'this session was signed out; sign in again');
    }

    public static function accountsOnTheConsole(): Refusal
    {
        return new Refusal(RefusalCode::Forbidden, 'accounts are opened on the console');
    }

    public static function noSuchContract(): Refusal
    {
        return new Refusal(RefusalCode::NotFound, 'there is no such contract; GET /api/contracts lists what there is');
    }
}
