<?php

declare(strict_types=1);

namespace App\Levels;

use App\Engine\Operation\Operation;
use App\Engine\Rpc\EngineClient;
use App\Http\Requests\LevelRequest;
use App\Http\Resources\LevelResource;
use App\Http\WebRefusal;
use App\Models\LevelRow;
use App\Models\WriteLock;
use Lotrik\Refusal\Refusal;

/** The levels that a user has marked, with what the engine says happens there. */
final readonly class MarkedLevels
{
    private const MAX = 100;

    public function __construct(private EngineClient $engine) {}

    /** @throws Refusal where the user has as many as one may have */
    public function add(LevelRow $level): void
    {
        WriteLock::during(static function () use ($level): void {
            if (LevelRow::query()->where('user_id', $level->user_id)->count() >= self::MAX) {
                throw WebRefusal::tooManyLevels(self::MAX);
            }
            $level->save();
        });
    }

    /**
     * Tells the engine which levels a user has. It watches them from then on, whether a page is open or not, and tells all
     * accounts of the user that are open what happens there: whichever is shown.
     *
     * @param int|null $within ticks from which on the market counts as near; null leaves it as it was
     *
     * @return int from how many ticks on it counts as near
     */
    public function watch(LevelRequest $request, ?int $within = null): int
    {
        // One after the other: a list that was read before another change must not come to the engine after it.
        return WriteLock::during(function () use ($request, $within): int {
            $levels = LevelRow::query()->where('user_id', $request->trader()->id)->orderBy('id')
                ->get(['id', 'contract', 'low', 'high', 'name'])->toArray();
            foreach ($request->trader()->accounts()->where('closed', false)->pluck('id') as $account) {
                $within = $this->engine->for($request->trader(), (int) $account)
                    ->call(
                        Operation::WatchLevels, ['levels' => $levels] + ($within === null ? [] : ['within' => $within]),
                    )['body']['within'];
            }

            return $within ?? throw WebRefusal::noAccount();
        });
    }

    /** @return int ms since 1970 UTC by the market's clock */
    public function now(LevelRequest $request, string $contract): int
    {
        return $this->ask($request, $contract, [])['at'];
    }

    /**
     * @param array<LevelRow> $levels
     *
     * @return list<array<string, mixed>> as they go out, in the order given
     */
    public function told(LevelRequest $request, array $levels): array
    {
        $figures = $contracts = [];
        foreach (array_unique(array_map(static fn(LevelRow $level): string => $level->contract, $levels)) as $code) {
            $of = array_values(array_filter($levels, static fn(LevelRow $level): bool => $level->contract === $code));
            $contracts[$code] = LevelRequest::listed($code)->contract();
            $places = array_map(static fn(LevelRow $level): array => [$level->low, $level->high, $level->since], $of);
            foreach ($this->ask($request, $code, $places)['figures'] as $i => $found) {
                $figures[$of[$i]->id] = $found;
            }
        }

        return array_map(
            static fn(LevelRow $level): array => (new LevelResource(
                $level,
                $contracts[$level->contract],
                $figures[$level->id] ?? null,
            ))->resolve($request),
            array_values($levels),
        );
    }

    /**
     * @param list<array{int, int, int}> $levels low, high, since
     *
     * @return array{figures: list<array<string, mixed>>, at: int}
     */
    private function ask(LevelRequest $request, string $contract, array $levels): array
    {
        return $this->engine->for($request->trader(), $request->account()->id)
            ->call(Operation::Levels, ['contract' => $contract, 'levels' => $levels, 'off' => $request->off()])['body'];
    }
}
