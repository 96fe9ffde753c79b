<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Quote;
use Lotrik\Desk\Quotes;
use Lotrik\Order\Role;
use Lotrik\Refusal\Refusal;

/** Puts what a command asks for as a {@see Proposal}, and the {@see Question} to the rules. */
final class Asking
{
    /** of two new orders of which only one can fill; no group that a venue knows has it */
    private const PAIR = -1;

    /** Numbers of orders that are only asked about: no other order has them, those of an action key's earlier steps neither. */
    private const ASKED = PHP_INT_MIN;

    public readonly Question $question;

    public function __construct(private readonly DeskState $state, private readonly Quotes $quotes)
    {
        $this->question = new Question($state, $quotes);
    }

    /** What an account has in a contract now. */
    public function now(AccountPosition $holding): Exposure
    {
        return Exposure::of($holding, $this->state, $this->quotes->of($holding->contract));
    }

    /**
     * Orders that are sent together.
     *
     * @param non-empty-list<Ticket> $orders of one contract
     * @param int                    $sent   entries that the same command has sent before
     * @param bool                   $oco    whether only one of them can fill
     */
    public function ofOrders(
        array $orders,
        Account $account,
        AccountPosition $holding,
        Quote $quote,
        int $sent = 0,
        bool $oco = false,
    ): ?Refusal {
        $request = $orders[0]->request;
        $before = $after = Exposure::of($holding, $this->state, $quote);
        $levels = [];
        foreach ($orders as $i => $ticket) {
            $after = self::withTicket($after, $ticket, self::ASKED + $i, $oco ? self::PAIR : null);
            array_push($levels, ...$ticket->levels());
        }

        return $this->question->refusal(new Proposal(
            $account, $request->contract, $holding, $quote, $request->now, $before, $after, $orders, $levels, sent: $sent,
        ));
    }

    /** An order that was held, now that it is due. */
    public function ofRelease(Ticket $ticket, Account $account, AccountPosition $holding, Quote $quote): ?Refusal
    {
        $before = Exposure::of($holding, $this->state, $quote);
        $request = $ticket->request;

        return $this->question->refusal(new Proposal(
            $account, $request->contract, $holding, $quote, $request->now,
            $before, self::withTicket($before, $ticket, self::ASKED, null), [$ticket],
            $ticket->levels(), isRelease: true,
        ));
    }

    /**
     * An order that works is changed.
     *
     * @param Ticket $to        what it would be
     * @param int    $more      lots that would be more of it, or fewer
     * @param bool   $keepsPlan whether it has filled in part, and keeps the plan that it has
     * @param bool   $lasts     whether it will be there for as long as the position; a stop with a date will not
     */
    public function ofChange(
        DeskOrder $order,
        Ticket $to,
        int $more,
        bool $keepsPlan,
        bool $lasts,
        Account $account,
        Quote $quote,
    ): Proposal {
        $holding = $this->state->holding($order->account, $order->contract);
        $before = $after = Exposure::of($holding, $this->state, $quote);
        $request = $to->request;
        $entry = $before->entry($order->id);
        if ($entry !== null) {
            $changes = $more !== 0 || $to->at !== $entry->at;
            $after = $changes ? $before->withEntry($entry->changed($more, $to->at, $keepsPlan ? null : $to->plan)) : $before;
        } elseif ($order->role === Role::Close && $order->kind->isStop() && ! $order->isHeld()) {
            $after = $before->withStopByHand($order->id, $lasts ? $order->leaves() + $more : 0, (int) $request->trigger);
        } elseif ($order->role === Role::Stop && ($of = $holding->portionOf($order)) !== null && $request->trigger !== $order->trigger) {
            $after = $before->withStops([$of], $request->trigger);
        }
        $isMovedStop = $order->role !== Role::Entry && $order->kind->isStop() && $request->trigger !== $order->trigger;

        return new Proposal(
            $account, $request->contract, $holding, $quote, $request->now,
            $before, $after, levels: self::moved($order, $to), changed: $order, to: $to,
            stopsTo: $isMovedStop ? $request->trigger : null, pointer: $isMovedStop ? '/trigger' : '/quantity',
        );
    }

    /** An entry that works already, under the limits that are in force now. */
    public function standing(
        Exposure $without,
        Exposure $with,
        Ticket $ticket,
        Account $account,
        AccountPosition $holding,
        int $at,
    ): ?Refusal {
        return $this->question->standingRefusal(new Proposal(
            $account, $ticket->request->contract, $holding, $this->quotes->of($holding->contract), $at, $without, $with, [$ticket],
        ));
    }

    /** @param list<Level> $levels at which something would rest, or be set off */
    public function of(
        Account $account,
        AccountPosition $holding,
        int $at,
        Exposure $after,
        array $levels = [],
        ?int $stopsTo = null,
        string $pointer = '/quantity',
    ): Proposal {
        $quote = $this->quotes->of($holding->contract);

        return new Proposal(
            $account, $this->state->contracts[$holding->contract], $holding,
            $quote, $at, Exposure::of($holding, $this->state, $quote), $after,
            levels: $levels, stopsTo: $stopsTo, pointer: $pointer,
        );
    }

    private static function withTicket(Exposure $exposure, Ticket $ticket, int $id, ?int $group): Exposure
    {
        if ($ticket->role === Role::Entry) {
            return $exposure->withEntry(WorkingEntry::ofTicket($ticket, $id, $group));
        }

        return $ticket->request->kind->isStop() && $ticket->request->releaseWhen === null
            ? $exposure->withStopByHand($id, $ticket->quantity, (int) $ticket->request->trigger)
            : $exposure;
    }

    /** @return list<Level> where an order would go to, those of its levels that change */
    private static function moved(DeskOrder $order, Ticket $to): array
    {
        $levels = [];
        if ($to->request->price !== $order->price && $to->request->price !== null) {
            $levels[] = new Level($to->request->price, '/price', $order->price);
        }
        if ($to->request->trigger !== $order->trigger && $to->request->trigger !== null) {
            $levels[] = new Level($to->request->trigger, '/trigger', $order->trigger);
        }

        return $order->isHeld() ? [] : $levels;
    }
}
