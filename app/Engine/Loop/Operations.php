<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Demo\KestrelBay;
use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Journal\Journal;
use App\Engine\Stream\Tickets;
use App\Engine\View\BookView;
use App\Engine\View\DayOfAccountView;
use App\Engine\View\LimitsView;
use App\Engine\View\OpenRiskView;
use App\Engine\View\PositionView;
use App\Engine\View\RiskView;
use App\Http\Resources\OrderResource;
use App\Http\WebRefusal;
use App\Models\OrderRow;
use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\Accounts;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\Account\Flatness;
use Lotrik\Desk\Account\Gap;
use Lotrik\Desk\Account\PlansInUse;
use Lotrik\Desk\Answer;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Steps\OrderStep;
use Lotrik\Desk\TradingSystem;
use Lotrik\Desk\WhatIf;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Bars\Bar;
use Lotrik\Watching\Bars\BarKind;
use Lotrik\Watching\Bars\BarSize;

/** What can be asked of the engine, by name. Each gives back what makes the reply once the turn is committed. */
final class Operations
{
    /** An answer stays small. */
    private const MAX_PRINTS = 1500;

    /** Levels that are looked for in what is remembered within a turn: a millisecond each. */
    private const AT_ONCE = 3;

    /** What looks far back waits until all of that is here again after a start. */
    private const LOOKS_BACK = ['depth-history', 'prints', 'tape', 'bars', 'levels'];

    /** What changes neither an account nor a market, whatever comes of it. */
    private const READS = [
        'preview', 'preview-change', 'size', 'what-if', 'noise', 'book',
        'orders', 'order', 'positions', 'risk', 'open-risk', 'day', 'limits',
        'calendar', 'snapshot', 'steps-preview', 'plan-basis', 'plans-used', ...self::LOOKS_BACK,
    ];

    public static function onlyReads(string $op): bool
    {
        return in_array($op, self::READS, true);
    }

    public function __construct(
        private readonly TradingSystem $system,
        private readonly Practice $practice,
        private readonly Tickets $tickets,
        private readonly EngineClock $clock,
        private readonly Journal $journal,
        private readonly HistoryBacklog $backlog,
        private readonly CommandRate $rate = new CommandRate(),
        private readonly SettingRate $settingRate = new SettingRate(),
        private readonly NoiseBoard $noise = new NoiseBoard(),
    ) {}

