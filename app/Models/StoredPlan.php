<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;

/**
 * An exit plan as the web keeps it; built-in ones belong to nobody.
 *
 * @property int                  $id
 * @property int|null             $user_id
 * @property int                  $version
 * @property array<string, mixed> $document
 */
final class StoredPlan extends Model
{
    protected $table = 'exit_plans';

    protected $fillable = ['user_id', 'version', 'position', 'document'];

    /** @var array<string, string> */
    protected $casts = ['document' => 'array'];

    /** @return Builder<self> the plans that a user may see, in their order */
    public static function visibleTo(int $user): Builder
    {
        return self::query()->where(static fn(Builder $q) => $q->whereNull('user_id')->orWhere('user_id', $user))->orderBy('position')->orderBy('id');
    }

    /** @return array{id: int, version: int, document: array<string, mixed>} */
    public function resource(): array
    {
        return ['id' => $this->id, 'version' => $this->version, 'document' => $this->document];
    }
}
