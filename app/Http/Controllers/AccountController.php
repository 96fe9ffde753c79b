<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\Resources\AccountResource;
use App\Http\Resources\FillResource;
use App\Http\Resources\JournalResource;
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
        return new JsonResponse(['items' => AccountResource::collection($this->user($request)->accounts()->get())->resolve($request), 'next' => null, 'sequence' => Page::sequence()]);
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
        return Page::of(FillRow::query()->with('contract')->where('account_id', $this->account($request, $request->query('account'))), $request, FillResource::class);
    }

    /** Rows of the account after a sequence, oldest first; `next` is where to go on. */
    public function journal(Request $request): JsonResponse
    {
        $account = $this->account($request, $request->query('account'));
        $rows = JournalRow::query()->where('account', $account)->where('sequence', '>', Page::number($request, 'after') ?? 0)
            ->orderBy('sequence')->limit(self::ROWS + 1)->get();
        $page = $rows->take(self::ROWS);

        return new JsonResponse([
            'items' => JournalResource::collection($page)->resolve($request),
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
}