    /**
     * @return (callable(): array{status: int, body: array<array-key, mixed>})|Job what makes the reply, or what is
     *                                                                                     to be done before {@see finished()} does
     *
     * @throws Refusal
     */
    public function run(Request $request, int $at): callable|Job
    {
        if ($request->op === 'open-account') {
            return $this->openAccount($request, $at);
        }
        $this->settingRate->count($request, hrtime(true) / 1e9);
        if ($request->op === 'account-open' && $request->user !== null) {
            $limits = array_intersect_key(KestrelBay::account($request->user), ['order_limit' => 1, 'position_limit' => 1]);
            $id = $this->system->changeAccounts(
                static fn(Accounts $accounts): int => $accounts->open($request->user, Node::of($request->body), $limits),
                $at,
            );

            return static fn(): array => ['status' => 201, 'body' => ['account' => $id]];
        }
        $account = $this->owned($request);
        if (in_array($request->op, ['account-close', 'account-reset', 'account-rates', 'account-limits'], true)) {
            $id = $this->changeAccount($request->op, $account, Node::of($request->body), $at);

            return static fn(): array => ['status' => 200, 'body' => ['account' => $id]];
        }
        if (in_array($request->op, $this->system->desk->operations(), true)) {
            $this->rate->count($request->op, $account->id, $request->body, $this->system->desk->state, hrtime(true) / 1e9);
            $answer = $this->system->handle($request->op, $account->id, $request->body, $request->fingerprint, $at);

            return fn(): array => $this->commandAnswer($request->op, $account, $answer);
        }

        if ($request->op === 'watch-levels') {
            $within = $this->system->desk->watchLevels($account->id, $request->body, $at);

            return static fn(): array => ['status' => 200, 'body' => ['within' => $within]];
        }
        if ($request->op === 'set-calendar') {
            try {
                $calendar = Calendar::fromArray($request->body);
                $calendar->mustFit($this->system->desk->state->contracts);
            } catch (InvalidDocument $fault) {
                throw Refusal::unreadable($fault);
            }
            $this->system->setCalendar($calendar, $at);

            return fn(): array => ['status' => 200, 'body' => $this->calendar()];
        }
        if ($request->op === 'practice') {
            return $this->practice->steer($this->contract($request)->code, array_diff_key($request->body, ['contract' => 1]), $at);
        }
        if (in_array($request->op, self::LOOKS_BACK, true) && ! $this->backlog->isComplete()) {
            return $this->backlog;
        }
        if ($request->op === 'what-if') {
            $open = $this->system->desk->queries->whatIf($account->id, array_diff_key($request->body, ['gap' => 1]), $at);

            return fn(): array => [
                'status' => 200, 'body' => OpenRiskView::of($account, $this->system, $open, self::gap($request->body), $at),
            ];
        }
        if ($request->op === 'noise') {
            return $this->noise($request, $account);
        }
        if ($request->op === 'levels') {
            $contract = $this->contract($request);
            $quote = $this->system->desk->quote($contract->code);
            $unknown = (new Watching($contract, $quote, $at))->unknown((array) ($request->body['levels'] ?? []));
            if (count($unknown) > self::AT_ONCE) {
                return new LevelsJob($quote->levels, $unknown, fn(): array => ['status' => 200, 'body' => $this->watched($request)]);
            }
        }
        $body = match ($request->op) {
            'preview' => $this->system->desk->queries->preview($account->id, $request->body, $at),
            'size' => $this->system->desk->queries->size($account->id, $request->body, $at),
            'preview-change' => $this->system->desk->queries->previewChange(
                $account->id, $request->body, $this->ahead((int) ($request->body['order'] ?? 0)), $at,
            ),
            'ticket' => $this->tickets->issue((int) $request->user, $account->id, (string) ($request->body['session'] ?? '')),
            'revoke' => $this->tickets->revoke((int) $request->user, (string) ($request->body['session'] ?? '')),
            default => null,
        };
        if ($body !== null) {
            return static fn(): array => ['status' => 200, 'body' => $body];
        }

        return fn(): array => ['status' => 200, 'body' => match ($request->op) {
            'book' => $this->book($this->contract($request), (int) ($request->body['levels'] ?? 20)),
            'orders' => $this->list(array_map(fn(DeskOrder $o): array => $this->order($o), $this->workingOf($account, $request))),
            'order' => $this->one($account, $request),
            'positions' => $this->list(array_map(
                fn(AccountPosition $h): array => PositionView::of($h, $this->system->desk),
                $this->holdingsOf($account),
            )),
            'risk' => RiskView::of($account, $this->system->desk, $at),
            'open-risk' => OpenRiskView::of(
                $account, $this->system, WhatIf::now($account, $this->system->desk->state), self::gap($request->body), $at,
            ),
            'day' => DayOfAccountView::of($account, $this->system->desk, ($request->body['before'] ?? false) === true, $at),
            'limits' => LimitsView::of($account, $this->system->desk, $at),
            'calendar' => $this->calendar(),
            'snapshot' => $this->snapshot($account->id),
            'steps-preview' => $this->stepsPreview($account, $request),
            'plan-basis' => $this->planBasis($account, $request),
            'plans-used' => ['names' => PlansInUse::of($account->id, $this->system->desk->state)],
            'prints', 'depth-history', 'tape', 'bars', 'levels' => $this->watched($request),
            default => throw new \LogicException("no operation {$request->op}"),
        }];
    }

