<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\LevelRequest;
use App\Levels\MarkedLevels;
use App\Models\StoredLevel;
use Illuminate\Http\JsonResponse;

/** Marked levels: kept for each user and contract, with what the engine says happens there. */
final class LevelController extends ApiController
{
    public function index(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $request->off();
        $contract = $request->onlyContract();
        $marked = array_filter(
            $levels->watched($request, $request->within()),
            static fn(StoredLevel $level): bool => $contract === null || $level->contract === $contract->code,
        );

        return self::whole($levels->told($request, $marked));
    }

    public function store(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $contract = $request->contract();
        $level = new StoredLevel($request->place($contract->contract(), null) + [
            'user_id' => $request->trader()->id, 'contract' => $contract->code,
        ]);
        $level->since = $levels->now($request, $contract->code);
        $levels->add($level);
        $levels->watched($request, null);

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
        $levels->watched($request, null);

        return new JsonResponse($levels->told($request, [$level])[0]);
    }

    public function destroy(LevelRequest $request, MarkedLevels $levels): JsonResponse
    {
        $level = $request->level();
        $level->delete();
        $levels->watched($request, null);

        return new JsonResponse(['id' => $level->id, 'deleted' => true]);
    }
}
