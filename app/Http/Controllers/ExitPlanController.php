<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Engine\View\ContractView;
use App\Http\Page;
use App\Models\StoredPlan;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Desk\Refusal;
use Lotrik\ExitPlan\Basis;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\PlanFault;
use Lotrik\ExitPlan\ResolvedPortion;

final class ExitPlanController extends Desk
{
    private const MOST_BEST = 2000;

    public function index(Request $request): JsonResponse
    {
        $plans = StoredPlan::visibleTo($this->user($request)->id)->get()->map(static fn(StoredPlan $p): array => $p->resource());

        return new JsonResponse(['items' => $plans->all(), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function show(Request $request, string $id): JsonResponse
    {
        return new JsonResponse($this->find($request, $id)->resource());
    }

    /** Where the stop stands, in ticks from the anchor, for each best profit; null throughout where a portion has none. */
    public function curve(Request $request, string $id): JsonResponse
    {
        $plan = ExitPlan::fromArray($this->find($request, $id)->document);
        $best = Page::number($request, 'best') ?? 40;
        if ($best > self::MOST_BEST) {
            throw new Refusal('invalid', "best: found $best, expected at most ".self::MOST_BEST, '/best');
        }
        try {
            $resolved = $plan->resolve($this->basis($request));
        } catch (PlanFault $fault) {
            throw new Refusal('plan-does-not-fit', $fault->getMessage());
        }
        $curve = static fn(ResolvedPortion $p): ?array => $p->stop?->curve($best);
        $lots = $resolved->split(Page::number($request, 'quantity') ?? 1);

        return new JsonResponse([
            'stops' => $curve($resolved->portions[0]) ?? [],
            'portions' => array_map(static fn(ResolvedPortion $p): array => [
                'portion' => $p->number, 'lots' => $lots[$p->number], 'target' => $p->target, 'stops' => $curve($p),
            ], $resolved->portions),
        ]);
    }

    /** A plan in money or percent needs a contract, a price and a quantity; the first listed contract stands in. */
    private function basis(Request $request): Basis
    {
        $code = $request->query('contract');
        $row = is_string($code) ? ContractController::find($code) : \App\Models\ContractRow::query()->orderBy('position')->firstOrFail();
        $contract = ContractView::contract($row->getAttribute('body'));
        try {
            $price = is_string($request->query('price')) ? $contract->ticks($request->query('price')) : 1000;
        } catch (\DomainException $e) {
            throw new Refusal('price-off-grid', $e->getMessage(), '/price');
        }

        return new Basis($contract, $price, max(1, Page::number($request, 'quantity') ?? 1));
    }

    private function find(Request $request, string $id): StoredPlan
    {
        $plan = ctype_digit($id) ? StoredPlan::visibleTo($this->user($request)->id)->find((int) $id) : null;

        return $plan ?? throw new Refusal('not-found', "there is no exit plan $id; GET /api/exit-plans lists them");
    }
}