    /** @return array<string, mixed> */
    private function book(Contract $contract, int $levels): array
    {
        return BookView::of(
            $this->system->market($contract->code)->venue,
            $this->system->desk->quote($contract->code),
            $contract,
            $levels,
            $this->system->desk->state->sequence,
        );
    }

    /** @return array<string, mixed> the days on which the venue trades otherwise, and the hours of each contract as they are now */
    private function calendar(): array
    {
        $state = $this->system->desk->state;
        $at = $this->clock->at($this->system->steps());

        return [
            'calendar' => ($state->calendar ?? Calendar::none())->toArray(),
            'contracts' => array_values(array_map(static fn(Contract $of): array => [
                'contract' => $of->code, 'zone' => $of->session->zone, 'words' => $of->session->at($at)->words($at),
            ], $state->contracts)),
        ];
    }

    /** @return array<string, mixed> what the orders of action keys would be now */
    private function stepsPreview(Account $account, Request $request): array
    {
        $contract = $this->contract($request);
        $body = $request->body;
        $quote = $this->system->desk->quote($contract->code);
        $position = $this->system->desk->state->holding($account->id, $contract->code)->position;
        $pointed = is_int($body['pointed'] ?? null) ? $body['pointed'] : null;

        return ['steps' => array_map(static function (mixed $step) use ($contract, $quote, $position, $body, $pointed): array {
            $node = Node::of($step);
            $node->raw('do');

            return OrderStep::fromNode($node)->now($contract, $quote, $position, (int) ($body['lots'] ?? 1), $pointed);
        }, array_values((array) ($body['steps'] ?? [])))];
    }

    /** @return array<string, mixed> what the market says about a plan: average true ranges, how far minutes ranged, the last price; and what the account is worth */
    private function planBasis(Account $account, Request $request): array
    {
        $at = $this->clock->at($this->system->steps());
        $quote = $this->system->desk->quote($this->contract($request)->code);
        try {
            $ranges = TrueRanges::for(ExitPlan::fromArray((array) ($request->body['document'] ?? [])), $quote->bars, $at)->toArray();
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, '/document');
        }

