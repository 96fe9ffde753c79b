<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Desk;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\TradingSystem;
use Lotrik\Document\Node;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\NoFeed;

/** A desk with one dulse contract (0.50 = 2.50 EUR) and one account, whose market moves only where a test pushes it. */
final class TestSystem
{
    public const CODE = 'DULZ6';

    public const START = 825;

    public TradingSystem $system;

    /** @var list<Recorded> */
    public array $events = [];

    private int $commands = 0;

    /**
     * @param list<array{Contract, int}> $others further contracts, each with its first price in ticks
     * @param int                        $at     ms since 1970 UTC
     * @param int                        $maxOrders of an account that the venues take
     * @param list<Account>|null         $accounts  null for two
     */
    public function __construct(
        private readonly int $delaySteps = 0,
        int $seed = 1,
        ?Contract $contract = null,
        array $others = [],
        private int $at = 1_793_611_800_000,
        private readonly int $maxOrders = \Lotrik\Venue\Simulated\SimulatedVenue::MAX_ORDERS,
        ?array $accounts = null,
    ) {
        $this->system = new TradingSystem(new Desk(), $delaySteps);
        $contract ??= self::contract();
        foreach ([[$contract, self::START], ...$others] as [$listed]) {
            $this->system->desk->list($listed, $this->at);
        }
        foreach ($accounts ?? [self::account(1), self::account(2)] as $account) {
            $this->system->desk->openAccount($account, $this->at);
        }
        foreach ([[$contract, self::START], ...$others] as [$listed, $start]) {
            $this->system->add(Market::open($listed->code, $seed, $start, new NoFeed(), $this->maxOrders));
            $this->push(1, $listed->code);
            $this->push(-1, $listed->code);
        }
    }

    public static function contract(): Contract
    {
        return Contract::fromJson('{"code":"DULZ6","tick_size":"0.50","tick_value":"2.50","currency":"EUR","fee_per_side":"0.62","day_margin":"205.00","price_limit_ticks":400}');
    }

    public static function account(int $id): Account
    {
        return Account::fromArray(['id' => $id, 'owner' => $id, 'name' => 'Test', 'currency' => 'EUR', 'balance' => '10000.00', 'rates' => [],
            'order_limit' => 20, 'position_limit' => 40, 'daily_loss_limit' => '500.00']);
    }

    /** @return array<string, mixed> */
    public static function plan(string $fields = ''): array
    {
        return json_decode(
            '{"name":"Short tide",'.($fields === '' ? '"stop":{"ticks":7},"portions":[{"lots":1,"target":{"ticks":9}},{"rest":true,"target":null}],"ratchets":[{"at":5,"lock":0},{"at":7,"lock":2},{"at":11,"trail":6,"by":2}]' : $fields).'}',
            true,
            512,
            JSON_THROW_ON_ERROR,
        );
    }

