<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Event\Exit\EntryClosed;
use Lotrik\Desk\Position\AccountPosition;

/** Tells the journal of each entry whose last lot has closed what could not be found out later. */
final class ClosedEntries
{
    public function __construct(private readonly EventRecorder $recorder) {}

    public function note(AccountPosition $holding): void
    {
        foreach ($holding->closed as $id => $entry) {
            if ($entry->record !== null) {
                $this->recorder->note(new EntryClosed(
                    $holding->account,
                    $holding->contract,
                    $id,
                    $entry->record->told($this->recorder->state->contracts[$holding->contract]),
                ));
            }
        }
    }
}
