<?php

declare(strict_types=1);

namespace App\Engine\Stream;

use App\Engine\Operation\Operations;
use App\Engine\View\DayView;
use App\Engine\View\DepthView;
use App\Engine\View\FillView;
use App\Engine\View\PositionView;
use App\Engine\View\RiskView;
use App\Engine\View\Time;
use App\Models\FillRow;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Account\BarLifted;
use Lotrik\Desk\Event\Account\CloseNear;
use Lotrik\Desk\Event\Account\EntriesStopped;
use Lotrik\Desk\Event\Account\LimitNeared;
use Lotrik\Desk\Event\Account\LimitsSet;
use Lotrik\Desk\Event\Command\CommandRefused;
use Lotrik\Desk\Event\Command\FlattenEnded;
use Lotrik\Desk\Event\Command\ReversalDropped;
use Lotrik\Desk\Event\Command\StepsStopped;
use Lotrik\Desk\Event\Command\StepTaken;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Desk\Event\Exit\ExitMoved;
use Lotrik\Desk\Event\Exit\ExitTakenOff;
use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Desk\Event\Level\LevelTold;
use Lotrik\Desk\Event\Order\CancelWished;
use Lotrik\Desk\Event\Order\OrderCancelled;
use Lotrik\Desk\Event\Order\OrderRejected;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\Side;
use Lotrik\Refusal\RefusalCode;
use Lotrik\Watching\Levels\LevelNews;

/** Turns committed events and market data into stream events, each encoded once for all who get it. */
final class Publisher
{
    /** Every event goes out in words; these are told at once and not only listed. */
    private const SPEAKING = [
        StopMoved::class, OrderFilled::class, OrderRejected::class, OrderCancelled::class, CommandRefused::class, FlattenEnded::class,
        AccountBarred::class, BarLifted::class, ReversalDropped::class,
        ExitMoved::class, ExitTakenOff::class, CancelWished::class, StepTaken::class,
        StepsStopped::class, LevelTold::class, EntriesStopped::class, LimitNeared::class, LimitsSet::class, CloseNear::class,
    ];

    /** @var array<string, array<int, true>> contract → ticks traded at since its day was last sent */
    private array $traded = [];

    /** @var array<string, int> contract → number of the last print sent */
    private array $printed = [];

    /** @var array<string, int> contract → when its newest column of the depth history ended */
    private array $columnAt = [];

    /** @var array<int, string> the last mark sent, by account */
    private array $marks = [];

    /** @param array<string, BookFeed> $feeds */
    public function __construct(
        private readonly TradingSystem $system,
        private readonly Operations $operations,
        private readonly Fanout $fanout,
        private readonly array $feeds,
        private readonly string $epoch,
    ) {}

    /** @param list<Recorded> $events of one commit */
    public function publish(array $events): void
    {
        $state = $this->system->desk->state;
        $byAccount = [];
        foreach ($events as $recorded) {
            if ($recorded->account !== null) {
                $byAccount[$recorded->account][] = $recorded;
            }
        }
        foreach ($byAccount as $account => $own) {
            $orders = $fills = $positions = $notices = [];
            foreach ($own as $recorded) {
                $event = $recorded->event;
                foreach ($recorded->orders as $order) {
                    $orders[$order->id] = $this->operations->orders->write($order);
                }
                if ($event instanceof OrderFilled) {
                    $fills[] = FillView::of(
                        FillRow::columns($recorded, $event, $state),
                        $state->contracts[(string) $recorded->contract],
                    );
                }
                if ($recorded->contract !== null) {
                    $positions[$recorded->contract] = true;
                }
                // An exit that goes with its other side, or with the position, is told of in the journal; here the fill speaks.
                $goesAlong = $event instanceof OrderCancelled && ($recorded->orders[0] ?? null)?->role->isExit() === true;
                $hasLeft = $event instanceof LevelTold && $event->news === LevelNews::Left;
                // What the page asks about is a question, not a refusal.
                $asks = $event instanceof CommandRefused && RefusalCode::tryFrom($event->code)?->asks() === true;
                $notices[] = [
                    'sequence' => $recorded->sequence, 'time' => Time::iso($recorded->at), 'contract' => $recorded->contract,
                    'type' => EventCodec::type($event), 'words' => $recorded->words,
                    'speaks' => in_array($event::class, self::SPEAKING, true) && ! $goesAlong && ! $asks && ! $hasLeft,
                ];
            }
            $last = $own[count($own) - 1];
            $frames = '';
            foreach (['order' => $orders, 'fill' => $fills, 'notice' => $notices] as $name => $items) {
                foreach ($items as $item) {
                    $frames .= Frame::of($name, $item);
                }
            }
            foreach (array_keys($positions) as $contract) {
                $frames .= Frame::of(
                    'position',
                    PositionView::of($state->holding($account, $contract), $this->system->desk),
                );
            }
            // The id stands on the last event of the commit alone: a stream that breaks off before it gets all of it again.
            $frames .= Frame::of('risk', RiskView::of($state->accounts[$account], $this->system->desk, $last->at), $last->sequence);
            $this->fanout->own($account, $last->sequence, $frames);
        }
    }

