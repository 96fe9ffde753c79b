<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Event\Account\AccountBarred;
use Lotrik\Desk\Event\Account\LimitNeared;
use Lotrik\Desk\Event\Command\FlattenStarted;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Money\Money;
use Lotrik\Order\Role;
use Lotrik\Risk\DayBest;
use Lotrik\Risk\DayLine;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\DayUse;
use Lotrik\Risk\LossLimit;
use Lotrik\Risk\LossRoom;
use Lotrik\Risk\MarkedPosition;

/**
 * When a limit of the day is reached (its loss, its drawdown, the profit to keep) everything of the account is flattened and
 * cancelled, and it is barred from new entries until its next trading day. On the way there it is told once at each of
 * {@see MARKS}.
 *
 * @phpstan-import-type PackedBest from DayBest
 * @phpstan-import-type PackedDayLine from DayLine
 */
final class LossWatch
{
    /** Percent of a limit. */
    private const MARKS = [90, 75, 50];

    /** @var array<string, array<int, array{int, int|null, int}>> contract → account → sequence, mark and fills that were last looked at */
    private array $looked = [];

    /** @var array<int, DayBest> by account */
    private array $bests = [];

    /** @var array<int, DayLine> by account */
    private array $lines = [];

    /** @var array<int, DayLine> by account: of the last day before that it had a line */
    private array $ended = [];

    /** @var array<int, true> accounts whose line has gone on and has not been kept */
    private array $drawn = [];

    private readonly LossLimit $limit;

    public function __construct(private readonly CommandContext $context)
    {
        $this->limit = new LossLimit();
    }

    /** Limits are not what they were: everything is looked at anew. */
    public function limitsChanged(): void
    {
        $this->looked = [];
    }

    /**
     * @param int $at ms since 1970 UTC
     *
     * @return array<int, array{Money, Money}> account → what its day stands at, and what of that has closed; of those that have a best
     */
    public function standings(int $at): array
    {
        $standings = [];
        foreach (array_keys($this->bests) as $id) {
            $account = $this->context->state->accounts[$id];
            $standings[$id] = [$this->net($account, $at), AccountFigures::day($account, $this->context->state, $at)->net()];
        }

        return $standings;
    }

    /**
     * A rate has changed, and with it all that the day is worth: the best of the day goes along, so that a rate neither uses
     * up a drawdown nor makes room in it.
     *
     * @param array<int, array{Money, Money}> $before as {@see standings()} gave it
     * @param int                             $at     ms since 1970 UTC
     */
    public function reckonedAnew(array $before, int $at): void
    {
        $now = $this->standings($at);
        foreach ($now as $id => [$net, $closed]) {
            [$netBefore, $closedBefore] = $before[$id] ?? [$net, $closed];
            $this->bests[$id] = $this->bests[$id]->moved($net->minus($netBefore), $closed->minus($closedBefore));
        }
    }

    /** @return array<int, PackedBest> by account, for {@see restoreBests()} */
    public function packBests(): array
    {
        return array_map(static fn(DayBest $best): array => $best->pack(), $this->bests);
    }

    /** @param array<int, PackedBest> $packed */
    public function restoreBests(array $packed): void
    {
        foreach ($packed as $id => $best) {
            $account = $this->context->state->accounts[$id] ?? null;
            if ($account !== null) {
                $this->bests[$id] = DayBest::unpack($best, $account->rates->base);
            }
        }
    }

    /** @return array<int, PackedDayLine> by account: those that have gone on since the last call, for {@see restoreLine()} */
    public function takeLines(): array
    {
        $drawn = array_map(static fn(DayLine $line): array => $line->pack(), array_intersect_key($this->lines, $this->drawn));
        $this->drawn = [];

        return $drawn;
    }

    /** @param PackedDayLine $packed */
    public function restoreLine(int $account, array $packed): void
    {
        $this->lines[$account] = DayLine::unpack($packed);
    }

    /** How the account's present day has gone, up to this moment. */
    public function line(Account $account, int $at): DayLine
    {
        // Whoever looks leaves no point in it.
        $line = clone $this->lineOf($account, $at);
        $net = $this->net($account, $at);
        $line->saw($at, $net);
        $line->add($at, $net, AccountFigures::day($account, $this->context->state, $at)->net());

        return $line;
    }

    /** How the day before the present one went; null where nothing is known of it. */
    public function lineBefore(Account $account, int $at): ?DayLine
    {
        $began = $this->lineOf($account, $at)->day;
        $line = $this->ended[$account->id] ?? null;

        return $line?->day === $account->limits->day->begins($began - 1) ? $line : null;
    }

    private function lineOf(Account $account, int $at): DayLine
    {
        $day = $account->limits->day->begins($at);
        $line = $this->lines[$account->id] ?? null;

        if ($line?->day === $day) {
            return $line;
        }
        if ($line !== null) {
            $this->ended[$account->id] = $line;
        }

        return $this->lines[$account->id] = new DayLine($day);
    }

    /** What may still be lost today. @param int $at ms since 1970 UTC */
    public function room(Account $account, int $at): LossRoom
    {
        return LossRoom::of($this->uses($account, $at));
    }

    /** The same, by whoever knows what the day stands at. @param int $at ms since 1970 UTC */
    public function roomAt(Account $account, Money $net, int $at): LossRoom
    {
        return LossRoom::of($this->usesAt($account, $net, $at));
    }

