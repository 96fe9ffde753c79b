<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Event\Command\CommandRefused;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\Simulated\Mood;

/** Plays a list of actions, as {@see WideActions} makes them, in a trading system of its own with three contracts. */
final class WideHistory
{
    public const CODES = [TestSystem::CODE, 'FRXZ6', 'YUZX6'];

    /** a Monday afternoon, half an hour before dulse closes */
    private const START = '2026-11-02 18:00 UTC';

    private const CLOSE = 18 * 60 + 30;

    private const OPEN = 8 * 60;

    public readonly TestSystem $system;

    /** @var list<string> what came of each action that was refused */
    public array $refused = [];

    /** @var array<int, int> account → the one that goes on in its place */
    private array $goesOn = [];

    /** @param int $maxOrders of an account that a venue takes: few of them, and it refuses exits */
    public function __construct(public readonly int $seed, int $delaySteps, int $maxOrders, private readonly bool $looksAtRefusals = false)
    {
        $dulse = Contract::fromArray(['session' => [
            'zone' => 'UTC', 'days' => [1, 2, 3, 4, 5], 'open' => '08:00', 'close' => '18:30',
        ]] + TestSystem::contract()->toArray());
        $this->system = new TestSystem($delaySteps, $seed, $dulse, [
            [
                Contract::fromJson('{"code":"FRXZ6","tick_size":"0.5","tick_value":"12.50","currency":"USD","fee_per_side":"1.10","day_margin":"500.00"}'),
                3700,
            ],
            [
                Contract::fromJson('{"code":"YUZX6","tick_size":"1","tick_value":"500","currency":"JPY","fee_per_side":"90","day_margin":"60000"}'),
                2400,
            ],
        ], 1000 * (int) strtotime(self::START), $maxOrders, [
            self::account(1, 'EUR', ['USD' => '0.91', 'JPY' => '0.0061'], '900.00'),
            // No rate for the yen: nothing can be entered there.
            self::account(2, 'USD', ['EUR' => '1.09'], '700.00'),
            self::account(3, 'EUR', ['USD' => '0.91', 'JPY' => '0.0061'], '9000000.00'),
        ]);
    }

    /** @param array<string, string> $rates */
    private static function account(int $id, string $currency, array $rates, string $limit): Account
    {
        return Account::fromArray([
            'id' => $id, 'owner' => $id, 'name' => 'Test', 'currency' => $currency, 'balance' => '10000.00', 'rates' => $rates,
            'order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => $limit,
        ]);
    }

