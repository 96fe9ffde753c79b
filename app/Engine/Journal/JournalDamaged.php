<?php

declare(strict_types=1);

namespace App\Engine\Journal;

/** The journal is not what was written: nothing is started on it. */
final class JournalDamaged extends \RuntimeException
{
    private const WHAT_CAN_BE_DONE = 'put the data directory back from a copy, or start with --fresh, which gives up all that it holds';

    public static function rowChanged(int $sequence): self
    {
        return new self("journal row $sequence: found it changed since it was written (its hash does not fit), expected the chain of "
            .'hashes whole; '.self::WHAT_CAN_BE_DONE);
    }

    public static function gap(int $sequence): self
    {
        return new self("journal row $sequence: found a gap before it, expected every row; ".self::WHAT_CAN_BE_DONE);
    }

    public static function acknowledgedMissing(int $acknowledged, int $last): self
    {
        return new self("journal: found $last as its last row, expected at least $acknowledged, which was acknowledged; "
            .self::WHAT_CAN_BE_DONE);
    }

    public static function acknowledgedOther(int $acknowledged): self
    {
        return new self("journal row $acknowledged: found another row than the one that was acknowledged, expected the same; "
            .self::WHAT_CAN_BE_DONE);
    }

    public static function market(string $contract): self
    {
        return new self("journal: found a checkpoint of the market of $contract that cannot be read, expected the one that the engine "
            .'wrote; '.self::WHAT_CAN_BE_DONE);
    }

    public static function lines(): self
    {
        return new self('journal: found no checkpoint of the venue\'s clock that can be read, expected the one that the engine wrote; '
            .self::WHAT_CAN_BE_DONE);
    }

    public static function unreadable(string $words): self
    {
        return new self("journal: found a database that cannot be read ($words), expected the one that the engine wrote; "
            .self::WHAT_CAN_BE_DONE);
    }
}
