<?php

declare(strict_types=1);

namespace App\Engine\Rpc;

use Lotrik\Refusal\RefusalCode;

/** The engine could not be asked, or it is not known what it made of the call. */
final class EngineUnavailable extends \RuntimeException
{
    /** @param bool $isGone nobody listens: what it had open is closed */
    private function __construct(public readonly RefusalCode $problem, string $message, public readonly bool $isGone = false)
    {
        parent::__construct($message);
    }

    public static function away(bool $isGone = false): self
    {
        $words = 'the engine is not running or just coming back; nothing was done, try again in a moment';

        return new self(RefusalCode::EngineAway, $words, $isGone);
    }

    public static function otherBuild(): self
    {
        return new self(RefusalCode::EngineBuild, 'the engine runs another build than the web; restart both');
    }

    public static function outcomeUnknown(): self
    {
        return new self(
            RefusalCode::OutcomeUnknown,
            'the engine did not answer in time and may have done it; send the same client_id again to find out',
        );
    }
}
