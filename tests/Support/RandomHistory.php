<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk\DeskOrder;
use Lotrik\Desk\Refusal;
use Lotrik\Order\Role;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A random but repeatable afternoon of one trader: entries, closes, hand moves, cancels, reversals, pushes, gaps. */
final class RandomHistory
{
    private const PLANS = [
        null,
        '',
        '"stop":{"ticks":4}',
        '"stop":{"ticks":6},"portions":[{"lots":1,"target":{"ticks":3}},{"lots":1,"target":{"ticks":6}},{"rest":true,"target":null}],"ratchets":[{"at":2,"lock":0},{"at":4,"trail":3,"by":1}]',
        '"portions":[{"rest":true,"target":{"ticks":5}}]',
        '"stop":{"ticks":5},"portions":[{"lots":2,"target":{"ticks":2}},{"rest":true,"target":{"ticks":9}}],"ratchets":[{"at":3,"lock":"fees"},{"at":6,"trail":4,"by":2}],"watch":"exit-quote","after_target":"keep-entry"',
        '"stop":{"ticks":5,"kind":"stop-limit","limit_ticks":2},"ratchets":[{"at":3,"lock":1}]',
    ];

    public readonly TestFloor $floor;

    /** @var list<string> what was done, for the one who has to find a fault */
    public array $script = [];

    private readonly Randomizer $dice;

    /** @param callable(self): void $after called after each action */
    public function __construct(public readonly int $seed, int $delaySteps, private readonly mixed $after)
    {
        $this->floor = new TestFloor($delaySteps, $seed);
        $this->dice = new Randomizer(new Mt19937($seed));
    }

    public function run(int $actions): void
    {
        for ($i = 0; $i < $actions; $i++) {
            $this->act();
            ($this->after)($this);
        }
    }

    private function act(): void
    {
        $roll = $this->dice->getInt(0, 99);
        try {
            match (true) {
                $roll < 14 => $this->enter('market', null),
                $roll < 26 => $this->enter('limit', $this->dice->getInt(-6, 2)),
                $roll < 30 => $this->enter('stop', $this->dice->getInt(1, 6)),
                $roll < 31 => $this->enter('mit', $this->dice->getInt(-6, -1)),
                $roll < 32 => $this->enter('limit', $this->dice->getInt(-3, 2), $this->timed()),
                $roll < 37 => $this->enter('market', null, ['closing' => 'through']),
                $roll < 45 => $this->modifyOne(),
                $roll < 52 => $this->cancelOne(),
                $roll < 55 => $this->say('flatten', ['contract' => TestFloor::CODE]),
                $roll < 58 => $this->say('reverse', ['contract' => TestFloor::CODE] + $this->plan()),
                $roll < 61 => $this->say('cancel-many', ['contract' => TestFloor::CODE]),
                $roll < 62 => $this->say($this->dice->getInt(0, 1) === 0 ? 'break-even' : 'half-off', ['contract' => TestFloor::CODE]),
                $roll < 64 => $this->say('cover', ['contract' => TestFloor::CODE, 'close_now' => $this->dice->getInt(0, 1) === 0, 'leave_unprotected' => $this->dice->getInt(0, 1) === 0] + $this->plan()),
                $roll < 65 => $this->setExit(),
                $roll < 67 => $this->tie(),
                $roll < 83 => $this->push($this->dice->getInt(-9, 9)),
                default => $this->step($this->dice->getInt(1, 12)),
            };
        } catch (Refusal $refusal) {
            $this->script[] = "  refused: {$refusal->getMessage()}";
        }
    }

    private function push(int $ticks): void
    {
        $this->script[] = "push $ticks";
        $this->floor->push($ticks);
    }

    public function step(int $steps): void
    {
        $this->script[] = "step $steps";
        $this->floor->step($steps);
    }

    /** @param array<string, mixed> $more */
    private function enter(string $kind, ?int $beyond, array $more = []): void
    {
        $side = $this->dice->getInt(0, 1) === 0 ? 'buy' : 'sell';
        $sign = $side === 'buy' ? 1 : -1;
        $level = $beyond === null ? [] : [in_array($kind, ['stop', 'mit'], true) ? 'trigger' : 'price' => TestFloor::contract()->price($this->floor->last() + $sign * $beyond)];
        $this->say('place', ['contract' => TestFloor::CODE, 'side' => $side, 'quantity' => $this->dice->getInt(1, 6), 'kind' => $kind] + $level + $more + $this->plan());
    }

    /** @return array<string, mixed> */
    private function plan(): array
    {
        $fields = self::PLANS[$this->dice->getInt(0, count(self::PLANS) - 1)];

        return $fields === null ? [] : ['exit_plan' => TestFloor::plan($fields)];
    }

    private function modifyOne(): void
    {
        $order = $this->anyOrder();
        if ($order !== null) {
            $field = $order->role === Role::Stop || $order->kind->hasTrigger() ? 'trigger' : 'price';
            $level = (int) $order->level() + $this->dice->getInt(-5, 5);
            $this->say('modify', ['order' => $order->id, $field => TestFloor::contract()->price($level)] + ($order->role === Role::Entry && $this->dice->getInt(0, 2) === 0 ? ['quantity' => $order->quantity + $this->dice->getInt(-1, 2)] : []));
        }
    }

    /** @return array<string, mixed> */
    private function timed(): array
    {
        return match ($this->dice->getInt(0, 3)) {
            0 => ['tif' => 'ioc'],
            1 => ['tif' => 'fok'],
            2 => ['release_at' => $this->floor->in($this->dice->getInt(10, 200)), 'cancel_at' => $this->floor->in($this->dice->getInt(210, 500))],
            default => ['tif' => 'gtd', 'expires_at' => $this->floor->in($this->dice->getInt(10, 300))],
        };
    }

    private function tie(): void
    {
        $this->say('tie', ['orders' => [$this->anyOrder()->id ?? 1, $this->anyOrder()->id ?? 2]]);
    }

    private function setExit(): void
    {
        $level = $this->floor->last() + $this->dice->getInt(-8, 8);
        $this->say('set-exit', ['contract' => TestFloor::CODE, 'role' => $this->dice->getInt(0, 1) === 0 ? 'stop' : 'target', 'level' => TestFloor::contract()->price($level)]);
    }

    private function cancelOne(): void
    {
        $order = $this->anyOrder();
        if ($order !== null) {
            $this->say('cancel', ['order' => $order->id] + ($this->dice->getInt(0, 3) === 0 ? ['leave_unprotected' => true] : []));
        }
    }

    private function anyOrder(): ?DeskOrder
    {
        $working = $this->floor->working();

        return $working === [] ? null : $working[$this->dice->getInt(0, count($working) - 1)];
    }

    /** @param array<string, mixed> $body */
    private function say(string $op, array $body): void
    {
        $this->script[] = $op.' '.json_encode($body);
        $this->floor->take($op, $body);
    }
}
