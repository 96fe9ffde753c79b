<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\Simulated\Mood;

/** Plays a list of actions, as {@see RandomActions} makes them, in a trading system of its own. */
final class History
{
    public readonly TestSystem $system;

    /** @var list<string> what came of each action that was refused */
    public array $refused = [];

    public function __construct(public readonly int $seed, int $delaySteps)
    {
        $this->system = new TestSystem($delaySteps, $seed);
    }

    /** @param array<string, mixed> $action */
    public function perform(array $action): void
    {
        $do = $action['do'];
        unset($action['do']);
        try {
            match ($do) {
                'push' => $this->system->push($action['ticks']),
                'step' => $this->system->step($action['steps']),
                'next-day' => $this->system->nextDay(),
                'restart' => $this->system->restart(),
                'mood' => $this->system->system->market(TestSystem::CODE)->flow->setMood(Mood::from($action['mood'])),
                'sweep' => $this->system->handle(
                    'place',
                    ['contract' => TestSystem::CODE, 'kind' => 'market', 'closing' => 'through'] + $action,
                    2,
                ),
                'place' => $this->place($action),
                'modify' => $this->modify($action),
                'cancel' => $this->say('cancel', ['order' => $this->nth($action['nth'])->id] + array_diff_key($action, ['nth' => 1])),
                'hand-back' => $this->say('modify', ['order' => $this->nth($action['nth'])->id, 'steering' => 'plan']),
                'tie' => $this->say('tie', ['orders' => [$this->nth($action['nth'])->id, $this->nth($action['with'])->id]]),
                'close-part' => $this->closePart($action),
                'set-exit' => $this->setExit($action),
                default => $this->say($do, ['contract' => TestSystem::CODE] + $this->withPlan($action)),
            };
        } catch (Refusal $refusal) {
            $this->refused[] = "$do: {$refusal->getMessage()}";
        }
    }

    /** @param array<string, mixed> $action */
    private function place(array $action): void
    {
        $times = ['release_in' => 'release_at', 'cancel_in' => 'cancel_at', 'expires_in' => 'expires_at'];
        foreach ($times as $in => $at) {
            if (isset($action[$in])) {
                $action[$at] = $this->system->in($action[$in]);
                unset($action[$in]);
            }
        }
        if (isset($action['beyond'])) {
            $level = $this->system->last() + ($action['side'] === 'buy' ? 1 : -1) * $action['beyond'];
            $action[in_array($action['kind'], ['stop', 'mit'], true) ? 'trigger' : 'price'] = self::price($level);
            unset($action['beyond']);
        }
        $this->say('place', ['contract' => TestSystem::CODE] + $this->withPlan($action));
    }

    /** @param array<string, mixed> $action */
    private function modify(array $action): void
    {
        $order = $this->nth($action['nth']);
        $field = $order->role === Role::Stop || $order->kind->hasTrigger() ? 'trigger' : 'price';
        $this->say('modify', ['order' => $order->id, $field => self::price((int) $order->level() + $action['by'])]
            + ($order->role === Role::Entry && isset($action['lots']) ? ['quantity' => $order->quantity + $action['lots']] : []));
    }

    /** @param array<string, mixed> $action */
    private function closePart(array $action): void
    {
        $entries = array_keys($this->system->holding()->entries);
        $this->say(
            'close-part',
            [
                'contract' => TestSystem::CODE, 'entry' => $entries[$action['nth'] % max(1, count($entries))] ?? 1,
            ] + array_diff_key($action, ['nth' => 1]),
        );
    }

    /** @param array<string, mixed> $action */
    private function setExit(array $action): void
    {
        $levels = [];
        foreach (['beyond' => 'level', 'stop_beyond' => 'stop', 'target_beyond' => 'target'] as $beyond => $field) {
            if (isset($action[$beyond])) {
                $levels[$field] = self::price($this->system->last() + $action[$beyond]);
            }
        }
        $this->say('set-exit', ['contract' => TestSystem::CODE] + array_intersect_key($action, ['role' => 1]) + $levels);
    }

    /** @param array<string, mixed> $action */
    private function withPlan(array $action): array
    {
        $fields = RandomActions::PLANS[$action['plan'] ?? 0];
        unset($action['plan']);

        return $fields === null ? array_diff_key($action, ['this_order' => 1]) : $action + ['exit_plan' => TestSystem::plan($fields)];
    }

    private function nth(int $n): DeskOrder
    {
        $working = $this->system->working();

        return $working === [] ? throw Refusal::nothingToChange() : $working[$n % count($working)];
    }

    /** @param array<string, mixed> $body */
    private function say(string $op, array $body): void
    {
        $this->system->handle($op, $body);
    }

    private static function price(int $tick): string
    {
        return TestSystem::contract()->price($tick);
    }
}
