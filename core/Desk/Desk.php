<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\AtRisk\KnownAtStops;
use Lotrik\Desk\Command\Answer;
use Lotrik\Desk\Command\CommandArchive;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Command\KnownCommands;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Event\Recorded;
use Lotrik\Desk\Intake\Intake;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Entry;
use Lotrik\Desk\Question\Asking;
use Lotrik\Desk\Upkeep\ClosedEntries;
use Lotrik\Desk\Upkeep\CloseKeeper;
use Lotrik\Desk\Upkeep\DueOrders;
use Lotrik\Desk\Upkeep\ExitKeeper;
use Lotrik\Desk\Upkeep\Flattening;
use Lotrik\Desk\Upkeep\LevelKeeper;
use Lotrik\Desk\Upkeep\LimitKeeper;
use Lotrik\Desk\Upkeep\LossWatch;
use Lotrik\Desk\Upkeep\Reconciliation;
use Lotrik\Desk\Upkeep\StepKeeper;
use Lotrik\Desk\Upkeep\Timetable;
use Lotrik\Desk\Upkeep\VenueReports;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\Watch;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\ExecutionReport;
use Lotrik\Venue\RestingDepth;
use Lotrik\Venue\TradePrint;
use Lotrik\Venue\VenueSnapshot;

/**
 * The one door to all trading state: commands and what the venue says go in, events come out. It has no clock and
 * no I/O, and it never reaches into a book: what it wants from the venue it says in its events.
 *
 * A command is checked whole before its first event. A refusal is an event too, and changes nothing else.
 */
final class Desk
{
    /** Asks what became of a command, see {@see KnownCommands::recall()}. */
    public const RECALL = 'recall';

    public readonly KnownAtStops $atStops;

    public readonly DeskQueries $queries;

    private readonly EventRecorder $recorder;

    private readonly ExitKeeper $exits;

    private readonly Flattening $flattening;

    private readonly CommandContext $context;

    private readonly Quotes $quotes;

    private readonly DueOrders $dueOrders;

    private readonly LossWatch $lossWatch;

    private readonly LimitKeeper $limits;

    private readonly CloseKeeper $closes;

    private readonly ClosedEntries $closedEntries;

    private readonly Reconciliation $reconciliation;

    private readonly StepKeeper $steps;

    private readonly VenueReports $reports;

    private readonly KnownCommands $knownCommands;

    private readonly LevelKeeper $levels;

    private readonly Command\WatchLevels $watchLevels;

    private readonly Accounts $accounts;

    /**
     * Whose exits were looked at and found as they should be.
     *
     * @var array<string, array<int, int>> contract → account → sequence of the holding
     */
    private array $inOrder = [];

    /** @var array<string, Command\Command> */
    private readonly array $commands;

    /** @param CommandArchive|null $archive of commands that the state remembers no more; null where there is none */
    public function __construct(public readonly DeskState $state = new DeskState(), ?CommandArchive $archive = null)
    {
        $this->atStops = new KnownAtStops();
        $timetable = new Timetable($state);
        $this->recorder = new EventRecorder($state, $timetable);
        $this->quotes = $quotes = new Quotes();
        $asking = new Asking($state, $quotes);
        $this->context = $context = new CommandContext($state, $this->recorder, new Intake($state, $asking, $quotes), $quotes, $asking);
        $this->queries = new DeskQueries($this, $context);
        $this->dueOrders = new DueOrders($context, $timetable);
        $this->lossWatch = new LossWatch($context);
        $this->limits = new LimitKeeper($context);
        $this->closes = new CloseKeeper($context);
        $this->exits = new ExitKeeper($this->recorder);
        $this->flattening = new Flattening($context);
        $this->closedEntries = new ClosedEntries($this->recorder);
        $this->reconciliation = new Reconciliation($this->recorder);
        $this->reports = new VenueReports($this->recorder);
        $this->knownCommands = new KnownCommands($context, $archive);
        $this->commands = [
            'place' => new Command\Order\PlaceOrder($context),
            'place-pair' => new Command\Order\PlacePair($context),
            'tie' => new Command\Order\TieOrders($context),
            'untie' => new Command\Order\UntieOrder($context),
            'modify' => new Command\Order\ModifyOrder($context),
            'cancel' => new Command\Order\CancelOrder($context),
            'cancel-many' => new Command\Order\CancelMany($context),
            'flatten' => new Command\Close\Flatten($context),
            'flatten-account' => new Command\Close\Flatten($context, wholeAccount: true),
            'reverse' => new Command\Close\Reverse($context),
            'cover' => new Command\Exit\PutPlanOn($context),
            'close-part' => new Command\Close\ClosePart($context),
            'set-exit' => new Command\Exit\SetExit($context),
            'break-even' => new Command\Exit\StopsToBreakEven($context),
            'tighten' => new Command\Exit\TightenStops($context),
            'half-off' => new Command\Close\HalfOff($context),
            'steps' => new Command\RunSteps($context),
        ];
        $this->steps = new StepKeeper($context, $this->commands);
        $this->levels = new LevelKeeper($this->recorder);
        $this->watchLevels = new Command\WatchLevels($state, $this->recorder);
        $this->accounts = new Accounts($state, $this->recorder);
    }

