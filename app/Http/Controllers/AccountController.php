<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\View\Time;
use App\Http\JsonBody;
use App\Http\Page;
use App\Models\AccountRow;
use App\Models\FillRow;
use App\Models\JournalRow;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What belongs to an account: itself, positions, fills, risk, journal, and the ticket for its stream. */
final class AccountController extends ApiController
{
    private const ROWS = 500;

    public function index(Request $request): JsonResponse
    {
        $accounts = AccountRow::query()->where('owner', $this->user($request)->id)->orderBy('id')->get();

        return new JsonResponse(['items' => $accounts->map(static fn(AccountRow $a): mixed => $a->getAttribute('body'))->all(), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function risk(Request $request, string $id): JsonResponse
    {
        return $this->ask($request, 'risk', $this->account($request, $id));
    }

    public function positions(Request $request): JsonResponse
    {
        return $this->ask($request, 'positions', $this->account($request, $request->query('account')));
    }

    public function fills(Request $request): JsonResponse
    {
        return Page::of(FillRow::query()->where('account', $this->account($request, $request->query('account'))), $request, 'id');
    }

    /** Rows of the account after a sequence, oldest first; `next` is where to go on. */
    public function journal(Request $request): JsonResponse
    {
        $account = $this->account($request, $request->query('account'));
        $rows = JournalRow::query()->where('account', $account)->where('sequence', '>', Page::number($request, 'after') ?? 0)
            ->orderBy('sequence')->limit(self::ROWS + 1)->get();
        $page = $rows->take(self::ROWS);

        return new JsonResponse([
            'items' => $page->map(self::row(...))->all(),
            'next' => $rows->count() > self::ROWS ? (string) $page->last()?->getKey() : null,
            'sequence' => Page::sequence(),
        ]);
    }

    public function ticket(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);
        $this->mustKnow($body, 'account');
        $account = $body === [] ? $this->account($request, null) : $this->accountIn($request, $body);
        $session = $request->hasSession() ? $request->session()->getId() : 'token';
        $ticket = $this->engine->for($this->user($request), $account)->call('ticket', ['session' => $session])['body'];

        return new JsonResponse(['url' => 'http://'.$request->getHost().':'.config('lotrik.stream_port').'/stream'] + $ticket);
    }

    /** @return array<string, mixed> */
    private static function row(JournalRow $row): array
    {
        return [
            'sequence' => $row->getAttribute('sequence'), 'time' => Time::iso((int) $row->getAttribute('at')), 'account' => $row->getAttribute('account'),
            'contract' => $row->getAttribute('contract'), 'type' => $row->getAttribute('type'),
            'actor' => $row->getAttribute('command_id') === null ? 'engine' : 'trader',
            'words' => $row->getAttribute('words'), 'body' => $row->getAttribute('body'),
        ];
    }
}
