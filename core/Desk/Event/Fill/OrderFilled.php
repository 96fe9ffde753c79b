<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Fill;

use Lotrik\Desk\Event\Event;

/**
 * Some or all of an order filled, and what that does. Prices in ticks; slippage is positive when it goes against the trader.
 *
 * Since version 2 all that was worked out stands in it: how many lots close, and for those that open the exit plan in
 * ticks, or the set of exits that they join; since version 3 the venue's execution id.
 */
final readonly class OrderFilled implements Event
{
    public const TYPE = 'order-filled';

    public const VERSION = 3;

    public function __construct(
        public int $order,
        public int $fill,
        public int $quantity,
        public int $price,
        public int $print,
        public int $slippageTicks,
        /** lots of it that close; the others open */
        public int $closes,
        /** @var array<string, mixed>|null the exit plan in ticks of lots that open an entry of their own, see ResolvedPlan */
        public ?array $exits = null,
        /** the entry whose exits cover the position and take the lots in */
        public ?int $joins = null,
        /** the tightest stop, in ticks, of lots that other exits give up to it */
        public ?int $notLooser = null,
        /** @var array{int|null, int, int|null, int}|null bid, lots there, ask, lots there just before it */
        public ?array $touch = null,
        /** what of the plan had to be made to fit the price of the fill */
        public ?string $madeToFit = null,
        /** the venue's id of the execution report: the same one twice is one fill */
        public ?string $execution = null,
    ) {}
}
