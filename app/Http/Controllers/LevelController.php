<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\JsonBody;
use App\Http\Page;
use App\Http\WebRefusal;
use App\Models\StoredLevel;
use App\Models\WriteLock;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Lotrik\Contract\Contract;
use Lotrik\Document\DocumentFault;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** Marked levels: kept for each user and contract, with what the engine says happens there. */
final class LevelController extends ApiController
{
    private const MAX = 100;

    private const FARTHEST = 1000;

    public function index(Request $request): JsonResponse
    {
        $levels = StoredLevel::query()->where('user_id', $this->user($request)->id);
        self::off($request);
        $code = $request->query('contract');
        if (is_string($code)) {
            $levels->where('contract', ContractController::find($code)->getKey());
        }

        /** @var list<StoredLevel> $found */
        $found = $levels->orderBy('id')->get()->all();

        return new JsonResponse(['items' => $this->told($request, $found), 'next' => null, 'sequence' => Page::sequence()]);
    }

    public function store(Request $request): JsonResponse
    {
        $user = $this->user($request)->id;
        $body = JsonBody::of($request);
        $contract = self::contract(is_string($body['contract'] ?? null) ? $body['contract'] : '');
        $level = new StoredLevel($this->read($body, $contract, null) + ['user_id' => $user, 'contract' => $contract->code]);
        $level->since = (int) $this->figures($request, $contract->code, [])['at'];
        WriteLock::during(static function () use ($level, $user): void {
            if (StoredLevel::query()->where('user_id', $user)->count() >= self::MAX) {
                throw WebRefusal::tooManyLevels(self::MAX);
            }
            $level->save();
        });

        return new JsonResponse($this->told($request, [$level])[0], 201);
    }

    public function update(Request $request, string $id): JsonResponse
    {
        $level = $this->find($request, $id);
        $level->fill($this->read(JsonBody::of($request), self::contract($level->contract), $level));
        if ($level->isDirty(['low', 'high'])) {
            // Another place: what happened at the old one does not count for it.
            $level->since = (int) $this->figures($request, $level->contract, [])['at'];
        }
        $level->save();

        return new JsonResponse($this->told($request, [$level])[0]);
    }

    public function destroy(Request $request, string $id): JsonResponse
    {
        $this->find($request, $id)->delete();

        return new JsonResponse(['id' => (int) $id, 'deleted' => true]);
    }

    /**
     * @param array<array-key, mixed> $body
     *
     * @return array{low: int, high: int, name: string, tone: string}
     */
    private function read(array $body, Contract $contract, ?StoredLevel $before): array
    {
        $node = Node::of($body);
        try {
            $node->raw('contract');
            $low = $before !== null && $node->raw('low') === null ? $before->low : self::tick($node, 'low', $contract);
            $high = match (true) {
                $node->raw('high') !== null => self::tick($node, 'high', $contract),
                $before !== null && $node->raw('low') === null => $before->high,
                default => $low,
            };
            $name = $node->optionalString('name', 60) ?? $before->name ?? '';
            $tone = $node->string('tone', $before->tone ?? StoredLevel::TONES[0]);
            if (! in_array($tone, StoredLevel::TONES, true)) {
                throw $node->fault('tone', implode(', ', StoredLevel::TONES));
            }
            $node->done();
        } catch (DocumentFault $fault) {
            throw Refusal::unreadable($fault);
        }

        return ['low' => min($low, $high), 'high' => max($low, $high), 'name' => $name, 'tone' => $tone];
    }

    /** @throws DocumentFault|Refusal */
    private static function tick(Node $node, string $field, Contract $contract): int
    {
        try {
            $tick = $contract->ticks($node->string($field));
        } catch (DocumentFault $fault) {
            throw $fault;
        } catch (\DomainException $fault) {
            throw Refusal::priceOffGrid($fault, "/$field");
        }

        return $tick >= 1 ? $tick : throw $node->fault($field, 'a price above 0');
    }

    /**
     * @param array<StoredLevel> $levels
     *
     * @return list<array<string, mixed>> in the order given
     */
    private function told(Request $request, array $levels): array
    {
        $figures = [];
        $contracts = [];
        foreach (array_unique(array_map(static fn(StoredLevel $l): string => $l->contract, $levels)) as $code) {
            $of = array_values(array_filter($levels, static fn(StoredLevel $l): bool => $l->contract === $code));
            $contracts[$code] = self::contract($code);
            foreach ($this->figures($request, $code, array_map(static fn(StoredLevel $l): array => [$l->low, $l->high, $l->since], $of))['figures'] as $i => $found) {
                $figures[$of[$i]->id] = $found;
            }
        }

        return array_map(static fn(StoredLevel $l): array => $l->resource($contracts[$l->contract], $figures[$l->id] ?? null), array_values($levels));
    }

    /**
     * @param list<array{int, int, int}> $levels
     *
     * @return array{figures: list<array<string, mixed>>, at: int}
     */
    private function figures(Request $request, string $code, array $levels): array
    {
        $account = $this->account($request, $request->query('account'));

        return $this->engine->for($this->user($request), $account)->call('levels', ['contract' => $code, 'levels' => $levels, 'off' => self::off($request)])['body'];
    }

    /** Ticks between a level and the exits set from it. */
    private static function off(Request $request): int
    {
        $off = $request->query('off', '1');
        if (! is_string($off) || preg_match('/^\d{1,4}$/', $off) !== 1 || (int) $off > self::FARTHEST) {
            throw Refusal::invalid('off', $off, 'a whole number from 0 to '.self::FARTHEST);
        }

        return (int) $off;
    }

    private static function contract(string $code): Contract
    {
        return ContractController::find($code)->contract();
    }

    private function find(Request $request, string $id): StoredLevel
    {
        $level = ctype_digit($id) ? StoredLevel::query()->where('user_id', $this->user($request)->id)->find((int) $id) : null;

        return $level ?? throw WebRefusal::notFound("marked level $id of yours", '/api/levels');
    }
}
