<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

/** The commands that were taken lately, by account and client id: the same one again gets the same answer. */
final class HandledCommands
{
    /** How many are remembered for certain, of all accounts together. */
    private const MAX = 20_000;

    /** @var array<string, string> "account client id" → packed, oldest first */
    private array $packed = [];

    public function add(int $account, string $clientId, HandledCommand $taken): void
    {
        $this->packed["$account $clientId"] = $taken->pack();
        if (count($this->packed) > 2 * self::MAX) {
            $this->packed = array_slice($this->packed, -self::MAX, null, true);
        }
    }

    public function find(int $account, string $clientId): ?HandledCommand
    {
        $packed = $this->packed["$account $clientId"] ?? null;

        return $packed === null ? null : HandledCommand::unpack($packed);
    }

    public function count(): int
    {
        return count($this->packed);
    }
}
