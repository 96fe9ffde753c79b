<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\EngineRefusal;
use App\Engine\Loop\Request;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\DeskState;
use Lotrik\Refusal\Refusal;

/** A call to the engine in the name of somebody whose account it is. */
final readonly class Asked
{
    private function __construct(public Request $request, public Account $account, private DeskState $state) {}

    /** @throws Refusal where the account is another's */
    public static function by(Request $request, DeskState $state): self
    {
        $account = $state->accounts[$request->account] ?? null;
        if ($account === null || $account->owner !== $request->user) {
            throw Refusal::unknownAccount($request->account);
        }

        return new self($request, $account, $state);
    }

    /** @throws Refusal where no such contract is listed */
    public function contract(): Contract
    {
        return $this->state->contracts[$this->text('contract')] ?? throw EngineRefusal::noSuchContract();
    }

    public function text(string $field, string $else = ''): string
    {
        $value = $this->request->body[$field] ?? $else;

        return is_string($value) ? $value : $else;
    }

    public function int(string $field, int $else = 0): int
    {
        $value = $this->request->body[$field] ?? $else;

        return is_numeric($value) ? (int) $value : $else;
    }

    /** @return array<array-key, mixed> */
    public function list(string $field): array
    {
        return (array) ($this->request->body[$field] ?? []);
    }

    public function session(): string
    {
        return $this->text('session');
    }

    /** @return array<string, mixed> what was sent, but for these fields */
    public function bodyWithout(string ...$fields): array
    {
        return array_diff_key($this->request->body, array_flip($fields));
    }
}