    /** @param array<string, mixed> $action */
    public function perform(array $action): void
    {
        $do = $action['do'];
        $account = $this->goesOn[$action['account'] ?? 1] ?? $action['account'] ?? 1;
        $code = self::CODES[$action['contract'] ?? 0];
        $body = array_diff_key($action, ['do' => 1, 'account' => 1, 'contract' => 1]);
        $before = $this->looksAtRefusals ? self::paper($this->system) : null;
        try {
            match ($do) {
                'push' => $this->system->push($body['ticks'], $code),
                'step' => $this->system->step($body['steps']),
                'jump' => $this->jump($body['to']),
                'restart' => $this->system->restart(),
                'limits' => $this->system->limit($body['limits'] + ['daily_loss' => '500.00'], $account),
                'rates' => $this->accounts(fn(Accounts $accounts): mixed => $accounts->setRates($this->now($account), Node::of(['rates' => array_diff_key(
                    $body['rates'],
                    [$this->now($account)->rates->base->code => 1],
                )]))),
                'account-open' => $this->accounts(static fn(Accounts $accounts): int => $accounts->open($account, Node::of([
                    'name' => 'Another', 'currency' => 'EUR', 'balance' => '5000.00', 'rates' => ['USD' => '0.91', 'JPY' => '0.0061'],
                ]), ['order_limit' => 20, 'position_limit' => 40])),
                'account-reset' => $this->goesOn[$action['account'] ?? 1] = (int) $this->accounts(
                    fn(Accounts $accounts): int => $accounts->reset($this->now($account), Node::of(['balance' => '8000.00'])),
                ),
                'account-lift' => $this->accounts(fn(Accounts $accounts) => $accounts->lift(
                    $this->now($account), $this->system->system->desk->lossWatch()->uses($this->now($account), $this->system->now()), 'Owner',
                )),
                'calendar' => $this->system->calendar($body['days']),
                'size' => $this->system->system->desk->queries->size(
                    $account,
                    array_diff_key($this->order($body['order'], $account, $code), ['quantity' => 1]) + ['account' => $account, 'risk' => $body['risk']],
                    $this->system->now(),
                ),
                'what-if' => $this->system->system->desk->queries->whatIf($account, ['orders' => [$this->order($body['order'], $account, $code)]], $this->system->now()),
                'mood' => $this->system->system->market($code)->flow->setMood(Mood::from($body['mood'])),
                'sweep' => $this->system->handle('place', ['contract' => $code, 'kind' => 'market', 'closing' => 'through'] + $body, 3),
                'place' => $this->system->handle('place', $this->order($body, $account, $code), $account),
                'preview' => $this->system->system->desk->queries->preview(
                    $account,
                    $this->order($body, $account, $code) + ['account' => $account],
                    $this->system->now(),
                ),
                'place-pair' => $this->system->handle(
                    'place-pair',
                    ['orders' => [$this->order($body['first'], $account, $code), $this->order($body['second'], $account, $code)]],
                    $account,
                ),
                'modify' => $this->modify($body, $account, $code),
                'cancel' => $this->system->handle(
                    'cancel',
                    ['order' => $this->nth($body['nth'], $account, $code)->id] + array_diff_key($body, ['nth' => 1]),
                    $account,
                ),
                'hand-back' => $this->system->handle(
                    'modify',
                    ['order' => $this->nth($body['nth'], $account, $code)->id, 'steering' => 'plan'],
                    $account,
                ),
                'tie' => $this->system->handle(
                    'tie',
                    ['orders' => [$this->nth($body['nth'], $account, $code)->id, $this->nth($body['with'], $account, $code)->id]],
                    $account,
                ),
                'untie' => $this->system->handle('untie', ['order' => $this->nth($body['nth'], $account, $code)->id], $account),
                'close-part' => $this->closePart($body, $account, $code),
                'set-exit' => $this->system->handle(
                    'set-exit',
                    ['contract' => $code, 'role' => $body['role'], 'level' => $this->price($code, $body['beyond'])],
                    $account,
                ),
                'steps' => $this->system->handle('steps', ['contract' => $code, 'name' => 'Key', 'steps' => array_map(
                    fn(array $step): array => isset($step['order'])
                        ? ['order' => array_diff_key($this->order($step['order'], $account, $code), ['contract' => 1])] + $step
                        : $step,
                    $body['steps'],
                )], $account),
                'flatten-account' => $this->system->handle('flatten-account', [], $account),
                default => $this->system->handle(
                    $do,
                    ['contract' => $code] + array_filter($body, static fn(mixed $value): bool => $value !== null),
                    $account,
                ),
            };
        } catch (Refusal $refusal) {
            $this->refused[] = "$do: {$refusal->getMessage()}";
            // What comes before it in time (a day that begins, a session that opens) comes all the same.
            $news = array_filter(
                array_slice($this->system->events, $before[1] ?? 0),
                static fn(Recorded $of): bool => ! $of->event instanceof CommandRefused,
            );
            if ($before !== null && $news === [] && $before[0] !== self::paper($this->system)[0]) {
                throw new \RuntimeException("$do was refused ({$refusal->getMessage()}) and changed something");
            }
        }
    }

    /** @return array{string, int} what the desk holds but for its sequence, and how many events there are */
    private static function paper(TestSystem $system): array
    {
        $paper = StateOnPaper::of($system->system->desk->state);
        unset($paper['sequence'], $paper['commands']);

        return [serialize($paper), count($system->events)];
    }

