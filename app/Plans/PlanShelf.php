<?php

declare(strict_types=1);

namespace App\Plans;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\WebRefusal;
use App\Models\PlanRow;
use App\Models\User;
use App\Models\WriteLock;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Refusal\Refusal;

/** The exit plans that a user keeps: each change looks at what there is and writes, and nobody else writes in between. */
final readonly class PlanShelf
{
    public function __construct(private User $user) {}

    /** @throws Refusal where there is one of its name */
    public function add(ExitPlan $plan): PlanRow
    {
        return WriteLock::during(function () use ($plan): PlanRow {
            $this->nameMustBeFree($plan, null);
            $last = (int) PlanRow::of($this->user->id)->max('position');

            return PlanRow::query()->create([
                'user_id' => $this->user->id, 'version' => 1, 'position' => $last + 1, 'document' => $plan->document,
            ]);
        });
    }

    /**
     * @param callable(): PlanRow $find    the plan as it is by then
     * @param int|null               $version that was read; null changes it whatever it is
     *
     * @throws Refusal where it was changed meanwhile, or another has its name
     */
    public function change(callable $find, ExitPlan $plan, ?int $version): PlanRow
    {
        return WriteLock::during(function () use ($find, $plan, $version): PlanRow {
            $stored = $find();
            if ($version !== null && $version !== $stored->version) {
                throw WebRefusal::versionChanged($version, $stored->version);
            }
            $this->nameMustBeFree($plan, $stored);
            $own = $stored->owned($this->user->id);
            $own->fill(['document' => $plan->document, 'version' => $stored->version + 1])->save();

            return $own;
        });
    }

    /**
     * Not while a position or a working order is under it: its name is all that says what would protect them.
     *
     * @param callable(): PlanRow $find the plan as it is by then
     *
     * @throws Refusal where it is in use
     */
    public function remove(callable $find, EngineClient $engine): void
    {
        $name = $find()->document['name'];
        foreach ($this->user->accounts()->pluck('id') as $account) {
            $used = $engine->for($this->user, (int) $account)->call(Operation::PlansUsed)['body']['names'];
            if (isset($used[$name])) {
                throw WebRefusal::planInUse($name, $used[$name]);
            }
        }
        WriteLock::during(function () use ($find): void {
            $stored = $find();
            if ($stored->user_id !== null && $stored->replaces === null) {
                $stored->delete();
            } else {
                $stored->owned($this->user->id)->fill(['gone' => true])->save();
            }
        });
    }

    /**
     * @param mixed $ids of all plans, in the order in which they are to stand
     *
     * @throws Refusal where they are not all of them, each once
     */
    public function arrange(mixed $ids): void
    {
        WriteLock::during(function () use ($ids): void {
            $plans = PlanRow::of($this->user->id);
            $wanted = $plans->map(static fn(PlanRow $plan): int => $plan->number())->all();
            $areNumbers = is_array($ids) && array_filter($ids, is_int(...)) === $ids;
            if (! $areNumbers || count($ids) !== count($wanted) || array_diff($wanted, $ids) !== []) {
                throw Refusal::invalid('ids', $ids, 'the ids of all your plans, each once: '.json_encode($wanted));
            }
            foreach ($plans as $plan) {
                $position = (int) array_search($plan->number(), $ids, true);
                if ($plan->position !== $position) {
                    $plan->owned($this->user->id)->fill(['position' => $position])->save();
                }
            }
        });
    }

    /** Two plans of one name could not be told apart where it counts. */
    private function nameMustBeFree(ExitPlan $plan, ?PlanRow $itself): void
    {
        foreach (PlanRow::of($this->user->id) as $other) {
            if ($other->document['name'] === $plan->name && $other->number() !== $itself?->number()) {
                throw WebRefusal::nameTaken((string) $plan->name);
            }
        }
    }
}