    /** Of the limits of an account's day, and of the best that days have stood at. */
    public function lossWatch(): LossWatch
    {
        return $this->lossWatch;
    }

    public function quote(string $contract): Quote
    {
        return $this->context->quote($contract);
    }

    /** Whose depth rests in a contract. */
    public function follow(string $contract, RestingDepth $depth): void
    {
        $this->quotes->follow($contract, $depth);
    }

    public function restoreQuote(string $contract, Quote $quote): void
    {
        $this->context->restoreQuote($contract, $quote);
    }

    /** @return list<string> what {@see handle()} takes */
    public function operations(): array
    {
        return [...array_keys($this->commands), self::RECALL];
    }

    /** What has been recorded and not yet been fetched with {@see events()}, for the one who carries it to the venue. */
    public function recorder(): EventRecorder
    {
        return $this->recorder;
    }

    /** @return list<Recorded> */
    public function events(): array
    {
        return $this->recorder->fetch();
    }

    public function openAccount(Account $account, int $at): void
    {
        $this->recorder->at = $at;
        $this->recorder->note(new E\Account\AccountOpened($account->id, $account->document));
    }

    /**
     * Opens, closes or resets an account, or sets its rates or limits.
     *
     * @template Result
     *
     * @param callable(Accounts): Result $change
     * @param int                        $at     ms since 1970 UTC
     *
     * @return Result
     *
     * @throws Refusal
     */
    public function changeAccounts(callable $change, int $at): mixed
    {
        $this->recorder->at = $at;
        try {
            $before = $this->lossWatch->standings($at);
            $result = $change($this->accounts);
            $this->lossWatch->limitsChanged();
            $this->lossWatch->reckonedAnew($before, $at);
            $this->limits->limitsChanged($at);
            $this->closes->changed();

            return $result;
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    public function list(Contract $contract, int $at): void
    {
        $this->recorder->at = $at;
        $this->recorder->note(new E\Venue\ContractListed($contract->code, $contract->toArray()));
    }

    /**
     * On which days the venue is shut or closes early, from now on. Day orders that work end with the sessions as they are then.
     *
     * @param int $at ms since 1970 UTC
     */
    public function setCalendar(Calendar $calendar, int $at): void
    {
        $this->recorder->at = $at;
        $before = $this->state->contracts;
        $this->recorder->note(new E\Venue\CalendarSet($calendar->toArray()));
        foreach ($this->state->holdings as $code => $holdings) {
            $session = $this->state->contracts[$code]->session;
            // A session that is over by the new calendar takes its day orders with it now.
            $isOver = $before[$code]->session->at($at)->open && ! $session->at($at)->open;
            foreach ($holdings as $holding) {
                foreach ($holding->working as $order) {
                    $from = max($at, $order->isHeld() ? $order->releaseWhen->releaseAt ?? 0 : 0);
                    $ends = $isOver && $from === $at ? $at : $session->closeAfter($from);
                    if ($order->tif === TimeInForce::Day && ! $order->role->isExit() && $order->dayEnds !== $ends) {
                        $this->recorder->note(new E\Order\DurationChanged($order->id, $order->tif, null, $ends));
                    }
                }
            }
        }
        $this->closes->changed();
    }

    /**
     * One command of a trader.
     *
     * @param string                  $op          one of {@see operations()}
     * @param array<array-key, mixed> $body        as formats.md says, `client_id` and `account` in it
     * @param string                  $fingerprint of what was sent: the same client id with another one is refused
     *
     * @throws Refusal
     */
    public function handle(string $op, int $accountId, array $body, string $fingerprint, int $at): Answer
    {
        $this->recorder->at = $at;
        $account = $this->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId);
        $this->days($at);
        // Limits may have come into force with it.
        $account = $this->state->accounts[$accountId];
        $node = Node::of($body);
        $clientId = null;
        try {
            $node->raw('account');
            $clientId = $node->string('client_id', null, 64);
            if ($op === self::RECALL) {
                $node->done();

                return $this->knownCommands->recall($account, $clientId);
            }
            $before = $this->knownCommands->answered($op, $accountId, $clientId, $fingerprint);
            if ($before !== null) {
                return $before;
            }
            $this->recorder->commandId = $clientId;
            $command = new CommandHead($op, $account, $clientId, $fingerprint);

            $handler = $this->commands[$op] ?? throw new \LogicException("no command $op");

            $answer = $handler->handle($command, $node);
            $contract = $body['contract'] ?? null;
            $this->steps->overridden($op, $accountId, is_string($contract) ? $contract : null);

            return new Answer($answer, false);
        } catch (InvalidDocument $fault) {
            throw $this->refused($op, $accountId, $clientId, $body, Refusal::unreadable($fault));
        } catch (Refusal $refusal) {
            throw $this->refused($op, $accountId, $clientId, $body, $refusal);
        } finally {
            $this->recorder->commandId = null;
        }
    }

    /**
     * Which marked levels an account is told about, see {@see Command\WatchLevels}.
     *
     * @param array<array-key, mixed> $body
     * @param int                     $at   ms since 1970 UTC
     *
     * @return int from how many ticks on the market counts as near
     *
     * @throws Refusal
     */
    public function watchLevels(int $accountId, array $body, int $at): int
    {
        $this->recorder->at = $at;
        $this->levels->changed();
        try {
            return $this->watchLevels->handle(
                $this->state->accounts[$accountId] ?? throw Refusal::unknownAccount($accountId), Node::of($body),
            );
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    /** The depth history has a new column: what rests at the marked levels is looked at. */
    public function counted(string $contract, int $at): void
    {
        $this->recorder->at = $at;
        $this->levels->counted($contract, $this->quote($contract));
    }

    /**
     * What one action of a venue did: reports and prints in their order. Resting orders filled and stops triggered at
     * their old levels in it; only then do best prices count and ratchets move.
     *
     * @param list<ExecutionReport|TradePrint> $outcomes
     */
    public function report(string $contract, array $outcomes, int $at): void
    {
        if ($outcomes === []) {
            return;
        }
        $this->recorder->at = $at;
        $this->days($at);
        $quote = $this->quote($contract);
        foreach ($outcomes as $outcome) {
            if ($outcome instanceof ExecutionReport) {
                $this->reports->take($outcome);
            } else {
                $quote->traded($at, $outcome);
                $this->dueOrders->news($contract, $at);
                $this->printed($contract, $outcome, $at);
                $this->levels->traded($contract, $quote, $at);
            }
        }
    }

    /**
     * The line to a venue is up, after a start or again: where the two differ, what works is as the venue has it, and what the
     * state asks for is done.
     *
     * @param array<int, true> $underWay orders of which something is still on its way
     */
    public function reconnected(string $contract, VenueSnapshot $venue, array $underWay, int $at): void
    {
        $this->recorder->at = $at;
        foreach ($this->state->holdings[$contract] ?? [] as $holding) {
            $this->steps->drop($holding, 'the line to the venue was lost');
        }
        $this->reconciliation->of($contract, $venue, $underWay);
        $this->react($contract, $at);
    }

    /** The best bid and ask after an action, in ticks. */
    public function quoted(string $contract, ?int $bid, ?int $ask): void
    {
        $quote = $this->quote($contract);
        $quote->bid = $bid;
        $quote->ask = $ask;
        foreach ($this->state->holdings[$contract] ?? [] as $holding) {
            foreach ($holding->entries as $entry) {
                $this->observe($holding, $entry, Watch::ExitQuote, $entry->exits->side === Side::Buy ? $bid : $ask, PHP_INT_MAX);
            }
        }
    }

    /** Time goes by: what is due is released or ends. */
    public function tick(int $at): void
    {
        $this->recorder->at = $at;
        $hasBegun = $this->days($at);
        if ($this->closes->tick($at) || $hasBegun) {
            foreach (array_keys($this->state->holdings) as $contract) {
                $this->react($contract, $at);
            }
        }
        $this->dueOrders->tick($at);
    }

    /** A trading day may begin, before anything happens in it: of one that has begun nothing is used up yet. */
    private function days(int $at): bool
    {
        $hasBegun = $this->limits->tick($at);
        if ($hasBegun) {
            $this->lossWatch->limitsChanged();
        }

        return $hasBegun;
    }

    /** A contract's session has begun or ended. */
    public function sessionChanged(string $contract, int $at): void
    {
        $this->recorder->at = $at;
        $this->closes->changed();
        unset($this->inOrder[$contract]);
        $this->dueOrders->news($contract, $at);
        $this->react($contract, $at);
    }

    /** Moves ratchets, keeps exits and goes on with flattening where the last action gave reason to. */
    public function react(string $contract, int $at): void
    {
        $this->recorder->at = $at;
        $this->dueOrders->parentsChanged($at);
        foreach ($this->state->holdings[$contract] ?? [] as $account => $holding) {
            // Nothing has happened to it and no best price got better: what its exits should be, they are.
            $isUnchanged = ($this->inOrder[$contract][$account] ?? -1) === $holding->sequence;
            if (! $isUnchanged) {
                $this->dueOrders->follow($holding);
                $this->closedEntries->note($holding);
                $this->limits->judgeTrades($holding, $at);
            }
            $losers = $this->lossWatch->check($holding, $at);
            foreach ($losers as $loser) {
                $this->flattening->advance($loser);
            }
            if ($isUnchanged && ! $holding->isClosingDown()) {
                continue;
            }
            $before = $holding->sequence;
            $this->exits->ratchet($holding);
            $this->exits->reconcile($holding, $this->quote($contract));
            do {
                $reached = $holding->sequence;
                $this->flattening->advance($holding);
                $this->steps->advance($holding);
            } while ($holding->steps !== null && $holding->sequence !== $reached);
            if ($holding->sequence === $before) {
                $this->inOrder[$contract][$account] = $before;
            }
        }
        $this->dueOrders->parentsChanged($at);
    }

    /** A print counts for the best profit of what watches the last trade, and gives exits that the venue refused another try. */
    private function printed(string $contract, TradePrint $print, int $at): void
    {
        foreach ($this->state->holdings[$contract] ?? [] as $account => $holding) {
            if ($holding->refusedExits !== []) {
                unset($this->inOrder[$contract][$account]);
            }
            foreach ($holding->entries as $entry) {
                $entry->record?->saw($print->tick, $at);
                $this->observe($holding, $entry, Watch::Last, $print->tick, $print->number);
            }
        }
    }

    private function observe(AccountPosition $holding, Entry $entry, Watch $watch, ?int $tick, int $print): void
    {
        if ($tick !== null && $entry->exits->plan->watch === $watch && $entry->exits->observe($tick, $print)) {
            unset($this->inOrder[$holding->contract][$holding->account]);
        }
    }

    /** @param array<array-key, mixed> $body */
    private function refused(string $op, int $account, ?string $clientId, array $body, Refusal $refusal): Refusal
    {
        $contract = $body['contract'] ?? null;
        $this->recorder->note(new E\Command\CommandRefused(
            $account, is_string($contract) && isset($this->state->contracts[$contract]) ? $contract : null, $op, $clientId ?? '',
            $refusal->problem->value, $refusal->getMessage(), $refusal->pointer,
        ));

        return $refusal;
    }

}
