<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** One thing that a trader can ask for. It checks all of it before it notes its first event. */
interface Command
{
    /**
     * @param Node $body of which `client_id` and `account` have been read
     *
     * @return array<string, mixed> the answer, kept for the same client id sent again
     *
     * @throws Refusal
     * @throws InvalidDocument
     */
    public function handle(CommandHead $command, Node $body): array;
}
