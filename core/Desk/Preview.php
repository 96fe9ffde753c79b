<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;

/** What an order would do, said before it is sent: the ghost's words, the split, the money at the stop and targets. */
final class Preview
{
    /** @return array<string, mixed> as formats.md says */
    public static function of(Ticket $ticket, Holding $holding): array
    {
        $request = $ticket->request;
        $contract = $request->contract;
        $sign = $request->side->sign();
        $split = [];
        $risk = $reward = Money::zero($contract->currency);
        if ($ticket->plan !== null && $ticket->at !== null) {
            foreach ($ticket->plan->split($ticket->opens) as $number => $lots) {
                $portion = $ticket->plan->portion($number);
                $split[] = [
                    'portion' => $number, 'lots' => $lots,
                    'target' => $portion->target === null ? null : $contract->price($ticket->at + $sign * $portion->target),
                    'stop' => $portion->stop === null ? null : $contract->price($ticket->at - $sign * $portion->stop->distance),
                ];
                $reward = $reward->plus($contract->money(($portion->target ?? 0) * $lots));
                if ($portion->stop !== null) {
                    $risk = $risk->plus($contract->money($portion->stop->distance * $lots));
                }
            }
        }
        $fees = $contract->fees(2 * $ticket->opens + $ticket->closes);
        $limited = $ticket->opens > 0 && $ticket->plan?->protectedLots($ticket->opens) === $ticket->opens;

        return [
            'kind' => $request->kind->value,
            'words' => self::words($ticket, $holding, $limited ? $risk : null, $fees),
            'closes' => $ticket->closes,
            'opens' => $ticket->opens,
            'split_words' => self::splitWords($ticket),
            'split' => $split,
            'exits' => self::exits($ticket),
            'risk' => $limited ? $risk->exact() : null,
            'reward' => $reward->exact(),
            'margin' => Money::of($contract->dayMargin, $contract->currency)->times($ticket->opens)->exact(),
            'fees' => $fees->exact(),
            'refusal' => $ticket->refusal?->toArray(),
        ];
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
            foreach (['stop' => $portion->stop === null ? null : -$portion->stop->distance, 'target' => $portion->target] as $role => $offset) {
                if ($offset !== null) {
                    $offsets[$role][$offset] = ($offsets[$role][$offset] ?? 0) + $lots;
                }
            }
        }
        $exits = [];
        foreach ($offsets as $role => $byOffset) {
            foreach ($byOffset as $offset => $lots) {
                $level = $ticket->at + $ticket->request->side->sign() * $offset;
                $exits[] = ['role' => $role, 'level' => $level, 'lots' => $lots, 'money' => $ticket->request->contract->money($offset * $lots)->exact()];
            }
        }

        return $exits;
    }

    public static function sentence(Ticket $ticket, Holding $holding): string
    {
        $words = self::of($ticket, $holding)['words'];
        assert(is_string($words));

        return $words;
    }

    private static function words(Ticket $ticket, Holding $holding, ?Money $risk, Money $fees): string
    {
        $request = $ticket->request;
        $parts = [Words::order($request->side, $ticket->quantity, $request->kind, $request->price, $request->trigger, $request->contract)];
        if ($ticket->closes > 0) {
            $closes = "closes {$ticket->closes}".($ticket->role === Role::Close ? ' of '.abs($holding->position->lots) : '');
            $parts[] = $ticket->opens > 0 ? "$closes, opens ".($request->side->sign() > 0 ? 'long' : 'short')." {$ticket->opens}" : $closes;
        }
        if ($ticket->opens > 0) {
            $parts[] = $ticket->plan->name ?? 'no exit plan';
            $parts[] = $risk === null ? 'risk no limit' : "risk {$risk->display()} + {$fees->display()} fees";
        }

        if ($request->tif !== TimeInForce::Day) {
            $parts[] = Words::duration($request->tif, $request->expiresAt);
        }
        if ($request->hold !== null) {
            $parts[] = 'held until '.Words::hold($request->hold, $request->watched);
        }

        return implode(' · ', $parts);
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