        return [
            'ranges' => $ranges,
            'minutes' => array_map(static fn(Bar $b): int => $b->range(), $quote->bars->closed(BarSize::OneMinute, $at)),
            'last' => $quote->last, 'balance' => Balance::of($account, $this->system->desk->state)->exact(),
        ];
    }

    /** @return array<string, mixed> */
    private function watched(Request $request): array
    {
        $contract = $this->contract($request);
        $watching = new Watching($contract, $this->system->desk->quote($contract->code), $this->clock->at($this->system->steps()));
        $body = $request->body;

        return match ($request->op) {
            'depth-history' => $watching->depthHistory(
                (int) ($body['step'] ?? 0),
                (int) ($body['after'] ?? 0),
                (int) ($body['until'] ?? PHP_INT_MAX),
            ),
            'prints' => ['prints' => array_slice($this->system->desk->quote($contract->code)->prints->all(), -self::MAX_PRINTS)],
            'tape' => $watching->tape((int) ($body['most'] ?? 0)),
            'bars' => $watching->bars(BarKind::from((string) ($body['by'] ?? '')), (int) ($body['size'] ?? 0), (int) ($body['most'] ?? 0)),
            default => $watching->levels((array) ($body['levels'] ?? []), (int) ($body['off'] ?? 1)),
        };
    }

    public function ahead(int $order): ?int
    {
        $of = $this->system->desk->state->orders[$order] ?? null;

        return $of === null ? null : $this->system->market($of->contract)->venue->book->ahead($order);
    }

    /** @return array<string, mixed> */
    public function order(DeskOrder $order): array
    {
        return $this->write(OrderRow::columns($order, $this->system->desk->state, $this->ahead($order->id)));
    }

    /** @return array<string, mixed> working orders, positions and risk of an account, all at one sequence */
    public function snapshot(int $account): array
    {
        $of = $this->system->desk->state->accounts[$account];
        $orders = [];
        $positions = [];
        foreach ($this->system->desk->state->holdings as $code => $holdings) {
            $holding = $holdings[$account] ?? null;
            if ($holding !== null) {
                array_push($orders, ...array_map($this->order(...), array_values($holding->working)));
                if ($holding->sequence > 0) {
                    $positions[] = PositionView::of($holding, $this->system->desk);
                }
            }
        }

        return [
            'sequence' => $this->system->desk->state->sequence, 'orders' => $orders, 'positions' => $positions,
            'risk' => RiskView::of($of, $this->system->desk, $this->clock->at($this->system->steps())),
        ];
    }

    /** @return array{status: int, body: array<array-key, mixed>} */
    private function commandAnswer(string $op, Account $account, Answer $answer): array
    {
        $state = $this->system->desk->state;
        if ($op === Desk::RECALL) {
            [$op, $given] = [$answer->body['op'], $answer->body['answer']];

            return ['status' => 200, 'body' => [
                'arrived' => $answer->body['arrived'],
                'answer' => $op === null ? null : $this->commandAnswer($op, $account, new Answer($given, true))['body'],
                'sequence' => $state->sequence,
            ]];
        }
        if (isset($answer->body['order'])) {
            return [
                'status' => $op === 'place' && ! $answer->repeated ? 201 : 200,
                'body' => $this->orderNow((int) $answer->body['order']),
            ];
        }
        $body = $answer->body;
        if (isset($body['orders'])) {
            return [
                'status' => $op === 'place-pair' && ! $answer->repeated ? 201 : 200,
                'body' => ['orders' => array_map($this->orderNow(...), $body['orders']), 'sequence' => $state->sequence],
            ];
        }
        if (isset($body['contracts'])) {
            $body['contracts'] = array_map(
                fn(string $code): array => $this->flatness($state->holding($account->id, $code)),
                $body['contracts'],
            );
        }

        return ['status' => 200, 'body' => $body + ['sequence' => $state->sequence]];
    }

    /** @return array<string, mixed> an order as it is, or as it was last where it ended long ago */
    private function orderNow(int $id): array
    {
        $order = $this->system->desk->state->orders[$id] ?? null;

        if ($order !== null) {
            return $this->order($order);
        }
        $row = $this->journal->order($id) ?? throw new \LogicException("order $id is in no table");

        return $this->write($row->getAttributes());
    }

    /**
     * @param array<string, mixed> $row columns of an OrderRow
     *
     * @return array<string, mixed>
     */
    private function write(array $row): array
    {
        $contracts = $this->system->desk->state->contracts;

        return OrderResource::write($row, $contracts[$row['contract_code']], $contracts[$row['watched_code'] ?? ''] ?? null);
    }

    /** @return array<string, mixed> how far a flatten has come */
    private function flatness(AccountPosition $holding): array
    {
        $flatness = new Flatness($holding, $this->system->desk->state->contracts[$holding->contract]);

        return [
            'contract' => $holding->contract, 'quantity' => $holding->position->lots, 'flattening' => $flatness->isUnderWay,
            'stops' => $flatness->stops, 'words' => $flatness->words,
        ];
    }

    /** @return array{status: int, body: array<array-key, mixed>} the reply once a job is done and committed */
    public function finished(Job $job, Request $request): array
    {
        if ($job instanceof PatientJob) {
            $account = $this->owned($request);
            $contract = $this->contract($request);
            $answer = $job->answer();
            if ($job instanceof NoiseJob) {
                $this->noise->keep($request->body, $account, $contract, $this->system->desk->quote($contract->code), $answer);
            }

            return $answer;
        }

        return $job instanceof PracticeJob ? $this->practised($job) : ['status' => 200, 'body' => $this->watched($request)];
    }

    /**
     * @param array<string, mixed> $body
     *
     * @throws Refusal
     */
    private static function gap(array $body): Gap
    {
        $gap = $body['gap'] ?? '0';

        return Gap::parse(is_int($gap) ? (string) $gap : (is_string($gap) ? $gap : ''));
    }

    /** @return (callable(): array{status: int, body: array<string, mixed>})|NoiseJob */
    private function noise(Request $request, Account $account): callable|NoiseJob
    {
        $contract = $this->contract($request);

        return $this->noise->ask(
            $request->body, $account, Balance::of($account, $this->system->desk->state),
            $contract, $this->system->desk->quote($contract->code),
            $this->clock->at($this->system->steps()),
        );
    }

    /** @return array{status: int, body: array{last: string|null, sequence: int}} */
    private function practised(PracticeJob $job): array
    {
        $last = $this->system->market($job->contract)->venue->last();
        $contract = $this->system->desk->state->contracts[$job->contract];

        return [
            'status' => 200,
            'body' => ['last' => $last === null ? null : $contract->price($last->tick), 'sequence' => $this->system->desk->state->sequence],
        ];
    }

    /** @return callable(): array{status: int, body: array<array-key, mixed>} */
    private function openAccount(Request $request, int $at): callable
    {
        if ($request->user !== null) {
            throw WebRefusal::accountsOnTheConsole();
        }
        $id = max([0, ...array_keys($this->system->desk->state->accounts)]) + 1;
        $account = Account::fromArray(['id' => $id] + $request->body);
        $this->system->desk->openAccount($account, $at);

        return static fn(): array => ['status' => 201, 'body' => ['account' => $id]];
    }

    /** @return int the account that goes on */
    private function changeAccount(string $op, Account $account, Node $body, int $at): int
    {
        return $this->system->changeAccounts(static function (Accounts $accounts) use ($op, $account, $body): int {
            if ($op === 'account-reset') {
                return $accounts->reset($account, $body);
            }
            if ($op === 'account-close') {
                $body->done();
                $accounts->close($account);
            } elseif ($op === 'account-rates') {
                $accounts->setRates($account, $body);
            } else {
                $accounts->setLimits($account, $body);
            }

            return $account->id;
        }, $at);
    }

    private function owned(Request $request): Account
    {
        $account = $this->system->desk->state->accounts[$request->account] ?? null;
        if ($account === null || $account->owner !== $request->user) {
            throw Refusal::unknownAccount($request->account);
        }

        return $account;
    }

    private function contract(Request $request): Contract
    {
        $code = $request->body['contract'] ?? null;

        return $this->system->desk->state->contracts[is_string($code) ? $code : '']
            ?? throw WebRefusal::notFound('such contract', '/api/contracts');
    }

    /** @return array<string, mixed> */
    private function one(Account $account, Request $request): array
    {
        $id = (int) ($request->body['order'] ?? 0);
        $order = $this->system->desk->state->orders[$id] ?? null;
        $body = $order === null ? $this->journal->order($id) : $this->order($order);
        if (($body['account'] ?? null) !== $account->id) {
            throw Refusal::orderNotFound((int) ($request->body['order'] ?? 0));
        }

        return $body;
    }

    /** @return list<DeskOrder> */
    private function workingOf(Account $account, Request $request): array
    {
        $contract = $request->body['contract'] ?? null;
        $orders = [];
        foreach ($this->holdingsOf($account) as $holding) {
            if ($contract === null || $contract === $holding->contract) {
                array_push($orders, ...array_values($holding->working));
            }
        }
        usort($orders, static fn(DeskOrder $a, DeskOrder $b): int => $b->id <=> $a->id);

        return $orders;
    }

    /** @return list<AccountPosition> */
    private function holdingsOf(Account $account): array
    {
        return array_values(array_filter(array_map(
            static fn(array $holdings): ?AccountPosition => $holdings[$account->id] ?? null,
            $this->system->desk->state->holdings,
        ), static fn(?AccountPosition $h): bool => $h !== null && $h->sequence > 0));
    }

    /**
     * @param list<array<string, mixed>> $items
     *
     * @return array<string, mixed>
     */
    private function list(array $items): array
    {
        return ['items' => $items, 'next' => null, 'sequence' => $this->system->desk->state->sequence];
    }
}
