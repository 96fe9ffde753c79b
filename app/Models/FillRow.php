<?php

declare(strict_types=1);

namespace App\Models;

/** A row of the engine's table fills. */
final class FillRow extends JournalModel
{
    protected $table = 'fills';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];
}
