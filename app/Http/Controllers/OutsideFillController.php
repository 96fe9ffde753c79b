<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\WebRefusal;
use App\Models\ContractRow;
use App\Models\StoredOutsideFill;
use App\Models\WriteLock;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Contract\Contract;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\LineFault;
use Lotrik\Document\Node;
use Lotrik\Logbook\FillFile;
use Lotrik\Logbook\OutsideFill;
use Lotrik\Refusal\Refusal;

/** Fills from another program: seen beside one's own, and no part of any position here. */
final class OutsideFillController extends ApiController
{
    private const MAX = 20_000;

    public function index(Request $request): JsonResponse
    {
        $contracts = self::contracts();
        $fills = StoredOutsideFill::query()->where('account', $this->account($request, $request->query('account')))->orderBy('at')->orderBy('id')->get();

        return new JsonResponse([
            'items' => $fills->map(static fn(StoredOutsideFill $fill): array => $fill->resource($contracts[$fill->contract]))->all(),
            'next' => null, 'sequence' => Page::sequence(),
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $body = JsonBody::of($request, 'csv');
        $account = $this->accountIn($request, $body);
        $node = Node::of($body);
        try {
            $node->raw('account');
            $csv = $node->raw('csv');
            $fills = (new FillFile(self::contracts()))->read(is_string($csv) ? $csv : throw $node->fault('csv', 'the lines of a CSV file'));
            $node->done();
        } catch (DocumentFault $fault) {
            throw Refusal::unreadable($fault);
        } catch (LineFault $fault) {
            throw WebRefusal::line($fault, '/csv');
        }
        $rows = array_map(static fn(OutsideFill $fill): array => [
            'account' => $account, 'contract' => $fill->contract->code, 'at' => $fill->at, 'side' => $fill->side->value, 'quantity' => $fill->quantity, 'tick' => $fill->tick, 'key' => $fill->key,
        ], $fills);
        $imported = WriteLock::during(
            static function () use ($account, $rows): int {
                if (StoredOutsideFill::query()->where('account', $account)->count() + count($rows) > self::MAX) {
                    throw WebRefusal::tooManyFills(self::MAX);
                }

                return array_sum(array_map(StoredOutsideFill::query()->insertOrIgnore(...), array_chunk($rows, 500)));
            },
        );

        return new JsonResponse(['imported' => $imported, 'known' => count($fills) - $imported], 201);
    }

    public function destroy(Request $request): JsonResponse
    {
        $taken = StoredOutsideFill::query()->where('account', $this->account($request, $request->query('account')))->delete();

        return new JsonResponse(['deleted' => $taken]);
    }

    /** @return array<string, Contract> by code */
    private static function contracts(): array
    {
        return ContractRow::listed()->get()->keyBy('code')->map(static fn(ContractRow $row): Contract => $row->contract())->all();
    }
}
