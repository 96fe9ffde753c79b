<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Models\ContractRow;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Lotrik\Desk\Refusal;

final class ContractController extends ApiController
{
    /** `?q=` finds by code, name or alias. */
    public function index(Request $request): JsonResponse
    {
        $query = $request->query('q');
        $wanted = is_string($query) ? mb_strtolower(trim($query)) : '';
        $contracts = ContractRow::query()->orderBy('position')->get()->map(static fn(ContractRow $c): mixed => $c->getAttribute('body'))
            ->filter(static fn(array $c): bool => $wanted === '' || str_contains(mb_strtolower(implode("\n", [$c['code'], $c['name'], ...$c['aliases']])), $wanted));

        return new JsonResponse(['items' => $contracts->values()->all(), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function show(string $code): JsonResponse
    {
        return new JsonResponse(self::find($code)->getAttribute('body'));
    }

    public function book(Request $request, string $code): JsonResponse
    {
        self::find($code);
        $levels = Page::number($request, 'levels') ?? 20;
        if ($levels < 1 || $levels > 1000) {
            throw new Refusal('invalid', "levels: found $levels, expected 1 to 1000", '/levels');
        }

        return $this->ask($request, 'book', $this->account($request, $request->query('account')), ['contract' => $code, 'levels' => $levels]);
    }

    /** Steers the simulated market. */
    public function practice(Request $request, string $code): JsonResponse
    {
        Gate::authorize('steer-practice');
        self::find($code);

        return $this->ask($request, 'practice', $this->account($request, $request->query('account')), ['contract' => $code] + JsonBody::of($request));
    }

    /** @throws Refusal */
    public static function find(string $code): ContractRow
    {
        return ContractRow::query()->find($code) ?? throw new Refusal('not-found', "no contract $code is listed; GET /api/contracts lists them");
    }
}