    /** @return non-empty-list<DayUse> how much of each limit of the day is used up */
    public function uses(Account $account, int $at): array
    {
        return $this->usesAt($account, $this->net($account, $at), $at);
    }

    /** @return non-empty-list<DayUse> */
    private function usesAt(Account $account, Money $net, int $at): array
    {
        return DayUse::all($account->limits, $net, $this->best($account, $at)->saw($net, null));
    }

    /** @return list<AccountPosition> what has to be flattened now; empty while there is room */
    public function check(AccountPosition $holding, int $at): array
    {
        $mark = $holding->position->lots === 0 ? null : $this->mark($holding->contract);
        $fills = $holding->position->fills;
        $before = $this->looked[$holding->contract][$holding->account] ?? null;
        // Most of what a market does moves none of it: depth comes and goes behind the touch.
        if ($before !== null && $before[0] === $holding->sequence && $before[1] === $mark && $before[2] === $fills) {
            return [];
        }
        $this->looked[$holding->contract][$holding->account] = [$holding->sequence, $mark, $fills];
        $account = $this->context->state->accounts[$holding->account];
        $net = $this->net($account, $at);
        $this->draw($account, $net, ($before[2] ?? 0) !== $fills, $at);
        if ($this->context->state->isBarred($holding->account, $at)) {
            return $this->holdsAllTheSame($holding) ? [$holding] : [];
        }
        // What has closed changes with a fill, and with no print.
        $closed = $account->limits->drawdownClosed === null || ($before[0] ?? null) === $holding->sequence
            ? null
            : AccountFigures::day($account, $this->context->state, $at)->net();
        $best = $this->bests[$account->id] = $this->best($account, $at)->saw($net, $closed);
        $uses = DayUse::pressing($account->limits, $net, $best);
        foreach ($uses as $use) {
            if ($use->isReached()) {
                return $this->bar($account, $use, $at);
            }
        }
        foreach ($uses as $use) {
            $this->tell($account, $use, $at);
        }

        return [];
    }

    private function draw(Account $account, Money $net, bool $hasFilled, int $at): void
    {
        $line = $this->lineOf($account, $at);
        $line->saw($at, $net);
        if ($line->isDue($at, $hasFilled)) {
            $line->add($at, $net, AccountFigures::day($account, $this->context->state, $at)->net());
            $this->drawn[$account->id] = true;
        }
    }

    private function best(Account $account, int $at): DayBest
    {
        $day = $account->limits->day->begins($at);
        $best = $this->bests[$account->id] ?? null;

        return $best?->day === $day ? $best : DayBest::at($day, $account->rates->base);
    }

    /** @return list<AccountPosition> */
    private function bar(Account $account, DayUse $use, int $at): array
    {
        $this->context->recorder->note(new AccountBarred($account->id, $account->limits->day->ends($at), $use->words(), $use->limit));
        $flattens = [];
        foreach ($this->context->state->holdingsOf($account->id) as $of) {
            if ($of->position->lots !== 0 || $of->working !== [] || $of->isClosingDown()) {
                $this->closeDown($of);
                $flattens[] = $of;
            }
        }

        return $flattens;
    }

    private function tell(Account $account, DayUse $use, int $at): void
    {
        $day = $account->limits->day->begins($at);
        [$toldOn, $told] = $this->context->state->bookOf($account->id)->neared[$use->limit] ?? [0, 0];
        $percent = $use->percent();
        foreach (self::MARKS as $mark) {
            if ($percent >= $mark) {
                if ($toldOn !== $day || $told < $mark) {
                    $this->context->recorder->note(new LimitNeared(
                        $account->id, $use->limit, $mark, $day,
                        "{$use->used->display()} of {$use->of->display()} {$account->rates->base->code}",
                    ));
                }

                return;
            }
        }
    }

    /** A barred account goes on being flattened until it is flat, whatever came in meanwhile. */
    private function holdsAllTheSame(AccountPosition $holding): bool
    {
        $opens = array_filter($holding->working, static fn(DeskOrder $o): bool => $o->role === Role::Entry);
        if ($holding->position->lots === 0 && $opens === [] && $holding->closing !== ClosingDown::Reversing) {
            return false;
        }
        $this->closeDown($holding);

        return true;
    }

    /** What a reversal would have entered afterwards is taken away with it. */
    private function closeDown(AccountPosition $holding): void
    {
        if ($holding->closing !== ClosingDown::Flattening) {
            $this->context->recorder->note(new FlattenStarted($holding->account, $holding->contract, ClosingTrigger::Bar));
        }
    }

    private function mark(string $contract): ?int
    {
        return $this->context->quote($contract)->mark();
    }

    private function net(Account $account, int $at): Money
    {
        $positions = [];
        foreach ($this->context->state->holdings as $code => $holdings) {
            $position = ($holdings[$account->id] ?? null)?->position;
            if ($position !== null) {
                $positions[$code] = new MarkedPosition($this->context->state->contracts[$code], $position, $this->mark($code));
            }
        }

        return $this->limit->net(
            $account->id,
            $account->rates,
            $account->limits->day->begins($at),
            $positions,
            fn(): DayResult => AccountFigures::day($account, $this->context->state, $at),
            AccountFigures::carried($account, $this->context->state, $at),
        );
    }
}
