<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;

/**
 * An exit plan as the web keeps it. Built-in ones belong to nobody and never change: a user's own version stands in
 * the place of one and keeps its number, so that defaults and action keys that name it go on working.
 *
 * @property int                  $id
 * @property int|null             $user_id
 * @property int|null             $replaces the built-in plan that this is the user's version of
 * @property bool                 $gone     the user deleted that built-in plan
 * @property int                  $version
 * @property int                  $position
 * @property array<string, mixed> $document
 */
final class PlanRow extends Model
{
    protected $table = 'exit_plans';

    protected $fillable = ['user_id', 'replaces', 'gone', 'version', 'position', 'document'];

    /** @var array<string, string> */
    protected $casts = ['document' => 'array', 'gone' => 'boolean'];

    /** @return Collection<int, self> the plans that a user has, in their order */
    public static function of(int $user): Collection
    {
        return self::visibleTo($user)->orderBy('position')->orderBy('id')->get();
    }

    /** By the number that the user knows it by. */
    public static function findFor(int $user, int $number): ?self
    {
        return self::visibleTo($user)->where(static fn(Builder $q) => $q
            ->where('replaces', $number)
            ->orWhere(static fn(Builder $own) => $own->where('id', $number)->whereNull('replaces')))->first();
    }

    /** The number that the user knows it by. */
    public function number(): int
    {
        return $this->replaces ?? $this->id;
    }

    /** The user's own row: this one, or a new one in the place of a built-in plan. */
    public function owned(int $user): self
    {
        return $this->user_id !== null ? $this : new self([
            'user_id' => $user, 'replaces' => $this->id, 'version' => $this->version, 'position' => $this->position,
            'document' => $this->document,
        ]);
    }

    /** @return Builder<self> */
    private static function visibleTo(int $user): Builder
    {
        return self::query()->where('gone', false)->where(static fn(Builder $q) => $q
            ->where('user_id', $user)
            ->orWhere(static fn(Builder $builtIn) => $builtIn->whereNull('user_id')
                ->whereNotIn('id', self::query()->where('user_id', $user)->whereNotNull('replaces')->select('replaces'))));
    }
}
