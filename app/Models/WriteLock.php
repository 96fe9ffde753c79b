<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Support\Facades\DB;

/** What is looked at and then written on the strength of it: nobody else writes in between. */
final class WriteLock
{
    /**
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    public static function during(\Closure $do): mixed
    {
        return DB::transaction(static function () use ($do): mixed {
            // SQLite gives the lock at the first statement that writes, and refuses it to whoever has read before. This one
            // changes nothing.
            DB::table('users')->whereRaw('0')->update(['id' => 0]);

            return $do();
        });
    }
}
