<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Risk\Margin;

/**
 * The limits of an account, after whatever has been done: what is open and working stays within them, unless it was over them before
 * and has not grown, or a fill or the market has made it so. Worked out from orders and positions, without the rules of the desk.
 */
final class LimitRules
{
    /** @var array<string, array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string}> account and contract → figures after the last action */
    private array $before = [];

    /** @var array<int, string> account → its buying power after the last action */
    private array $left = [];

    private int $seen = 0;

    public function __construct(private readonly TestSystem $system) {}

    /** @param string $do the action that has just been done */
    public function holdAfter(string $do): void
    {
        $news = array_slice($this->system->events, $this->seen);
        $this->seen = count($this->system->events);
        $state = $this->system->system->desk->state;
        $now = [];
        foreach ($state->holdings as $code => $holdings) {
            foreach ($holdings as $id => $holding) {
                $account = $state->accounts[$id];
                $key = "$id $code";
                $now[$key] = $figures = $this->figures($account, $holding);
                $before = $this->before[$key] ?? ['reach' => ['buy' => 0, 'sell' => 0], 'bare' => 0, 'loss' => [], 'left' => $this->left[$id] ?? null];
                $own = array_filter($news, static fn(Recorded $of): bool => $of->account === $id && $of->contract === $code);
                $this->position($key, $do, $account, $code, $figures, $before);
                if (! $this->has($own, E\Fill\OrderFilled::class) && ! $this->has($news, E\Account\RatesSet::class) && ! $this->has($news, E\Account\DayBegun::class)) {
                    $this->losses($key, $do, $account, $code, $figures, $before, $own);
                    $this->margin($key, $do, $account, $code, $figures, $before);
                }
            }
        }
        $this->before = $now;
        foreach ($state->accounts as $id => $account) {
            $this->left[$id] = $this->system->system->desk->queries->funds($account, $this->system->now())->left->exact();
        }
    }

    /**
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string} $now
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string|null} $before
     */
    private function position(string $key, string $do, Account $account, string $code, array $now, array $before): void
    {
        $most = $account->limits->in($code)->positionLots ?? PHP_INT_MAX;
        foreach ($now['reach'] as $side => $lots) {
            self::must(
                $lots <= max($most, $before['reach'][$side]),
                "$key: after $do $lots lots may come to be open on the $side side, over the limit of $most; before it were {$before['reach'][$side]}",
            );
        }
    }

    /**
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string} $now
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string|null} $before
     * @param array<Recorded> $own
     */
    private function losses(string $key, string $do, Account $account, string $code, array $now, array $before, array $own): void
    {
        $limits = $account->limits->in($code);
        // Of what the venue does, a stop-limit that is left behind or an exit that it refuses takes protection away.
        if (in_array($do, ['push', 'step', 'sweep', 'jump', 'mood', 'restart'], true) || $this->has($own, E\Order\OrderRejected::class)) {
            return;
        }
        self::must(! $limits->stopRequired || $now['bare'] <= $before['bare'], "$key: after $do {$now['bare']} lots have no stop, before {$before['bare']}");
        $state = $this->system->system->desk->state;
        $contract = $state->contracts[$code];
        $most = $limits->mostRisk(Balance::of($account, $state));
        if ($most === null || ! $account->rates->knows($contract->currency) || $this->has($own, E\Exit\PlanPutOn::class)) {
            return;
        }
        foreach ($now['loss'] as $entry => [$ticks, $lots]) {
            $risk = static fn(array $of): \Lotrik\Money\Money => $account->rates->toBase($contract->money($of[0])->plus($contract->fees(2 * $of[1])));
            $was = $before['loss'][$entry] ?? [0, 0];
            self::must(
                $risk([$ticks, $lots])->compareTo($most) <= 0 || $risk([$ticks, $lots])->compareTo($risk($was)) <= 0 || $now['bare'] < $before['bare'],
                "$key: after $do entry $entry risks {$risk([$ticks, $lots])->exact()} of {$most->exact()}, before {$risk($was)->exact()}",
            );
        }
    }

    /**
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string} $now
     * @param array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string|null} $before
     */
    private function margin(string $key, string $do, Account $account, string $code, array $now, array $before): void
    {
        $contract = $this->system->system->desk->state->contracts[$code];
        $more = max($now['reach']) - max($before['reach']);
        if ($more <= 0 || $before['left'] === null || ! $account->rates->knows($contract->currency) || in_array($do, ['steps', 'restart', 'push', 'step', 'jump', 'sweep', 'mood'], true)) {
            return;
        }
        $needs = $account->rates->toBase(Margin::perLot($contract, $this->system->now())->times($more));
        self::must(
            $needs->compareTo(\Lotrik\Money\Money::of($before['left'], $account->rates->base)) <= 0,
            "$key: after $do $more more lots may come to be open, which take {$needs->exact()} of {$before['left']}",
        );
    }

    /** @return array{reach: array<string, int>, bare: int, loss: array<int, array{int, int}>, left: string} */
    private function figures(Account $account, AccountPosition $holding): array
    {
        $reach = ['buy' => 0, 'sell' => 0];
        $groups = [];
        $closing = 0;
        foreach ($holding->working as $order) {
            $may = $order->leaves() + ($order->state === OrderState::PendingReplace ? max(0, $order->asked) : 0);
            if ($order->role !== Role::Entry) {
                $closing += $order->leaves();
            } elseif ($order->tie?->oco === true) {
                $groups[$order->side->value][$order->tie->group] = max($may, $groups[$order->side->value][$order->tie->group] ?? 0);
            } else {
                $reach[$order->side->value] += $may;
            }
        }
        foreach (Side::cases() as $side) {
            $reach[$side->value] += array_sum($groups[$side->value] ?? []) + max(0, $holding->position->lots * $side->sign());
            // A market order on its way counts without the lots that it is sure to find.
            $reach[$side->value] = min($reach[$side->value], Reach::of($holding)->on($side));
        }
        $loss = [];
        $bare = 0;
        $sign = $holding->position->lots <=> 0;
        foreach ($holding->portions() as $of) {
            $slot = $of->slot;
            if ($slot->lots === 0) {
                continue;
            }
            $stop = $slot->wantsStop() && $of->order($holding, Role::Stop)?->isLeftBehind() !== true ? $slot->stop : null;
            $bare += $stop === null ? $slot->lots : 0;
            if ($stop !== null) {
                $was = $loss[$of->entry->order] ?? [0, 0];
                $loss[$of->entry->order] = [
                    $was[0] + $slot->lots * max(0, $sign * ($of->entry->exits->anchor($slot->group) - $stop)), $was[1] + $slot->lots,
                ];
            }
        }
        $bare = max(0, $bare - $holding->coverage()->lotsByHand());

        return [
            'reach' => $reach, 'bare' => $bare, 'loss' => $loss,
            'left' => $this->system->system->desk->queries->funds($account, $this->system->now())->left->exact(),
        ];
    }

    /**
     * @param array<Recorded>       $events
     * @param class-string<E\Event> $class
     */
    private function has(array $events, string $class): bool
    {
        return array_filter($events, static fn(Recorded $of): bool => $of->event instanceof $class) !== [];
    }

    private static function must(bool $holds, string $otherwise): void
    {
        if (! $holds) {
            throw new \RuntimeException($otherwise);
        }
    }
}
