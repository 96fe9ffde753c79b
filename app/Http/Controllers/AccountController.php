<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\Operation\Operation;
use App\Engine\View\Time;
use App\Http\DayReport;
use App\Http\Page;
use App\Http\Requests\AccountRequest;
use App\Http\Requests\ApiRequest;
use App\Http\Requests\LiftRequest;
use App\Http\Requests\TicketRequest;
use App\Http\Resources\AccountResource;
use App\Http\Resources\FillResource;
use App\Http\Resources\JournalResource;
use App\Models\AccountRow;
use App\Models\FillRow;
use App\Models\JournalRow;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Lotrik\Desk\AtRisk\Gap;
use Lotrik\Refusal\Refusal;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** What belongs to an account: itself, positions, fills, risk, journal, and the ticket for its stream. */
final class AccountController extends ApiController
{
    private const ROWS = 500;

    public function index(ApiRequest $request): JsonResponse
    {
        return self::whole(AccountResource::collection($request->trader()->accounts)->resolve($request));
    }

    public function open(ApiRequest $request): JsonResponse
    {
        $opened = $this->engine->for($request->trader(), 0)->call(Operation::AccountOpen, $request->fields())['body']['account'];

        return $this->one($request, $opened, 201);
    }

    public function close(AccountRequest $request): JsonResponse
    {
        return $this->changed($request, Operation::AccountClose);
    }

    /** Closes the account; the answer is the one that goes on in its place. */
    public function reset(AccountRequest $request): JsonResponse
    {
        return $this->changed($request, Operation::AccountReset);
    }

    public function rates(AccountRequest $request): JsonResponse
    {
        return $this->changed($request, Operation::AccountRates);
    }

    public function limits(AccountRequest $request): JsonResponse
    {
        return $this->limitsNow($request);
    }

    /** The answer is what is in force now, and what will be from the account's next trading day. */
    public function setLimits(AccountRequest $request): JsonResponse
    {
        $this->engine->for($request->trader(), $request->account()->id)->call(Operation::AccountLimits, $request->fields());

        return $this->limitsNow($request);
    }

    /** Lifts a bar that was taken over, a pause or a streak of losses; said in the account's journal. */
    public function lift(LiftRequest $request): JsonResponse
    {
        if ($request->fields() !== []) {
            throw Refusal::invalid((string) array_key_first($request->fields()), current($request->fields()), 'an empty object');
        }
        $account = $request->account();
        $owner = User::query()->findOrFail($account->owner_id);
        $this->engine->for($owner, $account->id)->call(Operation::AccountLift, ['by' => $request->trader()->name]);

        return $this->limitsNow($request, $owner);
    }

    private function limitsNow(AccountRequest $request, ?User $owner = null): JsonResponse
    {
        $limits = $this->engine->for($owner ?? $request->trader(), $request->account()->id)->call(Operation::Limits, [])['body'];
        foreach (['now', 'next'] as $document) {
            if (is_array($limits[$document])) {
                // An object in JSON, even where there are none.
                $limits[$document]['contracts'] = (object) $limits[$document]['contracts'];
            }
        }

        return new JsonResponse($limits);
    }

    public function limitsSchema(): BinaryFileResponse
    {
        return new BinaryFileResponse(base_path('docs/schemas/limits.json'), 200, ['Content-Type' => 'application/schema+json']);
    }

    private function changed(AccountRequest $request, Operation $op): JsonResponse
    {
        $goesOn = $this->engine->for($request->trader(), $request->account()->id)->call($op, $request->fields())['body']['account'];

        return $this->one($request, $goesOn, 200);
    }

    private function one(ApiRequest $request, int $id, int $status): JsonResponse
    {
        return new JsonResponse((new AccountResource(AccountRow::query()->findOrFail($id)))->resolve($request), $status);
    }

    public function risk(AccountRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Risk);
    }

    /** What is lost if all stops fill; `gap` says how far through each of them. */
    public function openRisk(AccountRequest $request): JsonResponse
    {
        $gap = $request->query('gap', '0');
        if (! is_string($gap)) {
            throw Refusal::invalid('gap', $gap, 'one gap');
        }
        Gap::parse($gap);

        return $this->ask($request, Operation::OpenRisk, ['gap' => $gap]);
    }

    /** The same if stops were moved and drafts filled; nothing of it is done. */
    public function whatIf(AccountRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::WhatIf, $request->command());
    }

    /** The trading day: its result, how it went, its trades, the limits that it met, what is left over; `before` the one before it. */
    public function day(AccountRequest $request): JsonResponse
    {
        $which = $request->query('which', 'now');
        if (! in_array($which, ['now', 'before'], true)) {
            throw Refusal::invalid('which', $which, 'now or before');
        }
        $account = $request->account()->id;
        /** @var array{began: int, ends: int} $day */
        $day = $this->engine->for($request->trader(), $account)->call(Operation::Day, ['before' => $which === 'before'])['body'];
        $report = DayReport::of($account, $day['began'], $day['ends']);

        return new JsonResponse(['began' => Time::iso($day['began']), 'ends' => Time::iso($day['ends'])] + $day + $report);
    }

    public function positions(ApiRequest $request): JsonResponse
    {
        return $this->ask($request, Operation::Positions);
    }

    public function fills(ApiRequest $request): JsonResponse
    {
        return Page::of(FillRow::query()->with('contract')->where('account_id', $request->account()->id), $request, FillResource::class);
    }

    /** Rows of the account after a sequence, oldest first; `next` is where to go on. */
    public function journal(ApiRequest $request): JsonResponse
    {
        $rows = JournalRow::query()->where('account', $request->account()->id)->where('sequence', '>', Page::number($request, 'after') ?? 0)
            ->orderBy('sequence')->limit(self::ROWS + 1)->get();
        $page = $rows->take(self::ROWS);

        return new JsonResponse([
            'items' => JournalResource::collection($page)->resolve($request),
            'next' => $rows->count() > self::ROWS ? (string) $page->last()?->getKey() : null,
            'sequence' => Page::sequence(),
        ]);
    }

    public function ticket(TicketRequest $request): JsonResponse
    {
        $session = $request->hasSession() ? $request->session()->getId() : 'token';
        $ticket = $this->engine->for($request->trader(), $request->account()->id)->call(Operation::Ticket, ['session' => $session])['body'];

        return new JsonResponse(['url' => 'http://'.$request->getHost().':'.config('lotrik.stream_port').'/stream'] + $ticket);
    }
}
