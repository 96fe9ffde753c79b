<?php

declare(strict_types=1);

namespace App\Engine\Rpc;

use Lotrik\Refusal\RefusalCode;

/** The engine could not be asked, or it is not known what it made of the call. */
final class EngineUnavailable extends \RuntimeException
{
    private function __construct(public readonly RefusalCode $problem, string $message)
    {
        parent::__construct($message);
    }

    public static function away(): self
    {
        return new self(RefusalCode::EngineAway, 'the engine is not running or just coming back; nothing was done, try again in a moment');
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
