<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\ApiRequest;
use App\Http\Requests\CurveRequest;
use App\Http\Requests\DistanceRequest;
use App\Http\Requests\NoiseRequest;
use App\Http\Requests\PlanRequest;
use App\Http\Requests\StudyRequest;
use App\Http\Resources\PlanResource;
use App\Models\PlanRow;
use App\Plans\PlanShelf;
use Illuminate\Http\JsonResponse;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Refusal\Refusal;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class ExitPlanController extends ApiController
{
    public function index(ApiRequest $request): JsonResponse
    {
        return self::whole(PlanResource::collection(PlanRow::of($request->trader()->id))->resolve($request));
    }

    public function show(PlanRequest $request): JsonResponse
    {
        return self::plan($request, $request->stored());
    }

    /** A new plan: the document as it is, or as `document`. */
    public function store(PlanRequest $request): JsonResponse
    {
        return self::plan($request, (new PlanShelf($request->trader()))->add($request->plan()), 201);
    }

    public function update(PlanRequest $request): JsonResponse
    {
        [$version, $plan] = [$request->version(), $request->plan()];

        return self::plan($request, (new PlanShelf($request->trader()))->change($request->stored(...), $plan, $version));
    }

    public function destroy(PlanRequest $request): JsonResponse
    {
        $number = $request->stored()->number();
        (new PlanShelf($request->trader()))->remove($request->stored(...), $this->engine);

        return new JsonResponse(['id' => $number, 'deleted' => true]);
    }

    /** The plans in another order: all of their ids. */
    public function order(PlanRequest $request): JsonResponse
    {
        (new PlanShelf($request->trader()))->arrange($request->ids());

        return $this->index($request);
    }

    /** What a plan that need not be saved means for a sample order. */
    public function study(StudyRequest $request): JsonResponse
    {
        return new JsonResponse($request->study($this->engine));
    }

    /** The same distance in another unit. */
    public function distance(DistanceRequest $request): JsonResponse
    {
        return new JsonResponse($request->converted($this->engine));
    }

    /** How often its stop came first among entries tried on what has just traded. */
    public function noise(NoiseRequest $request): JsonResponse
    {
        return new JsonResponse($request->noise($this->engine));
    }

    public function schema(): BinaryFileResponse
    {
        return new BinaryFileResponse(base_path('docs/schemas/exit-plan.json'), 200, ['Content-Type' => 'application/schema+json']);
    }

    /** Where the stop stands, in ticks from the anchor, for each best profit; null throughout where a portion has none. */
    public function curve(CurveRequest $request): JsonResponse
    {
        [$plan, $best, $basis] = [$request->plan(), $request->best(), $request->basis()];
        try {
            return new JsonResponse($plan->resolve($basis)->curves($best, $basis->quantity));
        } catch (InvalidPlan $fault) {
            throw Refusal::planDoesNotFit($fault, null);
        }
    }

    private static function plan(PlanRequest $request, PlanRow $plan, int $status = 200): JsonResponse
    {
        return new JsonResponse(PlanResource::make($plan)->resolve($request), $status);
    }
}
