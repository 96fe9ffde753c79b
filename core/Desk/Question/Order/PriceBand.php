<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Intake\Sweep;
use Lotrik\Desk\Intake\Ticket;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Desk\Quotes;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A slip of the finger: an entry that could be filled much worse than the market is. A market order is looked at through the depth that rests. */
final class PriceBand implements Rule
{
    public function __construct(private readonly Quotes $quotes) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        $band = $proposal->account->limits->in($proposal->contract->code)->bandTicks;
        if ($band === null) {
            return null;
        }
        foreach ($proposal->entries() as $ticket) {
            $refusal = $this->refuseTicket($ticket, $proposal, $band, null);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return $proposal->to?->mayOpen() === true
            ? $this->refuseTicket($proposal->to, $proposal, $band, $proposal->changed)
            : null;
    }

    private function refuseTicket(Ticket $ticket, Proposal $proposal, int $band, ?DeskOrder $before): ?Refusal
    {
        $request = $ticket->request;
        $market = $proposal->quote->touch($request->side);
        // A held order is looked at again when it is due.
        $level = $request->releaseWhen === null ? self::level($request->kind, $request->price, $request->trigger) : null;
        if ($market === null) {
            return null;
        }
        $sign = $request->side->sign();
        if ($request->kind === OrderKind::Market && $request->releaseWhen === null) {
            return $this->refuseSweep($ticket, $proposal, $band, $market);
        }
        if ($level === null) {
            return null;
        }
        $was = $before === null ? null : self::level($before->kind, $before->price, $before->trigger);
        $worse = $sign * ($level - $market);
        if ($worse <= $band || ($was !== null && $worse <= $sign * ($was - $market))) {
            return null;
        }

        return self::priceBand(
            $request->contract->price($level),
            $worse,
            $band,
            $request->contract->price($market),
            $request->contract->price($market + $sign * $band),
            $request->kind === OrderKind::Stop ? '/trigger' : '/price',
        );
    }

    /** What rests says how far a market order goes. */
    private function refuseSweep(Ticket $ticket, Proposal $proposal, int $band, int $market): ?Refusal
    {
        $side = $ticket->request->side;
        $sweep = Sweep::of($this->quotes, $proposal->contract, $side, $ticket->quantity, $proposal->account->id);
        if ($sweep->worst === null || ! self::isReachedBy($sweep, $side, $market, $band)) {
            return null;
        }
        $most = $market + $side->sign() * $band;
        $price = $proposal->contract->price(...);

        return self::marketBand(
            $ticket->quantity, $price($sweep->worst), $side->sign() * ($sweep->worst - $market),
            $band, $price($market), $sweep->within($most), $price($most),
        );
    }

    /** Whether a market order would go through the depth beyond the band. Prices and band in ticks. */
    public static function isReachedBy(Sweep $sweep, Side $side, int $market, int $band): bool
    {
        return $sweep->worst !== null && $side->sign() * ($sweep->worst - $market) > $band;
    }

    /** The worst that it could be filled at; null where it waits for a better price, or takes what there is. */
    private static function level(OrderKind $kind, ?int $price, ?int $trigger): ?int
    {
        return match ($kind) {
            OrderKind::Limit, OrderKind::StopLimit => $price,
            OrderKind::Stop => $trigger,
            OrderKind::Market, OrderKind::IfTouched => null,
        };
    }

    /**
     * A market order, looked at through what rests now.
     *
     * @param string $reaches the last price that it would reach
     * @param int    $fit     lots that stay within the band
     * @param string $most    the limit that would
     */
    private static function marketBand(int $lots, string $reaches, int $worse, int $band, string $market, int $fit, string $most): Refusal
    {
        return new Refusal(
            RefusalCode::PriceBand,
            Refusal::lots($lots)." would reach $reaches, ".self::worse($worse, $band, $market).'; '
                .($fit > 0 ? Refusal::lots($fit).', or ' : '')."a limit at $most, would be accepted",
            '/quantity',
        );
    }

    private static function priceBand(string $price, int $worse, int $band, string $market, string $most, string $pointer): Refusal
    {
        return new Refusal(
            RefusalCode::PriceBand,
            "$price could fill ".self::worse($worse, $band, $market)."; $most would be accepted",
            $pointer,
        );
    }

    private static function worse(int $worse, int $band, string $market): string
    {
        return Refusal::ticks($worse)." worse than the market's $market, and the price band is ".Refusal::ticks($band);
    }
}
