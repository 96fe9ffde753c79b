<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Command\FlattenStarted;
use Lotrik\Desk\Event\Exit\PlanPutOn;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Fill\OrderReduced;
use Lotrik\Desk\Event\Order\OrderAccepted;
use Lotrik\Desk\Event\Order\OrderCancelled;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\OrderRejected;
use Lotrik\Desk\Event\Order\OrderReplaced;
use Lotrik\Desk\Event\Order\OrderTriggered;
use Lotrik\Desk\Event\Order\Purpose;
use Lotrik\Desk\Event\Order\ReplaceRefused;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Intake\PlanTicks;
use Lotrik\Desk\Upkeep\Fills;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\Order\Role;
use Lotrik\Risk\DayUse;

/** Brings events that an older build wrote into the shape of today: what was then worked out while applying, from the state before. */
final class Upcaster
{
    public function __construct(private readonly DeskState $before) {}

    /**
     * @param array<string, mixed> $fields
     *
     * @return array<string, mixed>
     */
    public function bringUp(string $type, int $version, array $fields): array
    {
        return match ($type) {
            // Before execution ids were kept: nothing to add, no report of that time can come again.
            OrderAccepted::TYPE, OrderTriggered::TYPE, OrderReduced::TYPE, OrderReplaced::TYPE, ReplaceRefused::TYPE, OrderCancelled::TYPE,
            OrderRejected::TYPE => $fields,
            AccountBarred::TYPE => $fields + ['limit' => DayUse::DAILY_LOSS],
            OrderPlaced::TYPE => $fields + ['purpose' => self::purpose($fields)->value],
            OrderFilled::TYPE => $version === 1 ? $this->filled($fields) + $fields : $fields,
            PlanPutOn::TYPE => $version === 1 ? $this->planPutOn($fields) + $fields : $fields,
            FlattenStarted::TYPE => $fields + [
                'trigger' => (isset($fields['thenEnter']) ? ClosingTrigger::Reverse : ClosingTrigger::Flatten)->value,
            ],
            default => throw new \UnexpectedValueException("the journal holds an event \"$type\" of version $version, which this build "
                .'cannot read'),
        };
    }

    /** @param array<string, mixed> $fields */
    private static function purpose(array $fields): Purpose
    {
        /** @var array{why: string, role: string} $fields */
        $why = $fields['why'];
        $role = Role::from($fields['role']);

        return match (true) {
            $role->isExit() => Purpose::Exit,
            $role === Role::Close && $why === 'flatten' => Purpose::Flatten,
            $why === 'the other half of a reversal' => Purpose::Reversal,
            default => Purpose::Hand,
        };
    }

    /**
     * @param array<string, mixed> $fields
     *
     * @return array<string, mixed>
     */
    private function filled(array $fields): array
    {
        /** @var array{order: int, quantity: int, price: int} $fields */
        $order = $this->before->order($fields['order']);
        $split = Fills::split($order, $fields['quantity'], $fields['price'], $this->before);
        // What did not work at the price of the fill then kept the ticks of the price that it was sent with.
        $exits = $split->adjusted === null ? $split->exits
            : PlanTicks::atFill($order, $order->price ?? $order->trigger ?? $fields['price'], $this->before)->plan->toArray();

        return ['closes' => $split->closes, 'exits' => $exits, 'joins' => $split->joins, 'notLooser' => $split->notLooser];
    }

    /**
     * @param array<string, mixed> $fields
     *
     * @return array<string, mixed>
     */
    private function planPutOn(array $fields): array
    {
        /**
         * @var array{account: int, contract: string, plan: array<string, mixed>|null, ranges?: array<string, int>|null,
         *     onlyBare?: bool} $fields
         */
        $holding = $this->before->holding($fields['account'], $fields['contract']);
        $takes = [];
        $lots = 0;
        $portions = ($fields['onlyBare'] ?? false) ? $holding->coverage()->withoutStop() : $holding->portions();
        foreach ($portions as $of) {
            if ($of->slot->lots > 0) {
                $takes[] = [$of->entry->order, $of->slot->portion->number, $of->slot->group, $of->slot->lots];
                $lots += $of->slot->lots;
            }
        }
        $anchor = $holding->position->anchor();
        $plan = $fields['plan'] === null ? ResolvedPlan::none()
            : ExitPlan::fromArray($fields['plan'])->resolveFilled(PlanTicks::basis(
                $this->before, $fields['account'], $fields['contract'], $anchor, $lots, TrueRanges::fromArray($fields['ranges'] ?? null),
            ))->plan;

        return ['exits' => $plan->toArray(), 'anchor' => $anchor, 'takes' => $takes];
    }
}
