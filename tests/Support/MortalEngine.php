<?php

declare(strict_types=1);

namespace Tests\Support;

use App\Demo\KestrelBay;
use App\Engine\Checkpoint\Checkpoints;
use App\Engine\Journal\Journal;
use App\Engine\Loop\EngineBoot;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * The engine without its sockets, on a journal of its own, so that it can be killed a hundred times in a minute: desk,
 * markets, journal and checkpoints are the real ones. What has not been committed is gone with a kill, as for a process.
 */
final class MortalEngine
{
    private const BUILD = 'mortal';

    public Journal $journal;

    public EngineBoot $boot;

    private readonly Randomizer $dice;

    /** @var array<int, list<string>> account → client ids whose commands were acknowledged */
    public array $acknowledged = [];

    private int $commands = 0;

    /** @param string $empty a journal with its tables and no rows */
    public function __construct(
        private readonly string $folder,
        string $empty,
        private readonly int $seed,
        private readonly int $delaySteps,
    ) {
        copy($empty, "$folder/journal.sqlite");
        $this->dice = new Randomizer(new Mt19937($seed));
        $this->start();
        foreach ([2, 3] as $id) {
            $this->system()->desk->openAccount(
                Account::fromArray(['id' => $id] + ['owner' => $id] + KestrelBay::account($id)),
                $this->at(),
            );
        }
        $this->commit();
    }

    /** A kill, wherever it was, and the next start. */
    public function killed(): void
    {
        unset($this->journal, $this->boot);
        $this->start();
    }

    private function start(): void
    {
        $this->journal = JournalFile::open($this->folder);
        $this->boot = EngineBoot::from(
            $this->journal, "{$this->folder}/desk.checkpoint", self::BUILD, $this->seed, 1_793_611_800_000, $this->delaySteps,
        );
        $this->commit();
    }

    public function system(): TradingSystem
    {
        return $this->boot->system;
    }

    private function at(): int
    {
        return $this->boot->clock->at($this->system()->steps());
    }

    /** Commands that a trader might send, and some steps of the market: a turn of the loop that is not committed yet. */
    public function work(): void
    {
        $contracts = array_slice(array_keys($this->system()->markets()), 0, 3);
        for ($n = $this->dice->getInt(0, 2); $n > 0; $n--) {
            $this->command($this->dice->getInt(2, 3), $contracts[$this->dice->getInt(0, 2)]);
        }
        $this->steps($this->dice->getInt(0, 12));
        if ($this->dice->getInt(0, 5) === 0) {
            $code = $contracts[$this->dice->getInt(0, 2)];
            $this->system()->push($code, $this->dice->getInt(-6, 6), $this->at());
        }
    }

    public function steps(int $count): void
    {
        for ($i = 0; $i < $count; $i++) {
            $this->system()->step($this->boot->clock->at($this->system()->steps() + 1));
        }
    }

    /** What the engine does at the end of a turn: one transaction, and only then are answers given. */
    public function commit(): void
    {
        $system = $this->system();
        $events = $system->events();
        $contracts = array_values(array_unique([
            ...array_filter(array_column($events, 'contract')), ...$this->boot->checkpoints->due($system),
        ]));
        if ($events === [] && $contracts === []) {
            return;
        }
        $this->journal->commit(
            $events, $system->desk->state, $system->steps(), static fn(): ?int => null,
            $this->boot->checkpoints->of($system, $contracts, $this->at(), []), Checkpoints::memory($system, $contracts), self::BUILD,
        );
        foreach ($events as $recorded) {
            if ($recorded->event instanceof \Lotrik\Desk\Event\Command\CommandTaken) {
                $this->acknowledged[$recorded->event->account][] = $recorded->event->clientId;
            }
        }
        if ($this->dice->getInt(0, 20) === 0) {
            $this->boot->deskCheckpoint->save($system->desk->state, $this->journal->lastHash());
        }
    }

