<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Http\WebRefusal;
use App\Models\ContractRow;
use App\Models\LevelRow;
use Lotrik\Contract\Contract;
use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Refusal\Refusal;

/** About the levels that a user has marked: all of a contract, the one in the address, or where one is to stand. */
final class LevelRequest extends ApiRequest
{
    private const FARTHEST = 1_000;

    /** @throws Refusal where the user has none of this number */
    public function level(): LevelRow
    {
        $id = (string) $this->route('id');
        $level = ctype_digit($id) ? LevelRow::query()->where('user_id', $this->trader()->id)->find((int) $id) : null;

        return $level instanceof LevelRow ? $level : throw WebRefusal::notFound("marked level $id of yours", '/api/levels');
    }

    /** The contract that the body names. */
    public function contract(): ContractRow
    {
        $code = $this->fields()['contract'] ?? null;

        return self::listed(is_string($code) ? $code : '');
    }

    /** @return ContractRow|null whose levels are asked for; null for all */
    public function onlyContract(): ?ContractRow
    {
        $code = $this->query('contract');

        return is_string($code) ? self::listed($code) : null;
    }

    /** @return int ticks between a level and the exits set from it */
    public function off(): int
    {
        return $this->whole('off', 1, 0, self::FARTHEST);
    }

    /** @return int|null ticks from which on the market counts as near to a level; null leaves it as it was */
    public function within(): ?int
    {
        $this->mustKnow('within');
        try {
            return Node::of($this->fields())->optionalInt('within', 0, self::FARTHEST);
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }
    }

    /**
     * Where it stands and what it is called; what is not said stays as it was.
     *
     * @return array{low: int, high: int, name: string, tone: string} in ticks
     *
     * @throws Refusal
     */
    public function place(Contract $contract, ?LevelRow $before): array
    {
        $node = Node::of($this->fields());
        try {
            $node->raw('contract');
            $low = $before !== null && $node->raw('low') === null ? $before->low : self::tick($node, 'low', $contract);
            $high = match (true) {
                $node->raw('high') !== null => self::tick($node, 'high', $contract),
                $before !== null && $node->raw('low') === null => $before->high,
                default => $low,
            };
            $name = $node->optionalString('name', 60) ?? $before->name ?? '';
            $tone = $node->string('tone', $before->tone ?? LevelRow::TONES[0]);
            if (! in_array($tone, LevelRow::TONES, true)) {
                throw $node->fault('tone', implode(', ', LevelRow::TONES));
            }
            $node->done();
        } catch (InvalidDocument $fault) {
            throw Refusal::unreadable($fault);
        }

        return ['low' => min($low, $high), 'high' => max($low, $high), 'name' => $name, 'tone' => $tone];
    }

    /** @throws InvalidDocument|Refusal */
    private static function tick(Node $node, string $field, Contract $contract): int
    {
        try {
            $tick = $contract->ticks($node->string($field));
        } catch (InvalidDocument $fault) {
            throw $fault;
        } catch (\DomainException $fault) {
            throw Refusal::priceOffGrid($fault, "/$field");
        }

        return $tick >= 1 ? $tick : throw $node->fault($field, 'a price above 0');
    }
}
