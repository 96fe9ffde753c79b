<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\NextPortions;
use Lotrik\Desk\Position\OpenPortion;
use Lotrik\Money\Fraction;
use Lotrik\Order\Role;

/** The open entries of a position as they go out. */
final readonly class EntriesView
{
    public function __construct(private AccountPosition $holding, private Contract $contract) {}

    /**
     * What of the position is under which exits, portion by portion; prices in ticks.
     *
     * @return list<array<string, mixed>>
     */
    public function all(): array
    {
        $entries = [];
        foreach ($this->holding->entries as $entry) {
            $exits = $entry->exits;
            $portions = [];
            foreach ($exits->slots() as $slot) {
                if ($slot->lots === 0) {
                    continue;
                }
                $of = new OpenPortion($entry, $slot);
                $stop = $of->order($this->holding, Role::Stop);
                $target = $of->order($this->holding, Role::Target);
                $back = $slot->stopByHand ? $exits->ratchetLevel($slot) : null;
                $portions[] = [
                    'portion' => $slot->portion->number, 'group' => $slot->group, 'lots' => $slot->lots,
                    'stop' => $slot->wantsStop() ? $slot->stop : null, 'stop_order' => $stop?->id,
                    'left_behind' => $stop?->isLeftBehind() ?? false,
                    'target' => $slot->wantsTarget() ? $slot->target : null, 'target_order' => $target?->id,
                    'steering' => $slot->stopByHand ? 'hand' : 'plan',
                    'back_words' => $back === null ? null : 'its ratchets would have it at '.$this->contract->write($back),
                    'best' => $exits->bestProfit($slot->group),
                ];
            }
            if ($portions !== []) {
                $average = $entry->record?->average();
                $entries[] = [
                    'entry' => $entry->order, 'side' => $exits->side->value, 'plan' => $exits->plan->name,
                    'covers' => $exits->plan->covers->value, 'lots' => $exits->openLots(),
                    'average_words' => $average === null ? null : $this->contract->writeAverage($average), 'portions' => $portions,
                ];
            }
        }

        return $entries;
    }

    /**
     * What each entry would make or lose now, counted from its own fills. Lots that have closed were taken at the average of
     * the position; what that moved from one entry to another stands beside them, so that all together is the position's.
     *
     * @param int|null $mark tick at which the trader could get out now
     *
     * @return array{entries: list<array{entry: int, open: string}>, beside: string|null} exact; null where nothing is to be added
     */
    public function results(?int $mark): array
    {
        $results = [];
        $beside = $mark === null ? Fraction::zero() : $this->holding->position->openTicks($mark);
        foreach ($this->holding->entries as $entry) {
            $average = $entry->record?->average();
            $lots = $entry->exits->openLots();
            if ($average === null || $mark === null || $lots === 0) {
                continue;
            }
            $open = Fraction::of($mark)->minus(Fraction::of($average))->times(Fraction::of($entry->exits->side->sign() * $lots));
            $beside = $beside->minus($open);
            $results[] = ['entry' => $entry->order, 'open' => $this->contract->money($open)->exact()];
        }

        return ['entries' => $results, 'beside' => $beside->sign() === 0 ? null : $this->contract->money($beside)->exact()];
    }

    /** @return array<string, mixed> what the keys for the next portion act on */
    public function next(): array
    {
        $next = new NextPortions($this->holding);
        $close = $next->toClose();

        return [
            'close' => array_map(
                static fn(OpenPortion $of): array => ['entry' => $of->entry->order, 'portion' => $of->slot->portion->number],
                $close,
            ),
            'entry' => $this->firstEntry(),
            'run' => $next->toLetRun()?->id,
            'back' => array_map(static fn(DeskOrder $stop): int => $stop->id, $next->toHandBack()),
        ];
    }

    private function firstEntry(): ?int
    {
        foreach ($this->holding->entries as $entry) {
            if ($entry->exits->openLots() > 0) {
                return $entry->order;
            }
        }

        return null;
    }
}
