<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Desk;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** The ids that commands were sent with: each is done once, however often it comes, and can be asked for when its answer was lost. */
final class KnownCommands
{
    /** @param CommandArchive|null $archive of commands that the state remembers no more; null where there is none */
    public function __construct(private readonly CommandContext $context, private readonly ?CommandArchive $archive) {}

    /**
     * @param string $fingerprint of what was sent
     *
     * @return Answer|null that was given before; null where the command is a new one
     *
     * @throws Refusal where the id was used for something else, or was given up
     */
    public function answered(string $op, int $account, string $clientId, string $fingerprint): ?Answer
    {
        $known = $this->context->state->handled->find($account, $clientId);
        if ($known?->op === Desk::RECALL) {
            throw self::recalled($clientId);
        }
        if ($known !== null) {
            return $known->op === $op && $known->fingerprint === $fingerprint
                ? new Answer($known->answer, true)
                : throw self::clientIdReused($clientId);
        }
        if ($this->archive?->has($account, $clientId) === true) {
            throw self::clientIdForgotten($clientId);
        }

        return null;
    }

    /**
     * What became of a command whose answer was lost. One that never arrived is given up: it does nothing if it still
     * comes, however late, so that whoever asked may go on.
     */
    public function recall(Account $account, string $clientId): Answer
    {
        $known = $this->context->state->handled->find($account->id, $clientId);
        if ($known === null && $this->archive?->has($account->id, $clientId) === true) {
            return new Answer(['arrived' => true, 'op' => null, 'answer' => null], true);
        }
        if ($known !== null && $known->op !== Desk::RECALL) {
            return new Answer(['arrived' => true, 'op' => $known->op, 'answer' => $known->answer], true);
        }
        if ($known === null) {
            $this->context->recorder->commandId = $clientId;
            $head = new CommandHead(Desk::RECALL, $account, $clientId, '');
            $this->context->accept($head, null, ['arrived' => false], 'A command whose answer was lost had not arrived: it is given up');
        }

        return new Answer(['arrived' => false, 'op' => null, 'answer' => null], $known !== null);
    }

    private static function clientIdReused(string $clientId): Refusal
    {
        return new Refusal(
            RefusalCode::ClientIdReused,
            "client_id \"$clientId\" was used for another command; use a new one for each command",
            '/client_id',
        );
    }

    private static function recalled(string $clientId): Refusal
    {
        return new Refusal(
            RefusalCode::ClientIdReused,
            "the command with client_id \"$clientId\" arrived after it had been abandoned; nothing was done, send it anew if it is "
                .'still wanted',
            '/client_id',
        );
    }

    private static function clientIdForgotten(string $clientId): Refusal
    {
        return new Refusal(
            RefusalCode::ClientIdForgotten,
            "client_id \"$clientId\" was used for a command so long ago that its answer is not at hand any more; nothing was done now, "
                .'the journal has what came of it. '
            .'Use a new one for a new command',
            '/client_id',
        );
    }
}
