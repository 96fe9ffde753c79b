<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Brick\Math\BigRational;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Entry;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;
use Lotrik\Position\PnlLine;
use Lotrik\Position\PnlLines;
use Lotrik\Position\Position;
use Lotrik\Refusal\Refusal;
use Lotrik\Risk\Limits\Limits;
use Lotrik\Risk\Margin;

/** What an order would do, said before it is sent: the ghost's words, the split, the money at the stop and targets. */
final class Preview
{
    /** @return array<string, mixed> as formats.md says */
    public static function of(Ticket $ticket, AccountPosition $holding, Limits $limits): array
    {
        $request = $ticket->request;
        $contract = $request->contract;
        $sign = $request->side->sign();
        if ($ticket->joins !== null) {
            return self::joining($ticket, $ticket->joins, $holding, $limits);
        }
        $split = [];
        $risk = $reward = Money::zero($contract->currency);
        if ($ticket->plan !== null && $ticket->at !== null) {
            foreach ($ticket->plan->split($ticket->opens) as $number => $lots) {
                $portion = $ticket->plan->portion($number);
                $split[] = [
                    'portion' => $number, 'lots' => $lots,
                    'target' => $portion->target === null ? null : $contract->price($ticket->at + $sign * $portion->target),
                    'stop' => $portion->stop === null ? null : $contract->price($ticket->at - $sign * $portion->stop->distance),
                    'target_ticks' => $portion->target, 'stop_ticks' => $portion->stop?->distance,
                ];
                $reward = $reward->plus($contract->money(($portion->target ?? 0) * $lots));
                if ($portion->stop !== null) {
                    $risk = $risk->plus($contract->money($portion->stop->distance * $lots));
                }
            }
        }
        $fees = self::fees($ticket);
        $limited = $ticket->opens > 0 && $ticket->plan?->protectedLots($ticket->opens) === $ticket->opens;

        return [
            'kind' => $request->kind->value, 'tick' => $ticket->at,
            'words' => self::words($ticket, $holding, $limits, $limited ? $risk : null, $fees),
            'closes' => $ticket->closes,
            'opens' => $ticket->opens,
            'split_words' => self::splitWords($ticket),
            'split' => $split,
            'exits' => self::exits($ticket),
            'risk' => $limited ? $risk->exact() : null,
            'reward' => $reward->exact(),
            'margin' => self::margin($ticket),
            'lines' => self::lines($ticket, $holding),
            'fees' => $fees->exact(),
            'refusal' => $ticket->refusal?->toArray(),
        ];
    }

    /**
     * Lots that join the exits of a position: the same exits work out what would become of them, on a copy. Risk and
     * reward are those of the whole position.
     *
     * @return array<string, mixed>
     */
    private static function joining(Ticket $ticket, Entry $set, AccountPosition $holding, Limits $limits): array
    {
        $contract = $ticket->request->contract;
        $side = $ticket->request->side;
        $position = clone $holding->position;
        $position->fill($side, $ticket->opens, (int) $ticket->at);
        $exits = $set->exits->gathered(abs($position->lots), $position->anchor());
        $split = $levels = [];
        $protected = 0;
        $risk = $reward = Money::zero($contract->currency);
        foreach ($exits->slots() as $slot) {
            $stop = $slot->wantsStop() ? $slot->stop : null;
            $target = $slot->wantsTarget() ? $slot->target : null;
            $split[] = [
                'portion' => $slot->portion->number, 'lots' => $slot->lots,
                'target' => $target === null ? null : $contract->price($target), 'stop' => $stop === null ? null : $contract->price($stop),
                'target_ticks' => null, 'stop_ticks' => null,
            ];
            foreach (array_filter(['stop' => $stop, 'target' => $target], is_int(...)) as $role => $level) {
                $money = $contract->money(BigRational::of($level)->minus($position->average)->multipliedBy($side->sign() * $slot->lots));
                $key = "$role/$level";
                $levels[$key] = [
                    'role' => $role, 'level' => $level, 'lots' => ($levels[$key]['lots'] ?? 0) + $slot->lots,
                    'money' => $money->plus($levels[$key]['money'] ?? Money::zero($contract->currency)),
                ];
                [$risk, $reward] = $role === 'stop' ? [$risk->minus($money), $reward] : [$risk, $reward->plus($money)];
                $protected += $role === 'stop' ? $slot->lots : 0;
            }
        }
        $limited = $protected === abs($position->lots);
        $joins = "joins {$set->exits->plan->name}, which covers the position";
        $words = EventText::order(
            $side, $ticket->quantity, $ticket->request->kind, $ticket->request->price, $ticket->request->trigger, $contract,
        )
            .implode(
                '', array_map(static fn(string $cut): string => " · $cut", self::cut($ticket, $limits)),
            )." · $joins · ".abs($position->lots).' lots then risk '.($limited ? $risk->display() : 'no limit');

        return [
            'kind' => $ticket->request->kind->value, 'tick' => $ticket->at, 'words' => $words,
            'closes' => 0, 'opens' => $ticket->opens, 'split_words' => $joins,
            'split' => $split,
            'exits' => array_values(array_map(static fn(array $l): array => ['money' => $l['money']->exact()] + $l, $levels)),
            'risk' => $limited ? $risk->exact() : null, 'reward' => $reward->exact(), 'margin' => self::margin($ticket), 'lines' => null,
            'fees' => self::fees($ticket)->exact(), 'refusal' => $ticket->refusal?->toArray(),
        ];
    }

