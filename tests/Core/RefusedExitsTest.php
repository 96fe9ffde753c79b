<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Desk;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\OrderRejected;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\Role;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\NoFeed;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** A venue that refuses exits: their lots are unprotected, which is said, and they are tried again, not for ever at once. */
final class RefusedExitsTest extends TestCase
{
    private int $at = 1_793_611_800_000;

    private TradingSystem $system;

    /** @var list<\Lotrik\Desk\Event\Event> */
    private array $events = [];

    /** @param int $maxOrders that the venue takes */
    private function start(int $maxOrders): void
    {
        $this->system = new TradingSystem(new Desk());
        $this->system->desk->list(TestSystem::contract(), $this->at);
        $this->system->desk->openAccount(TestSystem::account(1), $this->at);
        $this->system->add(Market::open(TestSystem::CODE, 1, TestSystem::START, new NoFeed(), $maxOrders));
        $this->push(1);
        $this->push(-1);
    }

    private function push(int $ticks): void
    {
        $this->system->push(TestSystem::CODE, $ticks, ++$this->at);
        $this->collect();
    }

    /** @param array<string, mixed> $body */
    private function handle(string $op, array $body): void
    {
        $this->system->handle(
            $op,
            1,
            $body + ['client_id' => "c$this->at", 'contract' => TestSystem::CODE],
            (string) $this->at,
            ++$this->at,
        );
        $this->collect();
    }

    private function collect(): void
    {
        array_push($this->events, ...array_map(static fn($r) => $r->event, $this->system->events()));
    }

    private function tries(): int
    {
        return count(array_filter($this->events, static fn($e): bool => $e instanceof OrderPlaced && $e->role === Role::Stop));
    }

    public function testAnExitThatIsRefusedIsTriedAgainAtAPrintAndAtMostOnceASecond(): void
    {
        $this->start(1);
        // The target of the first portion takes the only place that the venue has.
        $this->handle('place', [
            'side' => 'buy', 'quantity' => 2, 'kind' => 'market',
            'exit_plan' => TestSystem::plan('"stop":{"ticks":9},"portions":[{"lots":1,"target":{"ticks":8}},{"rest":true,"target":null}]'),
        ]);
        $holding = $this->system->desk->state->holding(1, TestSystem::CODE);
        self::assertSame(2, $holding->position->lots);
        self::assertGreaterThan(0, $holding->coverage()->unprotected(), 'which is what the alarm is about');
        self::assertNotEmpty(array_filter($this->events, static fn($e): bool => $e instanceof OrderRejected));
        $tries = $this->tries();
        for ($i = 0; $i < 40; $i++) {
            $this->push($i % 2 === 0 ? 1 : -1);
        }
        self::assertSame($tries, $this->tries(), 'no print is a second later');
        $this->at += 1000;
        self::assertSame($tries, $this->tries(), 'and without a print nothing is tried');
        $this->push(1);
        self::assertGreaterThan($tries, $this->tries());
        $tries = $this->tries();
        $this->push(-1);
        self::assertSame($tries, $this->tries());
    }

    public function testOnceTheVenueTakesItTheLotsAreProtected(): void
    {
        $this->start(2);
        $this->handle(
            'place',
            ['side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => TestSystem::contract()->price(TestSystem::START - 13)],
        );
        $this->handle(
            'place',
            [
                'side' => 'buy', 'quantity' => 1, 'kind' => 'market',
                'exit_plan' => TestSystem::plan('"stop":{"ticks":9},"portions":[{"rest":true,"target":{"ticks":8}}]'),
            ],
        );
        $holding = $this->system->desk->state->holding(1, TestSystem::CODE);
        self::assertSame(
            [0, 1],
            [$holding->coverage()->unprotected(), count($holding->refusedExits)],
            'the stop came first, the target was refused',
        );
        $this->handle('cancel-many', []);
        $this->at += 1000;
        $this->push(1);
        self::assertSame([[], 2], [$holding->refusedExits, count($holding->working)]);
    }

    public function testAFlattenWhoseCloseIsRefusedKeepsItsStopsAndTriesAgain(): void
    {
        $this->start(2);
        $this->handle(
            'place',
            [
                'side' => 'buy', 'quantity' => 2, 'kind' => 'market',
                'exit_plan' => TestSystem::plan('"stop":{"ticks":9},"portions":[{"lots":1,"target":null},{"rest":true,"target":null}]'),
            ],
        );
        $holding = $this->system->desk->state->holding(1, TestSystem::CODE);
        self::assertCount(2, $holding->working);
        $this->handle('flatten', []);
        self::assertSame([2, true, 0], [$holding->position->lots, $holding->isClosingDown(), $holding->coverage()->unprotected()]);
        $placed = count($this->events);
        $this->push(1);
        self::assertSame($placed, count($this->events), 'not within the second');
    }
}
