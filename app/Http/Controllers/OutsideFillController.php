<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ApiRequest;
use App\Http\Requests\ImportRequest;
use App\Http\Resources\OutsideFillResource;
use App\Http\WebRefusal;
use App\Models\ContractRow;
use App\Models\OutsideFillRow;
use App\Models\WriteLock;
use Illuminate\Http\JsonResponse;
use Lotrik\Contract\Contract;
use Lotrik\Logbook\OutsideFill;

/** Fills from another program: seen beside one's own, and no part of any position here. */
final class OutsideFillController extends ApiController
{
    private const MAX = 20_000;

    private const ROWS_A_STATEMENT = 500;

    public function index(ApiRequest $request): JsonResponse
    {
        $fills = OutsideFillRow::query()->with('listed')->where('account', $request->account()->id)->orderBy('at')->orderBy('id')->get();

        return self::whole(OutsideFillResource::collection($fills)->resolve($request));
    }

    public function store(ImportRequest $request): JsonResponse
    {
        $account = $request->account()->id;
        $contracts = ContractRow::listed()->get()->keyBy('code')->map(static fn(ContractRow $row): Contract => $row->contract())->all();
        $rows = array_map(static fn(OutsideFill $fill): array => OutsideFillRow::columns($account, $fill), $request->fills($contracts));
        $imported = WriteLock::during(static function () use ($account, $rows): int {
            if (OutsideFillRow::query()->where('account', $account)->count() + count($rows) > self::MAX) {
                throw WebRefusal::tooManyFills(self::MAX);
            }

            return array_sum(array_map(OutsideFillRow::query()->insertOrIgnore(...), array_chunk($rows, self::ROWS_A_STATEMENT)));
        });

        return new JsonResponse(['imported' => $imported, 'known' => count($rows) - $imported], 201);
    }

    public function destroy(ApiRequest $request): JsonResponse
    {
        return new JsonResponse(['deleted' => OutsideFillRow::query()->where('account', $request->account()->id)->delete()]);
    }
}
