<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\PlanSample;
use App\Http\WebRefusal;
use App\Models\AccountRow;
use App\Models\ContractRow;
use App\Models\StoredPlan;
use App\Models\WriteLock;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\Basis;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\PlanFault;
use Lotrik\ExitPlan\PlanStudy;
use Lotrik\ExitPlan\ResolvedPortion;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class ExitPlanController extends ApiController
{
    private const MAX_BEST = 2000;

    /** The curve of a study goes this far where it is not said, in ticks. */
    private const FARTHEST = 60;

    public function index(Request $request): JsonResponse
    {
        $plans = StoredPlan::of($this->user($request)->id)->map(static fn(StoredPlan $p): array => $p->resource());

        return new JsonResponse(['items' => $plans->all(), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function show(Request $request, string $id): JsonResponse
    {
        return new JsonResponse($this->find($request, $id)->resource());
    }

    /** A new plan: the document as it is, or as `document`. */
    public function store(Request $request): JsonResponse
    {
        $plan = $this->read(JsonBody::of($request));
        $user = $this->user($request)->id;
        $stored = WriteLock::during(function () use ($user, $plan): StoredPlan {
            $this->nameMustBeFree($user, $plan, null);

            return StoredPlan::query()->create(['user_id' => $user, 'version' => 1, 'position' => (int) StoredPlan::of($user)->max('position') + 1, 'document' => $plan->document]);
        });

        return new JsonResponse($stored->resource(), 201);
    }

    public function update(Request $request, string $id): JsonResponse
    {
        $body = JsonBody::of($request);
        $version = $body['version'] ?? null;
        if ($version !== null && ! is_int($version)) {
            throw Refusal::invalid('version', $version, 'the version that you have read');
        }
        $plan = $this->read(array_diff_key($body, ['version' => 1]));
        $user = $this->user($request)->id;

        return new JsonResponse(WriteLock::during(function () use ($request, $id, $user, $plan, $version): array {
            $stored = $this->find($request, $id);
            if ($version !== null && $version !== $stored->version) {
                throw WebRefusal::versionChanged($version, $stored->version);
            }
            $this->nameMustBeFree($user, $plan, $stored);
            $own = $stored->owned($user);
            $own->fill(['document' => $plan->document, 'version' => $stored->version + 1])->save();

            return $own->resource();
        }));
    }

    /** Not while a position or a working order is under it: its name is all that says what would protect them. */
    public function destroy(Request $request, string $id): JsonResponse
    {
        $stored = $this->find($request, $id);
        $name = $stored->document['name'];
        foreach ($this->user($request)->accounts()->pluck('id') as $account) {
            $used = $this->engine->for($this->user($request), (int) $account)->call('plans-used')['body']['names'];
            if (isset($used[$name])) {
                throw WebRefusal::planInUse($name, $used[$name]);
            }
        }
        WriteLock::during(function () use ($request, $id): void {
            $stored = $this->find($request, $id);
            if ($stored->user_id !== null && $stored->replaces === null) {
                $stored->delete();
            } else {
                $stored->owned($this->user($request)->id)->fill(['gone' => true])->save();
            }
        });

        return new JsonResponse(['id' => (int) $id, 'deleted' => true]);
    }

    /** The plans in another order: all of their ids. */
    public function order(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);
        $this->mustKnow($body, 'ids');
        $ids = $body['ids'] ?? null;
        $user = $this->user($request)->id;
        WriteLock::during(static function () use ($user, $ids): void {
            $plans = StoredPlan::of($user);
            $wanted = $plans->map(static fn(StoredPlan $p): int => $p->number())->all();
            if (! is_array($ids) || array_filter($ids, is_int(...)) !== $ids || count($ids) !== count($wanted) || array_diff($wanted, $ids) !== []) {
                throw Refusal::invalid('ids', $ids, 'the ids of all your plans, each once: '.json_encode($wanted));
            }
            foreach ($plans as $plan) {
                $position = (int) array_search($plan->number(), $ids, true);
                if ($plan->position !== $position) {
                    $plan->owned($user)->fill(['position' => $position])->save();
                }
            }
        });

        return $this->index($request);
    }

    /** What a plan that need not be saved means for a sample order. */
    public function study(Request $request): JsonResponse
    {
        $body = JsonBody::of($request);
        $account = $this->accountIn($request, $body);
        try {
            $node = Node::of($body);
            $sample = PlanSample::fromNode($node, $this->engine->for($this->user($request), $account), AccountRow::query()->findOrFail($account)->account());
            $best = $node->optionalInt('best', 1, self::MAX_BEST) ?? self::FARTHEST;
            $node->done();

            return new JsonResponse(PlanStudy::of($sample->plan, $sample->basis, $sample->side, $best, $sample->minutes));
        } catch (DocumentFault $fault) {
            throw Refusal::unreadable($fault);
        } catch (PlanFault $fault) {
            throw Refusal::planDoesNotFit($fault, '/document');
        }
    }

    public function schema(): BinaryFileResponse
    {
        return new BinaryFileResponse(base_path('docs/schemas/exit-plan.json'), 200, ['Content-Type' => 'application/schema+json']);
    }

    /** Where the stop stands, in ticks from the anchor, for each best profit; null throughout where a portion has none. */
    public function curve(Request $request, string $id): JsonResponse
    {
        $plan = ExitPlan::fromArray($this->find($request, $id)->document);
        $best = Page::number($request, 'best') ?? 40;
        if ($best > self::MAX_BEST) {
            throw Refusal::invalid('best', $best, 'at most '.self::MAX_BEST);
        }
        $side = $request->query('side');
        if ($side !== null && Side::tryFrom((string) $side) === null) {
            throw Refusal::invalid('side', $side, 'buy or sell');
        }
        try {
            $resolved = $plan->resolve($this->basis($request));
        } catch (PlanFault $fault) {
            throw Refusal::planDoesNotFit($fault, null);
        }
        $curve = static fn(ResolvedPortion $p): ?array => $p->stop?->curve($best);
        $lots = $resolved->split(self::quantity($request));

        return new JsonResponse([
            'stops' => $curve($resolved->portions[0]) ?? [],
            'portions' => array_map(static fn(ResolvedPortion $p): array => [
                'portion' => $p->number, 'lots' => $lots[$p->number], 'target' => $p->target, 'stops' => $curve($p),
            ], $resolved->portions),
        ]);
    }

    private static function quantity(Request $request): int
    {
        $quantity = Page::number($request, 'quantity') ?? 1;

        return $quantity >= 1 && $quantity <= PlanSample::MAX_LOTS ? $quantity
            : throw Refusal::invalid('quantity', $quantity, '1 to '.PlanSample::MAX_LOTS);
    }

    /** A plan in money or percent needs a contract, a price and a quantity; the first listed contract stands in. */
    private function basis(Request $request): Basis
    {
        $code = $request->query('contract');
        $row = is_string($code) ? ContractController::find($code) : ContractRow::listed()->firstOrFail();
        $contract = $row->contract();
        try {
            $price = is_string($request->query('price')) ? $contract->ticks($request->query('price')) : 1000;
        } catch (\DomainException $e) {
            throw Refusal::priceOffGrid($e, '/price');
        }

        return new Basis($contract, $price, self::quantity($request));
    }

    /**
     * @param array<array-key, mixed> $body the document, or an object that has it as `document` alone
     *
     * @throws Refusal
     */
    private function read(array $body): ExitPlan
    {
        $inner = $body['document'] ?? null;
        try {
            return is_array($inner) && count($body) === 1 ? ExitPlan::fromArray($inner, '/document') : ExitPlan::fromArray($body);
        } catch (DocumentFault $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    /** Two plans of one name could not be told apart where it counts. */
    private function nameMustBeFree(int $user, ExitPlan $plan, ?StoredPlan $itself): void
    {
        foreach (StoredPlan::of($user) as $other) {
            if ($other->document['name'] === $plan->name && $other->number() !== $itself?->number()) {
                throw WebRefusal::nameTaken((string) $plan->name);
            }
        }
    }

    private function find(Request $request, string $id): StoredPlan
    {
        $plan = ctype_digit($id) ? StoredPlan::findFor($this->user($request)->id, (int) $id) : null;

        return $plan ?? throw WebRefusal::notFound("exit plan $id", '/api/exit-plans');
    }
}