    /** Own events could not be written out: nobody goes on from what came before them. */
    public function startAnew(): void
    {
        $this->fanout->startAnew($this->system->desk->state->sequence);
    }

    /** Prints and changed levels, merged; at most 20 times a second. */
    public function market(): void
    {
        foreach ($this->feeds as $contract => $feed) {
            $prints = $this->system->desk->quote($contract)->prints;
            $trades = $prints->after($this->printed[$contract] ?? 0);
            $this->printed[$contract] = $prints->newest();
            $changes = $feed->changes();
            foreach ($trades as [, $tick]) {
                $this->traded[$contract][$tick] = true;
            }
            if (! $this->fanout->isWatched($contract)) {
                continue;
            }
            $book = $changes === null ? '' : Frame::of('book', ['contract' => $contract] + $changes);
            if ($trades !== []) {
                $this->fanout->market(
                    $contract,
                    ($this->fanout->takesTrades($contract, together: false) ? self::oneByOne($contract, $trades) : '').$book,
                    ($this->fanout->takesTrades($contract, together: true) ? self::together($contract, $trades) : '').$book,
                );
            } elseif ($book !== '') {
                $this->fanout->market($contract, $book);
            }
        }
    }

    /** @param list<array{int, int, int, int, int}> $trades as {@see \Lotrik\Watching\RecentPrints} keeps them */
    private static function oneByOne(string $contract, array $trades): string
    {
        $frames = '';
        foreach ($trades as [$at, $tick, $lots, $sign, $number]) {
            $frames .= Frame::of('trade', [
                'contract' => $contract, 'price' => $tick, 'size' => $lots, 'aggressor' => $sign > 0 ? 'buy' : 'sell', 'at' => $at,
                'number' => $number,
            ]);
        }

        return $frames;
    }

    /** @param list<array{int, int, int, int, int}> $trades time in ms, tick, lots, 1 for a buyer and -1 for a seller, number */
    private static function together(string $contract, array $trades): string
    {
        return Frame::of('trades', ['contract' => $contract, 'rows' => $trades]);
    }

    /** What has traded today, where it changed; at most once a second. */
    public function days(): void
    {
        // Its lots count every print, and so the prices that are told must: also those that the last 50 ms have brought.
        $this->market();
        foreach (array_keys($this->traded) as $contract) {
            $ticks = array_keys($this->traded[$contract]);
            unset($this->traded[$contract]);
            if ($this->fanout->isWatched($contract)) {
                $this->fanout->market($contract, Frame::of('day', $this->day($contract, $ticks)));
            }
        }
    }

    /** The columns of the depth history that have ended, and what is told of the depth now; four times a second. */
    public function depth(): void
    {
        foreach ($this->feeds as $contract => $feed) {
            $depth = $this->system->desk->quote($contract)->depth;
            $after = $this->columnAt[$contract] ?? null;
            $at = $depth->last()?->at;
            if ($at === null || $at === $after) {
                continue;
            }
            $this->columnAt[$contract] = $at;
            if ($this->fanout->isWatched($contract)) {
                $this->fanout->market(
                    $contract,
                    Frame::of(
                        'depth',
                        DepthView::of($contract, $depth, $feed->lots(Side::Buy), $feed->lots(Side::Sell), $after ?? $at - 1),
                    ),
                );
            }
        }
    }

    /**
     * @param list<int>|null $ticks where it traded since it was last sent; null for all
     *
     * @return array<string, mixed>
     */
    private function day(string $contract, ?array $ticks): array
    {
        return DayView::of($this->system->desk->state->contracts[$contract], $this->system->desk->quote($contract)->day, $ticks);
    }

    public function sequence(): int
    {
        return $this->system->desk->state->sequence;
    }

