<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Query\Builder;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Lotrik\Contract\Contract;
use Lotrik\Document\Node;

/** Orders, fills, accounts and contracts had one JSON body in the shape of the API; now each field has a column. */
return new class extends Migration {
    protected $connection = 'journal';

    private const CHUNK = 200;

    /** @var array<string, Contract> by code */
    private array $contracts = [];

    public function up(): void
    {
        $this->contracts();
        $this->accounts();
        $this->fills();
        $this->orders();
    }

    private function contracts(): void
    {
        $create = static function (Blueprint $table): void {
            $table->string('code')->primary();
            $table->unsignedInteger('position');
            foreach (['name', 'tick_size', 'tick_value', 'currency', 'unit'] as $text) {
                $table->string($text);
            }
            $table->json('display');
            foreach (['fee_per_side', 'initial_margin', 'maintenance_margin', 'day_margin'] as $money) {
                $table->string($money);
            }
            $table->unsignedInteger('price_limit_ticks')->nullable();
            $table->string('last_day')->nullable();
            $table->json('session');
            $table->json('aliases');
        };
        $this->replace('contracts', $create, 'position', function (object $old): array {
            $document = array_diff_key(json_decode($old->body, true), ['price_scale' => 1, 'minor_unit' => 1, 'point_value' => 1]);
            $this->contracts[$old->code] = $contract = Contract::fromNode(Node::of($document));

            $columns = array_map(static fn(mixed $value): mixed => is_array($value) ? self::json($value) : $value, $contract->toArray());
            unset($columns['format']);

            return ['position' => $old->position] + $columns;
        });
    }

    private function accounts(): void
    {
        $create = static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('owner_id')->index();
            $table->string('name');
            $table->string('currency', 3);
            $table->string('balance');
            $table->json('rates');
            $table->unsignedInteger('order_limit');
            $table->unsignedInteger('position_limit');
            $table->string('daily_loss_limit');
        };
        $this->replace('accounts', $create, 'id', static function (object $old): array {
            $account = json_decode($old->body, true);

            return ['owner_id' => $old->owner, 'rates' => self::json((object) $account['rates'])] + $account;
        });
    }

    private function fills(): void
    {
        $create = static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('order_id')->index();
            $table->unsignedBigInteger('account_id');
            $table->string('contract_code');
            $table->string('side');
            $table->unsignedBigInteger('quantity');
            $table->bigInteger('price');
            $table->unsignedBigInteger('at');
            $table->string('fee');
            $table->bigInteger('slippage_ticks');
            $table->string('slippage_money');
            $table->bigInteger('bid')->nullable();
            $table->unsignedBigInteger('bid_size')->nullable();
            $table->bigInteger('ask')->nullable();
            $table->unsignedBigInteger('ask_size')->nullable();
            $table->unsignedBigInteger('print');
            $table->string('role');
            $table->text('why');
            $table->unsignedBigInteger('sequence');
            $table->index(['account_id', 'id']);
        };
        $this->replace('fills', $create, 'id', function (object $old): array {
            $fill = json_decode($old->body, true);
            $contract = $this->contracts[$old->contract];
            $touch = $fill['touch'] ?? null;

            return [
                'id' => $fill['id'], 'order_id' => $fill['order'], 'account_id' => $fill['account'], 'contract_code' => $fill['contract'],
                'side' => $fill['side'],
                'quantity' => $fill['quantity'], 'price' => $fill['level'], 'at' => self::time($fill['time']), 'fee' => $fill['fee'],
                'slippage_ticks' => $fill['slippage_ticks'], 'slippage_money' => $fill['slippage_money'],
                'bid' => self::ticks($contract, $touch['bid'] ?? null), 'bid_size' => $touch['bid_size'] ?? null,
                'ask' => self::ticks($contract, $touch['ask'] ?? null), 'ask_size' => $touch['ask_size'] ?? null,
                'print' => $fill['print'], 'role' => $fill['role'], 'why' => $fill['why'], 'sequence' => $fill['sequence'],
            ];
        });
    }

    private function orders(): void
    {
        $create = static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('account_id');
            $table->string('contract_code');
            $table->string('client_id')->nullable();
            $table->string('side');
            $table->string('kind');
            $table->unsignedBigInteger('quantity');
            $table->unsignedBigInteger('filled');
            $table->bigInteger('cost');
            $table->bigInteger('price')->nullable();
            $table->bigInteger('trigger')->nullable();
            $table->string('tif');
            $table->string('state');
            $table->boolean('working');
            $table->text('reason')->nullable();
            $table->string('role');
            $table->string('plan')->nullable();
            $table->unsignedInteger('portion')->nullable();
            $table->string('steering')->nullable();
            $table->unsignedBigInteger('ahead')->nullable();
            $table->unsignedBigInteger('created_at');
            $table->unsignedBigInteger('ended_at')->nullable();
            $table->string('tag')->nullable();
            $table->text('why');
            $table->bigInteger('level')->nullable();
            $table->bigInteger('beyond_anchor')->nullable();
            $table->boolean('triggered');
            $table->unsignedBigInteger('expires_at')->nullable();
            $table->unsignedBigInteger('cancel_at')->nullable();
            $table->boolean('held');
            $table->unsignedBigInteger('release_at')->nullable();
            $table->string('watched_code')->nullable();
            $table->bigInteger('watched_level')->nullable();
            $table->boolean('watched_rising')->nullable();
            $table->unsignedBigInteger('after_order')->nullable();
            $table->boolean('cancel_wished');
            $table->unsignedBigInteger('tied_order')->nullable();
            $table->string('tied_kind')->nullable();
            $table->json('path');
            $table->index(['account_id', 'working', 'id']);
        };
        $conditions = $this->conditions();
        $this->replace(
            'orders',
            $create,
            'id',
            fn(object $old): array => $this->order(json_decode($old->body, true), (bool) $old->working, $conditions),
        );
    }

    /**
     * @param array<string, mixed>                $order as it went out
     * @param array<int, array<string, mixed>> $conditions
     *
     * @return array<string, mixed>
     */
    private function order(array $order, bool $isWorking, array $conditions): array
    {
        $contract = $this->contracts[$order['contract']];
        $hold = $conditions[$order['id']] ?? [];

        return [
            'id' => $order['id'], 'account_id' => $order['account'], 'contract_code' => $order['contract'],
            'client_id' => $order['client_id'],
            'side' => $order['side'], 'kind' => $order['kind'], 'quantity' => $order['quantity'], 'filled' => $order['filled'],
            'cost' => (int) DB::connection('journal')->table('fills')->where('order_id', $order['id'])->sum(DB::raw('price * quantity')),
            'price' => self::ticks($contract, $order['price']), 'trigger' => self::ticks($contract, $order['trigger']),
            'tif' => $order['tif'], 'state' => $order['state'], 'working' => $isWorking, 'reason' => $order['reason'],
            'role' => $order['role'],
            'plan' => $order['plan'], 'portion' => $order['portion'], 'steering' => $order['steering'] ?? null, 'ahead' => $order['ahead'],
            'created_at' => self::time($order['created_at']), 'ended_at' => self::time($order['ended_at'] ?? null),
            'tag' => $order['tag'] ?? null,
            'why' => $order['why'], 'level' => $order['level'], 'beyond_anchor' => self::beyondAnchor($order['words']),
            'triggered' => $order['words'] === 'stop set off',
            'expires_at' => self::time($order['expires_at'] ?? null), 'cancel_at' => self::time($order['cancel_at'] ?? null),
            'held' => ($order['held_until'] ?? null) !== null, 'release_at' => self::time($order['release_at'] ?? null),
            'watched_code' => $hold['contract'] ?? null, 'watched_level' => $hold['level'] ?? null,
            'watched_rising' => $hold['rising'] ?? null,
            'after_order' => $hold['after'] ?? null, 'cancel_wished' => ($order['wished'] ?? null) !== null,
            'tied_order' => $order['tied']['order'] ?? null, 'tied_kind' => $order['tied']['kind'] ?? null,
            'path' => self::json(array_map(
                static fn(array $stood): array => [self::time($stood['time']), $stood['level']],
                $order['path'] ?? [],
            )),
        ];
    }

    /** @return array<int, array<string, mixed>> order → what it waited for when it was placed; words alone stood in its body */
    private function conditions(): array
    {
        $conditions = [];
        $placed = DB::connection('journal')->table('journal')
            ->where('type', 'order-placed')->where('body', 'like', '%"hold":{%')->orderBy('sequence')->pluck('body');
        foreach ($placed as $body) {
            $event = json_decode((string) $body, true);
            $conditions[$event['order']] = $event['hold'];
        }

        return $conditions;
    }

    /** From `stop +2` and the like. A stop that was set off had an anchor too; how far from it, its body did not say. */
    private static function beyondAnchor(string $words): ?int
    {
        return match (true) {
            preg_match('/^stop ([+±−])(\d+)$/u', $words, $found) === 1 => ($found[1] === '−' ? -1 : 1) * (int) $found[2],
            $words === 'stop set off' => 0,
            default => null,
        };
    }

    private static function json(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    private static function ticks(Contract $contract, ?string $price): ?int
    {
        return $price === null ? null : $contract->ticks($price);
    }

    /** @return int|null ms since 1970 UTC */
    private static function time(?string $iso): ?int
    {
        return $iso === null ? null : (int) (new DateTimeImmutable($iso))->format('Uv');
    }

    /**
     * @param callable(Blueprint): void             $create
     * @param callable(object): array<string, mixed> $columns of the new row for an old one
     */
    private function replace(string $table, callable $create, string $key, callable $columns): void
    {
        $database = DB::connection('journal');
        Schema::connection('journal')->rename($table, "old_$table");
        Schema::connection('journal')->create($table, $create(...));
        $this->each(
            $database->table("old_$table"),
            $key,
            static fn(array $rows) => $database->table($table)->insert(array_map($columns, $rows)),
        );
        Schema::connection('journal')->drop("old_$table");
    }

    /** @param callable(list<object>): mixed $do with a chunk of rows */
    private function each(Builder $rows, string $key, callable $do): void
    {
        $rows->orderBy($key)->chunk(self::CHUNK, static fn(iterable $found): mixed => $do(array_values([...$found])));
    }
};