    private function command(int $account, string $code): void
    {
        $state = $this->system()->desk->state;
        $working = array_values($state->holding($account, $code)->working);
        $order = $working === [] ? null : $working[$this->dice->getInt(0, count($working) - 1)];
        $contract = $state->contracts[$code];
        $last = (int) ($this->system()->desk->quote($code)->last ?? $this->system()->desk->quote($code)->bid);
        $price = fn(): string => $contract->price($last + $this->dice->getInt(-8, 8));
        $plan = $this->dice->getInt(0, 3) === 0
            ? null
            : TestSystem::plan((string) RandomActions::PLANS[$this->dice->getInt(1, count(RandomActions::PLANS) - 1)]);
        $place = [
            'side' => $this->dice->getInt(0, 1) === 0 ? 'buy' : 'sell', 'quantity' => $this->dice->getInt(1, 4), 'exit_plan' => $plan,
        ];
        [$op, $body] = match ($this->dice->getInt(0, 11)) {
            0, 1, 2 => ['place', ['kind' => 'market', 'closing' => $this->dice->getInt(0, 1) === 0 ? null : 'through'] + $place],
            3, 4, 5 => ['place', ['kind' => 'limit', 'price' => $price()] + $place],
            6 => $order === null ? ['flatten', []] : ['cancel', ['order' => $order->id, 'leave_unprotected' => true]],
            7 => $order === null ? ['flatten', []] : [
                'modify',
                [
                    'order' => $order->id,
                    $order->kind->hasTrigger()
                        ? 'trigger'
                        : 'price' => $contract->price((int) $order->level() + $this->dice->getInt(-3, 3)),
                ],
            ],
            8 => ['flatten', []],
            9 => ['reverse', ['exit_plan' => $plan]],
            10 => ['cancel-many', []],
            default => ['tighten', ['ticks' => 1]],
        };
        $body += ['client_id' => "{$this->seed}-".++$this->commands, 'account' => $account];
        $body += in_array($op, ['cancel', 'modify'], true) ? [] : ['contract' => $code];
        try {
            $this->system()->handle(
                $op,
                $account,
                array_filter($body, static fn(mixed $value): bool => $value !== null),
                (string) json_encode($body),
                $this->at(),
            );
        } catch (Refusal) {
            // Refused is an answer too.
        }
    }

    /** @return string|null what does not hold once all answers are here */
    public function fault(): ?string
    {
        for ($i = 0; $this->isBusy() && $i < 400; $i++) {
            $this->steps(10);
        }
        if ($this->isBusy()) {
            return 'something waits for ever: '.implode(
                ', ',
                array_map(static fn(DeskOrder $o): string => "{$o->id} {$o->role->value} {$o->state->value}", $this->pending()),
            );
        }
        $state = $this->system()->desk->state;
        foreach ($state->holdings as $code => $holdings) {
            $venue = $this->system()->market($code)->venue;
            foreach ($holdings as $account => $holding) {
                if ($venue->position($account) !== $holding->position->lots) {
                    return "account $account in $code: the desk has {$holding->position->lots} lots, the venue {$venue->position($account)}";
                }
                if (($fault = $this->ordersFault($venue->reconnect()->working, $holding, $account)) !== null) {
                    return "account $account in $code: $fault";
                }
            }
        }
        foreach ($this->acknowledged as $account => $ids) {
            foreach ($ids as $id) {
                if ($state->handled->find($account, $id) === null && ! $this->journal->has($account, $id)) {
                    return "command $id of account $account was acknowledged and is not known any more";
                }
            }
        }

        return null;
    }

    /** @param array<int, \Lotrik\Venue\WorkingOrder> $atVenue */
    private function ordersFault(array $atVenue, \Lotrik\Desk\Position\AccountPosition $holding, int $account): ?string
    {
        $mine = array_filter($atVenue, static fn($o): bool => $o->account === $account);
        $desk = array_filter($holding->working, static fn(DeskOrder $o): bool => ! $o->isHeld());
        ksort($mine);
        ksort($desk);
        $told = array_map(static fn(DeskOrder $o): array => [$o->leaves(), $o->price, $o->trigger], $desk);
        $real = array_map(static fn($o): array => [$o->lots, $o->price, $o->trigger], $mine);
        if ($told !== $real) {
            return 'the desk says '.json_encode($told).', the venue has '.json_encode($real);
        }
        foreach ($holding->entries as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                $stop = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Stop);
                if (($slot->wantsStop() ? $slot->lots : 0) !== ($stop?->leaves() ?? 0)) {
                    return "portion {$slot->portion->number} of entry {$entry->order} has {$slot->lots} lots, and its stop is for "
                        .($stop?->leaves() ?? 0);
                }
            }
        }

        return null;
    }

    /** @return list<DeskOrder> */
    private function pending(): array
    {
        $pending = [];
        foreach ($this->system()->desk->state->holdings as $holdings) {
            foreach ($holdings as $holding) {
                array_push(
                    $pending,
                    ...array_filter($holding->working, static fn(DeskOrder $o): bool => $o->state->isPending() || $o->cancelWished),
                );
            }
        }

        return $pending;
    }

    private function isBusy(): bool
    {
        foreach ($this->system()->markets() as $code => $market) {
            if ($this->system()->isBusy($code)) {
                return true;
            }
            foreach ($this->system()->desk->state->holdings[$code] ?? [] as $holding) {
                if ($holding->isClosingDown()) {
                    return true;
                }
            }
        }

        return $this->pending() !== [];
    }
}
