<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Lotrik\Contract\Contract;
use Lotrik\Document\Node;

/**
 * A contract, as the engine listed it: the fields of its document, a column each.
 *
 * @property string               $code
 * @property int                  $position    its place in the list, from 0
 * @property string               $name
 * @property string               $tick_size   exact decimal
 * @property string               $tick_value  exact decimal in the contract's currency
 * @property string               $currency    ISO 4217 code
 * @property string               $unit
 * @property array<string, mixed> $display
 * @property string               $fee_per_side       exact decimal a lot, as are the margins
 * @property string               $initial_margin
 * @property string               $maintenance_margin
 * @property string               $day_margin
 * @property int|null             $price_limit_ticks
 * @property string|null          $last_day    such as 2026-12-16
 * @property array<string, mixed> $session
 * @property list<string>         $aliases
 */
final class ContractRow extends JournalModel
{
    protected $table = 'contracts';

    protected $primaryKey = 'code';

    protected $keyType = 'string';

    /** @var array<string, string> */
    protected $casts = ['display' => 'array', 'session' => 'array', 'aliases' => 'array'];

    private ?Contract $contract = null;

    /** @return Builder<self> in the order of the list */
    public static function listed(): Builder
    {
        $rows = self::query();
        $rows->orderBy('position');

        return $rows;
    }

    /** @return Collection<int, self> those whose code, name or alias has the words in it; all of them for none */
    public static function search(string $words): Collection
    {
        $words = mb_strtolower(trim($words));

        return self::listed()->get()
            ->filter(static fn(self $row): bool => $words === '' || str_contains(
                mb_strtolower(implode("\n", [$row->code, $row->name, ...$row->aliases])),
                $words,
            ))
            ->values();
    }

    public function contract(): Contract
    {
        return $this->contract ??= Contract::fromNode(Node::of(['format' => Contract::FORMAT] + array_diff_key(
            $this->attributesToArray(),
            ['position' => 1],
        )));
    }

    /**
     * @param int $position its place in the list
     *
     * @return array<string, int|string|null> the columns of its row
     */
    public static function columns(Contract $contract, int $position): array
    {
        $columns = array_map(static fn(mixed $value): mixed => is_array($value) ? Json::of($value) : $value, $contract->toArray());
        unset($columns['format']);

        return ['position' => $position] + $columns;
    }
}