    /**
     * The P/L at every rung, were it filled where it would stand; null beside a position, whose own lines they are.
     *
     * @return array{money: array<string, int>, ticks: array<string, int>, percent: array<string, int>|null}|null
     */
    private static function lines(Ticket $ticket, AccountPosition $holding): ?array
    {
        if ($holding->position->lots !== 0 || $ticket->at === null || $ticket->opens === 0) {
            return null;
        }
        $then = new Position();
        $then->fill($ticket->request->side, $ticket->opens, $ticket->at);
        $contract = $ticket->request->contract;

        return [
            'money' => PnlLine::of($then, $contract)->toArray(),
            'ticks' => PnlLines::ticks($then),
            'percent' => PnlLines::percent($then, $contract),
        ];
    }

    private static function fees(Ticket $ticket): Money
    {
        return $ticket->request->contract->fees(2 * $ticket->opens + $ticket->closes);
    }

    private static function margin(Ticket $ticket): string
    {
        $contract = $ticket->request->contract;

        return Margin::perLot($contract, $ticket->request->now)->times($ticket->opens)->exact();
    }

    /**
     * Where the exits would stand, lots of one level and purpose together.
     *
     * @return list<array{role: string, level: int, lots: int, money: string}> level in ticks
     */
    private static function exits(Ticket $ticket): array
    {
        if ($ticket->plan === null || $ticket->at === null) {
            return [];
        }
        $offsets = [];
        foreach (array_filter($ticket->plan->split($ticket->opens)) as $number => $lots) {
            $portion = $ticket->plan->portion($number);
            foreach ([
                'stop' => $portion->stop === null ? null : -$portion->stop->distance, 'target' => $portion->target,
            ] as $role => $offset) {
                if ($offset !== null) {
                    $offsets[$role][$offset] = ($offsets[$role][$offset] ?? 0) + $lots;
                }
            }
        }
        $exits = [];
        foreach ($offsets as $role => $byOffset) {
            foreach ($byOffset as $offset => $lots) {
                $level = $ticket->at + $ticket->request->side->sign() * $offset;
                $exits[] = [
                    'role' => $role, 'level' => $level, 'lots' => $lots,
                    'money' => $ticket->request->contract->money($offset * $lots)->exact(),
                ];
            }
        }

        return $exits;
    }

    public static function sentence(Ticket $ticket, AccountPosition $holding, Limits $limits): string
    {
        $words = self::of($ticket, $holding, $limits)['words'];
        assert(is_string($words));

        return $words;
    }

    private static function words(Ticket $ticket, AccountPosition $holding, Limits $limits, ?Money $risk, Money $fees): string
    {
        $request = $ticket->request;
        $parts = [EventText::order(
            $request->side, $ticket->quantity, $request->kind, $request->price, $request->trigger, $request->contract,
        )];
        if ($ticket->closes > 0) {
            $closes = "closes {$ticket->closes}".($ticket->role === Role::Close ? ' of '.abs($holding->position->lots) : '');
            $parts[] = $ticket->opens > 0 ? "$closes, opens ".($request->side->sign() > 0 ? 'long' : 'short')." {$ticket->opens}" : $closes;
        }
        $parts = [...$parts, ...self::cut($ticket, $limits)];
        if ($ticket->opens > 0) {
            $parts[] = $ticket->plan->name ?? 'no exit plan';
            $parts[] = $risk === null ? 'no stop: unlimited risk' : "risk {$risk->display()} + {$fees->display()} fees";
        }

        if ($request->tif !== TimeInForce::Day) {
            $parts[] = EventText::duration($request->tif, $request->expiresAt);
        }
        if ($request->cancelAt !== null) {
            $parts[] = 'cancelled at '.EventText::time($request->cancelAt);
        }
        if ($request->releaseWhen !== null) {
            $parts[] = 'held until '.EventText::releaseWhen($request->releaseWhen, $request->watched);
            $window = $ticket->mayOpen() && $request->releaseWhen->releaseAt !== null
                ? $limits->windowAt($request->releaseWhen->releaseAt)
                : null;
            if ($window !== null) {
                $parts[] = "{$window->words()} is a no-entry window: it would be rejected then";
            }
        }

        return implode(' · ', $parts);
    }

    /** @return list<string> that it is for fewer lots than were asked for */
    private static function cut(Ticket $ticket, Limits $limits): array
    {
        $band = $limits->in($ticket->request->contract->code)->bandTicks;

        return $ticket->request->cutsToBand && $ticket->quantity < $ticket->request->quantity && $ticket->mayOpen()
            ? ["cut from {$ticket->request->quantity} to stay within the price band of ".Refusal::ticks((int) $band)]
            : [];
    }

    /** `2 lots: 1 at +9, 1 runs` */
    private static function splitWords(Ticket $ticket): string
    {
        $lots = "{$ticket->opens} lot".($ticket->opens === 1 ? '' : 's');
        if ($ticket->plan === null) {
            return $ticket->opens === 0 ? 'closes' : "$lots, no exits";
        }
        $parts = [];
        foreach ($ticket->plan->split($ticket->opens) as $number => $n) {
            $target = $ticket->plan->portion($number)->target;
            if ($n > 0) {
                $parts[] = $target === null ? "$n run".($n === 1 ? 's' : '') : "$n at +$target";
            }
        }

        return "$lots: ".implode(', ', $parts);
    }
}
