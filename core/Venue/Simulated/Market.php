<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Venue\MarketFeed;

/** One contract's venue with the simulated flow that trades on it. */
final class Market
{
    private function __construct(public readonly string $contract, public readonly SimulatedVenue $venue, public readonly Flow $flow) {}

    /**
     * @param int $home      opening price in ticks
     * @param int $maxOrders working orders of one account that the venue takes
     */
    public static function open(string $contract, int $seed, int $home, MarketFeed $feed, int $maxOrders = SimulatedVenue::MAX_ORDERS): self
    {
        $market = new self($contract, new SimulatedVenue($feed, $maxOrders), Flow::starting($seed, $contract, $home));
        $market->flow->open($market->venue);

        return $market;
    }

    /** @return array<string, mixed> */
    public function pack(): array
    {
        return ['venue' => $this->venue->pack(), 'flow' => $this->flow->pack()];
    }

    /** @param array<string, mixed> $packed */
    public static function unpack(string $contract, array $packed, MarketFeed $feed, int $maxOrders = SimulatedVenue::MAX_ORDERS): self
    {
        // @phpstan-ignore argument.type, argument.type (the shapes are those of pack(); a checkpoint carries its build's fingerprint)
        return new self($contract, SimulatedVenue::unpack($packed['venue'], $feed, $maxOrders), Flow::unpack($packed['flow']));
    }
}
