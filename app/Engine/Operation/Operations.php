<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Journal\Journal;
use App\Engine\Loop\CommandRate;
use App\Engine\Loop\EngineClock;
use App\Engine\Loop\Job;
use App\Engine\Loop\Practice;
use App\Engine\Loop\Request;
use App\Engine\Loop\SettingRate;
use App\Engine\Operation\Noise\NoiseBoard;
use App\Engine\Stream\Tickets;
use Lotrik\Desk\TradingSystem;
use Lotrik\Refusal\Refusal;

/** The handler of each operation. What only reads is worked out once the turn is committed, what changes anything at once. */
final class Operations
{
    public readonly Orders $orders;

    private readonly TradingCommands $commands;

    private readonly AccountChanges $accounts;

    private readonly Previews $previews;

    private readonly Figures $figures;

    private readonly Steering $steering;

    private readonly MarketMemory $market;

    private readonly SettingRate $settingRate;

    public function __construct(
        private readonly TradingSystem $system,
        Practice $practice,
        private readonly Tickets $tickets,
        private readonly EngineClock $clock,
        Journal $journal,
        private readonly HistoryBacklog $backlog,
        private readonly NoiseBoard $noise = new NoiseBoard(),
    ) {
        $this->orders = new Orders($system, $journal);
        $this->commands = new TradingCommands($system, $this->orders, new CommandRate());
        $this->accounts = new AccountChanges($system);
        $this->previews = new Previews($system, $this->orders);
        $this->figures = new Figures($system, $this->orders);
        $this->steering = new Steering($system, $practice);
        $this->market = new MarketMemory($system);
        $this->settingRate = new SettingRate();
    }

    /**
     * @param int $at ms since 1970 UTC
     *
     * @return (callable(): array{status: int, body: array<array-key, mixed>})|Job what makes the reply, or what is to be done before one
     *                                                                             can be made
     *
     * @throws Refusal
     */
    public function run(Request $request, int $at): callable|Job
    {
        $this->settingRate->count($request, hrtime(true) / 1e9);
        if ($request->op === Operation::OpenAccount) {
            return $this->accounts->openOnTheConsole($request, $at);
        }
        if ($request->op === Operation::AccountOpen && $request->user !== null) {
            return $this->accounts->open($request->user, $request->body, $at);
        }
        $asked = Asked::by($request, $this->system->desk->state);

        return match ($request->op) {
            Operation::AccountClose, Operation::AccountReset, Operation::AccountRates, Operation::AccountLimits,
            Operation::AccountLift => $this->accounts->change($asked, $at),
            Operation::WatchLevels => $this->steering->watchLevels($asked, $at),
            Operation::SetCalendar => $this->steering->setCalendar($asked, $at),
            Operation::Practice => $this->steering->practise($asked, $at),
            Operation::Ticket => self::told($this->tickets->issue((int) $request->user, $asked->account->id, $asked->session())),
            Operation::Revoke => self::told($this->tickets->revoke((int) $request->user, $asked->session())),
            Operation::Noise => $this->noise->ask($asked, $this->system->desk, $at),
            default => $this->reading($asked) ?? $this->commands->run($asked, $at),
        };
    }

    /** @return (callable(): array{status: int, body: array<array-key, mixed>})|Job|null null where it is more than a question */
    private function reading(Asked $asked): callable|Job|null
    {
        $read = match ($asked->request->op) {
            Operation::Preview => $this->previews->order(...),
            Operation::PreviewChange => $this->previews->change(...),
            Operation::Size => $this->previews->size(...),
            Operation::StepsPreview => $this->previews->steps(...),
            Operation::PlanBasis => $this->previews->planBasis(...),
            Operation::PlansUsed => $this->previews->plansUsed(...),
            Operation::Orders => $this->orders->working(...),
            Operation::Order => $this->orders->one(...),
            Operation::Positions => $this->figures->positions(...),
            Operation::Risk => $this->figures->risk(...),
            Operation::OpenRisk => $this->figures->openRisk(...),
            Operation::WhatIf => $this->figures->whatIf(...),
            Operation::Day => $this->figures->day(...),
            Operation::Limits => $this->figures->limits(...),
            Operation::Snapshot => fn(Asked $of): array => $this->snapshot($of->account->id),
            Operation::Calendar => $this->steering->calendar(...),
            Operation::Book => $this->market->book(...),
            Operation::Prints => $this->market->prints(...),
            Operation::DepthHistory => $this->market->depthHistory(...),
            Operation::Tape => $this->market->tape(...),
            Operation::Bars => $this->market->bars(...),
            Operation::Levels => $this->market->levels(...),
            default => null,
        };
        if ($read === null) {
            return null;
        }
        $answer = fn(): array => ['status' => 200, 'body' => $read($asked, $this->clock->at($this->system->steps()))];
        if ($asked->request->op->looksBack() && ! $this->backlog->isComplete()) {
            return new AfterHistory($this->backlog, $answer);
        }

        return $asked->request->op === Operation::Levels ? $this->market->looked($asked, $answer) : $answer;
    }

    /** @return array<string, mixed> working orders, positions and risk of an account, all at one sequence */
    public function snapshot(int $account): array
    {
        return $this->figures->snapshot($this->system->desk->state->accounts[$account], $this->clock->at($this->system->steps()));
    }

    /**
     * @param array<string, mixed> $body
     *
     * @return callable(): array{status: int, body: array<string, mixed>}
     */
    private static function told(array $body): callable
    {
        return static fn(): array => ['status' => 200, 'body' => $body];
    }
}