    private function now(int $id): Account
    {
        return $this->system->system->desk->state->accounts[$id];
    }

    /** @param callable(Accounts): mixed $change */
    private function accounts(callable $change): mixed
    {
        return $this->system->accounts($change);
    }

    /** To just before the next close of dulse, or its next open. */
    private function jump(string $to): void
    {
        $minute = intdiv($this->system->now(), 60_000) % 1440;
        $ahead = (($to === 'close' ? self::CLOSE : self::OPEN) - $minute + 1440) % 1440;
        $this->system->wait(max(0, $ahead * 60_000 - $this->system->now() % 60_000 - 50));
        $this->system->step(3);
    }

    /**
     * @param array<string, mixed> $body
     *
     * @return array<string, mixed>
     */
    private function order(array $body, int $account, string $code): array
    {
        $sign = $body['side'] === 'buy' ? 1 : -1;
        $times = ['release_in' => 'release_at', 'cancel_in' => 'cancel_at', 'expires_in' => 'expires_at'];
        $order = ['contract' => $code];
        foreach ($body as $field => $value) {
            if (isset($times[$field])) {
                $order[$times[$field]] = $this->system->in($value);
            } elseif (in_array($field, ['side', 'quantity', 'kind', 'tif', 'closing'], true)) {
                $order[$field] = $value;
            } elseif (in_array($field, ['exit_plan', 'this_order'], true) && ($body['exit_plan'] ?? null) !== null) {
                $order[$field] = $value;
            }
        }
        if (isset($body['beyond'])) {
            $order[in_array($body['kind'], ['limit'], true) ? 'price' : 'trigger'] = $this->price($code, $sign * $body['beyond']);
        }
        if (isset($body['limit'])) {
            $order['price'] = $this->price($code, $sign * ($body['beyond'] + $body['limit']));
        }
        if (isset($body['condition_on'])) {
            $on = self::CODES[$body['condition_on']];
            $order['condition'] = [
                'contract' => $on, 'last' => $body['rising'] ? 'at-or-above' : 'at-or-below',
                'price' => $this->price($on, $body['condition_beyond']),
            ];
        }
        if (isset($body['after_nth'])) {
            $order['after'] = $this->nth($body['after_nth'], $account, $code)->id;
        }

        return $order;
    }

    /** @param array<string, mixed> $body */
    private function modify(array $body, int $account, string $code): void
    {
        $order = $this->nth($body['nth'], $account, $code);
        $contract = $this->system->system->desk->state->contracts[$code];
        $change = ['order' => $order->id];
        if (isset($body['by'])) {
            $change[$order->kind->hasTrigger() && ! $order->triggered ? 'trigger' : 'price'] = $contract->price((int) $order->level() + $body['by']);
        }
        if (isset($body['lots'])) {
            $change['quantity'] = max(1, $order->quantity + $body['lots']);
        }
        if (isset($body['expires_in'])) {
            $change += ['tif' => 'gtd', 'expires_at' => $this->system->in($body['expires_in'])];
        }
        $this->system->handle('modify', $change + array_intersect_key($body, ['tif' => 1, 'leave_unprotected' => 1]), $account);
    }

    /** @param array<string, mixed> $body */
    private function closePart(array $body, int $account, string $code): void
    {
        $entries = array_keys($this->system->holding($account, $code)->entries);
        $this->system->handle(
            'close-part',
            [
                'contract' => $code, 'entry' => $entries[$body['nth'] % max(1, count($entries))] ?? 1,
            ] + array_intersect_key($body, ['portion' => 1, 'portions' => 1]),
            $account,
        );
    }

    private function nth(int $n, int $account, string $code): DeskOrder
    {
        $working = array_values($this->system->holding($account, $code)->working);

        return $working === [] ? throw Refusal::nothingToChange() : $working[$n % count($working)];
    }

    private function price(string $code, int $beyond): string
    {
        return $this->system->system->desk->state->contracts[$code]->price((int) $this->system->system->desk->quote($code)->last + $beyond);
    }
}