    /** @param list<string> $contracts */
    public function unknown(array $contracts): ?string
    {
        return array_values(array_diff($contracts, array_keys($this->feeds)))[0] ?? null;
    }

    /** A full picture of one contract's book, for a stream that begins or has fallen behind. */
    public function picture(string $contract): string
    {
        return Frame::of('book', $this->book($contract)).Frame::of('day', $this->day($contract, null)).$this->newestDepth($contract);
    }

    /** The newest column alone, so that whoever begins, or has fallen behind, sees what is missing before it. */
    private function newestDepth(string $contract): string
    {
        $depth = $this->system->desk->quote($contract)->depth;
        $newest = $depth->last();

        return $newest === null
            ? ''
            : Frame::of(
                'depth',
                DepthView::of(
                    $contract,
                    $depth,
                    $this->feeds[$contract]->lots(Side::Buy),
                    $this->feeds[$contract]->lots(Side::Sell),
                    $newest->at - 1,
                ),
            );
    }

    /** @return array<string, mixed> */
    private function book(string $contract): array
    {
        $last = $this->system->market($contract)->venue->last();

        return [
            'contract' => $contract, 'full' => true,
            'last' => $last === null ? null : ['price' => $last->tick, 'size' => $last->lots, 'aggressor' => $last->aggressor->value],
        ] + $this->feeds[$contract]->full();
    }

    /** @param list<string> $contracts */
    public function state(int $account, array $contracts, bool $reset): string
    {
        $snapshot = $this->operations->snapshot($account);

        return Frame::of('state', ['epoch' => $this->epoch, 'account' => $account] + $snapshot + ($reset ? ['reset' => true] : [])
            + [
                'books' => array_map($this->book(...), array_combine($contracts, $contracts)),
                'days' => array_map(fn(string $contract): array => $this->day($contract, null), $contracts),
            ], $snapshot['sequence'])
            .implode('', array_map($this->newestDepth(...), $contracts));
    }

    /** What moves with the market: open P/L, risk, best profit; at most 10 times a second, and only where it changed. */
    public function marks(int $at): void
    {
        $state = $this->system->desk->state;
        foreach ($this->fanout->accounts() as $account) {
            $positions = [];
            foreach ($state->holdings as $contract => $holdings) {
                $holding = $holdings[$account] ?? null;
                if ($holding !== null && $holding->position->lots !== 0) {
                    $positions[] = PositionView::moving($holding, $this->system->desk);
                }
            }
            $ahead = $this->ahead($account);
            if ($positions === [] && $ahead === [] && ! isset($this->marks[$account])) {
                continue;
            }
            $mark = Frame::of(
                'mark',
                [
                    'positions' => $positions, 'ahead' => $ahead,
                    'risk' => RiskView::of($state->accounts[$account], $this->system->desk, $at),
                ],
            );
            if (($this->marks[$account] ?? '') !== $mark) {
                $this->fanout->mark($account, $mark);
            }
            if ($positions === [] && $ahead === []) {
                unset($this->marks[$account]);
            } else {
                $this->marks[$account] = $mark;
            }
        }
    }

    /** @return list<array{int, int}> each resting order with the lots ahead of it in the queue */
    private function ahead(int $account): array
    {
        $ahead = [];
        foreach ($this->system->desk->state->holdings as $holdings) {
            foreach (($holdings[$account] ?? null)->working ?? [] as $order) {
                $lots = $this->operations->orders->ahead($order->id);
                if ($lots !== null) {
                    $ahead[] = [$order->id, $lots];
                }
            }
        }

        return $ahead;
    }

    public function heartbeat(int $at): void
    {
        $hours = [];
        foreach ($this->system->desk->state->contracts as $code => $contract) {
            $of = $contract->session->at($at);
            $hours[$code] = [
                'open' => $of->open, 'words' => $of->words($at), 'brief' => $of->brief($at),
                'until' => $of->until === null ? null : Time::iso($of->until), 'exits' => $of->open ? null : 'asleep',
                // In the last quarter of an hour, as a clock would count it down.
                'closes_in' => $of->open && $of->until !== null && $of->until - $at <= 900_000
                    ? $of->minutesLeft($at)
                    : null,
            ];
        }
        $this->fanout->all(Frame::of(
            'heartbeat',
            [
                'at' => Time::iso($at), 'hours' => $hours, 'sent' => (int) (microtime(true) * 1000),
                'sequence' => $this->system->desk->state->sequence, 'epoch' => $this->epoch,
            ],
        ));
    }
}
