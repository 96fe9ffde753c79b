<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A row of the engine's database. The engine writes many at once, with insert and upsert over the connection `engine`;
 * everybody else reads, over `journal`. A single model is never saved.
 */
abstract class JournalModel extends Model
{
    protected $connection = 'journal';

    public $timestamps = false;

    public $incrementing = false;

    protected static function booted(): void
    {
        $refuse = static fn() => throw new \LogicException('the journal is written by the engine alone');
        static::saving($refuse);
        static::deleting($refuse);
    }
}
