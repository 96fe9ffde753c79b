<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Demo\KestrelBay;
use App\Engine\EngineRefusal;
use App\Engine\Loop\Request;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\TradingSystem;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** Accounts are opened, closed, reset, and given rates and limits. */
final readonly class AccountChanges
{
    public function __construct(private TradingSystem $system) {}

    /**
     * By the machine's own operator alone.
     *
     * @return callable(): array{status: int, body: array<string, mixed>}
     *
     * @throws Refusal
     */
    public function openOnTheConsole(Request $request, int $at): callable
    {
        if ($request->user !== null) {
            throw EngineRefusal::accountsOnTheConsole();
        }
        $id = max([0, ...array_keys($this->system->desk->state->accounts)]) + 1;
        $this->system->desk->openAccount(Account::fromArray(['id' => $id] + $request->body), $at);

        return self::told(201, $id);
    }

    /**
     * @param array<string, mixed> $body
     *
     * @return callable(): array{status: int, body: array<string, mixed>}
     *
     * @throws Refusal
     */
    public function open(int $user, array $body, int $at): callable
    {
        $limits = array_intersect_key(KestrelBay::account($user), ['order_limit' => 1, 'position_limit' => 1]);

        return self::told(201, $this->system->changeAccounts(
            static fn(Accounts $accounts): int => $accounts->open($user, Node::of($body), $limits), $at,
        ));
    }

    /**
     * @return callable(): array{status: int, body: array<string, mixed>} with the account that goes on
     *
     * @throws Refusal
     */
    public function change(Asked $asked, int $at): callable
    {
        [$op, $account, $body] = [$asked->request->op, $asked->account, Node::of($asked->request->body)];
        $uses = $op === Operation::AccountLift ? $this->system->desk->lossWatch()->uses($account, $at) : [];

        return self::told(200, $this->system->changeAccounts(static function (Accounts $accounts) use ($op, $account, $body, $uses): int {
            if ($op === Operation::AccountReset) {
                return $accounts->reset($account, $body);
            }
            if ($op === Operation::AccountClose) {
                $body->done();
                $accounts->close($account);
            } elseif ($op === Operation::AccountLift) {
                $by = $body->string('by');
                $body->done();
                $accounts->lift($account, $uses, $by);
            } elseif ($op === Operation::AccountRates) {
                $accounts->setRates($account, $body);
            } else {
                $accounts->setLimits($account, $body);
            }

            return $account->id;
        }, $at));
    }

    /** @return callable(): array{status: int, body: array<string, mixed>} */
    private static function told(int $status, int $account): callable
    {
        return static fn(): array => ['status' => $status, 'body' => ['account' => $account]];
    }
}
