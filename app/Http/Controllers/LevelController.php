<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\LevelRequest;
use App\Levels\MarkedLevels;
use App\Models\LevelRow;
use Illuminate\Http\JsonResponse;

/** Marked levels: kept for each user and contract, with what the engine says happens there. */
final class LevelController extends ApiController
{
    public function index(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $request->off();
        $found = LevelRow::query()->where('user_id', $request->trader()->id)->orderBy('id');
        $contract = $request->onlyContract();
        if ($contract !== null) {
            $found->where('contract', $contract->code);
        }

        /** @var list<LevelRow> $marked */
        $marked = $found->get()->all();

        return self::whole($levels->told($request, $marked));
    }

    /** From how many ticks on the market counts as near to a level; the levels of before are watched from then on too. */
    public function watch(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        return new JsonResponse(['within' => $levels->watch($request, $request->within())]);
    }

    public function store(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $contract = $request->contract();
        $level = new LevelRow($request->place($contract->contract(), null) + [
            'user_id' => $request->trader()->id, 'contract' => $contract->code,
        ]);
        $level->since = $levels->now($request, $contract->code);
        $levels->add($level);
        $levels->watch($request);

        return new JsonResponse($levels->told($request, [$level])[0], 201);
    }

    public function update(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $level = $request->level();
        $level->fill($request->place(LevelRequest::listed($level->contract)->contract(), $level));
        if ($level->isDirty(['low', 'high'])) {
            // Another place: what happened at the old one does not count for it.
            $level->since = $levels->now($request, $level->contract);
        }
        $level->save();
        $levels->watch($request);

        return new JsonResponse($levels->told($request, [$level])[0]);
    }

    public function destroy(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $level = $request->level();
        $level->delete();
        $levels->watch($request);

        return new JsonResponse(['id' => $level->id, 'deleted' => true]);
    }
}
