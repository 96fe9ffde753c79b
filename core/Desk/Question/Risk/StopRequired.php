<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Where a trader wants each lot to have a protective stop, none is entered without, and none loses the one that it has. */
final class StopRequired implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        if (! $proposal->account->limits->in($proposal->contract->code)->stopRequired) {
            return null;
        }
        $bare = $proposal->unprotects();
        if ($bare > 0) {
            return self::stopRequired("this would leave $bare unprotected; flatten closes them, a plan with other stops moves them");
        }
        foreach ($proposal->after->entriesThatDifferFrom($proposal->before) as $id => $entry) {
            $before = $proposal->before->entry($id);
            if ($proposal->after->bareOf($entry) > ($before === null ? 0 : $proposal->before->bareOf($before))) {
                return self::stopRequired('an entry needs an exit plan with a stop for each of its lots', '/exit_plan');
            }
        }

        return null;
    }

    /** @param string $what such as "an entry needs an exit plan with a stop" */
    private static function stopRequired(string $what, ?string $pointer = null): Refusal
    {
        return new Refusal(RefusalCode::StopRequired, "by your limits every lot must have a stop: $what", $pointer);
    }
}
