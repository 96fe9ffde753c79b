<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/** What the engine has written; read here, never written. */
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