    /** @param array<string, mixed> $body */
    public function handle(string $op, array $body, int $account = 1): \Lotrik\Desk\Command\Answer
    {
        try {
            return $this->system->handle(
                $op,
                $account,
                $body + ['client_id' => 'c'.++$this->commands],
                json_encode([$op, $body], JSON_THROW_ON_ERROR),
                ++$this->at,
            );
        } finally {
            $this->collect();
        }
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return int the order's id
     */
    public function place(
        string $side,
        int $lots,
        string $kind = 'market',
        ?string $level = null,
        ?array $plan = null,
        array $more = [],
    ): int {
        return (int) $this->handle('place', [
            'contract' => self::CODE, 'side' => $side, 'quantity' => $lots, 'kind' => $kind,
        ] + ($level === null ? [] : [in_array($kind, ['stop', 'mit'], true) ? 'trigger' : 'price' => $level]) + ($plan === null ? [] : ['exit_plan' => $plan]) + $more)->body['order'];
    }

    public function now(): int
    {
        return $this->at;
    }

    /** The time so many ms from now, as a command gives it. */
    public function in(int $ms): string
    {
        $at = $this->at + $ms;

        return gmdate('Y-m-d\TH:i:s', intdiv($at, 1000)).sprintf('.%03dZ', $at % 1000);
    }

    public function setExit(string $role, int $level): void
    {
        $this->handle('set-exit', ['contract' => self::CODE, 'role' => $role, 'level' => self::contract()->price($level)]);
    }

    /** Sets limits of an account: a whole document of which only what is unusual is given. @param array<string, mixed> $limits */
    public function limit(array $limits, int $of = 1): void
    {
        $body = Node::of($limits + ['format' => 'lotrik.limits/1', 'daily_loss' => '500.00']);
        $account = $this->system->desk->state->accounts[$of];
        try {
            $this->system->changeAccounts(static fn(Accounts $accounts) => $accounts->setLimits($account, $body), ++$this->at);
        } finally {
            $this->collect();
        }
    }

    /**
     * Opens, resets or changes accounts.
     *
     * @param callable(Accounts): mixed $change
     */
    public function accounts(callable $change): mixed
    {
        try {
            return $this->system->changeAccounts($change, ++$this->at);
        } finally {
            $this->collect();
        }
    }

    /** @param list<array<string, mixed>> $days of a calendar */
    public function calendar(array $days): void
    {
        $this->system->setCalendar(Calendar::fromArray(['format' => Calendar::FORMAT, 'days' => $days]), ++$this->at);
        $this->collect();
    }

    /** @param array<string, mixed> $body */
    public function refusal(string $op, array $body): Refusal
    {
        try {
            $this->handle($op, $body);
        } catch (Refusal $refusal) {
            return $refusal;
        }

        throw new \RuntimeException("$op was not refused");
    }

    public function push(int $ticks, string $code = self::CODE): void
    {
        $this->system->push($code, $ticks, ++$this->at);
        $this->collect();
    }

    /** A restart after which nothing arrives that was under way between desk and venues. */
    public function loseTheLine(): void
    {
        $this->restart(['toVenue' => [], 'toDesk' => []]);
    }

    /**
     * A kill and a start: a new desk from the journal's events as they were written, the markets from their checkpoints.
     *
     * @param array<string, mixed> $lost in place of what the checkpoints have
     */
    public function restart(array $lost = []): void
    {
        $this->system = $this->fresh($lost);
        $this->system->resume($this->at);
        $this->collect();
    }

    /**
     * What a start would build from the journal and the checkpoints, before it does anything.
     *
     * @param array<string, mixed> $lost in place of what the checkpoints have
     */
    public function fresh(array $lost = []): TradingSystem
    {
        $state = new DeskState();
        foreach ($this->events as $recorded) {
            $state->apply(
                EventCodec::decode(
                    EventCodec::type($recorded->event),
                    EventCodec::version($recorded->event),
                    EventCodec::encode($recorded->event),
                    $state,
                ),
                $recorded->at,
            );
        }
        $system = new TradingSystem(new Desk($state), $this->delaySteps);
        $system->startAt($this->system->steps());
        foreach ($this->system->markets() as $code => $market) {
            $packed = $lost + json_decode(json_encode($this->system->packMarket($code), JSON_THROW_ON_ERROR), true);
            $system->restoreMarket(Market::unpack($code, $packed, new NoFeed(), $this->maxOrders), $packed);
        }
        $system->desk->lossWatch()->restoreBests($this->system->desk->lossWatch()->packBests());

        return $system;
    }

    /** Time goes by in which nothing happens. */
    public function wait(int $ms): void
    {
        $this->at += $ms;
    }

    /** The next trading day: the last trade is the settlement, and the price limits count from it. */
    public function nextDay(): void
    {
        $this->at += 86_400_000 - $this->at % 86_400_000;
        $this->step(1);
    }

    public function step(int $steps): void
    {
        for ($i = 0; $i < $steps; $i++) {
            $this->system->step($this->at += 10);
        }
        $this->collect();
    }

    public function order(int $id): DeskOrder
    {
        return $this->system->desk->state->order($id);
    }

    public function holding(int $account = 1, string $code = self::CODE): AccountPosition
    {
        return $this->system->desk->state->holding($account, $code);
    }

    /** @return list<string> words of the events from here on */
    public function wordsSince(int $from): array
    {
        return array_map(static fn(Recorded $r): string => $r->words, array_slice($this->events, $from));
    }

    /**
     * @template T of \Lotrik\Desk\Event\Event
     *
     * @param class-string<T> $class
     *
     * @return list<T>
     */
    public function eventsOf(string $class): array
    {
        return array_values(array_filter(
            array_map(static fn(Recorded $r): \Lotrik\Desk\Event\Event => $r->event, $this->events),
            static fn(\Lotrik\Desk\Event\Event $e): bool => $e instanceof $class,
        ));
    }

    public function lots(): int
    {
        return $this->holding()->position->lots;
    }

    public function last(): int
    {
        return (int) $this->system->desk->quote(self::CODE)->last;
    }

    /** @return list<DeskOrder> */
    public function working(?Role $role = null): array
    {
        return array_values(array_filter($this->holding()->working, static fn(DeskOrder $o): bool => $role === null || $o->role === $role));
    }

    /** @return array<int, int> portion → trigger of its working stop, as ticks from a price */
    public function stops(int $from = 0): array
    {
        $stops = [];
        foreach ($this->working(Role::Stop) as $order) {
            $stops[(int) $order->portion] = (int) $order->trigger - $from;
        }
        ksort($stops);

        return $stops;
    }

    /** @return array<int, int> portion → price of its working target, as ticks from a price */
    public function targets(int $from = 0): array
    {
        $targets = [];
        foreach ($this->working(Role::Target) as $order) {
            $targets[(int) $order->portion] = (int) $order->price - $from;
        }
        ksort($targets);

        return $targets;
    }

    /** Average entry in whole ticks. */
    public function average(): int
    {
        return $this->holding()->position->average->toInt();
    }

    /** @return list<string> */
    public function words(): array
    {
        return array_map(static fn(Recorded $r): string => $r->words, $this->events);
    }

    private function collect(): void
    {
        array_push($this->events, ...$this->system->events());
    }
}
